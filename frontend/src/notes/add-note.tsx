import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import type { ReactNode } from "react";

import { useLogging } from "../dye/outbox";
import { PictureButton } from "../shell/file-button";
import type { About } from "./about";
import { WaitingPicture } from "./note-picture";

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
  const [picture, setPicture] = useState<File>();
  const keep = () => {
    log({ kind: "note", ...about, note }, picture);
    setNote("");
    setPicture(undefined);
    onKept?.();
  };
  return (
    <Box role="group" aria-label="Note" sx={{ display: "grid", gap: 1, my: 1 }}>
      <TextField
        label="Note"
        multiline
        minRows={2}
        value={note}
        onChange={(event) => setNote(event.target.value)}
        slotProps={{ htmlInput: { maxLength: 2000 } }}
      />
      {picture && <WaitingPicture picture={picture} of="this note" />}
      <PictureButton
        words={picture ? "Another picture" : "Add a picture"}
        label="Picture for the note"
        onPicture={setPicture}
      />
      {children}
      <Button variant="contained" sx={{ minHeight: 48 }} disabled={!note.trim() && !picture} onClick={keep}>
        Keep the note
      </Button>
    </Box>
  );
}
