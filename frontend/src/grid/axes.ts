import type { FactorKind, GridCell, Schema } from "../api/client";
import { inMyUnits } from "../settings/quantities";
import { keysOf } from "../shell/keys";

type Grid = Schema["Grid"];
type GridLevel = Schema["GridLevel"];

/** In the order in which the factors act on a piece; cell keys are written in it. */
export const FACTOR_NAMES: Record<FactorKind, string> = {
  fibre: "Fibre",
  recipe: "Recipe",
  mordant: "Mordant",
  mordant_temperature: "Mordant temperature",
  mordant_duration: "Mordant duration",
  dye: "Dye",
  source: "Source",
  pretreatment: "Pretreatment",
  side: "Side",
  printing: "Way of printing",
  times_in: "Times in",
  strength: "Dye strength",
  extraction: "Extraction",
  process: "Process",
  temperature: "Temperature",
  duration: "Duration",
  ph: "Dye pH",
  addition: "Put in",
  reheats: "Heated again",
  rest: "Left in the bath",
  iron: "Iron",
  iron_temperature: "Iron temperature",
  iron_duration: "Iron duration",
  after_ph: "After-bath pH",
  after_temperature: "After-bath temperature",
  after_duration: "After-bath duration",
  dip: "Dip",
  second_dye: "Second dye",
  second_temperature: "Second dye temperature",
  second_duration: "Second dye duration",
  second_iron: "Second iron",
};

const ORDER = keysOf(FACTOR_NAMES);

/** One row or column: the level of each factor on that axis, outermost first. */
export type Line = { kind: FactorKind; level: GridLevel }[];

/** A stretch of neighbouring lines under one header. */
export interface Span {
  from: number;
  count: number;
  label: string;
  /** Only swatches that were begun have this level. */
  unplanned: boolean;
}

export interface Axes {
  rows: Line[];
  columns: Line[];
  cellAt: (row: number, column: number) => GridCell | undefined;
  /** All cells that lie in it, row by row. */
  cells: () => GridCell[];
  placeOf: Map<string, [number, number]>;
  /** Added controls and larger pieces, which are none of the crossing. */
  added: GridCell[];
}

function lines(grid: Grid, kinds: readonly FactorKind[]): Line[] {
  return kinds.reduce<Line[]>(
    (made, kind) => {
      const levels = grid.factors.find((factor) => factor.kind === kind)?.levels ?? [];
      return made.flatMap((line) => levels.map((level) => [...line, { kind, level }]));
    },
    [[]],
  );
}

/** Nested headers: the spans of each depth, outermost first. */
export function spansOf(axis: Line[]): Span[][] {
  const depth = axis[0]?.length ?? 0;
  return Array.from({ length: depth }, (_, d) => {
    const spans: Span[] = [];
    axis.forEach((line, i) => {
      const before = axis[i - 1];
      const joins = before && line.slice(0, d + 1).every((part, k) => before[k]?.level.key === part.level.key);
      const last = spans.at(-1);
      if (joins && last) last.count += 1;
      else
        spans.push({
          from: i,
          count: 1,
          label: inMyUnits(line[d]?.level.label ?? ""),
          unplanned: line[d]?.level.planned === false,
        });
    });
    return spans;
  });
}

export function axesOf(grid: Grid): Axes {
  const crossed = grid.cells.filter((cell) => !cell.added);
  const byKey = new Map(crossed.map((cell) => [cell.key, cell]));
  // Lines without a single cell are not drawn: a level that is gone meets few of the others.
  const empty = (axis: Line[], across: Line[]) =>
    axis.filter((line) => across.some((other) => byKey.has(keyOf([...line, ...other]))));
  const allRows = lines(grid, grid.rows);
  const allColumns = lines(grid, grid.columns);
  const rows = empty(allRows, allColumns);
  const columns = empty(allColumns, rows);
  const keyAt = (row: number, column: number) => keyOf([...(rows[row] ?? []), ...(columns[column] ?? [])]);
  const placeOf = new Map<string, [number, number]>();
  rows.forEach((_, r) => columns.forEach((_, c) => placeOf.set(keyAt(r, c), [r, c])));
  const cellAt = (row: number, column: number) => byKey.get(keyAt(row, column));
  return {
    rows,
    columns,
    cellAt,
    cells: () => rows.flatMap((_, r) => columns.flatMap((_, c) => cellAt(r, c) ?? [])),
    placeOf,
    added: grid.cells.filter((cell) => cell.added),
  };
}

/** Cells one after the other instead of crossed: as many in a row as there is room for. */
export function inARow(cells: readonly GridCell[], perRow: number): Axes {
  const placeOf = new Map(
    cells.map((cell, i): [string, [number, number]] => [cell.key, [Math.floor(i / perRow), i % perRow]]),
  );
  return {
    rows: Array.from({ length: Math.ceil(cells.length / perRow) }, () => []),
    columns: Array.from({ length: Math.min(perRow, cells.length) }, () => []),
    cellAt: (row, column) => (column < perRow ? cells[row * perRow + column] : undefined),
    cells: () => [...cells],
    placeOf,
    added: [],
  };
}

/** The key of a cell by its levels; a factor that is not set for it is none of them. */
function keyOf(line: Line): string {
  const parts = line.filter((part) => part.level.key !== "");
  parts.sort((a, b) => ORDER.indexOf(a.kind) - ORDER.indexOf(b.kind));
  return parts.map((part) => `${part.kind}=${part.level.key}`).join(";");
}
