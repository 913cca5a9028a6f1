import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import { typedNumber, typedTemperature } from "../settings/quantities";
import { waysNow } from "../settings/ways";
import { useLogging } from "./outbox";

/** What is wrong with a typed reading, before it goes into the log. */
function fault(value: number | null, low: number, high: number, what: string): string {
  if (value === null) return "";
  return Number.isFinite(value) && value >= low && value <= high ? "" : `${what} from ${low} to ${high}`;
}

interface ReadingFormProps {
  study: number;
  at: { vessel: string; step: string };
  wantsPh: boolean;
}

/** Temperature, pH and a note, read by hand. */
export function ReadingForm({ study, at, wantsPh }: ReadingFormProps) {
  const log = useLogging(study);
  const [temperature, setTemperature] = useState("");
  const [ph, setPh] = useState("");
  const [note, setNote] = useState("");
  const wrongTemperature = fault(temperature.trim() ? (typedTemperature(temperature) ?? NaN) : null, -20, 130, "°C");
  const wrongPh = fault(typedNumber(ph), 0, 14, "pH");
  const empty = !temperature.trim() && !ph.trim() && !note.trim();
  const record = () => {
    log({ kind: "record", ...at, temperature_c: temperature.trim() ? typedTemperature(temperature) : null, ph: typedNumber(ph), note });
    setTemperature("");
    setPh("");
    setNote("");
  };
  const number = { slotProps: { htmlInput: { inputMode: "decimal" as const } } };
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1, my: 1 }}>
      <TextField label={`°${waysNow().temperature}`} value={temperature} error={!!wrongTemperature} helperText={wrongTemperature} onChange={(e) => setTemperature(e.target.value)} {...number} />
      <TextField label={wantsPh ? "pH (read it now)" : "pH"} value={ph} error={!!wrongPh} helperText={wrongPh} onChange={(e) => setPh(e.target.value)} {...number} />
      <TextField label="Note" value={note} onChange={(e) => setNote(e.target.value)} />
      <Button variant="outlined" color="secondary" sx={{ minHeight: 48 }} disabled={empty || !!wrongTemperature || !!wrongPh} onClick={record}>
        Record
      </Button>
    </Box>
  );
}
