import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import type { Schema, StudyView } from "../api/client";
import { saidIn } from "./log-words";
import { ChoiceField } from "../shell/choice-field";
import { DURATION_HELP } from "../shell/duration-field";
import { durationWords, typedMinutes } from "../shell/durations";
import { MomentField, localMoment } from "../shell/moment-field";
import { QuantityField } from "../shell/quantity-field";
import { useLogging } from "./outbox";
import type { NewEntry } from "./outbox";

interface CorrectDialogProps {
  study: StudyView;
  line: Schema["LogLine"];
  bench: Schema["DyeView"];
  onClose: () => void;
}

/** A new entry over the old one, which stays in the log, struck through. Its time stays too, unless
 * the time is what is corrected. */
export function CorrectDialog({ study, line, bench, onClose }: CorrectDialogProps) {
  const log = useLogging(study.id);
  const old = bench.entries.find((entry) => entry.id === line.id);
  const was = old ? localMoment(old.at, true) : "";
  const [when, setWhen] = useState(was);
  const [vessel, setVessel] = useState(old?.vessel ?? "");
  const [temperature, setTemperature] = useState(old?.temperature_c ?? null);
  const [ph, setPh] = useState(old?.ph ?? null);
  const [amount, setAmount] = useState(old?.addition?.amount ?? null);
  const [minutes, setMinutes] = useState(old?.minutes == null ? "" : durationWords(old.minutes));
  const [count, setCount] = useState(old?.count ?? null);
  const [codes, setCodes] = useState(old?.swatches.join(" ") ?? "");
  const [note, setNote] = useState(old?.note ?? "");
  if (!old) return null;
  const { id, received_at, entered_at, key, at, who, ...same } = old;
  void [received_at, entered_at, key, at, who];
  const reads = old.kind === "record" || old.kind === "reheat";
  const keep = () => {
    const said: NewEntry = { ...same, replaces: id, vessel, note, sure: true };
    if (reads) said.temperature_c = temperature;
    if (old.kind === "record") said.ph = ph;
    if (old.addition) said.addition = { ...old.addition, amount: amount ?? old.addition.amount };
    if (old.minutes != null) said.minutes = typedMinutes(minutes);
    if (old.count != null) said.count = count;
    if (old.swatches.length > 0)
      said.swatches = codes
        .toUpperCase()
        .split(/[\s,;]+/)
        .filter(Boolean);
    if (when !== was) said.at = new Date(when).toISOString();
    log(said);
    onClose();
  };
  const strike = () => {
    log({ kind: "struck", vessel: old.vessel, step: old.step, replaces: id, note });
    onClose();
  };
  const wrongTime = minutes.trim() !== "" && typedMinutes(minutes) === null;
  const sound = !wrongTime && when !== "" && ![temperature, ph, amount, count].some(Number.isNaN);
  const field = (label: string, value: string, set: (text: string) => void, wrong = "") => (
    <TextField
      label={label}
      value={value}
      error={wrong !== ""}
      helperText={wrong}
      multiline={label === "Note"}
      onChange={(event) => set(event.target.value)}
    />
  );
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs">
      <DialogTitle>Correct entry {id}</DialogTitle>
      <DialogContent>
        <Box sx={{ mb: 1.5 }}>
          It said: {line.kind_words} {saidIn(line)}. It stays in the log; what you say now counts in its place, at the
          same time unless you change that.
        </Box>
        <Box sx={{ display: "grid", gap: 1.5 }}>
          <MomentField label="It happened at" value={when} onChange={setWhen} seconds />
          {old.vessel !== "" && (
            <ChoiceField
              label="At the vessel"
              value={vessel}
              onChange={setVessel}
              options={bench.vessels.map((one) => [one.vessel.name, `${one.vessel.name} ${one.vessel.title}`] as const)}
            />
          )}
          {reads && <QuantityField label="°C" start={old.temperature_c} onTake={setTemperature} />}
          {old.kind === "record" && <QuantityField label="pH" start={old.ph} onTake={setPh} />}
          {old.addition && (
            <QuantityField
              label={`${old.addition.unit} ${old.addition.name}`}
              start={old.addition.amount}
              needed
              onTake={setAmount}
            />
          )}
          {old.minutes != null && field("For", minutes, setMinutes, wrongTime ? DURATION_HELP : "")}
          {old.count != null && <QuantityField label="Rinses" start={old.count} onTake={setCount} />}
          {old.swatches.length > 0 && field("Swatches", codes, setCodes)}
          {field("Note", note, setNote)}
        </Box>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Leave it</Button>
        <Button variant="outlined" color="secondary" onClick={strike}>
          Strike it out
        </Button>
        <Button variant="contained" disabled={!sound} onClick={keep}>
          Put this in its place
        </Button>
      </DialogActions>
    </Dialog>
  );
}
