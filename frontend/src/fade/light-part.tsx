import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useState } from "react";

import type { Schema, StudyView, TrialView } from "../api/client";
import { useDose } from "../api/hooks";
import { Awaited, Part } from "../shell/said";
import { doseWords } from "./fade-words";
import { LightDialog } from "./light-dialog";

/** The dose of light so far, by every source that speaks of it, and whether they agree. */
export function LightPart({ study, trial }: { study: StudyView; trial: TrialView }) {
  const [open, setOpen] = useState(false);
  const dose = useDose(study.id, trial.id);
  const light = trial.state.light;
  return (
    <Part title="Light">
      {!light && <p>Where do the pieces hang? Say it, or give a logger’s file, and every stage has the dose that it really had.</p>}
      {light && (
        <Awaited query={dose}>
          {(found) => (
            <>
              {found.sources.map((one) => (
                <Box key={one.name} sx={{ fontSize: 13, mb: 0.5 }}>
                  <strong>{one.name}</strong>{" "}
                  {one.dose ? `${doseWords("light", one.dose.dose_lxh)} (${(one.dose.low_lxh / 1e6).toFixed(2)} to ${(one.dose.high_lxh / 1e6).toFixed(2)} Mlx·h)` : one.why_not}
                  {one.dose && one.dose.direct_lxh > 0 ? `, ${Math.round((100 * one.dose.direct_lxh) / one.dose.dose_lxh)} % direct sun` : ""}
                </Box>
              ))}
              {found.sources[light.counts]?.dose && <DayPlot dose={found.sources[light.counts]?.dose ?? null} />}
              {found.agreement.map((words) => (
                <Box key={words} sx={{ fontSize: 13, mb: 0.5 }}>
                  {words}
                </Box>
              ))}
              {[...new Set(found.sources.flatMap((one) => one.dose?.warnings ?? []))].map((words) => (
                <Box key={words} role="note" sx={{ fontSize: 13, borderLeft: 6, borderColor: "text.primary", pl: 1, my: 0.5 }}>
                  {words}
                </Box>
              ))}
            </>
          )}
        </Awaited>
      )}
      <Button variant={light ? "outlined" : "contained"} onClick={() => setOpen(true)} sx={{ mt: 1 }}>
        {light ? "Change the light" : "Say where they hang"}
      </Button>
      {open && <LightDialog study={study} trial={trial} onClose={() => setOpen(false)} />}
    </Part>
  );
}

const W = 320;
const H = 90;

/** Each day's dose as a bar, the part that is direct sun solid, the rest hatched, its range as a line. */
export function DayPlot({ dose }: { dose: Schema["DoseOfLight"] | null }) {
  if (!dose || dose.days.length === 0) return null;
  const most = Math.max(1, ...dose.days.map((day) => day.high_lxh));
  const wide = W / dose.days.length;
  const y = (value: number) => H - 14 - ((H - 18) * value) / most;
  const first = dose.days[0];
  const last = dose.days.at(-1);
  return (
    <Box component="svg" viewBox={`0 0 ${W} ${H}`} role="img" aria-label={`Light of ${dose.days.length} days, at most ${doseWords("light", most)} a day`} sx={{ width: "100%", color: "text.primary", my: 0.5 }}>
      {dose.days.map((day, i) => (
        <g key={day.date}>
          <rect x={i * wide + wide * 0.1} width={wide * 0.8} y={y(day.dose_lxh)} height={H - 14 - y(day.dose_lxh)} fill="currentColor" fillOpacity={0.25} />
          <rect x={i * wide + wide * 0.1} width={wide * 0.8} y={y(day.direct_lxh)} height={H - 14 - y(day.direct_lxh)} fill="currentColor" fillOpacity={0.65} />
          <line x1={(i + 0.5) * wide} x2={(i + 0.5) * wide} y1={y(day.low_lxh)} y2={y(day.high_lxh)} stroke="currentColor" strokeOpacity={0.5} />
        </g>
      ))}
      <text x={0} y={H - 2} fontSize={11} fill="currentColor">
        {first?.date}
      </text>
      <text x={W} y={H - 2} fontSize={11} textAnchor="end" fill="currentColor">
        {last?.date} · up to {doseWords("light", most)} a day; dark: direct sun
      </text>
    </Box>
  );
}
