import Box from "@mui/material/Box";

import type { Schema } from "../api/client";

interface FadeCurveProps {
  kind: "light" | "wash";
  series: { code: string; points: readonly Schema["FadePoint"][] }[];
}

const W = 340;
const H = 210;
const LEFT = 34;
const RIGHT = 44;
const TOP = 10;
const BOTTOM = 34;
const DASHES = ["", "6 3", "2 3", "8 3 2 3", "1 2", "10 4", "4 4", "12 2 2 2"];

/** ΔE00 from the kept-dark piece over dose, with twice the standard uncertainty as bars. */
export function FadeCurve({ kind, series }: FadeCurveProps) {
  const all = series.flatMap((one) => one.points);
  const topDose = Math.max(...all.map((point) => point.dose));
  const topDe = Math.max(4, ...all.map((point) => point.difference.de00 + 2 * point.uncertainty_de00));
  const x = (dose: number) => LEFT + ((W - LEFT - RIGHT) * dose) / topDose;
  const y = (de: number) => H - BOTTOM - ((H - TOP - BOTTOM) * Math.max(0, de)) / topDe;
  const step = topDe > 16 ? 10 : topDe > 8 ? 4 : 2;
  const ticks = Array.from({ length: Math.floor(topDe / step) + 1 }, (_, i) => i * step);
  const doses = [...new Set(all.map((point) => point.dose))].sort((a, b) => a - b);
  const doseWords = (dose: number) => (kind === "light" ? (dose / 1e6).toFixed(dose < 1e6 ? 2 : 1) : String(dose));
  const ends = spread(
    series.flatMap((one) => {
      const last = one.points.at(-1);
      return last ? [{ code: one.code, y: y(last.difference.de00) }] : [];
    }),
  );
  return (
    <Box
      component="svg"
      viewBox={`0 0 ${W} ${H}`}
      role="img"
      aria-label={`Colour change over ${kind === "light" ? "light" : "washes"} of ${series.map((one) => one.code).join(", ")}`}
      sx={{ width: "100%", color: "text.primary", fontSize: 11, "& text": { fill: "currentColor" } }}
    >
      {ticks.map((tick) => (
        <g key={tick}>
          <line x1={LEFT} x2={W - RIGHT} y1={y(tick)} y2={y(tick)} stroke="currentColor" strokeOpacity={0.2} />
          <text x={LEFT - 5} y={y(tick) + 4} textAnchor="end">
            {tick}
          </text>
        </g>
      ))}
      {doses.map((dose, i) =>
        i > 0 && x(dose) - x(doses[i - 1] ?? 0) < 24 ? null : (
          <text key={dose} x={x(dose)} y={H - BOTTOM + 14} textAnchor="middle">
            {doseWords(dose)}
          </text>
        ),
      )}
      <text x={LEFT} y={H - 4}>
        {kind === "light" ? "dose, Mlx·h" : "washes"}; up: ΔE00 from the dark piece
      </text>
      {series.map((one, i) => (
        <g key={one.code} stroke="currentColor" fill="none">
          <polyline
            points={[`${x(0)},${y(0)}`, ...one.points.map((p) => `${x(p.dose)},${y(p.difference.de00)}`)].join(" ")}
            strokeDasharray={DASHES[i % DASHES.length]}
            strokeWidth={1.5}
          />
          {one.points.map((p) => (
            <g key={p.stage}>
              <line
                x1={x(p.dose)}
                x2={x(p.dose)}
                y1={y(p.difference.de00 - 2 * p.uncertainty_de00)}
                y2={y(p.difference.de00 + 2 * p.uncertainty_de00)}
                strokeOpacity={0.45}
              />
              <circle cx={x(p.dose)} cy={y(p.difference.de00)} r={3} fill="currentColor" stroke="none" />
            </g>
          ))}
        </g>
      ))}
      {ends.map((end) => (
        <text key={end.code} x={W - RIGHT + 6} y={end.y + 4}>
          {end.code}
        </text>
      ))}
    </Box>
  );
}

/** Labels pushed apart so that none lies on another. */
function spread(ends: { code: string; y: number }[]) {
  const sorted = [...ends].sort((a, b) => b.y - a.y);
  let before = H;
  return sorted.map((end) => {
    before = Math.min(end.y, before - 12);
    return { ...end, y: before };
  });
}
