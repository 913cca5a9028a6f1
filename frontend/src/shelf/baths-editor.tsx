import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";

import type { Schema, Shelf } from "../api/client";
import { ChoiceField } from "../shell/choice-field";
import { QuantityField } from "../shell/quantity-field";
import { DurationField } from "../shell/duration-field";

type Bath = Schema["MordantBath"];

interface BathsEditorProps {
  value: unknown;
  shelf: Shelf;
  onChange: (baths: Bath[]) => void;
}

const NEW: Bath = {
  kind: "mordant",
  substance: "potassium alum",
  dose_percent_wof: 15,
  temperature_c: 80,
  duration_min: 60,
  then: "Rinse once.",
  coats: 1,
  dry_min: 0,
  rest_min: 0,
};

/** The baths of a mordant route, in order. */
export function BathsEditor({ value, shelf, onChange }: BathsEditorProps) {
  const baths = (value as Bath[] | undefined) ?? [];
  const set = (i: number, part: Partial<Bath>) =>
    onChange(baths.map((bath, k) => (k === i ? { ...bath, ...part } : bath)));
  const names = (shelf.substances ?? [])
    .filter((one) => ["mordant", "tannin", "modifier", "binder", "assist"].includes(one.role))
    .map((one) => one.name.toLowerCase().replace("iron(ii)", "iron(II)"));
  const number = (
    i: number,
    label: string,
    field: "dose_percent_wof" | "dose_ml_per_100_g" | "assist_percent_wof" | "temperature_c",
  ) => <QuantityField label={label} start={baths[i]?.[field]} onTake={(value) => set(i, { [field]: value })} />;
  return (
    <Box sx={{ display: "grid", gap: 1.5 }}>
      {baths.map((bath, i) => (
        <Box
          key={`${i} of ${baths.length}`}
          role="group"
          aria-label={`Bath ${i + 1}`}
          sx={{ border: 1, borderColor: "divider", p: 1, display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1 }}>
          <Box sx={{ gridColumn: "1 / -1", display: "flex", alignItems: "center" }}>
            <Box sx={{ flex: 1 }}>Bath {i + 1}</Box>
            <Button size="small" onClick={() => onChange(baths.filter((_, k) => k !== i))}>
              remove
            </Button>
          </Box>
          <ChoiceField
            label="Kind"
            value={bath.kind}
            onChange={(chosen) => set(i, { kind: chosen })}
            options={["tannin", "mordant", "binder"]}
          />
          <ChoiceField
            label="Substance"
            sx={{ gridColumn: { xs: "1 / -1", sm: "auto" } }}
            value={bath.substance}
            onChange={(chosen) => set(i, { substance: chosen })}
            options={[...new Set([bath.substance, ...names])]}
          />
          {number(i, "Dose, % WOF", "dose_percent_wof")}
          {bath.dose_percent_wof == null && number(i, "Or mL for 100 g", "dose_ml_per_100_g")}
          {number(i, "Temperature, °C", "temperature_c")}
          <DurationField
            label="Time"
            minutes={bath.duration_min}
            onTake={(minutes) => minutes !== null && set(i, { duration_min: minutes })}
          />
          <TextField
            label="Assist"
            value={bath.assist ?? ""}
            onChange={(event) => set(i, { assist: event.target.value || null })}
          />
          {bath.assist && number(i, "Assist, % WOF", "assist_percent_wof")}
          <ChoiceField
            label="Coats"
            value={bath.coats}
            onChange={(chosen) => set(i, { coats: chosen })}
            options={[1, 2, 3, 4, 5]}
          />
          {bath.coats > 1 && (
            <DurationField
              label="Dried after each"
              minutes={bath.dry_min}
              onTake={(minutes) => set(i, { dry_min: Math.round(minutes ?? 0) })}
            />
          )}
          {bath.coats > 1 && (
            <DurationField
              label="Rests after the last"
              minutes={bath.rest_min}
              onTake={(minutes) => set(i, { rest_min: Math.round(minutes ?? 0) })}
            />
          )}
          <TextField
            label="Then"
            value={bath.then ?? ""}
            onChange={(event) => set(i, { then: event.target.value })}
            sx={{ gridColumn: "1 / -1" }}
          />
        </Box>
      ))}
      <div>
        <Button size="small" variant="outlined" onClick={() => onChange([...baths, NEW])}>
          Add a bath
        </Button>
      </div>
    </Box>
  );
}
