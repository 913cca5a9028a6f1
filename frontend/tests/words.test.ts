import { expect, it, vi } from "vitest";

vi.stubGlobal("localStorage", { getItem: () => null, setItem: () => undefined, removeItem: () => undefined });

const { TERMS, findTerms } = await import("../src/help/glossary");
const { namesInShort } = await import("../src/weigh/names-in-short");
const { counted } = await import("../src/shell/counted");
const { merged } = await import("../src/plan/merge");
const { typedMinutes } = await import("../src/shell/durations");

it("every word is there once, and found by what else it is called", () => {
  expect(new Set(TERMS.map((term) => term.key)).size).toBe(TERMS.length);
  expect(findTerms("knots")[0]?.key).toBe("tie");
  expect(findTerms("replicate")[0]?.key).toBe("repeat");
  expect(findTerms("")).toHaveLength(TERMS.length);
  expect(findTerms("no such word")).toEqual([]);
});

it("names of vessels are drawn together in their order", () => {
  expect(namesInShort(["D2", "D1", "D3", "D10", "M1"])).toBe("D1 to D3, D10, M1");
  expect(namesInShort(["D1", "D2"])).toBe("D1, D2");
});

it("counts, and takes times as they are said", () => {
  expect([counted(1, "swatch"), counted(3, "swatch"), counted(2, "vessel")]).toEqual([
    "1 swatch",
    "3 swatches",
    "2 vessels",
  ]);
  expect(typedMinutes("2 h 30 min")).toBe(150);
  expect(typedMinutes("3 days")).toBe(4320);
});

it("lays one change onto another", () => {
  const base = { name: "A", question: "?", swatch_mass_g: 4 } as never;
  const mine = { name: "A", question: "Which?", swatch_mass_g: 4 } as never;
  const theirs = { name: "B", question: "?", swatch_mass_g: 4 } as never;
  expect(merged(base, mine, theirs)).toMatchObject({ name: "B", question: "Which?" });
});
