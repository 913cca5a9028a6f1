import TextField from "@mui/material/TextField";
import type { TextFieldProps } from "@mui/material/TextField";

import { dayWords, todayIso } from "./dates";

interface DayFieldProps extends Omit<TextFieldProps, "type" | "value" | "onChange"> {
  label: string;
  /** 2026-09-14; empty where no day is said. */
  value: string;
  onChange: (day: string) => void;
  /** Something that has happened: no later day than today. */
  past?: boolean;
}

/** A day. The field writes it as the browser does, 09/12 or 12/09; below it stands as the person chose. */
export function DayField({ value, onChange, past = false, ...field }: DayFieldProps) {
  return (
    <TextField
      {...field}
      type="date"
      value={value}
      helperText={value ? dayWords(value) : " "}
      onChange={(event) => onChange(event.target.value)}
      slotProps={{ inputLabel: { shrink: true }, htmlInput: past ? { max: todayIso() } : {} }}
    />
  );
}
