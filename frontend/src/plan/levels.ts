import type { FactorKind, Level, Schema, Shelf } from "../api/client";
import { durationWords } from "../shell/durations";

type Named = { key: string; name: string; retired?: boolean };

const level = (key: string, label: string, value?: number): Level => ({ key, label, swatches: [], cut: false, ...(value === undefined ? {} : { value }) });

const named = (items: readonly Named[]): Level[] =>
  items.filter((item) => !item.retired).map((item) => level(item.key, item.name));

export const IRON_ROUTES: Record<NonNullable<Level["route"]>, string> = {
  mordant: "as mordant",
  pot: "in the pot",
  "after-bath": "after",
};

const WAYS: Partial<Record<FactorKind, Level[]>> = {
  extraction: [
    level("hot", "Hot"),
    level("repeated", "Repeated"),
    level("room", "Room temperature"),
    level("sun", "In the sun"),
  ],
  process: [
    level("hot-bath", "Hot bath"),
    level("room", "Room temperature"),
    level("sun-jar", "Sun jar"),
    level("bundle-print", "Bundle print"),
    level("dip", "Dip and fold"),
  ],
};

/** Factors whose levels carry a number: how it is written, and usual values to begin with. */
const VALUED: Partial<Record<FactorKind, { unit: string; usual: number[]; label: (value: number) => string }>> = {
  strength: { unit: "% WOF", usual: [50, 100, 200], label: (v) => `${v} % dye` },
  temperature: { unit: "°C", usual: [20, 40, 60, 80, 95], label: (v) => `${v} °C` },
  duration: { unit: "min", usual: [15, 30, 60, 120, 1440, 4320, 10_080], label: durationWords },
  ph: { unit: "pH", usual: [4, 5.5, 7, 9, 10], label: (v) => `pH ${v}` },
  after_ph: { unit: "pH", usual: [4, 5.5, 7, 9, 10], label: (v) => `pH ${v}` },
  dip: { unit: "dip", usual: [1, 2, 3], label: (v) => `Dip ${v}` },
};

export const unitOf = (kind: FactorKind): string | null => (kind === "iron" ? "% WOF" : (VALUED[kind]?.unit ?? null));

/** A level of a factor that carries a number. */
export function valuedLevel(kind: FactorKind, value: number): Level {
  const label = VALUED[kind]?.label(value) ?? String(value);
  return level(`${kind.replace("_", "-")}-${value}`, label, value);
}

export function ironLevel(value: number, route: NonNullable<Level["route"]> = "after-bath", seconds?: number): Level {
  if (value === 0) return level("iron-0", "No iron", 0);
  const time = seconds ? `, ${seconds} s` : "";
  const label = `Iron ${value} %${route === "after-bath" && !seconds ? "" : ` ${IRON_ROUTES[route]}`}${time}`;
  if (route === "after-bath" && !seconds) return level(`iron-${value}`, label, value);
  return { ...level(`iron-${value}-${route}${seconds ? `-${seconds}` : ""}`, label, value), route, ...(seconds ? { seconds } : {}) };
}

/** What can be added to a factor: from the Shelf, from the ways of working, or usual values. */
export function levelsToAdd(kind: FactorKind, shelf: Shelf): Level[] {
  if (kind === "fibre") return named(shelf.fibres ?? []);
  if (kind === "mordant") return named(shelf.mordant_routes ?? []);
  if (kind === "dye") return named(shelf.dye_lots ?? []);
  if (kind === "second_dye") return [level("none", "No second dye"), ...named(shelf.dye_lots ?? [])];
  if (kind === "iron") return [0, 0.5, 1, 2].map((value) => ironLevel(value));
  return WAYS[kind] ?? VALUED[kind]?.usual.map((value) => valuedLevel(kind, value)) ?? [];
}

/** The level that a factor starts with. */
export function firstLevel(kind: FactorKind, shelf: Shelf): Level | undefined {
  const all = levelsToAdd(kind, shelf);
  return kind === "ph" || kind === "after_ph" ? all.find((level) => level.value === 7) : all[0];
}

/** What is offered as a class of fibre in a rule. */
export const FIBRE_CLASSES: Schema["Fibre"]["fibre_class"][] = [
  "protein",
  "cellulose",
  "regenerated cellulose",
  "synthetic",
  "polyamide",
];
