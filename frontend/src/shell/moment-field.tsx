import TextField from "@mui/material/TextField";

import { momentWords } from "./dates";

/** A moment in the person's own time, with seconds where they are given: for a datetime field. */
export function localMoment(iso: string, seconds = false): string {
  const at = new Date(iso);
  const local = new Date(at.getTime() - at.getTimezoneOffset() * 60_000).toISOString();
  return local.slice(0, seconds ? 19 : 16);
}

interface MomentFieldProps {
  label: string;
  /** As the browser's own field has it: 2026-09-14T09:30. */
  value: string;
  onChange: (value: string) => void;
  seconds?: boolean;
}

/** Day and time in one field, not later than now. */
export function MomentField({ label, value, onChange, seconds = false }: MomentFieldProps) {
  return (
    <TextField
      type="datetime-local"
      label={label}
      value={value}
      helperText={value ? momentWords(value) : " "}
      onChange={(event) => onChange(event.target.value)}
      slotProps={{
        inputLabel: { shrink: true },
        htmlInput: { max: localMoment(new Date().toISOString(), seconds), step: seconds ? 1 : 60 },
      }}
    />
  );
}
