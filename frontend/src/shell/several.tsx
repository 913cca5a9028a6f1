import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";

interface SeveralProps<Key extends string> {
  label: string;
  options: readonly (readonly [Key, string])[];
  value: readonly NoInfer<Key>[];
  onChange: (keys: Key[]) => void;
}

/** A field that takes several of what is offered. */
export function Several<Key extends string>({ label, options, value, onChange }: SeveralProps<Key>) {
  return (
    <TextField
      select
      label={label}
      value={value}
      slotProps={{ select: { multiple: true } }}
      onChange={(event) => onChange(options.map(([key]) => key).filter((key) => event.target.value.includes(key)))}>
      {options.map(([key, words]) => (
        <MenuItem key={key} value={key}>
          {words}
        </MenuItem>
      ))}
    </TextField>
  );
}
