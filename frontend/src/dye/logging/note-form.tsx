import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import { answered, api } from "../../api/client";
import { useLook } from "../../api/hooks";
import { PictureButton } from "../../shell/picture-button";
import { ProblemNote } from "../../shell/said";
import type { VesselBench } from "../bench-state";
import { useLogging } from "../outbox";

/** Keeps a picture for the log; answers by what it is known there. */
export const useKeepingPicture = (study: number) =>
  useLook(async (file: File) => {
    const body = new FormData();
    body.append("file", file);
    return answered(
      api.POST("/api/studies/{study_id}/dye/photos", {
        params: { path: { study_id: study } },
        body: body as unknown as { file: string },
        bodySerializer: (given: unknown) => given as FormData,
      }),
    );
  });

/** Words and a picture, of a bath or of the whole study. */
export function NoteForm({ study, one }: { study: number; one: VesselBench }) {
  const log = useLogging(study);
  const [note, setNote] = useState("");
  const [photo, setPhoto] = useState<string | null>(null);
  const [whole, setWhole] = useState(false);
  const keepPicture = useKeepingPicture(study);
  const keep = () => {
    log({ kind: "note", vessel: whole ? "" : one.vessel.name, note, photo });
    setNote("");
    setPhoto(null);
  };
  return (
    <Box role="group" aria-label="Note" sx={{ display: "grid", gap: 1, my: 1 }}>
      <TextField label="Note" multiline minRows={2} value={note} onChange={(event) => setNote(event.target.value)} />
      <PictureButton words={photo ? "Picture kept" : "Take a picture"} label="Picture for the note" onPicture={(file) => keepPicture.mutate(file, { onSuccess: (kept) => setPhoto(kept.photo) })} />
      <ProblemNote error={keepPicture.error} />
      <FormControlLabel control={<Checkbox checked={whole} onChange={(_, on) => setWhole(on)} />} label={`Of the whole study, not of ${one.vessel.name}`} />
      <Button variant="contained" sx={{ minHeight: 48 }} disabled={!note.trim() && !photo} onClick={keep}>
        Log it
      </Button>
    </Box>
  );
}
