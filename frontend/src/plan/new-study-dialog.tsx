import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import { answered, api } from "../api/client";
import { useChange, useShelf } from "../api/hooks";
import { ProblemNote } from "../shell/said";
import { startingPlan } from "./starting-plan";

interface NewStudyProps {
  open: boolean;
  onClose: () => void;
  onMade: (id: number) => void;
}

export function NewStudyDialog({ open, onClose, onMade }: NewStudyProps) {
  const [name, setName] = useState("");
  const [question, setQuestion] = useState("");
  const shelf = useShelf();
  const make = useChange(async () => {
    if (!shelf.data) throw new Error("The Shelf is not there yet.");
    const body = startingPlan(name.trim(), question.trim(), shelf.data);
    return answered(api.POST("/api/studies", { body }));
  });
  const submit = () =>
    make.mutate(undefined, {
      onSuccess: (made) => {
        setName("");
        setQuestion("");
        onMade(made.id);
      },
    });
  return (
    <Dialog open={open} onClose={onClose} fullWidth maxWidth="sm">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          submit();
        }}
      >
        <DialogTitle>New study</DialogTitle>
        <DialogContent sx={{ display: "grid", gap: 2 }}>
          <div>It starts with a small grid of two fibres, which you then change.</div>
          <TextField label="Name" required value={name} autoFocus onChange={(e) => setName(e.target.value)} />
          <TextField
            label="Question"
            multiline
            minRows={2}
            value={question}
            onChange={(e) => setQuestion(e.target.value)}
          />
          <ProblemNote error={make.error} />
        </DialogContent>
        <DialogActions>
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" variant="contained" disabled={!name.trim() || !shelf.data || make.isPending}>
            Make the study
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
