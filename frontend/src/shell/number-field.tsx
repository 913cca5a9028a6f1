import TextField from "@mui/material/TextField";
import type { TextFieldProps } from "@mui/material/TextField";
import { useState } from "react";

import { typedNumber } from "../settings/quantities";

interface NumberFieldProps extends Omit<TextFieldProps, "value" | "defaultValue" | "onChange"> {
  label: string;
  start: number | null | undefined;
  onTake: (value: number) => void;
}

/** A number with a comma or a point; what cannot be read is said, kept as typed, and not taken. */
export function NumberField({ start, onTake, ...field }: NumberFieldProps) {
  const [text, setText] = useState(start == null ? "" : String(start));
  const wrong = !Number.isFinite(typedNumber(text));
  return (
    <TextField
      {...field}
      value={text}
      error={wrong}
      helperText={wrong ? "It must be a number." : field.helperText}
      slotProps={{ htmlInput: { inputMode: "decimal" } }}
      onChange={(event) => {
        setText(event.target.value);
        const value = typedNumber(event.target.value);
        if (value !== null && Number.isFinite(value)) onTake(value);
      }}
    />
  );
}
