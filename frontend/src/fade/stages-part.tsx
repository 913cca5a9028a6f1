import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import type { Schema, StudyView, TrialView } from "../api/client";
import { useStageAdvice } from "../api/hooks";
import { dayWords, todayIso } from "../shell/dates";
import { inMyUnits, typedNumber } from "../settings/quantities";
import { DayField } from "../shell/day-field";
import { Part, ProblemNote } from "../shell/said";
import type { FadeState } from "./fade-state";
import { COUNTED, doseWords } from "./fade-words";
import { useTrialNote } from "./trial-note";
import type { Entry } from "./trial-note";

type Stage = Schema["StageState"];

/** The stages with the days and doses that they had or will have, and what is proposed. */
export function StagesPart({ study, trial, state }: { study: StudyView; trial: TrialView; state: FadeState }) {
  const note = useTrialNote(study.id, trial.id);
  const isAhead = trial.state.stages.some((one) => !one.is_read && !one.left_out);
  const advice = useStageAdvice(study.id, trial.id, trial.points.length > 0 && isAhead).data ?? [];
  const [adding, setAdding] = useState(false);
  const { stages, starts_on, turned_on } = trial.state;
  const byDate = trial.plan.kind === "light" || trial.plan.kind === "store";
  const next = stages
    .filter((one) => !one.is_read && !one.left_out)
    .sort((a, b) => (a.due_on ?? "~").localeCompare(b.due_on ?? "~"))[0];
  return (
    <Part title="Stages">
      {!starts_on && byDate && <StartDate onSay={(on) => note.mutate({ kind: "started", on })} />}
      {next && (
        <Box sx={{ fontSize: 14, mb: 1 }}>
          Next: <strong>{next.plan.label}</strong>
          {next.due_on ? `, ${dueWords(next.due_on)}` : ""}
        </Box>
      )}
      <Box role="group" aria-label="Stage" sx={{ display: "grid", gap: 0.5 }}>
        {stages.map((one) => (
          <StageLine
            key={one.index}
            stage={one}
            trial={trial}
            shown={state.stage === one.index}
            onShow={() => state.chooseStage(one.index)}
            note={note.mutate}
          />
        ))}
      </Box>
      {advice.map((one) => (
        <Box
          key={one.words}
          role="note"
          sx={{ borderLeft: 6, borderColor: "primary.main", pl: 1, my: 1, fontSize: 13 }}>
          {inMyUnits(one.words)}
          <div>
            {one.stage != null && (
              <Button
                size="small"
                variant="outlined"
                onClick={() => note.mutate({ kind: "left out", stage: one.stage ?? 0, left_out: true })}>
                Leave it out
              </Button>
            )}
            {one.add && (
              <Button
                size="small"
                variant="outlined"
                onClick={() => one.add && note.mutate({ kind: "added", stage: one.add })}>
                Add it
              </Button>
            )}
          </div>
        </Box>
      ))}
      <ProblemNote error={note.error} />
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, mt: 1 }}>
        <Button variant="text" onClick={() => setAdding(!adding)}>
          Add a stage
        </Button>
        {trial.plan.kind === "light" && (
          <Button variant="text" onClick={() => note.mutate({ kind: "turned", on: todayIso() })}>
            The cards were turned
            {turned_on.length > 0 ? ` (${turned_on.length} ${turned_on.length === 1 ? "time" : "times"} so far)` : ""}
          </Button>
        )}
      </Box>
      {adding && (
        <AddStage
          trial={trial}
          onAdd={(stage) => {
            note.mutate({ kind: "added", stage });
            setAdding(false);
          }}
        />
      )}
    </Part>
  );
}

function dueWords(day: string): string {
  const days = Math.round((Date.parse(todayIso()) - Date.parse(day)) / 86_400_000);
  if (days === 0) return "due today";
  return days > 0 ? `was due ${dayWords(day)}: read it now, its dose is what it really was` : `due ${dayWords(day)}`;
}

function StageLine(props: {
  stage: Stage;
  trial: TrialView;
  shown: boolean;
  onShow: () => void;
  note: (entry: Entry) => void;
}) {
  const { stage, trial, shown, onShow, note } = props;
  const kind = trial.plan.kind;
  const when = stage.on ? dayWords(stage.on) : stage.due_on ? `due ${dayWords(stage.due_on)}` : "";
  const late =
    stage.on && stage.due_on && stage.on > stage.due_on
      ? Math.round((Date.parse(stage.on) - Date.parse(stage.due_on)) / 86_400_000)
      : 0;
  const dose =
    stage.dose && (stage.is_read || stage.dose.source !== "as planned")
      ? kind === "light"
        ? lightWords(stage.dose)
        : doseWords(kind, stage.dose.dose)
      : "";
  return (
    <Box sx={{ display: "flex", gap: 1, alignItems: "center", opacity: stage.left_out ? 0.6 : 1 }}>
      <Button
        variant={shown ? "contained" : "outlined"}
        size="small"
        aria-pressed={shown}
        onClick={onShow}
        sx={{ flex: "0 0 96px" }}>
        {stage.plan.label}
        {stage.is_read || stage.left_out ? "" : " (due)"}
      </Button>
      <Box sx={{ fontSize: 12, lineHeight: 1.3, flex: 1 }}>
        {stage.left_out ? "left out" : when}
        {late > 0 ? `, ${late} ${late === 1 ? "day" : "days"} late` : ""}
        <div>{dose}</div>
      </Box>
      {!stage.is_read && (
        <Button
          size="small"
          variant="text"
          onClick={() => note({ kind: "left out", stage: stage.index, left_out: !stage.left_out })}>
          {stage.left_out ? "Take it back in" : "Leave out"}
        </Button>
      )}
    </Box>
  );
}

const lightWords = (dose: Schema["StageDose"]) => {
  const [middle, low, high] = [dose.dose, dose.low, dose.high].map((one) => (one / 1e6).toFixed(2));
  return `${middle} Mlx·h (${low} to ${high}), ${dose.source}`;
};

function StartDate({ onSay }: { onSay: (day: string) => void }) {
  const [day, setDay] = useState(todayIso());
  return (
    <Box sx={{ display: "flex", gap: 1, mb: 1 }}>
      <DayField label="It began on" value={day} onChange={setDay} />
      <Button variant="outlined" onClick={() => onSay(day)}>
        Note
      </Button>
    </Box>
  );
}

function AddStage({ trial, onAdd }: { trial: TrialView; onAdd: (stage: Schema["StagePlan"]) => void }) {
  const byDays = trial.plan.kind === "light" || trial.plan.kind === "store";
  const [count, setCount] = useState("");
  const value = typedNumber(count);
  const unit = byDays ? "days" : COUNTED[trial.plan.kind];
  return (
    <Box sx={{ display: "flex", gap: 1, mt: 1 }}>
      <TextField label={`After ${unit}`} value={count} onChange={(event) => setCount(event.target.value)} />
      <Button
        variant="outlined"
        disabled={!value || value <= 0}
        onClick={() =>
          value &&
          onAdd({
            label: `${value} ${unit}`,
            days: byDays ? value : 0,
            dose_lxh: 0,
            washes: byDays ? 0 : Math.round(value),
          })
        }>
        Add
      </Button>
    </Box>
  );
}
