import type { FactorKind, Level, Shelf, StudyPlan } from "../api/client";

const pick = (items: readonly { key: string; name: string }[], keys: string[]): Level[] =>
  keys.flatMap((key) => {
    const item = items.find((one) => one.key === key);
    return item ? [{ key: item.key, label: item.name }] : [];
  });

/** A small sound grid to start from: two fibres, with and without a mordant, in one dye. */
export function startingPlan(name: string, question: string, shelf: Shelf): StudyPlan {
  const dye = shelf.dye_lots.at(-1);
  return {
    name,
    question,
    factors: [
      { kind: "fibre", levels: pick(shelf.fibres, ["wool", "cotton"]) },
      { kind: "mordant", levels: pick(shelf.mordant_routes, ["none", "alum-hot"]) },
      { kind: "dye", levels: dye ? [{ key: dye.key, label: dye.name }] : [] },
    ],
    rows: ["fibre", "mordant"],
    columns: ["dye"],
    controls: ["undyed"],
    left_out: [],
    swatch_mass_g: 5,
    liquor_ratio_ml_per_g: 30,
  };
}

export const phLevel = (value: number): Level => ({ key: `ph-${value}`, label: `pH ${value}`, value });

export const ironLevel = (value: number): Level => ({
  key: `iron-${value}`,
  label: value === 0 ? "No iron" : `Iron ${value} %`,
  value,
});

/** What can be added to a factor from the Shelf, or from the usual values. */
export function levelsToAdd(kind: FactorKind, shelf: Shelf): Level[] {
  const named = (items: readonly { key: string; name: string }[]) =>
    items.map((item) => ({ key: item.key, label: item.name }));
  switch (kind) {
    case "fibre":
      return named(shelf.fibres);
    case "mordant":
      return named(shelf.mordant_routes);
    case "dye":
      return named(shelf.dye_lots);
    case "ph":
      return [4, 4.5, 5.5, 7, 9, 10].map(phLevel);
    case "iron":
      return [0, 0.5, 1, 2].map(ironLevel);
  }
}
