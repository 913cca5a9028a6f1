import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import { Problem, answered, api } from "../api/client";
import type { Photo, Schema, StudyView } from "../api/client";
import { useChange, useTrials } from "../api/hooks";
import { ChoiceField } from "../shell/choice-field";
import { todayIso } from "../shell/dates";
import { typedNumber } from "../settings/quantities";
import { DayField } from "../shell/day-field";
import { ProblemNote } from "../shell/said";
import { AS_IT_CAME } from "./colours";
import type { Colours } from "./colours";

type Backing = Schema["NewReadings"]["backing"];
const BACKINGS: [Backing, string][] = [
  ["", "not noted"],
  ["white", "white"],
  ["black", "black"],
  ["grey", "grey"],
  ["more of the same", "more of the same"],
];

/** Pieces of a trial as they were before it. */
const BEFORE = "before";

interface AcceptingProps {
  study: StudyView;
  photo: Photo;
  colours: Colours;
  cells: string[];
  zones: Schema["NamedZone"][];
  lies: Schema["LiesIn"][];
  onDone: () => void;
}

/** When the photo was taken, how the pieces lay, which state they show; then they become readings. */
export function Accepting({ study, photo, colours, cells, zones, lies, onDone }: AcceptingProps) {
  const trials = useTrials(study.id);
  const trial = trials.data?.find((one) => one.id === photo.sheet.trial);
  const [day, setDay] = useState(photo.taken_on ?? todayIso());
  const [stage, setStage] = useState(photo.due_stage == null ? "" : String(photo.due_stage));
  /** Pieces of a trial were taken for the stage that was due on their day. */
  const changeDay = (next: string) => {
    setDay(next);
    const due = trial?.state.stages.filter(
      (one) => !one.is_read && !one.left_out && one.due_on != null && one.due_on <= next,
    );
    const last = due?.sort((a, b) => (a.due_on ?? "").localeCompare(b.due_on ?? "")).at(-1);
    if (last && stage !== BEFORE) setStage(String(last.index));
  };
  const [instead, setInstead] = useState(true);
  const [run, setRun] = useState("");
  const [damp, setDamp] = useState(false);
  const [backing, setBacking] = useState<Backing>("");
  const [layers, setLayers] = useState("");
  const [note, setNote] = useState("");
  const accept = useChange(
    (how: { early?: boolean; damp?: boolean }) =>
      answered(
        api.POST("/api/photos/{photo_id}/accept", {
          params: { path: { photo_id: photo.id } },
          body: {
            measurement_id: photo.measurement_id,
            cells,
            zones,
            lies,
            instead,
            taken_on: day,
            stage: trial && stage !== BEFORE ? Number(stage) : null,
            before: stage === BEFORE,
            run: run === "" ? null : Number(run),
            damp: how.damp ?? damp,
            early: how.early ?? false,
            backing,
            layers: typedNumber(layers),
            note,
          },
        }),
      ),
    { study: study.id },
  );
  const send = (how: { early?: boolean; damp?: boolean } = {}) =>
    void accept.mutateAsync(how).then(onDone, () => undefined);
  const problem = accept.error instanceof Problem ? accept.error : null;
  const early = problem?.code === "not-rested";
  const readings = cells.length + zones.length + lies.filter((one) => one.cloth).length;
  const codes = photo.sheet.assignments.map((one) => one.swatch);
  const states = [...new Set(codes.flatMap((code) => colours.of(code)?.states ?? []))];
  return (
    <Box sx={{ width: "100%" }}>
      {problem?.code === "stage-not-due" ? (
        <Box role="alert" sx={{ border: 2, p: 1.25, mb: 1 }}>
          <strong>{problem.message}</strong>
          <Box sx={{ mt: 1 }}>
            <Button variant="outlined" color="secondary" onClick={() => send({ early: true })}>
              It is this stage all the same
            </Button>
          </Box>
        </Box>
      ) : early ? (
        <Box role="alert" sx={{ border: 2, p: 1.25, mb: 1 }}>
          <strong>{problem?.message}</strong> Wet cloth reads darker and stronger; colours settle while it rests.
          <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, mt: 1 }}>
            <Button variant="outlined" color="secondary" onClick={() => send({ damp: true })}>
              They were damp: keep them, not counted
            </Button>
            <Button variant="outlined" color="secondary" onClick={() => send({ early: true })}>
              They are dry: accept them early
            </Button>
          </Box>
        </Box>
      ) : (
        <ProblemNote error={accept.error} />
      )}
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: { xs: "1fr 1fr", md: "170px 1.4fr 1fr 110px 1.6fr" },
          gap: 1,
          alignItems: "start",
        }}>
        <DayField label="Taken on" value={day} onChange={changeDay} past />
        {trial ? (
          <TextField
            select
            label={`Stage of “${trial.plan.name}”`}
            value={stage}
            onChange={(event) => setStage(event.target.value)}>
            <MenuItem value={BEFORE}>before it began</MenuItem>
            {trial.state.stages.map((one) => (
              <MenuItem key={one.index} value={String(one.index)}>
                {one.plan.label}
                {one.left_out ? " (left out)" : ""}
              </MenuItem>
            ))}
          </TextField>
        ) : (
          <ChoiceField
            label="They show"
            value={run}
            onChange={setRun}
            slotProps={{ inputLabel: { shrink: true }, select: { displayEmpty: true } }}
            options={[
              ["", "the state of that day"],
              ...states.map(
                (one) => [String(one), one === AS_IT_CAME ? "as they came" : colours.labelOf(one)] as const,
              ),
            ]}
          />
        )}
        <ChoiceField
          label="Laid on"
          value={backing}
          onChange={setBacking}
          slotProps={{ inputLabel: { shrink: true }, select: { displayEmpty: true } }}
          options={BACKINGS}
        />
        <TextField
          label="Layers"
          value={layers}
          onChange={(event) => setLayers(event.target.value)}
          slotProps={{ htmlInput: { inputMode: "numeric" } }}
        />
        <TextField label="Note" value={note} onChange={(event) => setNote(event.target.value)} />
      </Box>
      {photo.read_before && (
        <FormControlLabel
          control={<Checkbox checked={instead} onChange={(_, on) => setInstead(on)} />}
          label="This sheet at this moment was read before: count these readings, and no longer those"
        />
      )}
      <Box sx={{ display: "flex", flexWrap: "wrap", alignItems: "center", gap: 1, mt: 0.5 }}>
        <FormControlLabel
          control={<Checkbox checked={damp} onChange={(_, on) => setDamp(on)} />}
          label="They were damp (kept, does not count)"
          sx={{ flex: 1 }}
        />
        <Button
          variant="contained"
          disabled={readings === 0 || accept.isPending || (trial !== undefined && stage === "")}
          onClick={() => send()}>
          Accept {readings} {readings === 1 ? "reading" : "readings"}
        </Button>
      </Box>
    </Box>
  );
}
