import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import LinearProgress from "@mui/material/LinearProgress";

import { answered, api } from "../../api/client";
import type { Schema } from "../../api/client";
import { useChange } from "../../api/hooks";
import { inMyUnits } from "../../settings/quantities";
import { clockOf, dayOf } from "./own-time";

/** The search under way, with what it has so far; afterwards what was short, and the cures. */
export function PlanningBar({ study, planning }: { study: number; planning: Schema["PlanningState"] }) {
  const stop = useChange(
    () => answered(api.POST("/api/studies/{study_id}/dye/plan/stop", { params: { path: { study_id: study } } })),
    { study },
  );
  return (
    <Box sx={{ my: 1 }}>
      {planning.running && (
        <Box role="status" sx={{ display: "flex", alignItems: "center", gap: 2 }}>
          <Box sx={{ flex: 1 }}>
            {planning.words}: {planning.answers} {planning.answers === 1 ? "answer" : "answers"} so far
            {planning.best && `, ready ${dayOf(planning.best.ready_at)} ${clockOf(planning.best.ready_at)}`}
            <LinearProgress
              aria-label="Days planned"
              variant="determinate"
              color="secondary"
              value={Math.min(100, (100 * planning.elapsed_s) / planning.seconds)}
              sx={{ mt: 0.5 }}
            />
          </Box>
          <Button variant="outlined" color="secondary" sx={{ minHeight: 48 }} onClick={() => stop.mutate(undefined)}>
            Stop, keep this
          </Button>
        </Box>
      )}
      {planning.problem && <Box role="alert">{planning.problem}</Box>}
      {planning.short.map((words) => (
        <Box key={words} role="alert" sx={{ borderLeft: 6, borderColor: "error.main", pl: 1, my: 0.5 }}>
          {inMyUnits(words)}
        </Box>
      ))}
      {planning.cures.length > 0 && (
        <Box sx={{ my: 1 }}>
          <strong>What would help</strong>, each tried out for three seconds:
          <Box component="ul" sx={{ m: 0 }}>
            {planning.cures.map((cure) => (
              <li key={cure.words}>
                {inMyUnits(cure.words)}: ready {dayOf(cure.ready_at)}, {clockOf(cure.ready_at)}
              </li>
            ))}
          </Box>
        </Box>
      )}
    </Box>
  );
}
