import TextField from "@mui/material/TextField";
import { useState } from "react";

import { durationWords, typedMinutes } from "./durations";

export const DURATION_HELP = "Say it as 45 min, 2 h, 3 days or 2 weeks.";

interface DurationFieldProps {
  label: string;
  minutes: number | null;
  /** In minutes: what holds where nothing is typed. */
  usual?: number | null | undefined;
  onTake: (minutes: number | null) => void;
  helperText?: string;
}

/** A time typed as it is said; what cannot be read is kept as typed, and not taken. */
export function DurationField({ label, minutes, usual, onTake, helperText }: DurationFieldProps) {
  const [text, setText] = useState(minutes == null ? "" : durationWords(minutes));
  const read = typedMinutes(text);
  const wrong = text.trim() !== "" && read === null;
  const bare = read !== null && /^[\d\s.,]+$/.test(text);
  return (
    <TextField
      label={label}
      value={text}
      error={wrong}
      helperText={wrong ? DURATION_HELP : bare ? durationWords(read) : helperText}
      placeholder={usual == null ? "any" : durationWords(usual)}
      slotProps={{ inputLabel: { shrink: true } }}
      onChange={(event) => {
        const typed = event.target.value;
        setText(typed);
        const taken = typedMinutes(typed);
        if (typed.trim() === "" || taken !== null) onTake(taken);
      }}
    />
  );
}
