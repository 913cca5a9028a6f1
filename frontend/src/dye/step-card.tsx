import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import { answered, api } from "../api/client";
import type { Schema } from "../api/client";
import { useChange } from "../api/hooks";
import { momentWords } from "../shell/dates";
import { Caution, ProblemNote } from "../shell/said";

interface StepCardProps {
  study: number;
  vessel: string;
  number: number;
  state: Schema["StepState"];
  entries: readonly Schema["BenchEntry"][];
  current: boolean;
}

/** One step at the bench: big when it is its turn, a line before and after. */
export function StepCard({ study, vessel, number, state, entries, current }: StepCardProps) {
  const [open, setOpen] = useState(false);
  const { step, done_at } = state;
  const post = useChange((entry: Omit<Schema["NewBenchEntry"], "vessel" | "step">) =>
    answered(
      api.POST("/api/studies/{study_id}/dye/entries", {
        params: { path: { study_id: study } },
        body: { ...entry, vessel, step: step.key },
      }),
    ),
  );
  const wide = current || open;
  const timing = [
    step.temperature_c != null ? `${step.temperature_c} °C` : null,
    step.duration_min ? durationWords(step.duration_min) : null,
  ].filter(Boolean);
  return (
    <Box
      component="section"
      aria-label={`Step ${number}`}
      aria-current={current ? "step" : undefined}
      sx={{ py: 1, borderBottom: 1, borderColor: "divider", borderLeft: current ? 6 : 0, pl: current ? 1.5 : 0 }}
    >
      <Box sx={{ display: "flex", alignItems: "center", gap: 1, minHeight: 48 }}>
        <Box sx={{ flex: 1, fontSize: current ? 18 : 14, fontWeight: 700 }}>
          {number}. {step.title}
        </Box>
        {done_at ? (
          <Box sx={{ fontSize: 13, textAlign: "right" }}>
            ✓ {momentWords(done_at)}
            <Button size="small" onClick={() => post.mutate({ kind: "undone", note: "" })} sx={{ minHeight: 24, p: 0, ml: 1 }}>
              take back
            </Button>
          </Box>
        ) : (
          !wide && (
            <Button size="small" onClick={() => setOpen(true)}>
              open
            </Button>
          )
        )}
      </Box>
      {wide && !done_at && (
        <>
          {timing.length > 0 && <Box sx={{ fontSize: 20, fontWeight: 700 }}>{timing.join(" · ")}</Box>}
          <Box sx={{ my: 0.5 }}>{step.detail}</Box>
          {step.caution && <Caution>{step.caution}</Caution>}
          <RecordForm wantsPh={step.wants_ph ?? false} onRecord={(record) => post.mutateAsync({ kind: "record", ...record })} />
          <Button
            variant="contained"
            size="large"
            fullWidth
            sx={{ minHeight: 56, fontSize: 18, mt: 1 }}
            disabled={post.isPending}
            onClick={() => post.mutate({ kind: "done", note: "" })}
          >
            Done
          </Button>
        </>
      )}
      {entries
        .filter((entry) => entry.kind === "record")
        .map((entry) => (
          <Box key={entry.id} sx={{ fontSize: 13 }}>
            {momentWords(entry.at)}
            {entry.temperature_c != null && ` · ${entry.temperature_c} °C`}
            {entry.ph != null && ` · pH ${entry.ph}`}
            {entry.note && ` · ${entry.note}`}
          </Box>
        ))}
      <ProblemNote error={post.error} />
    </Box>
  );
}

function durationWords(minutes: number): string {
  if (minutes >= 2880) return `${Math.round(minutes / 1440)} days`;
  return minutes >= 120 ? `${Math.round(minutes / 60)} h` : `${minutes} min`;
}

interface RecordFormProps {
  wantsPh: boolean;
  onRecord: (record: { temperature_c: number | null; ph: number | null; note: string }) => Promise<unknown>;
}

function RecordForm({ wantsPh, onRecord }: RecordFormProps) {
  const [temperature, setTemperature] = useState("");
  const [ph, setPh] = useState("");
  const [note, setNote] = useState("");
  const number = (text: string) => (text.trim() === "" ? null : Number(text.replace(",", ".")));
  const record = () =>
    onRecord({ temperature_c: number(temperature), ph: number(ph), note }).then(() => {
      setTemperature("");
      setPh("");
      setNote("");
    }, () => undefined);
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1, my: 1 }}>
      <TextField label="°C" value={temperature} onChange={(e) => setTemperature(e.target.value)} slotProps={{ htmlInput: { inputMode: "decimal" } }} />
      <TextField label={wantsPh ? "pH (read it now)" : "pH"} value={ph} onChange={(e) => setPh(e.target.value)} slotProps={{ htmlInput: { inputMode: "decimal" } }} />
      <TextField label="Note" value={note} onChange={(e) => setNote(e.target.value)} />
      <Button variant="outlined" disabled={!temperature && !ph && !note} onClick={() => void record()}>
        Record
      </Button>
    </Box>
  );
}
