import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";

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
  return (
    <TextField
      label={field.label}
      value={shown}
      slotProps={{ htmlInput: field.type === "number" ? { inputMode: "decimal" } : {} }}
      onChange={(event) => onChange(event.target.value)}
    />
  );
}
