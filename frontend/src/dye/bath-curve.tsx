import Box from "@mui/material/Box";
import { useTheme } from "@mui/material/styles";

import type { Schema } from "../api/client";
import { inMyUnits } from "../settings/quantities";

type Watch = Schema["Watch"];
type Reading = Schema["BathReading"];
const W = 340;
const H = 110;
const LEFT = 34;
const BOTTOM = 16;
const CLOCK = new Intl.DateTimeFormat("en-GB", { hour: "2-digit", minute: "2-digit" });

interface CurveProps {
  title: string;
  readings: readonly Reading[];
  valueOf: (reading: Reading) => number | null | undefined;
  low: number | null | undefined;
  high: number | null | undefined;
  least: number;
  marks: readonly Schema["PutIn"][];
}

/** Temperature and pH over time, each against the band that it should keep to. */
export function BathCurve({ watch }: { watch: Watch }) {
  const { band, readings, put_in } = watch;
  return (
    <Box sx={{ my: 1 }}>
      <Curve
        title="°C"
        readings={readings}
        valueOf={(one) => one.temperature_c}
        low={band.low_c}
        high={band.high_c}
        least={10}
        marks={put_in}
      />
      <Curve
        title="pH"
        readings={readings}
        valueOf={(one) => one.ph}
        low={band.low_ph}
        high={band.high_ph}
        least={1}
        marks={put_in}
      />
      {put_in.map((mark) => (
        <Box key={mark.at + mark.words} sx={{ fontSize: 13 }}>
          ▼ {CLOCK.format(new Date(mark.at))} {inMyUnits(mark.words)}
        </Box>
      ))}
    </Box>
  );
}

function Curve({ title, readings, valueOf, low, high, least, marks }: CurveProps) {
  const { palette } = useTheme();
  const points = readings.flatMap((one) => {
    const value = valueOf(one);
    return value == null ? [] : [{ at: Date.parse(one.at), value, byHand: !one.probe }];
  });
  const last = points[points.length - 1];
  const first = points[0];
  if (!first || !last) return null;
  const values = [...points.map((point) => point.value), ...[low, high].filter((one) => one != null)];
  const middle = (Math.min(...values) + Math.max(...values)) / 2;
  const half = Math.max(least / 2, (Math.max(...values) - Math.min(...values)) / 2) * 1.1;
  const from = Math.min(first.at, last.at - 10 * 60_000);
  const x = (at: number) => LEFT + ((at - from) / (last.at - from)) * (W - LEFT - 6);
  const y = (value: number) => 4 + ((middle + half - value) / (2 * half)) * (H - BOTTOM - 4);
  const line = points.map((point) => `${x(point.at).toFixed(1)},${y(point.value).toFixed(1)}`).join(" ");
  const ticks = [middle - half * 0.8, middle, middle + half * 0.8];
  return (
    <svg
      viewBox={`0 0 ${W} ${H}`}
      width="100%"
      role="img"
      aria-label={`${title} over time, now ${last.value.toFixed(1)}`}>
      {low != null && high != null && (
        <rect
          x={LEFT}
          width={W - LEFT}
          y={y(high)}
          height={Math.max(1, y(low) - y(high))}
          fill={palette.text.primary}
          opacity={0.12}
        />
      )}
      {ticks.map((tick) => (
        <text key={tick} x={LEFT - 4} y={y(tick) + 4} fontSize="11" textAnchor="end" fill={palette.text.secondary}>
          {least < 5 ? tick.toFixed(1) : tick.toFixed(0)}
        </text>
      ))}
      {marks
        .filter((mark) => Date.parse(mark.at) >= from && Date.parse(mark.at) <= last.at)
        .map((mark) => (
          <g key={mark.at + mark.words}>
            <title>{inMyUnits(mark.words)}</title>
            <line
              x1={x(Date.parse(mark.at))}
              x2={x(Date.parse(mark.at))}
              y1={4}
              y2={H - BOTTOM}
              stroke={palette.text.secondary}
              strokeDasharray="2 3"
            />
            <text x={x(Date.parse(mark.at))} y={10} fontSize="11" textAnchor="middle" fill={palette.text.primary}>
              ▼
            </text>
          </g>
        ))}
      <polyline points={line} fill="none" stroke={palette.text.primary} strokeWidth={2} />
      {points
        .filter((point) => point.byHand)
        .map((point) => (
          <rect
            key={point.at}
            x={x(point.at) - 3}
            y={y(point.value) - 3}
            width={6}
            height={6}
            fill={palette.text.primary}
          />
        ))}
      <text x={LEFT} y={H - 3} fontSize="11" fill={palette.text.secondary}>
        {title} from {CLOCK.format(from)}
      </text>
      <text x={W - 2} y={H - 3} fontSize="11" textAnchor="end" fill={palette.text.secondary}>
        {CLOCK.format(last.at)}
      </text>
    </svg>
  );
}
