import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import { answered, api } from "../api/client";
import { fileForm } from "../api/file-form";
import type { Schema, StudyView, TrialView } from "../api/client";
import { useChange, useLook } from "../api/hooks";
import { inMyUnits } from "../settings/quantities";
import { ChoiceField } from "../shell/choice-field";
import { momentWords, todayIso } from "../shell/dates";
import { FileButton } from "../shell/file-button";
import { NumberField } from "../shell/number-field";
import { ProblemNote } from "../shell/said";
import { addItem } from "../shelf/keep-item";
import { keyOf } from "../shelf/kinds";
import { DayPlot } from "./day-plot";
import { useTrialNote } from "./trial-note";
import { WindowForm, START_WINDOW } from "./window-form";
import { doseWords } from "./fade-words";

type Source = Schema["LightSaid"]["sources"][number];

/** Where the pieces hang: a window, a lamp, a logger, looks at a light meter; which of them counts. */
export function LightDialog({ study, trial, onClose }: { study: StudyView; trial: TrialView; onClose: () => void }) {
  const said = trial.state.light;
  const note = useTrialNote(study.id, trial.id);
  const [sources, setSources] = useState<Source[]>([...(said?.sources ?? [])]);
  const [counts, setCounts] = useState(said?.counts ?? 0);
  const windowThere = sources.find((one): one is Schema["WindowLight"] => one.kind === "window");
  const put = (i: number, source: Source) => setSources(sources.map((old, at) => (at === i ? source : old)));
  const add = (source: Source) => setSources([...sources, source]);
  const upload = useChange(
    (file: File) =>
      answered(
        api.POST("/api/studies/{study_id}/trials/{trial_id}/logs", {
          params: { path: { study_id: study.id, trial_id: trial.id } },
          ...fileForm("log", file),
        }),
      ),
    { study: study.id },
  );
  const look = useLook((window: Schema["WindowLight"]) =>
    answered(
      api.POST("/api/light/window", {
        body: {
          latitude: window.latitude,
          longitude: window.longitude,
          from: trial.state.starts_on ?? todayIso(),
          to: lastDay(trial),
          window: window.window,
          sky: window.sky,
          sun_share: window.sun_share,
        },
      }),
    ),
  );
  const preview = look.data;
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth aria-labelledby="light-title">
      <DialogTitle id="light-title">Light of “{trial.plan.name}”</DialogTitle>
      <DialogContent sx={{ display: "grid", gap: 2 }}>
        {sources.map((source, i) => (
          <Box key={i} component="section" aria-label={source.name} sx={{ border: 1, borderColor: "divider", p: 1.5 }}>
            <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, alignItems: "center", mb: 1 }}>
              <TextField
                label="Name"
                value={source.name}
                onChange={(event) => put(i, { ...source, name: event.target.value })}
                sx={{ maxWidth: { sm: 260 } }}
              />
              <Box sx={{ flex: 1 }}>{WORDS[source.kind ?? "window"]}</Box>
              <Button variant="text" onClick={() => setSources(sources.filter((_, at) => at !== i))}>
                Take it out
              </Button>
            </Box>
            {source.kind === "window" && <WindowForm value={source} onChange={(next) => put(i, next)} />}
            {source.kind === "lamp" && <LampForm value={source} onChange={(next) => put(i, next)} />}
            {source.kind === "meter" && <MeterForm value={source} onChange={(next) => put(i, next)} />}
            {source.kind === "logger" && <LoggerWords source={source} trial={trial} />}
          </Box>
        ))}
        <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1 }}>
          <Button variant={sources.length === 0 ? "contained" : "outlined"} onClick={() => add(START_WINDOW)}>
            A window
          </Button>
          <FileButton
            label="A logger’s file"
            accept=".csv,.txt,.tsv"
            onFile={(file) =>
              void upload.mutateAsync(file).then(
                (log) => add({ kind: "logger", name: log.filename, log: log.id, watts: log.watts, uv: true }),
                () => undefined,
              )
            }>
            A logger’s file
          </FileButton>
          <Button
            variant="outlined"
            onClick={() => add({ kind: "lamp", name: "Lamp", lamp: { lux: 1000, hours_a_day: 8, uv: false } })}>
            A lamp
          </Button>
          <Button
            variant="outlined"
            disabled={!windowThere}
            onClick={() =>
              add({
                kind: "meter",
                name: "Light meter",
                samples: [{ at: `${trial.state.starts_on ?? "2026-01-01"}T12:00`, lux: 10_000 }],
              })
            }>
            Looks at a light meter
          </Button>
        </Box>
        {upload.data && <Box sx={{ fontSize: 13 }}>{upload.data.notes.join(" ")}</Box>}
        <ProblemNote error={upload.error} />
        {sources.length > 0 && (
          <TextField
            select
            label="Which counts"
            value={counts}
            onChange={(event) => setCounts(Number(event.target.value))}
            sx={{ maxWidth: 360 }}>
            {sources.map((source, i) => (
              <MenuItem key={i} value={i}>
                {source.name}
              </MenuItem>
            ))}
            {trial.plan.wools.length > 0 && (
              <MenuItem value={sources.length}>the blue wools beside the pieces</MenuItem>
            )}
          </TextField>
        )}
        {windowThere && (
          <Box>
            <Button variant="outlined" disabled={look.isPending} onClick={() => look.mutate(windowThere)}>
              Work out the light of this window
            </Button>
            <ProblemNote error={look.error} />
            {preview && (
              <Box sx={{ mt: 1, maxWidth: 560 }} role="status">
                {doseWords("light", preview.dose_lxh)} ({(preview.low_lxh / 1e6).toFixed(2)} to{" "}
                {(preview.high_lxh / 1e6).toFixed(2)} Mlx·h) over {preview.days.length} days
                <DayPlot dose={preview} />
                <OwnPlace window={windowThere} />
                {preview.warnings.map((words) => (
                  <Box key={words} sx={{ fontSize: 13 }}>
                    {inMyUnits(words)}
                  </Box>
                ))}
              </Box>
            )}
          </Box>
        )}
        <ProblemNote error={note.error} />
      </DialogContent>
      <DialogActions>
        <Button variant="text" onClick={onClose}>
          Cancel
        </Button>
        <Button
          variant="contained"
          disabled={sources.length === 0 || note.isPending}
          onClick={() =>
            void note
              .mutateAsync({
                kind: "light",
                sources,
                counts: Math.min(counts, trial.plan.wools.length > 0 ? sources.length : sources.length - 1),
              })
              .then(onClose, () => undefined)
          }>
          Keep
        </Button>
      </DialogActions>
    </Dialog>
  );
}

/** The window becomes a place on the Shelf, so that life in it can be foretold. */
function OwnPlace({ window }: { window: Schema["WindowLight"] }) {
  const keep = useChange(() => {
    const body = {
      kind: "light_place" as const,
      key: keyOf(window.name),
      name: window.name,
      latitude: window.latitude,
      longitude: window.longitude,
      window: window.window,
      sky: window.sky,
      sun_share: window.sun_share,
      uv: window.window?.glass !== "uv-filter",
    };
    return addItem(body);
  }, "shelf");
  return (
    <>
      <Button variant="text" disabled={keep.isSuccess || keep.isPending} onClick={() => keep.mutate(undefined)}>
        {keep.isSuccess ? "It is a place on the Shelf" : "Keep it as a place to live in"}
      </Button>
      <ProblemNote error={keep.error} />
    </>
  );
}

const WORDS: Record<NonNullable<Source["kind"]>, string> = {
  window: "worked out from sun, sky and glass",
  lamp: "hours times lux",
  logger: "measured all along",
  meter: "single looks, by this window",
};

function lastDay(trial: TrialView): string {
  const days = trial.state.stages.flatMap((one) => [one.on, one.due_on].filter((day) => day != null));
  const start = trial.state.starts_on ?? todayIso();
  return [...days, start].sort().at(-1) ?? start;
}

function LampForm({ value, onChange }: { value: Schema["LampLight"]; onChange: (value: Schema["LampLight"]) => void }) {
  const put = (part: Partial<Schema["LampLight"]["lamp"]>) => onChange({ ...value, lamp: { ...value.lamp, ...part } });
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr", sm: "1fr 1fr 1fr" }, gap: 1 }}>
      <NumberField label="At the pieces, lx" start={value.lamp.lux} onTake={(lux) => put({ lux })} />
      <NumberField label="Hours a day" start={value.lamp.hours_a_day} onTake={(hours_a_day) => put({ hours_a_day })} />
      <ChoiceField
        label="Ultraviolet"
        value={value.lamp.uv ? "with" : "without"}
        onChange={(chosen) => put({ uv: chosen === "with" })}
        options={["without", "with"]}
      />
    </Box>
  );
}

function MeterForm({
  value,
  onChange,
}: {
  value: Schema["MeterLight"];
  onChange: (value: Schema["MeterLight"]) => void;
}) {
  const put = (i: number, part: Partial<Schema["LightSample"]>) =>
    onChange({ ...value, samples: value.samples.map((old, at) => (at === i ? { ...old, ...part } : old)) });
  return (
    <Box sx={{ display: "grid", gap: 1 }}>
      {value.samples.map((sample, i) => (
        <Box key={i} sx={{ display: "grid", gridTemplateColumns: { xs: "1fr 1fr", sm: "220px 140px" }, gap: 1 }}>
          <TextField
            label="Read at"
            type="datetime-local"
            value={sample.at.slice(0, 16)}
            onChange={(event) => put(i, { at: event.target.value })}
            slotProps={{ inputLabel: { shrink: true } }}
          />
          <NumberField label="Light, lx" start={sample.lux} onTake={(lux) => put(i, { lux })} />
        </Box>
      ))}
      <Button
        variant="text"
        sx={{ justifySelf: "start" }}
        onClick={() =>
          onChange({
            ...value,
            samples: [...value.samples, value.samples.at(-1) ?? { at: "2026-01-01T12:00", lux: 0 }],
          })
        }>
        Another look
      </Button>
    </Box>
  );
}

function LoggerWords({ source, trial }: { source: Schema["LoggerLight"]; trial: TrialView }) {
  const log = trial.logs.find((one) => one.id === source.log);
  if (!log) return null;
  return (
    <Box sx={{ fontSize: 13 }}>
      {log.filename}: {log.samples} samples of “{log.column}”, {momentWords(log.start)} to {momentWords(log.end)}
      {log.watts ? "; W/m² taken at 110 lm/W" : ""}
    </Box>
  );
}
