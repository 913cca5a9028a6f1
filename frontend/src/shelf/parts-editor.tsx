import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { ChoiceField } from "../shell/choice-field";
import { NumberField } from "../shell/number-field";

interface PartsEditorProps {
  label: string;
  /** The field that names a part: a class of fibre, or another lot. */
  what: "fibre_class" | "lot";
  options: string[][];
  value: unknown;
  onChange: (parts: unknown) => void;
}

type Part = Record<string, string | number>;

/** Parts that add up to 100 %: of a blend, or of a mixture of lots. */
export function PartsEditor({ label, what, options, value, onChange }: PartsEditorProps) {
  const parts = (value as Part[] | undefined) ?? [];
  const set = (i: number, field: string, next: string | number) =>
    onChange(parts.map((part, k) => (k === i ? { ...part, [field]: next } : part)));
  const total = parts.reduce((sum, part) => sum + Number(part["percent"]), 0);
  return (
    <Box role="group" aria-label={label} sx={{ display: "grid", gap: 1 }}>
      <Box sx={{ fontSize: 13 }}>
        {label}
        {parts.length > 0 && `: ${total} % in all${total === 100 ? "" : ", it must be 100"}`}
      </Box>
      {parts.map((part, i) => (
        <Box key={`${i} of ${parts.length}`} sx={{ display: "grid", gridTemplateColumns: "1fr 90px auto", gap: 1 }}>
          <ChoiceField
            label="Part"
            value={part[what] ?? ""}
            onChange={(chosen) => set(i, what, chosen)}
            options={options.map(([key, words]) => [key ?? "", words] as const)}
          />
          <NumberField label="%" start={Number(part["percent"])} onTake={(percent) => set(i, "percent", percent)} />
          <Button onClick={() => onChange(parts.filter((_, k) => k !== i))}>remove</Button>
        </Box>
      ))}
      <div>
        <Button
          size="small"
          variant="outlined"
          onClick={() => onChange([...parts, { [what]: options[0]?.[0] ?? "", percent: Math.max(0, 100 - total) }])}>
          Add a part
        </Button>
      </div>
    </Box>
  );
}
