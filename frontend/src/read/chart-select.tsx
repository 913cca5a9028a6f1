import { useShelf } from "../api/hooks";
import { ChoiceField } from "../shell/choice-field";

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
    <ChoiceField
      label={label}
      value={known}
      onChange={onChange}
      slotProps={{ inputLabel: { shrink: true }, select: { displayEmpty: true } }}
      sx={{ minWidth: 150 }}
      options={[["", "the common 24 patches"], ...charts.map((one) => [one.key, one.name] as const)]}
    />
  );
}
