import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";

import { useState } from "react";

import { fieldUnit } from "../settings/field-unit";
import type { FieldUnit } from "../settings/field-unit";
import { DurationField } from "../shell/duration-field";
import { Several } from "../shell/several";
import type { FieldShape } from "./kinds";

interface ItemFieldProps {
  field: FieldShape;
  value: unknown;
  onChange: (value: unknown) => void;
}

/** One fact about an item, typed or chosen. */
export function ItemField({ field, value, onChange }: ItemFieldProps) {
  if (field.type === "yes")
    return (
      <FormControlLabel
        control={<Checkbox checked={Boolean(value)} onChange={(_, on) => onChange(on)} />}
        label={field.label}
      />
    );
  if (field.type === "duration")
    return <DurationField label={field.label} minutes={value == null ? null : Number(value)} onTake={onChange} />;
  if (field.type === "several")
    return (
      <Several
        label={field.label}
        options={(field.options ?? []).map((one) => [one, one] as const)}
        value={(value as string[] | undefined) ?? []}
        onChange={onChange}
      />
    );
  const shown = value == null ? "" : String(value);
  if (field.type === "choice")
    return (
      <TextField select label={field.label} value={shown} onChange={(event) => onChange(event.target.value)}>
        {field.start === undefined && <MenuItem value="">not known</MenuItem>}
        {(field.options ?? []).map((option) => (
          <MenuItem key={option} value={option}>
            {option.replaceAll("_", " ")}
          </MenuItem>
        ))}
      </TextField>
    );
  const unit = field.type === "number" ? fieldUnit(field.label) : null;
  if (unit) return <InMyUnit unit={unit} value={value} onChange={onChange} />;
  return (
    <TextField
      label={field.label}
      value={shown}
      slotProps={{ htmlInput: field.type === "number" ? { inputMode: "decimal" } : {} }}
      onChange={(event) => onChange(event.target.value)}
    />
  );
}

/** A quantity in the unit that the person chose; it is handed on as it is stored. */
function InMyUnit({ unit, value, onChange }: { unit: FieldUnit; value: unknown; onChange: (value: unknown) => void }) {
  const [text, setText] = useState(() => (typeof value === "number" ? unit.typed(value) : ""));
  const wrong = text.trim() !== "" && unit.stored(text) === null;
  return (
    <TextField
      label={unit.label}
      value={text}
      error={wrong}
      slotProps={{ htmlInput: { inputMode: "decimal" } }}
      onChange={(event) => {
        setText(event.target.value);
        onChange(unit.stored(event.target.value) ?? event.target.value);
      }}
    />
  );
}
