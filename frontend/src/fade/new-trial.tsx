import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import { answered, api } from "../api/client";
import type { GridCell, Schema, StudyView, TrialView } from "../api/client";
import { useChange, useLook, useShelf, useConditions } from "../api/hooks";
import { codesIn } from "../grid/cells";
import { SwatchPicker } from "../grid/swatch-picker";
import { ChoiceField } from "../shell/choice-field";
import { DayField } from "../shell/day-field";
import { entriesOf } from "../shell/keys";
import { todayIso } from "../shell/dates";
import { ProblemNote } from "../shell/said";
import { COUNTED, KIND_WORDS } from "./fade-words";
import type { Kind } from "./fade-words";
import { inMyUnits, temperatureWords } from "../settings/quantities";

type Mount = TrialView["plan"]["mount"];

const START: Record<Kind, string> = {
  light: "1 2 4 8 16 32",
  wash: "1 3 5 10",
  rub: "1",
  sweat: "1",
  store: "30 90 180 365",
};
const MOUNTS: [NonNullable<Mount>, string][] = [
  ["two pieces", "Two pieces: one kept dark"],
  ["half covered", "One piece, half covered"],
  ["strip", "A strip, uncovered step by step"],
];
const MULTIFIBRE = ["acetate", "cotton", "polyamide", "polyester", "acrylic", "wool"];
const NEIGHBOURS: Record<string, string[]> = {
  none: [],
  "white cotton": ["cotton"],
  "white wool": ["wool"],
  "multifibre ribbon": MULTIFIBRE,
};

interface NewTrialProps {
  study: StudyView;
  chosen: readonly GridCell[];
  onMade: (id: number) => void;
}

const words = (text: string) => text.split(/[\s,;]+/).filter(Boolean);
const numbers = (text: string) => words(text).map(Number);

/** What is exposed, how it is mounted, since when, and when it is looked at. */
export function NewTrial({ study, chosen, onMade }: NewTrialProps) {
  const conditions = useConditions().data ?? {};
  const shelf = useShelf().data;
  const [kind, setKind] = useState<Kind>("light");
  const [name, setName] = useState("");
  const [steps, setSteps] = useState(START.light);
  const [startsOn, setStartsOn] = useState(todayIso());
  const [mount, setMount] = useState<NonNullable<Mount>>("two pieces");
  const [condition, setCondition] = useState(0);
  const [neighbours, setNeighbours] = useState("none");
  const [wools, setWools] = useState<readonly string[]>([]);
  const [picked, setPicked] = useState<readonly string[] | null>(null);
  const [pieces, setPieces] = useState("8");
  const offered = codesIn(chosen);
  const swatches = picked ?? offered;
  const [inDoses, setInDoses] = useState(false);
  const byDose = kind === "light" && inDoses;
  const byDays = (kind === "light" || kind === "store") && !byDose;
  const known = conditions[kind] ?? [];
  const onShelf = (shelf?.cloths ?? []).filter((one) => woolNumber(one) !== null);
  const propose = useLook(() =>
    answered(
      api.POST("/api/studies/{study_id}/trials/proposal", {
        params: { path: { study_id: study.id } },
        body: { pieces: Math.round(Number(pieces)), among: offered },
      }),
    ),
  );
  const unread = words(steps).find((one) => !(Number(one) > 0));
  const stages = (): Schema["StagePlan"][] =>
    numbers(steps).map((step) => ({
      label: byDose
        ? `${step} Mlx·h`
        : byDays
          ? step === 1
            ? "1 day"
            : `${step} days`
          : step === 1
            ? one(kind)
            : `${step} ${COUNTED[kind]}`,
      days: byDays ? step : 0,
      dose_lxh: byDose ? step * 1e6 : 0,
      washes: byDays || byDose ? 0 : step,
    }));
  const make = useChange(
    () =>
      answered(
        api.POST("/api/studies/{study_id}/trials", {
          params: { path: { study_id: study.id } },
          body: {
            kind,
            name,
            swatches: [...swatches],
            stages: stages(),
            mount: kind === "light" ? mount : "two pieces",
            starts_on: startsOn || null,
            conditions: known[condition] ?? null,
            neighbours: kind === "light" || kind === "store" ? [] : (NEIGHBOURS[neighbours] ?? []),
            wools:
              kind === "light"
                ? onShelf
                    .filter((wool) => wools.includes(wool.key))
                    .map((wool) => ({ number: woolNumber(wool) ?? 1, cloth: wool.key }))
                : [],
            seed: 1,
          },
        }),
      ),
    { study: study.id },
  );
  const count = swatches.length === 1 ? "1 swatch" : `${swatches.length} swatches`;
  const all = study.grid.cells.flatMap((cell) => cell.swatches);
  return (
    <Box component="form" sx={{ display: "grid", gap: 1.5, mt: 1 }} onSubmit={(event) => event.preventDefault()}>
      <ChoiceField
        label="Trial"
        value={kind}
        onChange={(wanted) => {
          setKind(wanted);
          setSteps(START[wanted]);
          setCondition(0);
        }}
        options={entriesOf(KIND_WORDS)}
      />
      <TextField label="Name of the trial" value={name} onChange={(event) => setName(event.target.value)} />
      <Box sx={{ display: "grid", gridTemplateColumns: "110px 1fr", gap: 1, alignItems: "center" }}>
        <TextField
          label="Pieces"
          value={pieces}
          error={!(Number(pieces) >= 1)}
          helperText={Number(pieces) >= 1 ? "" : "How many?"}
          onChange={(event) => setPieces(event.target.value)}
          slotProps={{ htmlInput: { inputMode: "numeric" } }}
        />
        <Button
          variant="outlined"
          disabled={!(Number(pieces) >= 1) || propose.isPending}
          onClick={() =>
            void propose.mutateAsync(undefined).then(
              (found) => setPicked(found.swatches),
              () => undefined,
            )
          }>
          Propose those that tell most
        </Button>
      </Box>
      {propose.data && picked && <Box sx={{ fontSize: 13 }}>{inMyUnits(propose.data.words)}</Box>}
      <ProblemNote error={propose.error} />
      <strong>{picked ? `${count} proposed` : `${count} selected in the grid`}</strong>
      {(offered.length > 0 || picked) && (
        <SwatchPicker
          study={study}
          offered={picked ? [...new Set([...picked, ...(offered.length > 0 ? offered : all)])] : offered}
          value={[...swatches]}
          onChange={(codes) => setPicked(codes)}
        />
      )}
      {kind === "light" && <ChoiceField label="Mounted as" value={mount} onChange={setMount} options={MOUNTS} />}
      {known.length > 0 && (
        <TextField
          select
          label="Conditions"
          value={condition}
          onChange={(event) => setCondition(Number(event.target.value))}>
          {known.map((own, i) => (
            <MenuItem key={own.name} value={i}>
              {[
                own.name,
                own.temperature_c != null && temperatureWords(own.temperature_c),
                own.minutes != null && `${own.minutes} min`,
                own.ph != null && `pH ${own.ph}`,
              ]
                .filter(Boolean)
                .join(", ")}
            </MenuItem>
          ))}
        </TextField>
      )}
      {kind !== "light" && kind !== "store" && (
        <ChoiceField
          label="White neighbour"
          value={neighbours}
          onChange={setNeighbours}
          options={Object.keys(NEIGHBOURS)}
        />
      )}
      {kind === "light" && onShelf.length > 0 && (
        <Box role="group" aria-label="Blue wools beside them">
          <div>Blue wools beside them</div>
          {onShelf.map((wool) => (
            <FormControlLabel
              key={wool.key}
              control={
                <Checkbox
                  checked={wools.includes(wool.key)}
                  onChange={(_, on) => setWools(on ? [...wools, wool.key] : wools.filter((key) => key !== wool.key))}
                />
              }
              label={wool.name}
            />
          ))}
        </Box>
      )}
      <DayField label="Begins on" value={startsOn} onChange={setStartsOn} />
      {kind === "light" && (
        <ChoiceField
          label="Stages by"
          value={byDose ? "dose" : "days"}
          onChange={(chosen) => {
            setInDoses(chosen === "dose");
            setSteps(chosen === "dose" ? "0.25 0.5 1 2 4" : START.light);
          }}
          options={[
            ["days", "days in the light"],
            ["dose", "dose: due when the window has given it"],
          ]}
        />
      )}
      <TextField
        label={byDose ? "Read after Mlx·h" : byDays ? "Read after days" : `Read after ${COUNTED[kind]}`}
        value={steps}
        error={unread !== undefined}
        onChange={(event) => setSteps(event.target.value)}
        helperText={
          unread === undefined
            ? "Fading is fast first and slow later: each stage about twice the one before."
            : `“${unread}” is no number: say them as 2 4 8 16.`
        }
      />
      <ProblemNote error={make.error} />
      <Button
        variant="contained"
        disabled={swatches.length === 0 || !name.trim() || unread !== undefined || make.isPending}
        onClick={() =>
          void make.mutateAsync(undefined).then(
            (made) => onMade(made.id),
            () => undefined,
          )
        }>
        Start with {count}
      </Button>
      <Box sx={{ fontSize: 13 }}>
        {kind === "light"
          ? "Where the pieces hang is said next, under Light."
          : "Dry the pieces between: a damp reading does not count."}
      </Box>
    </Box>
  );
}

const one = (kind: Kind) =>
  ({ light: "1 day", wash: "1 wash", rub: "1 rubbing", sweat: "1 wetting", store: "1 day" })[kind];

/** The number of a blue wool by its name on the Shelf. */
function woolNumber(cloth: Schema["ReferenceCloth"]): number | null {
  const found = /blue[ -]?wool[ -]?([1-8])/i.exec(`${cloth.name} ${cloth.key}`);
  return found ? Number(found[1]) : null;
}
