import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import { answered, api } from "../api/client";
import type { Schema, StudyView } from "../api/client";
import { useLook } from "../api/hooks";
import { PictureButton } from "../shell/picture-button";
import { ProblemNote } from "../shell/said";
import { Several } from "../shell/several";
import type { VesselBench } from "./bench-state";
import { useLogging } from "./outbox";

type Deviation = NonNullable<Schema["NewBenchEntry"]["deviation"]>;
const USUAL: [Deviation, string][] = [
  ["boiled", "It boiled"],
  ["ran dry", "It ran dry"],
  ["too long", "Too long in"],
  ["spilled", "Spilled"],
  ["wrong swatch", "Wrong swatch"],
  ["forgot to stir", "Forgot to stir"],
  ["felted", "Felted"],
  ["foamed", "Foamed over"],
  ["other", "Something else"],
];

/** One tap says what went wrong; a note, a picture and whom it concerns can follow at once. */
export function WentWrong({ study, one, step }: { study: StudyView; one: VesselBench; step: string }) {
  const log = useLogging(study.id);
  const [open, setOpen] = useState(false);
  const [note, setNote] = useState("");
  const [which, setWhich] = useState<string[]>([]);
  const [photo, setPhoto] = useState<string | null>(null);
  const keepPhoto = useLook(async (file: File) => {
    const body = new FormData();
    body.append("file", file);
    return answered(
      api.POST("/api/studies/{study_id}/dye/photos", {
        params: { path: { study_id: study.id } },
        body: body as unknown as { file: string },
        bodySerializer: (given: unknown) => given as FormData,
      }),
    );
  });
  const say = (deviation: Deviation) => {
    log({ kind: "deviation", vessel: one.vessel.key, step, deviation, note, swatches: which, photo });
    setOpen(false);
    setNote("");
    setWhich([]);
    setPhoto(null);
  };
  return (
    <>
      <Button variant="outlined" color="secondary" fullWidth sx={{ minHeight: 52, my: 1 }} onClick={() => setOpen(true)}>
        It went wrong
      </Button>
      <Dialog open={open} onClose={() => setOpen(false)} fullWidth maxWidth="xs">
        <DialogTitle>What went wrong at {one.vessel.name}</DialogTitle>
        <DialogContent>
          <Box sx={{ display: "grid", gap: 1, pt: 1 }}>
            {one.codes.length > 0 && (
              <Several label="Swatches concerned (none: all in it)" options={one.codes.map((code) => [code, code] as const)} value={which} onChange={setWhich} />
            )}
            <TextField label="Note" value={note} onChange={(event) => setNote(event.target.value)} />
            <PictureButton
              words={photo ? "Picture kept" : "Take a picture"}
              label="Picture of what went wrong"
              onPicture={(file) => keepPhoto.mutate(file, { onSuccess: (kept) => setPhoto(kept.photo) })}
            />
            <ProblemNote error={keepPhoto.error} />
            <Box sx={{ fontSize: 13 }}>Then say what it was; that logs it:</Box>
            <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1 }}>
              {USUAL.map(([deviation, words]) => (
                <Button key={deviation} variant="contained" sx={{ minHeight: 56 }} onClick={() => say(deviation)}>
                  {words}
                </Button>
              ))}
            </Box>
          </Box>
        </DialogContent>
        <DialogActions>
          <Button onClick={() => setOpen(false)}>Nothing</Button>
        </DialogActions>
      </Dialog>
    </>
  );
}
