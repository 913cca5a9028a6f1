import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import ListSubheader from "@mui/material/ListSubheader";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import type { FactorKind, Level, Shelf, StudyView } from "../api/client";
import { FACTOR_NAMES } from "../grid/axes";
import type { Selection } from "../grid/selection";
import { levelNoteKey } from "../notes/about";
import { useNoteCounts } from "../notes/notes";
import { inMyUnits } from "../settings/quantities";
import { keysOf } from "../shell/keys";
import { AxisLanes } from "./axis-lanes";
import { withFactor, withLevels, withoutFactor } from "./change-plan";
import type { Change } from "./change-plan";
import { GoesWithIt } from "./goes-with-it";
import type { Going } from "./goes-with-it";
import { LevelAdder } from "./level-adder";
import { LevelName, LevelPart } from "./level-part";
import { MOST_LEVELS, firstLevel, levelsToAdd } from "./levels";

const KINDS = keysOf(FACTOR_NAMES);
/** Where each factor acts. */
const STAGES: Record<string, FactorKind[]> = {
  "The piece": ["fibre"],
  "Its mordant bath": ["mordant", "mordant_temperature", "mordant_duration"],
  "Its dye bath": [
    "dye",
    "strength",
    "extraction",
    "process",
    "temperature",
    "duration",
    "ph",
    "addition",
    "reheats",
    "rest",
    "dip",
  ],
  "Zones of one cloth": ["source", "pretreatment", "side", "printing", "times_in"],
  "Its iron baths": ["iron", "iron_temperature", "iron_duration", "second_iron"],
  "Another bath after it": [
    "second_dye",
    "second_temperature",
    "second_duration",
    "after_ph",
    "after_temperature",
    "after_duration",
  ],
};
const MOST_FACTORS = 12;

interface FactorEditorProps {
  study: StudyView;
  shelf: Shelf;
  selection: Selection;
  change: Change;
}

/** Which factors are crossed, at which levels, on which axis. */
export function FactorEditor({ study, shelf, selection, change }: FactorEditorProps) {
  const plan = study.plan;
  const noteCounts = useNoteCounts(study.id);
  const [open, setOpen] = useState<{ kind: FactorKind; key: string } | null>(null);
  const isOpen = (kind: FactorKind, level: Level) => open?.kind === kind && open.key === level.key;
  const [going, setGoing] = useState<Going | null>(null);
  const factors = plan.factors ?? [];
  // A recipe that is followed has all its baths; one comes from a swatch, never from here.
  const follows = factors.some((factor) => factor.kind === "recipe");
  const absent = KINDS.filter((kind) => kind !== "recipe" && !follows && !factors.some((one) => one.kind === kind));
  const add = (kind: FactorKind) => {
    const first = firstLevel(kind, shelf);
    if (first) change(withFactor(plan, kind, first));
  };
  return (
    <>
      {factors.map((factor) => (
        <Box key={factor.kind} sx={{ mb: 1.5 }} role="group" aria-label={FACTOR_NAMES[factor.kind]}>
          <Box sx={{ display: "flex", alignItems: "center" }}>
            <Box component="h3" sx={{ m: 0, flex: 1, fontSize: 14 }}>
              {FACTOR_NAMES[factor.kind]}
              {factor.levels.length === 1 && (
                <Box component="span" sx={{ fontWeight: 400, color: "text.secondary" }}>
                  {" "}
                  held fixed
                </Box>
              )}
            </Box>
            <Button
              size="small"
              onClick={() => setGoing({ kind: factor.kind })}
              aria-label={`remove: do not cross ${FACTOR_NAMES[factor.kind]}`}>
              remove
            </Button>
          </Box>
          <Box sx={{ display: "flex", flexWrap: "wrap", gap: 0.5 }}>
            {factor.levels.map((level) => (
              <Box key={level.key} sx={{ border: 1, borderColor: "divider", display: "flex", alignItems: "center" }}>
                <LevelName
                  label={inMyUnits(level.label)}
                  notes={noteCounts.get(levelNoteKey(factor.kind, level.key)) ?? 0}
                  open={isOpen(factor.kind, level)}
                  onOpen={() => setOpen(isOpen(factor.kind, level) ? null : { kind: factor.kind, key: level.key })}
                />
                <IconButton
                  size="small"
                  color="inherit"
                  disabled={factor.levels.length === 1}
                  aria-label={`Remove ${level.label}`}
                  onClick={() => setGoing({ kind: factor.kind, level })}
                  sx={{ fontSize: 14, width: 40, height: 40 }}>
                  ✕
                </IconButton>
              </Box>
            ))}
            {factor.levels.length < MOST_LEVELS && (
              <LevelAdder
                kind={factor.kind}
                plan={plan}
                shelf={shelf}
                options={levelsToAdd(factor.kind, shelf).filter(
                  (level) => !factor.levels.some((one) => one.key === level.key),
                )}
                onAdd={(...levels) => change(withLevels(plan, factor.kind, [...factor.levels, ...levels]))}
              />
            )}
          </Box>
          {factor.levels
            .filter((level) => isOpen(factor.kind, level))
            .map((level) => (
              <LevelPart
                key={level.key}
                study={study}
                kind={factor.kind}
                level={level}
                selection={selection}
                onClose={() => setOpen(null)}
              />
            ))}
          {going?.kind === factor.kind && (
            <GoesWithIt
              study={study}
              going={going}
              onKeep={() => setGoing(null)}
              onTakeOut={() => {
                const gone = going.level?.key;
                change(
                  gone === undefined
                    ? withoutFactor(plan, factor.kind)
                    : withLevels(
                        plan,
                        factor.kind,
                        factor.levels.filter((one) => one.key !== gone),
                      ),
                );
                setGoing(null);
              }}
            />
          )}
        </Box>
      ))}
      {factors.length < MOST_FACTORS && (
        <TextField
          select
          label="Cross with another factor"
          value=""
          sx={{ mb: 1.5 }}
          onChange={(event) => absent.filter((kind) => kind === event.target.value).forEach(add)}>
          {Object.entries(STAGES).flatMap(([stage, kinds]) => {
            const offered = kinds.filter((kind) => absent.includes(kind));
            return offered.length === 0
              ? []
              : [
                  <ListSubheader key={stage}>{stage}</ListSubheader>,
                  ...offered.map((kind) => (
                    <MenuItem key={kind} value={kind}>
                      {FACTOR_NAMES[kind]}
                    </MenuItem>
                  )),
                ];
          })}
        </TextField>
      )}
      {factors.length > 1 && <AxisLanes plan={plan} change={change} />}
    </>
  );
}
