import Box from "@mui/material/Box";
import Button from "@mui/material/Button";

import type { Schema } from "../api/client";
import { momentWords } from "../shell/dates";
import { durationWords } from "../shell/durations";
import type { StepState } from "./bench-state";
import { useLogging } from "./outbox";

interface StepLineProps {
  study: number;
  vessel: string;
  number: number;
  state: StepState;
  current: boolean;
  entries: readonly Schema["BenchEntry"][];
  standing: readonly number[];
}

/** A step in the list of all: whether it is done, and what was read then. */
export function StepLine({ study, vessel, number, state, current, entries, standing }: StepLineProps) {
  const log = useLogging(study);
  const at = { vessel, step: state.step.key };
  const stands = new Set(standing);
  const records = entries.filter(
    (entry) => entry.vessel === vessel && entry.step === state.step.key && entry.kind === "record" && stands.has(entry.id),
  );
  return (
    <Box component="section" aria-label={`Step ${number} of all`} sx={{ py: 0.5, borderLeft: current ? 6 : 0, pl: current ? 1 : 0, fontSize: 14 }}>
      <Box sx={{ display: "flex", alignItems: "center", gap: 1, minHeight: 32 }}>
        <Box sx={{ flex: 1, fontWeight: current ? 700 : 400 }}>
          {number}. {state.step.title}
          {state.step.duration_min ? `, ${durationWords(state.step.duration_min)}` : ""}
        </Box>
        {state.done_at ? (
          <Box sx={{ fontSize: 13, textAlign: "right", whiteSpace: "nowrap" }}>
            ✓ {momentWords(state.done_at)}
            <Button size="small" onClick={() => log({ kind: "undone", ...at })} sx={{ minHeight: 24, p: 0, ml: 1 }}>
              take back
            </Button>
          </Box>
        ) : (
          !current && (
            <Button size="small" onClick={() => log({ kind: "done", ...at })}>
              tick off
            </Button>
          )
        )}
      </Box>
      {records.map((entry) => (
        <Box key={entry.id} sx={{ fontSize: 13, color: "text.secondary" }}>
          {momentWords(entry.at)}
          {entry.temperature_c != null && ` · ${entry.temperature_c} °C`}
          {entry.ph != null && ` · pH ${entry.ph}`}
          {entry.note && ` · ${entry.note}`}
        </Box>
      ))}
    </Box>
  );
}
