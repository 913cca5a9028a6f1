import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useState } from "react";

import type { Schema } from "../api/client";
import { inMyUnits, temperatureWords } from "../settings/quantities";
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
  const [asked, setAsked] = useState(false);
  const at = { vessel, step: state.step.key };
  const stands = new Set(standing);
  const records = entries.filter(
    (entry) =>
      entry.vessel === vessel && entry.step === state.step.key && entry.kind === "record" && stands.has(entry.id),
  );
  return (
    <Box
      component="section"
      aria-label={`Step ${number} of all`}
      sx={{ py: 0.5, borderLeft: current ? 6 : 0, pl: current ? 1 : 0, fontSize: 14 }}>
      <Box sx={{ display: "flex", alignItems: "center", gap: 1, minHeight: 32 }}>
        <Box sx={{ flex: 1, fontWeight: current ? 700 : 400 }}>
          {number}. {inMyUnits(state.step.title)}
          {state.step.duration_min ? `, ${durationWords(state.step.duration_min)}` : ""}
        </Box>
        {state.done_at ? (
          <Button
            size="small"
            aria-expanded={asked}
            aria-label={`✓ ${momentWords(state.done_at)}: step ${number}`}
            onClick={() => setAsked(!asked)}
            sx={{ minHeight: 48, fontWeight: 400, textDecoration: "none", whiteSpace: "nowrap", flex: "none" }}>
            ✓ {momentWords(state.done_at)}
          </Button>
        ) : (
          !current && (
            <Button size="small" sx={{ minHeight: 48, flex: "none" }} onClick={() => log({ kind: "done", ...at })}>
              tick off
            </Button>
          )
        )}
      </Box>
      {state.done_at && asked && (
        <Box sx={{ py: 1 }}>
          Ticked by mistake? Taking it back stays in the log.
          <Button
            fullWidth
            variant="outlined"
            sx={{ minHeight: 48, mt: 0.5 }}
            onClick={() => log({ kind: "undone", ...at })}>
            Take back step {number}
          </Button>
        </Box>
      )}
      {records.map((entry) => (
        <Box key={entry.id} sx={{ fontSize: 13, color: "text.secondary" }}>
          {momentWords(entry.at)}
          {entry.temperature_c != null && ` · ${temperatureWords(entry.temperature_c)}`}
          {entry.ph != null && ` · pH ${entry.ph}`}
          {entry.strip?.low != null && ` (by strip ${entry.strip.low.toFixed(1)} to ${entry.strip.high?.toFixed(1)})`}
          {entry.strip?.by_eye != null && `, by eye ${entry.strip.by_eye}`}
          {entry.note && ` · ${entry.note}`}
        </Box>
      ))}
    </Box>
  );
}
