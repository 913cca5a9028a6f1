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
  const typed = typedMinutes(text);
  // Another value than what stands here came from outside, as when a row above was taken away.
  const isOld = typed !== null && (minutes === null || Math.abs(typed - minutes) > 0.01);
  const shown = isOld ? (minutes === null ? "" : durationWords(minutes)) : text;
  const read = typedMinutes(shown);
  const wrong = shown.trim() !== "" && read === null;
  const bare = read !== null && /^[\d\s.,]+$/.test(shown);
  return (
    <TextField
      label={label}
      value={shown}
      error={wrong}
      helperText={wrong ? DURATION_HELP : bare ? durationWords(read) : helperText}
      placeholder={usual == null ? "any" : durationWords(usual)}
      slotProps={{ inputLabel: { shrink: true } }}
      onChange={(event) => {
        const now = event.target.value;
        setText(now);
        const taken = typedMinutes(now);
        if (now.trim() === "" || taken !== null) onTake(taken);
      }}
    />
  );
}
