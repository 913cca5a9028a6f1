import Box from "@mui/material/Box";
import Slider from "@mui/material/Slider";
import type { ReactNode } from "react";

import type { Schema, StudyView, TrialView } from "../api/client";
import { useLife, useShelf, useSwatchesFading } from "../api/hooks";
import { cellOf, cellWords, codesIn } from "../grid/cells";
import { Chip } from "../grid/chip";
import type { GridCell } from "../api/client";
import { ChoiceField } from "../shell/choice-field";
import { Awaited } from "../shell/said";
import { ColumnNames, DataTable } from "../shell/data-table";
import { useShownPart } from "../shell/shown-part";
import { AwaitedLasting } from "./awaited-lasting";
import { COUNTED, THRESHOLDS, digits, doseWords, reachedWords, yearsWords } from "./fade-words";
import type { FadeState } from "./fade-state";
import { Notes } from "./lasting-view";

/** Years that the slider has: close together at first, when colours change most. */
const YEARS = [0, 0.25, 0.5, 0.75, 1, 1.5, 2, 3, 4, 5, 6, 8, 10, 12, 15, 20, 25, 30, 40, 50, 75, 100];
const MARKS = [0, 1, 2, 5, 10, 20, 50, 100];

interface LifeViewProps {
  study: StudyView;
  trial: TrialView;
  state: FadeState;
  chosen: readonly GridCell[];
}

/** The whole grid after some years in a place, or some washes: as foretold, beside its colours of today. */
export function LifeView({ study, trial, state, chosen }: LifeViewProps) {
  const { life } = state;
  const isLight = trial.plan.kind === "light";
  const places = useShelf().data?.light_places ?? [];
  const unit = isLight ? (life.count === 1 ? "year" : "years") : COUNTED[trial.plan.kind];
  const lookOf = (code: string) => {
    const [here, there] = [life.grid, life.other ? life.otherGrid : undefined].map((grid) =>
      grid?.swatches.find((one) => one.swatch === code),
    );
    const cell = cellOf(study, code);
    return (
      <Box sx={{ display: "flex", gap: 1, alignItems: "center", minWidth: 190 }}>
        <Box sx={{ flex: "none" }}>
          {here && <Chip fills={[here.hex_today, here.hex, ...(there ? [there.hex] : [])]} width={96} height={48} />}
        </Box>
        <span>
          {code}
          <Box sx={{ fontWeight: 400, fontSize: 11, lineHeight: 1.2 }}>{cell ? cellWords(study, cell) : ""}</Box>
        </span>
      </Box>
    );
  };
  const tooFar = [...(life.grid?.swatches ?? []), ...(life.otherGrid?.swatches ?? [])].some((one) => one.too_far);
  const beyond = life.grid?.swatches.some((one) => one.beyond);
  return (
    <Box>
      <Box
        sx={{
          px: 2,
          pt: 1,
          position: "sticky",
          top: 0,
          zIndex: 5,
          bgcolor: "background.default",
          display: "grid",
          gridTemplateColumns: { xs: "1fr", md: isLight ? "1fr 1fr 1.6fr" : "1fr" },
          gap: 2,
          alignItems: "center",
          flex: "none",
        }}>
        {isLight && (
          <>
            <ChoiceField
              label="In"
              value={life.place}
              onChange={life.setPlace}
              options={places.map((one) => [one.key, one.name] as const)}
            />
            <ChoiceField
              label="Beside"
              value={life.other}
              onChange={life.setOther}
              slotProps={{ inputLabel: { shrink: true }, select: { displayEmpty: true } }}
              options={[
                ["", "no second place"],
                ...places.filter((one) => one.key !== life.place).map((one) => [one.key, one.name] as const),
              ]}
            />
          </>
        )}
        <Box sx={{ px: 2 }}>
          <Box id="how-far" sx={{ fontSize: 14 }}>
            After <strong>{life.count}</strong> {unit}
            {life.grid && isLight ? ` (${doseWords("light", life.grid.dose)})` : ""}
          </Box>
          <Slider
            aria-labelledby="how-far"
            color="secondary"
            value={isLight ? placeOf(life.count) : life.count}
            min={0}
            max={isLight ? YEARS.length - 1 : 50}
            step={1}
            onChange={(_, value) => life.setCount(isLight ? (YEARS[value] ?? 0) : value)}
            getAriaValueText={() => `${life.count} ${unit}`}
            marks={
              isLight
                ? MARKS.map((one) => ({ value: placeOf(one), label: String(one) }))
                : [0, 10, 25, 50].map((value) => ({ value, label: String(value) }))
            }
          />
        </Box>
      </Box>
      <Box sx={{ px: 2, fontSize: 13, flex: "none" }} role="status">
        Foretold, not seen: each chip is today | after {life.count} {unit}
        {life.other ? " here | there" : ""}; under it the 90 % limits of the change, ΔE00.
        {beyond ? " This lies beyond the doses of the trial: the shape alone speaks." : ""}
        {tooFar
          ? " Where it is too far to be foretold at all, the chip shows the furthest that can be, and the change is at least that."
          : ""}
      </Box>
      <Box sx={{ px: 2, pb: 2 }}>
        <AwaitedLasting study={study} trial={trial} state={state}>
          {({ fading }) => {
            const codes = ofSelection(
              fading.order.map((one) => one.swatch),
              chosen,
            );
            const own = { study, trial, codes, lookOf };
            return isLight ? (
              <YearsTable key={codes.join()} {...own} place={life.place} />
            ) : (
              <WashTable key={codes.join()} {...own} />
            );
          }}
        </AwaitedLasting>
      </Box>
    </Box>
  );
}

/** The place of a number of years among those that the slider has. */
const placeOf = (years: number) =>
  Math.max(
    0,
    YEARS.findIndex((one) => one >= years),
  );

function ofSelection(codes: readonly string[], chosen: readonly GridCell[]): readonly string[] {
  const selected = new Set(codesIn(chosen));
  const own = codes.filter((code) => selected.has(code));
  return own.length > 0 ? own : codes;
}

const ROWS_AT_ONCE = 40;

interface OwnTableProps {
  study: StudyView;
  trial: TrialView;
  codes: readonly string[];
  lookOf: LookOf;
}

/** A swatch today and as foretold, large enough to judge, and its name. */
type LookOf = (code: string) => ReactNode;

function YearsTable({ study, trial, place, codes, lookOf }: OwnTableProps & { place: string }) {
  const [shown, more] = useShownPart(codes, ROWS_AT_ONCE);
  const life = useLife(study.id, trial.id, place, shown);
  if (place === "" || codes.length === 0) return null;
  return (
    <Awaited query={life}>
      {(found) => (
        <>
          <Notes warnings={found.warnings} />
          {found.yearly && (
            <Box sx={{ fontSize: 13, my: 0.5 }}>
              {found.place}: {doseWords("light", found.yearly.dose_lxh)} a year ({digits(found.yearly.low_lxh / 1e6)} to{" "}
              {digits(found.yearly.high_lxh / 1e6)} Mlx·h), {found.yearly.uv ? "with" : "without"} ultraviolet.
            </Box>
          )}
          <Table
            head={["Swatch", ...THRESHOLDS.map(([, words]) => words)]}
            rows={shown
              .filter((code) => code in found.years)
              .map((code) => [code, ...THRESHOLDS.map(([key]) => years(found.years[code]?.[key]))])}
            lookOf={lookOf}
          />
          {more}
        </>
      )}
    </Awaited>
  );
}

const years = (one: Schema["YearsTo"] | undefined) =>
  one ? yearsWords(one) + (one.beyond && one.middle != null ? " *" : "") : "";

function WashTable({ study, trial, codes, lookOf }: OwnTableProps) {
  const kind = trial.plan.kind;
  const [shown, more] = useShownPart(codes, ROWS_AT_ONCE);
  const fading = useSwatchesFading(study.id, trial.id, shown);
  if (codes.length === 0) return null;
  return (
    <Awaited query={fading}>
      {(swatches) => (
        <>
          <Table
            head={["Swatch", "Plain", "Rating 3", "Half of the depth gone", "What to do"]}
            rows={swatches.map((one) => [
              one.swatch,
              reachedWords(kind, one.thresholds["plain"] ?? one.half_depth),
              reachedWords(kind, one.thresholds["rating_3"] ?? one.half_depth),
              reachedWords(kind, one.half_depth),
              one.words,
            ])}
            lookOf={lookOf}
          />
          {more}
        </>
      )}
    </Awaited>
  );
}

function Table({ head, rows, lookOf }: { head: string[]; rows: string[][]; lookOf: LookOf }) {
  return (
    <DataTable
      name="life"
      sx={{
        borderCollapse: "collapse",
        fontSize: 13,
        width: "100%",
        "& th, & td": { textAlign: "left", p: 0.5, borderBottom: 1, borderColor: "divider", verticalAlign: "top" },
      }}>
      <ColumnNames names={head} />
      <tbody>
        {rows.map((row) => (
          <tr key={row[0]}>
            {row.map((words, i) =>
              i === 0 ? (
                <th key={i} scope="row">
                  {lookOf(words)}
                </th>
              ) : (
                <td key={i}>{words}</td>
              ),
            )}
          </tr>
        ))}
      </tbody>
      {rows.some((row) => row.some((words) => words.endsWith("*"))) && (
        <caption style={{ captionSide: "bottom", textAlign: "left" }}>
          * beyond what was seen: by the shape of the fading alone.
        </caption>
      )}
    </DataTable>
  );
}
