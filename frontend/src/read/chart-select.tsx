import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";

import { useShelf } from "../api/hooks";

interface ChartSelectProps {
  label: string;
  /** A chart's key on the Shelf; empty for the common one. */
  value: string;
  onChange: (chart: string) => void;
}

/** Which chart: the common one, or one of the Shelf's; nothing to choose where there is no other. */
export function ChartSelect({ label, value, onChange }: ChartSelectProps) {
  const charts = (useShelf().data?.charts ?? []).filter((one) => !one.retired);
  if (charts.length === 0) return null;
  const known = charts.some((one) => one.key === value) ? value : "";
  return (
    <TextField select label={label} value={known} onChange={(event) => onChange(event.target.value)} slotProps={{ inputLabel: { shrink: true }, select: { displayEmpty: true } }} sx={{ minWidth: 150 }}>
      <MenuItem value="">the common 24 patches</MenuItem>
      {charts.map((one) => (
        <MenuItem key={one.key} value={one.key}>
          {one.name}
        </MenuItem>
      ))}
    </TextField>
  );
}
