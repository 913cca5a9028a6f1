import Box from "@mui/material/Box";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import type { Level, Schema, Shelf } from "../api/client";
import { ChoiceField } from "../shell/choice-field";
import { entriesOf } from "../shell/keys";
import { DurationField } from "../shell/duration-field";
import { durationWords } from "../shell/durations";
import { typedNumber } from "../settings/quantities";
import { QuantityField } from "../shell/quantity-field";
import { KeepOrCancel } from "./keep-or-cancel";
import { asLevelValue, level } from "./levels";

type Recipe = Schema["ExtractionRecipe"];
const KEPT: Record<Recipe["kept"], string> = {
  shared: "one extract for all baths",
  apart: "an extract for each bath",
  "in the bath": "the stuff stays in the bath with the fibre",
};

interface ExtractionAdderProps {
  shelf: Shelf;
  onAdd: (levels: Level[]) => void;
  onClose: () => void;
}

/** A way of extracting of one's own; drawn off at several times it makes several levels. */
export function ExtractionAdder({ shelf, onAdd, onClose }: ExtractionAdderProps) {
  const [soak, setSoak] = useState<number | null>(null);
  const [ph, setPh] = useState("");
  const [withKey, setWith] = useState("");
  const [warm, setWarm] = useState<number | null>(80);
  const [long, setLong] = useState<number | null>(60);
  const [rounds, setRounds] = useState("1");
  const [daily, setDaily] = useState(true);
  const [settle, setSettle] = useState<number | null>(null);
  const [draws, setDraws] = useState("");
  const [kept, setKept] = useState<Recipe["kept"]>("shared");
  const many = Math.round(typedNumber(rounds) ?? 0);
  const drawn = draws
    .split(/[\s,;]+/)
    .filter(Boolean)
    .map(Number);
  const wrongDraws = drawn.some((one) => !Number.isInteger(one) || one < 1 || one > many);
  const soakPh = typedNumber(ph);
  const sound = !Number.isNaN(warm) && many >= 1 && many <= 14 && long !== null && !wrongDraws && !Number.isNaN(soakPh);
  const recipe = (after: number | null): Recipe => ({
    soak_min: Math.round(soak ?? 0),
    soak_ph: soakPh,
    soak_with: soakPh === null ? null : withKey || null,
    rounds: many,
    temperature_c: asLevelValue(warm, "°C"),
    heat_min: Math.round(long ?? 60),
    daily: daily && many > 1,
    drawn_after: after,
    settle_min: Math.round(settle ?? 0),
    kept,
  });
  const made = (after: number | null): Level => {
    const heat = warm === null ? "cold" : `${asLevelValue(warm, "°C")} °C`;
    const parts = [
      soak ? `soaked ${durationWords(soak)}` : "",
      soakPh === null ? "" : `pH ${soakPh}`,
      `${many > 1 ? `${many} × ` : ""}${durationWords(long ?? 60)} ${heat}`,
      settle ? `settled ${durationWords(settle)}` : "",
      kept === "shared" ? "" : kept,
      after === null ? "" : `drawn after ${after}`,
    ];
    const label = parts.filter(Boolean).join(", ");
    return {
      ...level(
        label
          .toLowerCase()
          .replace(/[^a-z0-9]+/g, "-")
          .replace(/^-+|-+$/g, "")
          .slice(0, 40),
        label.slice(0, 80),
      ),
      recipe: recipe(after),
    };
  };
  const add = () => {
    onAdd(drawn.length > 0 ? drawn.map(made) : [made(null)]);
    onClose();
  };
  const adjusters = shelf.substances.filter((one) => ["acid", "alkali"].includes(one.role) && !one.retired);
  return (
    <Box
      role="group"
      aria-label="A way of extracting"
      sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1, width: "100%", mt: 0.5 }}>
      <DurationField label="Soaked cold first" minutes={soak} onTake={setSoak} />
      <TextField label="Soak at pH; empty: as it is" value={ph} onChange={(event) => setPh(event.target.value)} />
      {soakPh !== null && (
        <ChoiceField
          label="With"
          value={withKey}
          sx={{ gridColumn: "1 / -1" }}
          onChange={setWith}
          options={[["", "the study’s acid or alkali"], ...adjusters.map((one) => [one.key, one.name] as const)]}
        />
      )}
      <QuantityField label="Heat, °C; empty: cold" start={80} onTake={setWarm} />
      <DurationField label="For, each round" minutes={long} onTake={setLong} />
      <TextField label="Rounds" value={rounds} onChange={(event) => setRounds(event.target.value)} />
      <FormControlLabel
        control={<Checkbox checked={daily} disabled={many < 2} onChange={(_, on) => setDaily(on)} />}
        label="a round a day"
      />
      <TextField
        label="Drawn off after rounds, as levels"
        placeholder="2, 4"
        value={draws}
        error={wrongDraws}
        helperText={wrongDraws ? "Numbers of rounds, such as 2, 4." : ""}
        onChange={(event) => setDraws(event.target.value)}
      />
      <DurationField label="Left to settle" minutes={settle} onTake={setSettle} />
      <ChoiceField
        label="Kept as"
        value={kept}
        sx={{ gridColumn: "1 / -1" }}
        onChange={setKept}
        options={entriesOf(KEPT)}
      />
      <KeepOrCancel
        words={drawn.length > 1 ? `Add ${drawn.length} levels` : "Add as a level"}
        sound={sound}
        keep={add}
        cancel={onClose}
      />
    </Box>
  );
}
