import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import type { ReactNode } from "react";

import { answered, api } from "../api/client";
import { fileForm } from "../api/file-form";
import { useLook } from "../api/hooks";
import { useLogging } from "../dye/outbox";
import { PictureButton } from "../shell/picture-button";
import { ProblemNote } from "../shell/said";
import type { About } from "./about";

/** Keeps a picture for the log; answers by what it is known there. */
export const useKeepingPicture = (study: number) =>
  useLook((file: File) =>
    answered(api.POST("/api/studies/{study_id}/dye/photos", { params: { path: { study_id: study } }, ...fileForm("file", file) })),
  );

interface AddNoteProps {
  study: number;
  about: About;
  /** What else can be said of it. */
  children?: ReactNode;
  onKept?: () => void;
}

/** Words and a picture. */
export function AddNote({ study, about, children, onKept }: AddNoteProps) {
  const log = useLogging(study);
  const [note, setNote] = useState("");
  const [photo, setPhoto] = useState<string | null>(null);
  const keepPicture = useKeepingPicture(study);
  const keep = () => {
    log({ kind: "note", ...about, note, photo });
    setNote("");
    setPhoto(null);
    onKept?.();
  };
  return (
    <Box role="group" aria-label="Note" sx={{ display: "grid", gap: 1, my: 1 }}>
      <TextField label="Note" multiline minRows={2} value={note} onChange={(event) => setNote(event.target.value)} slotProps={{ htmlInput: { maxLength: 2000 } }} />
      <PictureButton words={photo ? "Picture kept; another one" : "Add a picture"} label="Picture for the note" onPicture={(file) => keepPicture.mutate(file, { onSuccess: (kept) => setPhoto(kept.photo) })} />
      <ProblemNote error={keepPicture.error} />
      {children}
      <Button variant="contained" sx={{ minHeight: 48 }} disabled={(!note.trim() && !photo) || keepPicture.isPending} onClick={keep}>
        {keepPicture.isPending ? "Keeping the picture" : "Keep the note"}
      </Button>
    </Box>
  );
}
