import Box from "@mui/material/Box";

import type { Schema } from "../api/client";
import { dayWords } from "../shell/dates";

const W = 420;
const H = 150;
const LEFT = 30;
const FOOT = 22;

/** A control tile over time: how far each reading lies from the mean in lightness, red and yellow. */
export function TilePlot({ readings }: { readings: readonly Schema["ClothReading"][] }) {
  const mean = [0, 1, 2].map((i) => readings.reduce((sum, one) => sum + (one.lab[i] ?? 0), 0) / readings.length);
  const off = readings.map((one) => one.lab.map((value, i) => value - (mean[i] ?? 0)));
  const reach = Math.max(2, ...off.flat().map(Math.abs)) * 1.1;
  const x = (i: number) => LEFT + ((W - LEFT - 20) * i) / Math.max(1, readings.length - 1);
  const y = (value: number) => (H - FOOT) / 2 - (value * ((H - FOOT) / 2 - 6)) / reach;
  const axes: [string, string][] = [
    ["L*", ""],
    ["a*", "6 3"],
    ["b*", "2 3"],
  ];
  return (
    <>
      <Box
        component="svg"
        viewBox={`0 0 ${W} ${H}`}
        role="img"
        aria-label={`The tile over ${readings.length} readings`}
        sx={{ width: "100%", fontSize: 11, "& text": { fill: "currentColor" } }}>
        {[-Math.floor(reach), 0, Math.floor(reach)].map((tick) => (
          <g key={tick}>
            <line x1={LEFT} x2={W} y1={y(tick)} y2={y(tick)} stroke="currentColor" strokeOpacity={0.25} />
            <text x={LEFT - 5} y={y(tick) + 4} textAnchor="end">
              {tick > 0 ? `+${tick}` : String(tick).replace("-", "−")}
            </text>
          </g>
        ))}
        {axes.map(([name, dash], axis) => (
          <g key={name}>
            <polyline
              points={off.map((one, i) => `${x(i)},${y(one[axis] ?? 0)}`).join(" ")}
              fill="none"
              stroke="currentColor"
              strokeDasharray={dash}
              strokeWidth={1.4}
            />
          </g>
        ))}
        {readings.map((one, i) => (
          <circle
            key={one.id}
            cx={x(i)}
            cy={y(off[i]?.[0] ?? 0)}
            r={3.5}
            fill={one.hex}
            stroke="currentColor"
            strokeWidth={0.7}
          />
        ))}
        <text x={LEFT} y={H - 5}>
          {dayWords(readings[0]?.taken_on ?? "")}
        </text>
        <text x={W - 20} y={H - 5} textAnchor="end">
          {dayWords(readings.at(-1)?.taken_on ?? "")}
        </text>
      </Box>
      <Box sx={{ fontSize: 12 }}>From its mean: L* drawn through, a* in dashes, b* dotted.</Box>
    </>
  );
}
