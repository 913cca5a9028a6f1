import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";

interface SeveralProps {
  label: string;
  options: readonly (readonly [string, string])[];
  value: string[];
  onChange: (keys: string[]) => void;
}

/** A field that takes several of what is offered. */
export function Several({ label, options, value, onChange }: SeveralProps) {
  return (
    <TextField
      select
      label={label}
      value={value}
      slotProps={{ select: { multiple: true } }}
      onChange={(event) => onChange(event.target.value as unknown as string[])}
    >
      {options.map(([key, words]) => (
        <MenuItem key={key} value={key}>
          {words}
        </MenuItem>
      ))}
    </TextField>
  );
}
