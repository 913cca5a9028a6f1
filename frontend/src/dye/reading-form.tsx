import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import { fieldUnit } from "../settings/field-unit";
import { temperatureWords, typedNumber } from "../settings/quantities";
import { useLogging } from "./outbox";
import { StripDialog } from "./strip-dialog";

/** What is wrong with a typed reading, before it goes into the log. */
const outside = (value: number | null, low: number, high: number) => value !== null && !(value >= low && value <= high);

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
  const [strip, setStrip] = useState(false);
  const heat = fieldUnit("°C");
  const read = heat.stored(temperature);
  const wrongTemperature = outside(read, -20, 130) ? `from ${temperatureWords(-20)} to ${temperatureWords(130)}` : "";
  const wrongPh = outside(typedNumber(ph), 0, 14) ? "pH from 0 to 14" : "";
  const empty = !temperature.trim() && !ph.trim() && !note.trim();
  const record = () => {
    log({ kind: "record", ...at, temperature_c: read, ph: typedNumber(ph), note });
    setTemperature("");
    setPh("");
    setNote("");
  };
  const number = { slotProps: { htmlInput: { inputMode: "decimal" as const } } };
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1, my: 1 }}>
      <TextField
        label={heat.label}
        value={temperature}
        error={!!wrongTemperature}
        helperText={wrongTemperature}
        onChange={(e) => setTemperature(e.target.value)}
        {...number}
      />
      <TextField
        label={wantsPh ? "pH (read it now)" : "pH"}
        value={ph}
        error={!!wrongPh}
        helperText={wrongPh}
        onChange={(e) => setPh(e.target.value)}
        {...number}
      />
      <TextField label="Note" value={note} onChange={(e) => setNote(e.target.value)} />
      <Button
        variant="outlined"
        color="secondary"
        sx={{ minHeight: 48 }}
        disabled={empty || !!wrongTemperature || !!wrongPh}
        onClick={record}>
        Record
      </Button>
      <Button sx={{ gridColumn: "1 / -1", minHeight: 48 }} onClick={() => setStrip(true)}>
        pH by a strip and a photo
      </Button>
      {strip && <StripDialog study={study} at={at} onClose={() => setStrip(false)} />}
    </Box>
  );
}
