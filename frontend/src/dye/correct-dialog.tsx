import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import type { Schema, StudyView } from "../api/client";
import { useLogging } from "./outbox";
import { typedNumber } from "./reading-form";

interface CorrectDialogProps {
  study: StudyView;
  line: Schema["LogLine"];
  bench: Schema["DyeView"];
  onClose: () => void;
}

/** A new entry over the old one; the old one stays in the log, struck through. */
export function CorrectDialog({ study, line, bench, onClose }: CorrectDialogProps) {
  const log = useLogging(study.id);
  const old = bench.entries.find((entry) => entry.id === line.id);
  const [temperature, setTemperature] = useState(old?.temperature_c?.toString() ?? "");
  const [ph, setPh] = useState(old?.ph?.toString() ?? "");
  const [grams, setGrams] = useState(old?.grams?.toString() ?? "");
  const [count, setCount] = useState(old?.count?.toString() ?? "");
  const [note, setNote] = useState(old?.note ?? "");
  if (!old) return null;
  const { id, received_at, key, at, who, ...same } = old;
  void [received_at, key, at, who];
  const keep = () => {
    log({
      ...same,
      replaces: id,
      temperature_c: old.kind === "record" ? typedNumber(temperature) : same.temperature_c,
      ph: old.kind === "record" ? typedNumber(ph) : same.ph,
      grams: old.grams != null ? typedNumber(grams) : same.grams,
      count: old.count != null ? typedNumber(count) : same.count,
      note,
    });
    onClose();
  };
  const strike = () => {
    log({ kind: "struck", vessel: old.vessel, step: old.step, replaces: id, note });
    onClose();
  };
  const field = (label: string, value: string, set: (text: string) => void) => (
    <TextField label={label} value={value} onChange={(event) => set(event.target.value)} slotProps={{ htmlInput: { inputMode: "decimal" } }} />
  );
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs">
      <DialogTitle>Correct entry {id}</DialogTitle>
      <DialogContent>
        <Box sx={{ mb: 1.5 }}>
          It said: {line.kind_words} {line.words}. It stays in the log; what you say now counts in its place, with today’s time.
        </Box>
        <Box sx={{ display: "grid", gap: 1.5 }}>
          {old.kind === "record" && field("°C", temperature, setTemperature)}
          {old.kind === "record" && field("pH", ph, setPh)}
          {old.grams != null && field("Grams", grams, setGrams)}
          {old.count != null && field("Rinses", count, setCount)}
          <TextField label="Note" value={note} onChange={(event) => setNote(event.target.value)} />
        </Box>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Leave it</Button>
        <Button variant="outlined" color="secondary" onClick={strike}>
          Strike it out
        </Button>
        <Button variant="contained" onClick={keep}>
          Put this in its place
        </Button>
      </DialogActions>
    </Dialog>
  );
}
