import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Link from "@mui/material/Link";
import { useState } from "react";

import { answered, api } from "../api/client";
import type { GridCell, StudyView, TrialView } from "../api/client";
import { useChange, useSheets } from "../api/hooks";
import { NotesPart } from "../notes/notes-part";
import { SwatchCode } from "../grid/swatch-code";
import { ChoiceField } from "../shell/choice-field";
import { Folded } from "../shell/folded";
import { cellOf, cellWords, codesIn } from "../grid/cells";
import { Chip } from "../grid/chip";
import { dayWords } from "../shell/dates";
import { Awaited, Part, ProblemNote } from "../shell/said";
import type { FadeState } from "./fade-state";
import { EyeNote } from "../eye/eye-note";
import { waysNow } from "../settings/ways";
import { KIND_WORDS, changeWords, ratingWords } from "./fade-words";
import { LightPart } from "./light-part";
import { NewTrial } from "./new-trial";
import { StagesPart } from "./stages-part";

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
                A trial exposes pieces to light or washing and measures them, stage by stage, beside the piece kept
                dark. Select swatches in the grid, or have some proposed, then start one.
              </p>
            )}
            {state.trial && <TrialChoice trials={trials} state={state} />}
            <Button
              variant={trials.length === 0 ? "contained" : "text"}
              onClick={() => setAdding(!adding)}
              aria-expanded={adding}
              sx={{ mt: 1 }}>
              {adding ? "Close the new trial" : "Start a trial"}
            </Button>
            {adding && (
              <NewTrial
                study={study}
                chosen={chosen}
                onMade={(id) => {
                  setAdding(false);
                  state.chooseTrial(id);
                }}
              />
            )}
          </Part>
          {state.trial && !adding && (
            <>
              <StagesPart key={state.trial.id} study={study} trial={state.trial} state={state} />
              {state.trial.plan.kind === "light" && (
                <LightPart key={`light ${state.trial.id}`} study={study} trial={state.trial} />
              )}
              <Part title="Notes and pictures">
                <NotesPart study={study.id} about={{ trial: state.trial.number }} of={state.trial.plan.name} />
              </Part>
              <TrialSheets study={study} trial={state.trial} />
              <Part title={`At ${state.trial.state.stages[state.stage]?.plan.label ?? "this stage"}`}>
                <StageTable study={study} trial={state.trial} stage={state.stage} chosen={chosen} />
              </Part>
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
  const { plan } = trial;
  const how = [
    KIND_WORDS[plan.kind],
    plan.kind === "light" ? plan.mount : plan.conditions?.name,
    `${plan.swatches.length} ${plan.swatches.length === 1 ? "swatch" : "swatches"}`,
    trial.state.starts_on ? `from ${dayWords(trial.state.starts_on)}` : "no start date",
  ].filter(Boolean);
  return (
    <>
      <ChoiceField
        label="Shown"
        value={trial.id}
        onChange={state.chooseTrial}
        options={trials.map((one) => [one.id, `${one.plan.name} (${one.plan.kind})`] as const)}
      />
      <Box sx={{ fontSize: 13, mt: 0.5 }}>{how.join(" · ")}</Box>
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

function StageTable(props: { study: StudyView; trial: TrialView; stage: number; chosen: readonly GridCell[] }) {
  const { study, trial, stage } = props;
  const rows = swatchesShown(trial, props.chosen).flatMap((code) =>
    trial.points
      .filter((one) => one.swatch === code && one.stage === stage)
      .map((point) => ({ code, point, cell: cellOf(study, code) })),
  );
  if (rows.length === 0) return <div>Nothing read at this stage.</div>;
  return (
    <>
      {rows.map(({ code, point, cell }) => (
        <Box key={`${code} ${point.zone ?? ""}`} sx={{ display: "flex", gap: 1.5, mb: 1, fontSize: 13 }}>
          <Box sx={{ flex: "none" }}>
            <Chip fills={[point.dark_hex, point.exposed_hex]} width={92} height={56} />
          </Box>
          <div>
            <SwatchCode study={study.id} code={code} /> {cell ? cellWords(study, cell) : ""} {point.zone}
            <div>
              Rating <strong>{ratingWords(point)}</strong> · {changeWords(point)}
              {point.standard_rating ? ` · ${point.standard_rating} under D65, 10°` : ""}
              {point.dark_from_same_stage ? "" : " · dark piece from an earlier photo"}
            </div>
            {point.turned_round && (
              <div>The covered half changed, the exposed did not: it lay the other way round.</div>
            )}
          </div>
        </Box>
      ))}
      <Box sx={{ fontSize: 12, color: "text.secondary" }}>Left kept dark, right exposed. Rating by ISO 105-A05.</Box>
      <EyeNote />
    </>
  );
}

function TrialSheets({ study, trial }: { study: StudyView; trial: TrialView }) {
  const sheets = useSheets(study.id);
  const halves = trial.plan.mount !== "two pieces";
  const lay = useChange(
    () =>
      answered(
        api.POST("/api/studies/{study_id}/sheets", {
          params: { path: { study_id: study.id } },
          body: {
            trial: trial.id,
            kind: halves ? "hanks" : "cuttings",
            paper: waysNow().paper,
            cells_per_page: halves ? 6 : 24,
            free_cells: trial.plan.wools.length,
            swatches: [],
          },
        }),
      ),
    { study: study.id },
  );
  const own = sheets.data?.filter((sheet) => sheet.trial === trial.id) ?? [];
  const base = `/api/studies/${study.id}/trials/${trial.id}`;
  return (
    <Part title={trial.plan.kind === "light" ? "Cards and sheets" : "Sheets"}>
      {trial.plan.kind === "light" && (
        <Link
          href={`${base}/cards.pdf?paper=${waysNow().paper}`}
          target="_blank"
          rel="noreferrer"
          color="inherit"
          sx={{ mr: 2 }}>
          Cards to mount the pieces on
        </Link>
      )}
      {trial.state.stages.some((one) => one.due_on) && (
        <Link href={`${base}/stages.ics`} color="inherit">
          Stages for a calendar
        </Link>
      )}
      <Box sx={{ mt: 1 }}>
        {own.length === 0 ? (
          <Button variant="contained" disabled={lay.isPending} onClick={() => lay.mutate(undefined)}>
            Lay out its sheets
          </Button>
        ) : (
          <Folded of={own} at={40}>
            {(sheet) => (
              <Link
                key={sheet.id}
                href={`/api/sheets/${sheet.id}.pdf`}
                target="_blank"
                rel="noreferrer"
                color="inherit"
                sx={{ mr: 1 }}>
                sheet, page {sheet.page}
              </Link>
            )}
          </Folded>
        )}
      </Box>
      <ProblemNote error={lay.error} />
      <Box sx={{ fontSize: 13, mt: 1 }}>
        {halves
          ? "The same pages serve every stage: lay each piece with its covered part to the left, and drop the photo in Read."
          : "The same pages serve every stage: lay the dark and the exposed piece of a swatch side by side, and drop the photo in Read."}
        {trial.plan.wools.length > 0 ? " Lay the blue wools in the free cells." : ""}
      </Box>
    </Part>
  );
}
