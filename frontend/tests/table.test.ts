import { expect, it, vi } from "vitest";

vi.stubGlobal("localStorage", { getItem: () => null, setItem: () => undefined, removeItem: () => undefined });

const { chosenTable } = await import("../src/grid/chosen-table");
const { coloursOf } = await import("../src/read/colours");
const { chooseWays } = await import("../src/settings/ways");
const { dayWords } = await import("../src/shell/dates");

it("gives a table in which nothing is a formula and numbers are numbers", () => {
  const cell = { key: "dye=own", levels: { dye: "own" }, swatches: ["EYFC", "W79Y"] };
  const grid = { factors: [{ kind: "dye", levels: [{ key: "own", label: "=1+1\tbramble" }] }] };
  const colour = {
    run: 0,
    lab: [54.2, -1.5, 20],
    hex: "#8f8060",
    colour_words: "greyish yellow",
    uncertainty_de00: 0.4,
  };
  const colours = coloursOf({
    swatches: [{ swatch: "EYFC", states: [0], colours: [colour] }],
    names: [],
    zones: [],
    pictures: [],
    faded: [],
  } as never);
  const [head, read, unread] = chosenTable({ grid } as never, [cell] as never, colours)
    .split("\n")
    .map((line) => line.split("\t"));
  expect(head?.slice(0, 2)).toEqual(["Code", "Dye"]);
  expect(read).toEqual([
    "EYFC",
    "'=1+1 bramble",
    "",
    "as it came",
    "greyish yellow",
    "54.20",
    "-1.50",
    "20.00",
    "0.40",
    "#8f8060",
  ]);
  expect(unread?.slice(3, 6)).toEqual(["not read yet", "", ""]);
});

it("writes days in the person's order", () => {
  expect(dayWords("2026-09-03")).toMatch(/^3 Sept? 2026$/);
  chooseWays({ dates: "mdy" });
  expect(dayWords("2026-09-03")).toBe("Sep 3, 2026");
  chooseWays({ dates: "iso" });
  expect(dayWords("2026-09-03")).toBe("2026-09-03");
});
