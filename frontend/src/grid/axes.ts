import type { Cell, FactorKind, Level, StudyPlan } from "../api/client";

/** In the order in which the factors act on a piece; cell keys are written in it. */
export const FACTOR_NAMES: Record<FactorKind, string> = {
  fibre: "Fibre",
  mordant: "Mordant",
  dye: "Dye",
  strength: "Dye strength",
  extraction: "Extraction",
  process: "Process",
  temperature: "Temperature",
  duration: "Duration",
  ph: "Dye pH",
  iron: "Iron",
  after_ph: "After-bath pH",
  dip: "Dip",
  second_dye: "Second dye",
};

const ORDER = Object.keys(FACTOR_NAMES) as FactorKind[];

/** One row or column: the level of each factor on that axis, outermost first. */
export type Line = { kind: FactorKind; level: Level }[];

/** A stretch of neighbouring lines under one header. */
export interface Span {
  from: number;
  count: number;
  label: string;
}

export interface Axes {
  rows: Line[];
  columns: Line[];
  cellAt: (row: number, column: number) => Cell | undefined;
  placeOf: Map<string, [number, number]>;
  controls: Cell[];
}

function lines(plan: StudyPlan, kinds: readonly FactorKind[]): Line[] {
  return kinds.reduce<Line[]>(
    (made, kind) => {
      const levels = plan.factors?.find((factor) => factor.kind === kind)?.levels ?? [];
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
      const joins =
        before && line.slice(0, d + 1).every((part, k) => before[k]?.level.key === part.level.key);
      const last = spans.at(-1);
      if (joins && last && d < depth) last.count += 1;
      else spans.push({ from: i, count: 1, label: line[d]?.level.label ?? "" });
    });
    return spans;
  });
}

export function axesOf(plan: StudyPlan, cells: readonly Cell[]): Axes {
  const rows = lines(plan, plan.rows ?? []);
  const columns = lines(plan, plan.columns ?? []);
  const byKey = new Map(cells.map((cell) => [cell.key, cell]));
  const keyAt = (row: number, column: number) => {
    const parts = [...(rows[row] ?? []), ...(columns[column] ?? [])];
    parts.sort((a, b) => ORDER.indexOf(a.kind) - ORDER.indexOf(b.kind));
    return parts.map((part) => `${part.kind}=${part.level.key}`).join(";");
  };
  const placeOf = new Map<string, [number, number]>();
  rows.forEach((_, r) => columns.forEach((_, c) => placeOf.set(keyAt(r, c), [r, c])));
  return {
    rows,
    columns,
    cellAt: (row, column) => byKey.get(keyAt(row, column)),
    placeOf,
    controls: cells.filter((cell) => cell.key.startsWith("control=")),
  };
}

/** A cell in words: "Wool, Alum, Coreopsis, pH 7, No iron". */
export function cellWords(plan: StudyPlan, cell: Cell): string {
  const parts = ORDER.flatMap((kind) => {
    const key = cell.levels[kind];
    const factor = plan.factors?.find((f) => f.kind === kind);
    const level = factor?.levels.find((l) => l.key === key);
    return level ? [level.label] : [];
  });
  const control = cell.key.startsWith("control=") ? [cell.control ?? ""] : [];
  return [...parts, ...control].join(", ");
}
