/** How far inside its cells an outline lies, so that it is seen beside the headers too. */
const INSET = 1.5;

type Place = readonly [number, number];

/** An SVG path around the cells at some places (row, column), along the outer edges of each block only. */
export function outlineOf(places: readonly Place[], cellW: number, cellH: number): string {
  const there = new Set(places.map(([row, column]) => at(row, column)));
  const open = (byRow: number, byColumn: number) =>
    places.filter(([row, column]) => !there.has(at(row + byRow, column + byColumn)));
  const across = (edges: readonly Place[], from: number) =>
    runsOf(edges.map(([row, column]) => [row, column])).map(
      ([row, first, last]) => `M${first * cellW + INSET} ${row * cellH + from}H${(last + 1) * cellW - INSET}`,
    );
  const down = (edges: readonly Place[], from: number) =>
    runsOf(edges.map(([row, column]) => [column, row])).map(
      ([column, first, last]) => `M${column * cellW + from} ${first * cellH + INSET}V${(last + 1) * cellH - INSET}`,
    );
  return [
    ...across(open(-1, 0), INSET),
    ...across(open(1, 0), cellH - INSET),
    ...down(open(0, -1), INSET),
    ...down(open(0, 1), cellW - INSET),
  ].join("");
}

// Fewer than 2^15 rows and columns: one number is found quicker than a word.
const at = (row: number, column: number): number => (row + 1) * 32768 + column + 1;

/** Pairs of a line and a place on it, as runs without gaps: line, first and last place. */
function runsOf(pairs: readonly Place[]): [number, number, number][] {
  const sorted = [...pairs].sort((one, other) => one[0] - other[0] || one[1] - other[1]);
  const runs: [number, number, number][] = [];
  for (const [line, place] of sorted) {
    const last = runs.at(-1);
    if (last?.[0] === line && last[2] === place - 1) last[2] = place;
    else runs.push([line, place, place]);
  }
  return runs;
}
