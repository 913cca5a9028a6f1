import TextField from "@mui/material/TextField";
import type { TextFieldProps } from "@mui/material/TextField";
import { useState } from "react";

import { NO_NUMBER, fieldUnit } from "../settings/field-unit";

interface QuantityFieldProps extends Omit<TextFieldProps, "label" | "value" | "defaultValue" | "onChange"> {
  /** Ends with the unit in which it is stored, if it has one: "In hand, g". */
  label: string;
  /** What stands there at first, as it is stored. */
  start: number | null | undefined;
  /** It must not be empty. */
  needed?: boolean;
  /** As it is stored: null where nothing is typed, NaN where it cannot be read. */
  onTake: (value: number | null) => void;
}

/** A number or a quantity, typed in the person's unit with a comma or a point; what cannot be read is said and kept as typed. */
export function QuantityField({ label, start, needed = false, onTake, ...field }: QuantityFieldProps) {
  const unit = fieldUnit(label);
  const [text, setText] = useState(start == null ? "" : unit.typed(start));
  const value = unit.stored(text);
  const wrong = value === null ? needed : !Number.isFinite(value);
  return (
    <TextField
      {...field}
      label={unit.label}
      value={text}
      error={wrong || field.error === true}
      helperText={wrong ? NO_NUMBER : field.helperText}
      slotProps={{ ...field.slotProps, htmlInput: { inputMode: "decimal" } }}
      onChange={(event) => {
        setText(event.target.value);
        onTake(unit.stored(event.target.value));
      }}
    />
  );
}
