import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";

import type { FactorKind, Level, Shelf, StudyPlan } from "../api/client";
import { FACTOR_NAMES } from "../grid/axes";
import { levelsToAdd } from "./starting-plan";

interface FactorEditorProps {
  plan: StudyPlan;
  shelf: Shelf;
  change: (part: Partial<StudyPlan>) => void;
}

const KINDS = Object.keys(FACTOR_NAMES) as FactorKind[];

/** Which factors are crossed, on which axis, at which levels. */
export function FactorEditor({ plan, shelf, change }: FactorEditorProps) {
  const factors = plan.factors ?? [];
  const rows = plan.rows ?? [];
  const columns = plan.columns ?? [];
  const setLevels = (kind: FactorKind, levels: Level[]) =>
    change({ factors: factors.map((factor) => (factor.kind === kind ? { kind, levels } : factor)) });
  const add = (kind: FactorKind) => {
    const first = levelsToAdd(kind, shelf)[kind === "ph" ? 3 : 0];
    if (first) change({ factors: [...factors, { kind, levels: [first] }], columns: [...columns, kind] });
  };
  const remove = (kind: FactorKind) =>
    change({
      factors: factors.filter((factor) => factor.kind !== kind),
      rows: rows.filter((one) => one !== kind),
      columns: columns.filter((one) => one !== kind),
    });
  const flip = (kind: FactorKind) =>
    rows.includes(kind)
      ? change({ rows: rows.filter((one) => one !== kind), columns: [...columns, kind] })
      : change({ columns: columns.filter((one) => one !== kind), rows: [...rows, kind] });
  const absent = KINDS.filter((kind) => !factors.some((factor) => factor.kind === kind));

  return (
    <>
      {factors.map((factor) => (
        <Box key={factor.kind} sx={{ mb: 1.5 }} role="group" aria-label={FACTOR_NAMES[factor.kind]}>
          <Box sx={{ display: "flex", alignItems: "center" }}>
            <Box component="h3" sx={{ m: 0, flex: 1, fontSize: 14 }}>
              {FACTOR_NAMES[factor.kind]}
            </Box>
            <Button size="small" onClick={() => flip(factor.kind)}>
              {rows.includes(factor.kind) ? "on rows" : "on columns"}
            </Button>
            <Button size="small" onClick={() => remove(factor.kind)} aria-label={`Do not cross ${FACTOR_NAMES[factor.kind]}`}>
              remove
            </Button>
          </Box>
          <Box sx={{ display: "flex", flexWrap: "wrap", gap: 0.5 }}>
            {factor.levels.map((level) => (
              <Box key={level.key} sx={{ border: 1, borderColor: "divider", pl: 1, display: "flex", alignItems: "center" }}>
                {level.label}
                <IconButton
                  size="small"
                  color="inherit"
                  disabled={factor.levels.length === 1}
                  aria-label={`Remove ${level.label}`}
                  onClick={() => setLevels(factor.kind, factor.levels.filter((one) => one.key !== level.key))}
                  sx={{ fontSize: 14, width: 28, height: 28 }}
                >
                  ✕
                </IconButton>
              </Box>
            ))}
            <LevelAdder
              kind={factor.kind}
              options={levelsToAdd(factor.kind, shelf).filter(
                (level) => !factor.levels.some((one) => one.key === level.key),
              )}
              onAdd={(level) => setLevels(factor.kind, [...factor.levels, level])}
            />
          </Box>
        </Box>
      ))}
      {absent.map((kind) => (
        <Button key={kind} variant="outlined" size="small" sx={{ mr: 0.5, mb: 1 }} onClick={() => add(kind)}>
          Cross with {FACTOR_NAMES[kind].toLowerCase().replace("ph", "pH")}
        </Button>
      ))}
    </>
  );
}

function LevelAdder(props: { kind: FactorKind; options: Level[]; onAdd: (level: Level) => void }) {
  if (props.options.length === 0) return null;
  return (
    <TextField
      select
      value=""
      label="Add"
      aria-label={`Add a level of ${FACTOR_NAMES[props.kind]}`}
      sx={{ width: 92 }}
      onChange={(event) => {
        const level = props.options.find((one) => one.key === event.target.value);
        if (level) props.onAdd(level);
      }}
    >
      {props.options.map((level) => (
        <MenuItem key={level.key} value={level.key}>
          {level.label}
        </MenuItem>
      ))}
    </TextField>
  );
}
