import Box from "@mui/material/Box";

import type { Schema } from "../api/client";
import { dayWords } from "../shell/dates";
import { doseWords } from "./fade-words";

const W = 320;
const H = 76;

/** Each day's dose as a bar, the part that is direct sun solid, the rest hatched, its range as a line. */
export function DayPlot({ dose }: { dose: Schema["DoseOfLight"] | null }) {
  if (!dose || dose.days.length === 0) return null;
  const most = Math.max(1, ...dose.days.map((day) => day.high_lxh));
  const wide = W / dose.days.length;
  const y = (value: number) => H - ((H - 4) * value) / most;
  const first = dose.days[0];
  const last = dose.days.at(-1);
  return (
    <Box sx={{ my: 0.5, fontSize: 13 }}>
      <Box
        component="svg"
        viewBox={`0 0 ${W} ${H}`}
        role="img"
        aria-label={`Light of ${dose.days.length} days, at most ${doseWords("light", most)} a day`}
        sx={{ display: "block", width: "100%", color: "text.primary" }}>
        {dose.days.map((day, i) => (
          <g key={day.date}>
            <rect
              x={i * wide + wide * 0.1}
              width={wide * 0.8}
              y={y(day.dose_lxh)}
              height={H - y(day.dose_lxh)}
              fill="currentColor"
              fillOpacity={0.25}
            />
            <rect
              x={i * wide + wide * 0.1}
              width={wide * 0.8}
              y={y(day.direct_lxh)}
              height={H - y(day.direct_lxh)}
              fill="currentColor"
              fillOpacity={0.65}
            />
            <line
              x1={(i + 0.5) * wide}
              x2={(i + 0.5) * wide}
              y1={y(day.low_lxh)}
              y2={y(day.high_lxh)}
              stroke="currentColor"
              strokeOpacity={0.5}
            />
          </g>
        ))}
      </Box>
      <Box sx={{ display: "flex", justifyContent: "space-between" }}>
        <span>{first && dayWords(first.date)}</span>
        <span>{last && last !== first && dayWords(last.date)}</span>
      </Box>
      Up to {doseWords("light", most)} a day; dark: direct sun
    </Box>
  );
}
