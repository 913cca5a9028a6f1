import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Link from "@mui/material/Link";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useMemo, useState } from "react";

import { answered, api } from "../api/client";
import type { GridCell, Schema, StudyView, TrialView } from "../api/client";
import { useChange, useSheets, useTrials } from "../api/hooks";
import { cellOf, cellWords, codesIn } from "../grid/cells";
import { Chip } from "../grid/chip";
import type { Face } from "../grid/study-grid";
import { Awaited, Part, ProblemNote } from "../shell/said";
import { FadeCurve } from "./fade-curve";
import { NewTrial } from "./new-trial";

export interface FadeState {
  trials: ReturnType<typeof useTrials>;
  trial: TrialView | undefined;
  stage: number;
  chooseTrial: (id: number) => void;
  chooseStage: (stage: number) => void;
  faceOf: (cell: GridCell, plain: Face) => Face;
}

const lastRead = (trial: TrialView | undefined) =>
  Math.max(0, ...(trial?.points ?? []).map((point) => point.stage));

/** Each chip shows its kept-dark part and its exposed part at the chosen stage. */
export function useFadeFaces(study: StudyView): FadeState {
  const trials = useTrials(study.id);
  const [chosen, setChosen] = useState<number | null>(null);
  const [wanted, setWanted] = useState<number | null>(null);
  const trial = trials.data?.find((one) => one.id === chosen) ?? trials.data?.[0];
  const stage = wanted ?? lastRead(trial);
  const points = useMemo(
    () => new Map(trial?.points.filter((p) => p.stage === stage).map((p) => [p.swatch, p])),
    [trial, stage],
  );
  return {
    trials,
    trial,
    stage,
    chooseTrial: (id) => {
      setChosen(id);
      setWanted(null);
    },
    chooseStage: setWanted,
    faceOf: (cell, plain) => {
      const own = cell.swatches.flatMap((code) => points.get(code) ?? []);
      if (own.length === 0) return { ...plain, fills: [], caption: "", words: `${plain.words}; not in this trial` };
      const said = own.map((point) => `${point.swatch} rating ${point.rating_words}, ΔE00 ${point.difference.de00.toFixed(1)}`);
      return {
        fills: own.flatMap((point) => [point.dark_hex, point.exposed_hex]),
        caption: [...new Set(own.map((point) => point.rating))].join(" "),
        words: `${plain.words}; ${said.join("; ")}`,
      };
    },
  };
}

interface FadePanelProps {
  study: StudyView;
  chosen: readonly GridCell[];
  state: FadeState;
}

export function FadePanel({ study, chosen, state }: FadePanelProps) {
  const [adding, setAdding] = useState(false);
  return (
    <Awaited query={state.trials}>
      {(trials) => (
        <>
          <Part title="Trial">
            {trials.length === 0 && (
              <p>
                A trial exposes cut-off pieces to light or washing and measures them, stage by stage, beside
                the piece kept dark. Select swatches in the grid, then start one.
              </p>
            )}
            {state.trial && <TrialChoice trials={trials} state={state} />}
            <Button
              variant={trials.length === 0 ? "contained" : "text"}
              onClick={() => setAdding(!adding)}
              sx={{ mt: 1 }}
            >
              Start a trial
            </Button>
            {adding && <NewTrial study={study} chosen={chosen} onMade={() => setAdding(false)} />}
          </Part>
          {state.trial && (
            <>
              <Part title="How it fades">
                <ChosenCurves chosen={chosen} trial={state.trial} />
              </Part>
              <Part title={`At ${state.trial.plan.stages[state.stage]?.label ?? "this stage"}`}>
                <StageTable study={study} trial={state.trial} stage={state.stage} chosen={chosen} />
              </Part>
              <TrialSheets study={study} trial={state.trial} />
            </>
          )}
        </>
      )}
    </Awaited>
  );
}

function TrialChoice({ trials, state }: { trials: readonly TrialView[]; state: FadeState }) {
  const trial = state.trial;
  if (!trial) return null;
  const read = new Set(trial.points.map((point) => point.stage));
  return (
    <>
      <TextField
        select
        label="Shown"
        value={trial.id}
        onChange={(event) => state.chooseTrial(Number(event.target.value))}
      >
        {trials.map((one) => (
          <MenuItem key={one.id} value={one.id}>
            {one.plan.name} ({one.plan.kind})
          </MenuItem>
        ))}
      </TextField>
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 0.5, mt: 1 }} role="group" aria-label="Stage">
        {trial.plan.stages.map((one, i) => (
          <Button
            key={one.label}
            variant={i === state.stage ? "contained" : "outlined"}
            size="small"
            aria-pressed={i === state.stage}
            onClick={() => state.chooseStage(i)}
          >
            {one.label}
            {read.has(i) ? "" : " (due)"}
          </Button>
        ))}
      </Box>
    </>
  );
}

const MOST_SHOWN = 8;

/** Which swatches of a trial are shown: those of the selection, or the first ones. */
function swatchesShown(trial: TrialView, chosen: readonly GridCell[]): string[] {
  const selected = new Set(codesIn(chosen));
  const picked = trial.plan.swatches.filter((code) => selected.has(code));
  return (picked.length > 0 ? picked : trial.plan.swatches).slice(0, MOST_SHOWN);
}

function ChosenCurves({ chosen, trial }: { chosen: readonly GridCell[]; trial: TrialView }) {
  const series = swatchesShown(trial, chosen).map((code) => ({ code, points: trial.points.filter((point) => point.swatch === code) }));
  if (series.every((one) => one.points.length === 0))
    return <div>No stage has been read yet. Print the trial’s sheets, photograph, and accept in Read.</div>;
  return <FadeCurve kind={trial.plan.kind} series={series} />;
}

function StageTable(props: { study: StudyView; trial: TrialView; stage: number; chosen: readonly GridCell[] }) {
  const { study, trial, stage } = props;
  const rows = swatchesShown(trial, props.chosen).flatMap((code) => {
    const point = trial.points.find((one) => one.swatch === code && one.stage === stage);
    const cell = cellOf(study, code);
    return point ? [{ code, point, words: cell ? cellWords(study, cell) : "" }] : [];
  });
  if (rows.length === 0) return <div>Nothing read at this stage.</div>;
  return (
    <>
      {rows.map(({ code, point, words }) => (
        <Box key={code} sx={{ display: "flex", gap: 1.5, mb: 1, fontSize: 13 }}>
          <Chip fills={[point.dark_hex, point.exposed_hex]} width={64} height={44} />
          <div>
            <strong>{code}</strong> {words}
            <div>
              Rating <strong>{point.rating}</strong>
              {point.rating_words !== point.rating && ` (${point.rating_words})`} · ΔE00 {point.difference.de00.toFixed(1)} ±
              {point.uncertainty_de00.toFixed(1)}
              {point.distinguishable ? "" : ` · no change can be told: unchanged pieces are read up to ${point.limit_de00.toFixed(1)} apart`}
              {point.dark_from_same_stage ? "" : " · dark piece from an earlier photo"}
            </div>
            {point.distinguishable && <Differences difference={point.difference} />}
          </div>
        </Box>
      ))}
      <Box sx={{ fontSize: 12, color: "text.secondary" }}>
        Left half kept dark, right half exposed. Rating by ISO 105-A05: 5 is no change, 1 the most; in brackets what the
        error of reading leaves open.
      </Box>
    </>
  );
}

function Differences({ difference }: { difference: Schema["ColourDifference"] }) {
  const signed = (value: number) => (value >= 0 ? "+" : "−") + Math.abs(value).toFixed(1);
  return (
    <div>
      ΔL* {signed(difference.dl)} · ΔC* {signed(difference.dc)} · ΔH* {signed(difference.dh)}
    </div>
  );
}

function TrialSheets({ study, trial }: { study: StudyView; trial: TrialView }) {
  const sheets = useSheets(study.id);
  const lay = useChange(() =>
    answered(
      api.POST("/api/studies/{study_id}/sheets", {
        params: { path: { study_id: study.id } },
        body: { trial: trial.id, kind: "cuttings", paper: "A4", cells_per_page: 12, free_cells: 0, swatches: [] },
      }),
    ),
  );
  const own = sheets.data?.filter((sheet) => sheet.trial === trial.id) ?? [];
  return (
    <Part title="Sheets of this trial">
      {own.length === 0 ? (
        <Button variant="contained" disabled={lay.isPending} onClick={() => lay.mutate(undefined)}>
          Lay out its sheets
        </Button>
      ) : (
        own.map((sheet) => (
          <Link
            key={sheet.sheet.id}
            href={`/api/sheets/${sheet.sheet.id}.pdf`}
            target="_blank"
            rel="noreferrer"
            color="inherit"
            sx={{ mr: 1 }}
          >
            page {sheet.page}
          </Link>
        ))
      )}
      <ProblemNote error={lay.error} />
      <Box sx={{ fontSize: 13, mt: 1 }}>
        The same pages serve every stage: lay the dark and the exposed piece of a swatch side by side, and
        drop the photo in Read.
      </Box>
    </Part>
  );
}
