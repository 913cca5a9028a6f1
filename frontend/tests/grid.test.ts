import { describe, expect, it, vi } from "vitest";

vi.stubGlobal("localStorage", { getItem: () => null, setItem: () => undefined, removeItem: () => undefined });

const { axesOf, inARow, spansOf } = await import("../src/grid/axes");
const { fittedCell, fromSlider, measuresOf, toSlider, wholeWidth, LARGEST, SMALLEST } =
  await import("../src/grid/cell-size");
const { columnHeads, labelWidth, rowHeads } = await import("../src/grid/grid-headers");
const { Selection } = await import("../src/grid/selection");
const { outlineOf } = await import("../src/grid/outline");
const { onGridKey } = await import("../src/grid/grid-keys");

type Grid = Parameters<typeof axesOf>[0];
const level = (key: string) => ({ key, label: key, planned: true });
const FIBRES = ["wool", "silk", "cotton"];
const MORDANTS = ["none", "alum"];

/** Three fibres down, two mordants by two pH across; one crossing is not there. */
function grid(): Grid {
  const cells = FIBRES.flatMap((fibre) =>
    MORDANTS.flatMap((mordant) =>
      ["4", "9"].map((ph) => ({
        key: `fibre=${fibre};mordant=${mordant};ph=${ph}`,
        levels: { fibre, mordant, ph },
        added: false,
        included: true,
        swatches: [],
      })),
    ),
  ).filter((cell) => cell.key !== "fibre=silk;mordant=alum;ph=9");
  const factors = [
    { kind: "fibre", levels: FIBRES.map(level) },
    { kind: "mordant", levels: MORDANTS.map(level) },
    { kind: "ph", levels: ["4", "9"].map(level) },
  ];
  return { cells, factors, rows: ["fibre"], columns: ["mordant", "ph"] } as unknown as Grid;
}

describe("axes", () => {
  const axes = axesOf(grid());
  it("crosses the levels, and nests the headers", () => {
    expect([axes.rows.length, axes.columns.length]).toEqual([3, 4]);
    expect(spansOf(axes.columns).map((spans) => spans.map((span) => [span.label, span.count]))).toEqual([
      [
        ["none", 2],
        ["alum", 2],
      ],
      [
        ["4", 1],
        ["9", 1],
        ["4", 1],
        ["9", 1],
      ],
    ]);
    expect(axes.cellAt(1, 3)).toBeUndefined();
    expect(axes.cells()).toHaveLength(11);
  });
  it("lies one after the other where another order is asked for", () => {
    const flow = inARow(axes.cells(), 4);
    expect([flow.rows.length, flow.columns.length]).toEqual([3, 4]);
    expect(flow.cellAt(2, 2)?.key).toBe(axes.cells()[10]?.key);
    expect(flow.cellAt(2, 3)).toBeUndefined();
    expect(flow.placeOf.get(axes.cells()[5]?.key ?? "")).toEqual([1, 1]);
  });
});

describe("size", () => {
  it("fits few swatches large, and many as small as their codes allow", () => {
    const room = { width: 900, height: 600 };
    const few = fittedCell(room, 3, 4);
    expect(few.width).toBeGreaterThan(180);
    expect(measuresOf(few.width, few.shape).height * 3).toBeLessThanOrEqual(600);
    expect(fittedCell(room, 40, 50).width).toBe(48);
    expect(wholeWidth(room, 30, 60) * 60).toBeLessThanOrEqual(900);
  });
  it("runs by ratios between its ends", () => {
    expect([toSlider(SMALLEST), toSlider(LARGEST)]).toEqual([0, 1]);
    expect(fromSlider(toSlider(77))).toBe(77);
  });
  it("writes words only where they can be read", () => {
    expect([20, 48, 120, 200].map((width) => measuresOf(width).lines)).toEqual([0, 1, 2, 3]);
  });
  it("stands names upright where columns are narrower than they", () => {
    const spans = spansOf(axesOf(grid()).columns);
    expect(columnHeads(spans, 100).some((head) => head.upright)).toBe(false);
    const narrow = columnHeads([[{ from: 0, count: 1, label: "Aluminium acetate", unplanned: false }]], 40);
    expect(narrow[0]).toMatchObject({ upright: true });
    expect(narrow[0]?.height).toBeGreaterThanOrEqual(labelWidth("Aluminium acetate", true));
    expect(rowHeads(spansOf(axesOf(grid()).rows), 60, 170)[0]).toBeGreaterThanOrEqual(44);
  });
});

describe("selection", () => {
  const laid = () => {
    const selection = new Selection();
    const axes = axesOf(grid());
    selection.lay(axes);
    return { selection, axes };
  };
  it("takes a block, without what is not there", () => {
    const { selection } = laid();
    selection.only("fibre=wool;mordant=alum;ph=4");
    selection.extendTo("fibre=cotton;mordant=alum;ph=9");
    expect(selection.keys.size).toBe(5);
    expect(selection.focus).toEqual({ row: 2, column: 3 });
  });
  it("tells its listeners once for each change, and stays while the cells are laid anew", () => {
    const { selection, axes } = laid();
    const told = vi.fn();
    selection.subscribe(told);
    selection.toggle("fibre=wool;mordant=none;ph=4");
    selection.toggle("fibre=silk;mordant=none;ph=4");
    expect(told).toHaveBeenCalledTimes(2);
    selection.lay(inARow(axes.cells(), 3));
    expect(selection.keys.size).toBe(2);
    expect(selection.focus).toEqual({ row: 1, column: 1 });
    selection.clear();
    expect(selection.keys.size).toBe(0);
  });
  it("is moved by the keys of a grid, up into its headers", () => {
    const { selection, axes } = laid();
    const heads: unknown[] = [];
    const reach = {
      axes,
      selection,
      depth: { rows: 1, columns: 2 },
      rowsInSight: 2,
      chooseHead: (spot: unknown) => heads.push(spot),
      open: () => undefined,
    };
    const press = (key: string, with_: { shiftKey?: boolean; ctrlKey?: boolean } = {}) =>
      onGridKey({ key, shiftKey: false, ctrlKey: false, metaKey: false, ...with_ } as never, reach);
    press("ArrowDown");
    expect(selection.focus).toEqual({ row: 0, column: 0 });
    press("End");
    press("PageDown");
    expect(selection.focus).toEqual({ row: 2, column: 3 });
    press("Home", { ctrlKey: true });
    for (let i = 0; i < 5; i++) press("ArrowUp");
    expect(selection.focus).toEqual({ row: -2, column: 0 });
    press(" ");
    expect(heads).toEqual([{ row: -2, column: 0 }]);
    press("a", { ctrlKey: true });
    expect(selection.keys.size).toBe(11);
    expect(press("x")).toBe(false);
  });
});

it("draws the stitches around what is chosen along its outer edges only", () => {
  expect(
    outlineOf(
      [
        [0, 0],
        [0, 1],
      ],
      40,
      30,
    ),
  ).toBe("M1.5 1.5H78.5M1.5 28.5H78.5M1.5 1.5V28.5M78.5 1.5V28.5");
  // A block with a hole: four sides outside and four within.
  const ring = [0, 1, 2]
    .flatMap((row) => [0, 1, 2].map((column) => [row, column] as const))
    .filter(([row, column]) => row !== 1 || column !== 1);
  expect(outlineOf(ring, 40, 30).split("M").length - 1).toBe(8);
  expect(outlineOf([], 40, 30)).toBe("");
});
