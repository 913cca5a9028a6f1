import Box from "@mui/material/Box";
import { useTheme } from "@mui/material/styles";
import { ChartsDataProvider } from "@mui/x-charts/ChartsDataProvider";
import { ChartsSurface } from "@mui/x-charts/ChartsSurface";
import { ChartsXAxis } from "@mui/x-charts/ChartsXAxis";
import { ChartsYAxis } from "@mui/x-charts/ChartsYAxis";
import { useXScale, useYScale } from "@mui/x-charts/hooks";
import { useRef, useState } from "react";
import type { KeyboardEvent, MouseEvent } from "react";

import type { Schema } from "../api/client";
import { useRoom } from "../shell/room";

type Point = Schema["ChartPoint"];
type Lab = readonly number[];
export type Plane = "ab" | "cl";

interface ColourChartProps {
  chart: Schema["ColourChart"];
  plane: Plane;
  /** The arrows of this factor are drawn; none: no arrows. */
  factor: string;
  fading: boolean;
  doubt: boolean;
  chosen: ReadonlySet<string>;
  wordsOf: (point: Point) => string;
  onChoose: (cell: string, more: boolean) => void;
}

/** Where a colour lies in a plane: a* and b*, or chroma and lightness. */
const placeIn = (plane: Plane, lab: Lab): [number, number] => {
  const [l = 0, a = 0, b = 0] = lab;
  return plane === "ab" ? [a, b] : [Math.hypot(a, b), l];
};

const NAMES = {
  ab: ["a*, green to red", "b*, blue to yellow"],
  cl: ["C*, dull to clear", "L*, dark to light"],
} as const;

/** What of the screen's height is not the chart's: bars, tabs, the words below it. */
const BESIDES = 250;

/** Every swatch as cloth at its place, with its doubt, what a factor does to it, and how it fades. */
export function ColourChart(props: ColourChartProps) {
  const { chart, plane } = props;
  const all = [
    ...chart.points.map((one) => one.lab),
    ...(props.fading ? chart.fading.flatMap((way) => way.labs) : []),
  ].map((lab) => placeIn(plane, lab));
  const bounds = (axis: 0 | 1) => {
    const values = all.map((one) => one[axis]);
    return [Math.floor((Math.min(...values) - 4) / 5) * 5, Math.ceil((Math.max(...values) + 4) / 5) * 5] as const;
  };
  // One unit is as long on both axes, so that distances are what they look like.
  const [x, y] = [bounds(0), bounds(1)];
  const frame = useRef<HTMLDivElement>(null);
  const room = useRoom(frame);
  const wide = Math.max(280, room.width);
  const high = Math.max(
    300,
    Math.min(Math.max(360, window.innerHeight - BESIDES), (wide * (y[1] - y[0])) / (x[1] - x[0])),
  );
  const scale = Math.max((x[1] - x[0]) / (wide - 60), (y[1] - y[0]) / (high - 50));
  const spread = ([low, top]: readonly [number, number], pixels: number): [number, number] => {
    const more = (scale * pixels - (top - low)) / 2;
    return [low - more, top + more];
  };
  const [xs, ys] = [spread(x, wide - 60), spread(y, high - 50)];
  return (
    <Box ref={frame} sx={{ width: "100%", height: high, "& text": { fontFamily: "inherit" } }}>
      {room.width > 0 && (
        <ChartsDataProvider
          series={[]}
          width={wide}
          height={high}
          margin={{ left: 4, right: 8, top: 8, bottom: 4 }}
          xAxis={[{ id: "x", min: xs[0], max: xs[1], label: NAMES[plane][0], height: 46, domainLimit: "strict" }]}
          yAxis={[{ id: "y", min: ys[0], max: ys[1], label: NAMES[plane][1], width: 50, domainLimit: "strict" }]}>
          <Box sx={{ position: "relative", width: wide, height: high }}>
            <ChartsSurface>
              <ChartsXAxis axisId="x" />
              <ChartsYAxis axisId="y" />
              <Ways {...props} />
            </ChartsSurface>
            <Cloths {...props} />
          </Box>
        </ChartsDataProvider>
      )}
    </Box>
  );
}

const SIDE = 15;
/** A finger that taps beside a piece means the nearest one. */
const NEAR_PX = 32;

/** The lines and ellipses: below the cloth, and not for the ear. */
function Ways({ chart, plane, factor, fading, doubt }: ColourChartProps) {
  const x = useXScale<"linear">("x");
  const y = useYScale<"linear">("y");
  const ink = useTheme().palette.text.primary;
  const unit = [Math.abs(x(1) - x(0)), Math.abs(y(1) - y(0))] as const;
  const at = (lab: Lab): [number, number] => {
    const [h, v] = placeIn(plane, lab);
    return [x(h), y(v)];
  };
  const byCode = new Map(chart.points.map((one) => [one.code, one]));
  return (
    <g>
      <defs>
        <marker id="tip" viewBox="0 0 8 8" refX="7" refY="4" markerWidth="7" markerHeight="7" orient="auto">
          <path d="M0,0L8,4L0,8z" fill={ink} />
        </marker>
      </defs>
      {plane === "ab" && (
        <g stroke={ink} strokeOpacity={0.25}>
          <line x1={x(0)} x2={x(0)} y1={y.range()[0]} y2={y.range()[1]} />
          <line y1={y(0)} y2={y(0)} x1={x.range()[0]} x2={x.range()[1]} />
        </g>
      )}
      {doubt &&
        chart.points.map((one) => {
          const [h, v] = at(one.lab);
          const ellipse = one[plane];
          return (
            <ellipse
              key={one.code}
              cx={h}
              cy={v}
              rx={ellipse.first * unit[0]}
              ry={ellipse.second * unit[1]}
              transform={`rotate(${-ellipse.angle_deg} ${h} ${v})`}
              fill="none"
              stroke={ink}
              strokeOpacity={0.35}
            />
          );
        })}
      {fading &&
        chart.fading.map((way) => (
          <g key={`${way.trial} ${way.code}`}>
            <polyline
              points={way.labs.map((lab) => at(lab).join(",")).join(" ")}
              fill="none"
              stroke={ink}
              strokeWidth={1.2}
              strokeDasharray="3 2"
            />
            {way.labs.slice(1).map((lab, i) => (
              <circle key={way.stages[i + 1]} cx={at(lab)[0]} cy={at(lab)[1]} r={5} fill={way.hexes[i + 1]} />
            ))}
          </g>
        ))}
      {chart.arrows
        .filter((one) => one.factor === factor)
        .map((one) => {
          const [from, to] = [byCode.get(one.from_code), byCode.get(one.to_code)];
          if (!from || !to) return null;
          const [a, b] = [at(from.lab), at(to.lab)];
          const far = Math.hypot(b[0] - a[0], b[1] - a[1]);
          if (far < SIDE) return null;
          const short = 1 - (SIDE * 0.75) / far;
          return (
            <line
              key={`${one.from_code} ${one.to_code}`}
              x1={a[0]}
              y1={a[1]}
              x2={a[0] + (b[0] - a[0]) * short}
              y2={a[1] + (b[1] - a[1]) * short}
              stroke={ink}
              strokeOpacity={0.7}
              markerEnd="url(#tip)"
            />
          );
        })}
    </g>
  );
}

/** The cloth itself, which can be reached and chosen. */
function Cloths({ chart, plane, chosen, wordsOf, onChoose }: ColourChartProps) {
  const x = useXScale<"linear">("x");
  const y = useYScale<"linear">("y");
  const list = useRef<HTMLDivElement>(null);
  const [focused, setFocused] = useState(0);
  const at = (lab: Lab): [number, number] => {
    const [h, v] = placeIn(plane, lab);
    return [x(h), y(v)];
  };
  const onKey = (event: KeyboardEvent) => {
    const way = { ArrowRight: [1, 0], ArrowLeft: [-1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
    if (!way) return;
    event.preventDefault();
    const next = nearestTowards(
      chart.points.map((one) => at(one.lab)),
      focused,
      way[0] ?? 0,
      way[1] ?? 0,
    );
    setFocused(next);
    (list.current?.children[next] as HTMLElement | undefined)?.focus();
  };
  const onTap = (event: MouseEvent) => {
    if (event.target !== list.current) return;
    const box = list.current.getBoundingClientRect();
    const far = chart.points.map((one) => {
      const [h, v] = at(one.lab);
      return Math.hypot(h - event.clientX + box.left, v - event.clientY + box.top);
    });
    const nearest = far.indexOf(Math.min(...far));
    const one = chart.points[nearest];
    if (one && (far[nearest] ?? Infinity) <= NEAR_PX)
      onChoose(one.cell, event.shiftKey || event.ctrlKey || event.metaKey);
  };
  return (
    <Box
      ref={list}
      role="listbox"
      aria-label="Swatches by their colour"
      aria-multiselectable
      onKeyDown={onKey}
      onClick={onTap}
      sx={{ position: "absolute", inset: 0 }}>
      {chart.points.map((one, i) => {
        const [h, v] = at(one.lab);
        const isChosen = chosen.has(one.cell);
        const side = isChosen ? SIDE + 7 : SIDE;
        return (
          <Box
            key={one.code}
            component="button"
            type="button"
            role="option"
            aria-selected={isChosen}
            aria-label={wordsOf(one)}
            title={wordsOf(one)}
            tabIndex={i === focused ? 0 : -1}
            onFocus={() => setFocused(i)}
            onClick={(event) => onChoose(one.cell, event.shiftKey || event.ctrlKey || event.metaKey)}
            sx={{
              position: "absolute",
              left: h - side / 2,
              top: v - side / 2,
              width: side,
              height: side,
              // Larger ones would hide each other; a tap beside them means the nearest.
              minWidth: "0 !important",
              minHeight: "0 !important",
              p: 0,
              border: 0,
              bgcolor: one.hex,
              cursor: "pointer",
              zIndex: isChosen ? 2 : 1,
              outline: isChosen ? "2px solid" : "none",
              outlineOffset: 2,
              outlineColor: "text.primary",
              "&:focus-visible": { outline: "3px solid", outlineOffset: 1, zIndex: 3 },
            }}>
            {isChosen && (
              <Box
                component="span"
                sx={{
                  position: "absolute",
                  left: side + 6,
                  top: 2,
                  fontSize: 12,
                  fontWeight: 700,
                  color: "text.primary",
                  bgcolor: "background.default",
                  px: 0.25,
                  pointerEvents: "none",
                }}>
                {one.code}
              </Box>
            )}
          </Box>
        );
      })}
    </Box>
  );
}

/** The nearest place on the way of an arrow key; the same one where there is none. */
function nearestTowards(
  places: readonly (readonly [number, number])[],
  from: number,
  right: number,
  down: number,
): number {
  const [h, v] = places[from] ?? [0, 0];
  let best = from;
  let least = Infinity;
  places.forEach(([a, b], i) => {
    const [dx, dy] = [a - h, b - v];
    const along = dx * right + dy * down;
    const across = Math.abs(dx * down) + Math.abs(dy * right);
    if (i === from || along <= 0 || across > along * 2) return;
    const far = along + 2 * across;
    if (far < least) [best, least] = [i, far];
  });
  return best;
}
