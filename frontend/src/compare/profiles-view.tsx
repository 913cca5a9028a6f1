import Box from "@mui/material/Box";
import { useTheme } from "@mui/material/styles";
import { ChartsDataProvider } from "@mui/x-charts/ChartsDataProvider";
import { ChartsSurface } from "@mui/x-charts/ChartsSurface";
import { ChartsXAxis } from "@mui/x-charts/ChartsXAxis";
import { ChartsYAxis } from "@mui/x-charts/ChartsYAxis";
import { useXScale, useYScale } from "@mui/x-charts/hooks";
import { useState } from "react";

import type { Schema, StudyView } from "../api/client";
import { FACTOR_NAMES } from "../grid/axes";
import { ChoiceField } from "../shell/choice-field";
import { entriesOf } from "../shell/keys";
import { Awaited } from "../shell/said";
import { DataTable } from "../shell/data-table";
import { useEffects, useProfile } from "./compare-queries";

type Point = Schema["ProfilePoint"];
type Measure = "lightness" | "chroma" | "hue";

const MEASURES: Record<Measure, { name: string; of: (point: Point) => number; off: (point: Point) => number | null }> =
  {
    lightness: { name: "L*, lightness", of: (point) => point.lab[0] ?? 0, off: (point) => point.lightness_off },
    chroma: { name: "C*, chroma", of: (point) => point.chroma, off: (point) => point.chroma_off },
    hue: { name: "h, hue angle °", of: (point) => point.hue_deg, off: (point) => point.hue_off_deg },
  };
const DASHES = ["", "7 4", "2 3", "10 4 2 4", "1 3", "14 5"];
const LABEL_PX = 15;

/** Two factors together, in cloth: where the lines are not parallel, one acts on the other. */
export function ProfilesView({ study }: { study: StudyView }) {
  const crossed = study.grid.factors.filter((factor) => factor.levels.length > 1);
  const [first, setFirst] = useState(crossed.at(-2)?.kind ?? "");
  const [second, setSecond] = useState(crossed.at(-1)?.kind ?? "");
  const [measure, setMeasure] = useState<Measure>("lightness");
  const query = useProfile(study.id, first, second);
  const pair = useEffects(study.id).data?.compared?.interactions.find(
    (one) => one.factors.includes(first) && one.factors.includes(second),
  );
  if (crossed.length < 2)
    return <Box sx={{ p: 3 }}>It takes two factors with two levels or more to see how one acts on the other.</Box>;
  const labelOf = (kind: string, level: string) =>
    study.grid.factors.find((factor) => factor.kind === kind)?.levels.find((one) => one.key === level)?.label ?? level;
  const field = (
    label: string,
    value: string,
    other: string,
    set: (kind: (typeof crossed)[number]["kind"]) => void,
  ) => (
    <ChoiceField
      label={label}
      value={value}
      onChange={(chosen) => set(chosen as (typeof crossed)[number]["kind"])}
      options={crossed
        .filter((factor) => factor.kind !== other)
        .map((factor) => [factor.kind, FACTOR_NAMES[factor.kind]] as const)}
    />
  );
  return (
    <Box sx={{ p: 2 }}>
      <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr", md: "repeat(3, 220px)" }, gap: 1.5, mb: 1.5 }}>
        {field("Along", first, second, setFirst)}
        {field("A line for each", second, first, setSecond)}
        <ChoiceField
          label="Shows"
          value={measure}
          onChange={setMeasure}
          options={entriesOf(MEASURES).map(([key, one]) => [key, one.name] as const)}
        />
      </Box>
      {pair && (
        <Box role="note" sx={{ borderLeft: 6, pl: 1, mb: 1 }}>
          {pair.verdict === "different"
            ? `They act on each other: what one does changes by up to ${(pair.largest_de00 ?? 0).toFixed(1)} ΔE00 with the other.`
            : "Whether they act on each other cannot be told."}
        </Box>
      )}
      <Awaited query={query}>
        {(profile) =>
          profile.points.length === 0 ? (
            <Box>Too few of their combinations are read.</Box>
          ) : (
            <Lines profile={profile} measure={measure} labelOf={labelOf} />
          )
        }
      </Awaited>
    </Box>
  );
}

interface LinesProps {
  profile: Schema["Profile"];
  measure: Measure;
  labelOf: (kind: string, level: string) => string;
}

function Lines({ profile, measure, labelOf }: LinesProps) {
  const { of, off, name } = MEASURES[measure];
  const across = [...new Set(profile.points.map((one) => one.first))];
  const lines = [...new Set(profile.points.map((one) => one.second))];
  const reach = profile.points.flatMap((one) => [of(one) - (off(one) ?? 0), of(one) + (off(one) ?? 0)]);
  const [low, high] = [Math.min(...reach), Math.max(...reach)];
  const edge = Math.max(2, (high - low) * 0.08);
  const spoken = profile.points
    .map((one) => `${labelOf(profile.first, one.first)}, ${labelOf(profile.second, one.second)}: ${of(one).toFixed(1)}`)
    .join("; ");
  return (
    <>
      <Box
        role="img"
        tabIndex={0}
        aria-label={`${name}. ${spoken}`}
        sx={{ height: "max(320px, 55dvh)", "& text": { fontFamily: "inherit" } }}>
        <ChartsDataProvider
          series={[]}
          margin={{ left: 4, right: 40, top: 14, bottom: 4 }}
          xAxis={[
            {
              id: "x",
              scaleType: "band",
              data: across,
              valueFormatter: (level: string) => labelOf(profile.first, level),
              height: 40,
            },
          ]}
          yAxis={[{ id: "y", min: low - edge, max: high + edge, label: name, width: 52, domainLimit: "strict" }]}>
          <ChartsSurface aria-hidden>
            <ChartsXAxis axisId="x" />
            <ChartsYAxis axisId="y" />
            {lines.map((line, i) => (
              <Line
                key={line}
                points={across.flatMap(
                  (level) => profile.points.find((one) => one.first === level && one.second === line) ?? [],
                )}
                measure={measure}
                number={i}
              />
            ))}
            <Names profile={profile} lines={lines} across={across} measure={measure} labelOf={labelOf} />
          </ChartsSurface>
        </ChartsDataProvider>
      </Box>
      <Box component="details" sx={{ fontSize: 13 }}>
        <summary>The figures</summary>
        <DataTable name="profiles" sx={{ "& td, & th": { textAlign: "left", pr: 2, py: 0.25 } }}>
          <tbody>
            {profile.points.map((one) => (
              <tr key={`${one.first} ${one.second}`}>
                <td>
                  <Box sx={{ width: 40, height: 24, bgcolor: one.hex || undefined }} />
                </td>
                <td>{labelOf(profile.first, one.first)}</td>
                <td>{labelOf(profile.second, one.second)}</td>
                <td>
                  {of(one).toFixed(1)} {off(one) === null ? "(no hue)" : `±${(off(one) ?? 0).toFixed(1)}`}
                </td>
              </tr>
            ))}
          </tbody>
        </DataTable>
      </Box>
      <Box sx={{ fontSize: 12, color: "text.secondary" }}>
        Averaged over all else. Ranges hold 95 in 100 of how a point lies against the middle of all, if it were dyed
        again. An empty point is the mean of colours that have none in common.
      </Box>
    </>
  );
}

function Line({ points, measure, number }: { points: readonly Point[]; measure: Measure; number: number }) {
  const x = useXScale<"band">("x");
  const y = useYScale<"linear">("y");
  const ink = useTheme().palette.text.primary;
  const { of, off } = MEASURES[measure];
  const at = (one: Point) => (x(one.first) ?? 0) + x.bandwidth() / 2 + (number % 5) * 5 - 10;
  return (
    <g>
      <polyline
        points={points.map((one) => `${at(one)},${y(of(one))}`).join(" ")}
        fill="none"
        stroke={ink}
        strokeWidth={1.5}
        strokeDasharray={DASHES[number % DASHES.length]}
      />
      {points.map((one) => {
        const wide = off(one);
        return (
          <g key={one.first}>
            {wide !== null && (
              <path
                d={`M${at(one) - 5},${y(of(one) - wide)}h10m-5,0V${y(of(one) + wide)}m-5,0h10`}
                stroke={ink}
                fill="none"
                strokeOpacity={0.7}
              />
            )}
            <rect
              x={at(one) - 13}
              y={y(of(one)) - 11}
              width={26}
              height={22}
              fill={one.hex || "none"}
              stroke="currentColor"
              strokeWidth={one.hex ? 0 : 1.5}
            />
          </g>
        );
      })}
    </g>
  );
}

/** Each line's name at its end, pushed apart. */
function Names({
  profile,
  lines,
  across,
  measure,
  labelOf,
}: LinesProps & { lines: readonly string[]; across: readonly string[] }) {
  const x = useXScale<"band">("x");
  const y = useYScale<"linear">("y");
  const ink = useTheme().palette.text.primary;
  const ends = lines
    .map((line) => {
      const own = profile.points.filter((one) => one.second === line);
      const last = [...across]
        .reverse()
        .map((level) => own.find((one) => one.first === level))
        .find(Boolean);
      return { line, y: last ? y(MEASURES[measure].of(last)) : 0 };
    })
    .sort((a, b) => a.y - b.y);
  return (
    <g>
      {apart(ends).map((one) => (
        <text
          key={one.line}
          x={(x(across.at(-1) ?? "") ?? 0) + x.bandwidth() / 2 + 26}
          y={one.y + 4}
          fontSize={13}
          fontWeight={700}
          fill={ink}>
          {labelOf(profile.second, one.line)}
        </text>
      ))}
    </g>
  );
}

/** Labels from above to below, pushed apart so that none lies on another. */
function apart<T extends { y: number }>(ends: readonly T[]): T[] {
  let before = -Infinity;
  return ends.map((one) => {
    before = Math.max(one.y, before + LABEL_PX);
    return { ...one, y: before };
  });
}
