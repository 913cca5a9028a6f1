import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { Suspense, lazy, useState } from "react";

import type { StudyView, TrialView } from "../api/client";
import { useDose } from "../api/hooks";
import { inMyUnits } from "../settings/quantities";
import { Awaited, Part } from "../shell/said";
import { DayPlot } from "./day-plot";
import { doseWords } from "./fade-words";

const LightDialog = lazy(() => import("./light-dialog").then((module) => ({ default: module.LightDialog })));

/** The dose of light so far, by every source that speaks of it, and whether they agree. */
export function LightPart({ study, trial }: { study: StudyView; trial: TrialView }) {
  const [open, setOpen] = useState(false);
  const dose = useDose(study.id, trial.id);
  const light = trial.state.light;
  return (
    <Part title="Light">
      {!light && (
        <p>
          Where do the pieces hang? Say it, or give a logger’s file, and every stage has the dose that it really had.
        </p>
      )}
      {light && (
        <Awaited query={dose}>
          {(found) => (
            <>
              {found.sources.map((one) => (
                <Box key={one.name} sx={{ fontSize: 13, mb: 0.5 }}>
                  <strong>{one.name}</strong>{" "}
                  {one.dose
                    ? `${doseWords("light", one.dose.dose_lxh)} (${(one.dose.low_lxh / 1e6).toFixed(2)} to ${(one.dose.high_lxh / 1e6).toFixed(2)} Mlx·h)`
                    : one.why_not}
                  {one.dose && one.dose.direct_lxh > 0
                    ? `, ${Math.round((100 * one.dose.direct_lxh) / one.dose.dose_lxh)} % direct sun`
                    : ""}
                </Box>
              ))}
              {found.sources[light.counts]?.dose && <DayPlot dose={found.sources[light.counts]?.dose ?? null} />}
              {found.agreement.map((words) => (
                <Box key={words} sx={{ fontSize: 13, mb: 0.5 }}>
                  {inMyUnits(words)}
                </Box>
              ))}
              {[...new Set(found.sources.flatMap((one) => one.dose?.warnings ?? []))].map((words) => (
                <Box
                  key={words}
                  role="note"
                  sx={{ fontSize: 13, borderLeft: 6, borderColor: "text.primary", pl: 1, my: 0.5 }}>
                  {inMyUnits(words)}
                </Box>
              ))}
            </>
          )}
        </Awaited>
      )}
      <Button variant={light ? "outlined" : "contained"} onClick={() => setOpen(true)} sx={{ mt: 1 }}>
        {light ? "Change the light" : "Say where they hang"}
      </Button>
      {open && (
        <Suspense fallback={null}>
          <LightDialog study={study} trial={trial} onClose={() => setOpen(false)} />
        </Suspense>
      )}
    </Part>
  );
}
