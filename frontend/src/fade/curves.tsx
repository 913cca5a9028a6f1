import Box from "@mui/material/Box";
import { useTheme } from "@mui/material/styles";
import { ChartsDataProvider } from "@mui/x-charts/ChartsDataProvider";
import { ChartsSurface } from "@mui/x-charts/ChartsSurface";
import { ChartsXAxis } from "@mui/x-charts/ChartsXAxis";
import { ChartsYAxis } from "@mui/x-charts/ChartsYAxis";
import { useDrawingArea, useXScale, useYScale } from "@mui/x-charts/hooks";

import type { Schema } from "../api/client";
import { COUNTED, digits } from "./fade-words";
import type { Kind } from "./fade-words";

/** A swatch or a group: its curve, and the stages that were read of it. */
interface Series {
  name: string;
  curve: readonly Schema["CurvePoint"][];
  points: readonly Schema["FadePoint"][];
  words: string;
}

interface CurvesProps {
  kind: Kind;
  series: readonly Series[];
  onLog: boolean;
  height: string;
}

const DASHES = ["", "7 4", "2 3", "10 4 2 4", "1 3", "14 5", "5 2 1 2", "3 6"];
const FROM_ZERO = 0.02;

/** Change over dose: a band for what the stages leave open, a line through its middle, the stages as
 * they were read with their error, and each name at the end of its line. */
export function Curves({ kind, series, onLog, height }: CurvesProps) {
  const unit = kind === "light" ? 1e6 : 1;
  const furthest = Math.max(...series.map((one) => one.curve.at(-1)?.dose ?? 0)) / unit;
  const firstStage =
    Math.min(...series.flatMap((one) => one.points.flatMap((p) => (p.dose ? [p.dose] : []))), furthest * unit) / unit;
  const high = Math.max(
    4,
    ...series.flatMap((one) => one.curve.filter((p) => !p.beyond).map((p) => p.high_de00)),
    ...series.flatMap((one) => one.points.map((p) => p.difference.de00 + 2 * p.uncertainty_de00)),
  );
  return (
    <Box
      role="img"
      tabIndex={0}
      aria-label={describe(kind, series)}
      sx={{ width: "100%", height, "& text": { fontFamily: "inherit", fontVariantNumeric: "tabular-nums" } }}>
      <ChartsDataProvider
        series={[]}
        margin={{ left: 4, right: 78, top: 10, bottom: 4 }}
        xAxis={[
          {
            id: "dose",
            scaleType: onLog ? "log" : "linear",
            min: onLog ? Math.max(firstStage / 2, furthest * FROM_ZERO * 0.1) : 0,
            max: furthest,
            label: `${kind === "light" ? "dose of light, " : ""}${COUNTED[kind]}`,
            valueFormatter: (value: number) => digits(value),
            height: 46,
          },
        ]}
        yAxis={[{ id: "change", min: 0, max: high * 1.08, label: "change, ΔE00", width: 48 }]}>
        <ChartsSurface aria-hidden>
          <ChartsXAxis axisId="dose" />
          <ChartsYAxis axisId="change" />
          <Bands series={series} unit={unit} />
        </ChartsSurface>
      </ChartsDataProvider>
    </Box>
  );
}

function Bands({ series, unit }: { series: CurvesProps["series"]; unit: number }) {
  const x = useXScale<"linear">("dose");
  const y = useYScale<"linear">("change");
  const area = useDrawingArea();
  const ink = useTheme().palette.text.primary;
  const least = x.domain()[0] ?? 0;
  const most = y.domain()[1] ?? 1;
  const px = (dose: number) => x(Math.max(dose / unit, least));
  const py = (de: number) => y(Math.min(Math.max(de, 0), most));
  const seen = Math.max(...series.flatMap((one) => one.curve.filter((p) => !p.beyond).map((p) => p.dose)));
  const ends = apart(
    series.map((one) => ({ code: one.name, y: py(one.curve.at(-1)?.de00 ?? 0) })),
    area.top + area.height,
  );
  return (
    <g>
      {series.some((one) => one.curve.some((p) => p.beyond)) && (
        <>
          <line
            x1={px(seen)}
            x2={px(seen)}
            y1={area.top}
            y2={area.top + area.height}
            stroke={ink}
            strokeOpacity={0.5}
            strokeDasharray="2 4"
          />
          <text x={px(seen) + 5} y={area.top + 12} fontSize={12} fill={ink}>
            beyond what was seen
          </text>
        </>
      )}
      {[...new Map(series.flatMap((one) => one.points).map((p) => [p.stage, p])).values()].map((p, i) =>
        p.dose_low != null && p.dose_high != null && p.dose_high > p.dose_low ? (
          <path
            key={p.stage}
            d={`M${px(p.dose_low)},${area.top + area.height - 8 - 5 * i}v4m0,-2H${px(Math.min(p.dose_high, (x.domain()[1] ?? 1) * unit))}m0,-2v4`}
            stroke={ink}
            strokeOpacity={0.6}
            fill="none"
          />
        ) : null,
      )}
      {series.map(({ name, curve, points }, i) => {
        const colour = points[0]?.dark_hex ?? curve[0]?.hex ?? ink;
        const up = curve.map((p) => `${px(p.dose).toFixed(1)},${py(p.high_de00).toFixed(1)}`);
        const down = [...curve].reverse().map((p) => `${px(p.dose).toFixed(1)},${py(p.low_de00).toFixed(1)}`);
        return (
          <g key={name}>
            <polygon points={[...up, ...down].join(" ")} fill={colour} fillOpacity={0.28} />
            <polyline
              points={curve.map((p) => `${px(p.dose).toFixed(1)},${py(p.de00).toFixed(1)}`).join(" ")}
              fill="none"
              stroke={ink}
              strokeWidth={1.6}
              strokeDasharray={DASHES[i % DASHES.length]}
            />
            {points.map((p) =>
              p.dose == null ? null : (
                <g key={`${p.stage} ${p.zone ?? ""}`}>
                  <line
                    x1={px(p.dose)}
                    x2={px(p.dose)}
                    y1={py(p.difference.de00 - 2 * p.uncertainty_de00)}
                    y2={py(p.difference.de00 + 2 * p.uncertainty_de00)}
                    stroke={ink}
                    strokeOpacity={0.6}
                  />
                  <circle cx={px(p.dose)} cy={py(p.difference.de00)} r={5} fill={p.exposed_hex} stroke={ink} />
                </g>
              ),
            )}
          </g>
        );
      })}
      {ends.map((end) => (
        <text key={end.code} x={area.left + area.width + 6} y={end.y + 4} fontSize={13} fontWeight={700} fill={ink}>
          {end.code}
        </text>
      ))}
    </g>
  );
}

/** Labels pushed apart so that none lies on another. */
function apart(ends: { code: string; y: number }[], bottom: number) {
  let before = bottom + 12;
  return [...ends]
    .sort((a, b) => b.y - a.y)
    .map((end) => {
      before = Math.min(end.y, before - 14);
      return { ...end, y: before };
    });
}

function describe(kind: Kind, series: CurvesProps["series"]): string {
  const said = series.map((one) => `${one.name}: ${one.words}`);
  return `Change over ${kind === "light" ? "light" : COUNTED[kind]}. ${said.join(" ")}`;
}
