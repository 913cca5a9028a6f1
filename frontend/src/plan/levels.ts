import type { FactorKind, Level, Schema, Shelf } from "../api/client";
import { durationWords } from "../shell/durations";

export const MOST_LEVELS = 12;

/** No thermometer of the kitchen shows more than tenths, no scale less than a tenth of a milligram; and the level is named by it. */
const PLACES: Record<string, number> = { "°C": 10, g: 10_000 };

export function asLevelValue(read: number | null, unit: string | null): number | null {
  const places = PLACES[unit ?? ""];
  return read === null || places === undefined ? read : Math.round(read * places) / places;
}

type Named = { key: string; name: string; retired?: boolean };

export const level = (key: string, label: string, value?: number): Level => ({
  key,
  label,
  baths: [],
  swatches: [],
  cut: false,
  additions: [],
  ...(value === undefined ? {} : { value }),
});

const named = (items: readonly Named[]): Level[] =>
  items.filter((item) => !item.retired).map((item) => level(item.key, item.name));

export const IRON_ROUTES: Record<NonNullable<Level["route"]>, string> = {
  mordant: "as mordant",
  pot: "in the pot",
  "after-bath": "after",
};

const WAYS: Partial<Record<FactorKind, Level[]>> = {
  pretreatment: [
    level("none", "Plain"),
    level("iron-water", "Iron water"),
    level("copper-water", "Copper water"),
    level("boiled", "Boiled first"),
  ],
  side: [level("upper", "Upper side"), level("lower", "Underside")],
  printing: [level("rolled", "Rolled"), level("hammered", "Hammered")],
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
    level("water-bath", "Jars in a water bath"),
    level("bundle-print", "Bundle print"),
    level("dip", "Dip and fold"),
  ],
};

interface Valued {
  unit: string;
  usual: number[];
  label: (value: number) => string;
  /** It may be dosed in grams for the whole bath as well. */
  inGrams?: string;
}
const degrees = (v: number) => `${v} °C`;
/** Factors whose levels carry a number: how it is written, and usual values to begin with. */
const VALUED: Partial<Record<FactorKind, Valued>> = {
  strength: { unit: "% WOF", usual: [50, 100, 200], label: (v) => `${v} % dye`, inGrams: "dye" },
  temperature: { unit: "°C", usual: [20, 40, 60, 80, 95], label: degrees },
  mordant_temperature: { unit: "°C", usual: [20, 45, 60, 80], label: degrees },
  iron_temperature: { unit: "°C", usual: [20, 40, 60], label: degrees },
  after_temperature: { unit: "°C", usual: [20, 40, 60], label: degrees },
  second_temperature: { unit: "°C", usual: [20, 40, 60, 80], label: degrees },
  duration: { unit: "min", usual: [15, 30, 60, 120, 1440, 4320, 10_080], label: durationWords },
  mordant_duration: { unit: "min", usual: [30, 60, 120, 1440], label: durationWords },
  iron_duration: { unit: "min", usual: [1, 5, 15, 30, 60], label: durationWords },
  after_duration: { unit: "min", usual: [5, 15, 30, 60], label: durationWords },
  second_duration: { unit: "min", usual: [5, 15, 30, 60], label: durationWords },
  times_in: { unit: "times", usual: [0, 1, 2, 3], label: (v) => (v === 0 ? "Not dipped" : `In ${v} ×`) },
  reheats: { unit: "times", usual: [0, 1, 2, 3], label: (v) => (v === 0 ? "Heated once" : `Heated again ${v} ×`) },
  rest: {
    unit: "min",
    usual: [0, 720, 1440, 4320],
    label: (v) => (v === 0 ? "Not left in" : `Left ${durationWords(v)}`),
  },
  second_iron: { unit: "% WOF", usual: [0, 1, 2], label: (v) => (v === 0 ? "No second iron" : `Second iron ${v} %`) },
  ph: { unit: "pH", usual: [4, 5.5, 7, 9, 10], label: (v) => `pH ${v}` },
  after_ph: { unit: "pH", usual: [4, 5.5, 7, 9, 10], label: (v) => `pH ${v}` },
  dip: { unit: "dip", usual: [1, 2, 3], label: (v) => `Dip ${v}` },
};

/** Levels without a number: a bath that is left as it is, or that is not there at all. */
const PLAIN: Partial<Record<FactorKind, Level>> = {
  ph: level("as-it-is", "As it is"),
  after_ph: level("none", "No after-bath"),
};

export const isDuration = (kind: FactorKind): boolean => VALUED[kind]?.unit === "min";

export const gramsOf = (kind: FactorKind): string | null =>
  kind === "iron" ? "iron" : (VALUED[kind]?.inGrams ?? null);

/** A level that is dosed in grams for the whole bath. */
export function levelInGrams(
  kind: FactorKind,
  grams: number,
  route: NonNullable<Level["route"]> = "after-bath",
): Level {
  const what = gramsOf(kind) ?? "";
  const made = { ...level(`${kind}-${grams}-g${kind === "iron" ? `-${route}` : ""}`, `${grams} g ${what}`), grams };
  return kind === "iron" ? { ...made, route, label: `Iron ${grams} g ${IRON_ROUTES[route]}` } : made;
}

export const unitOf = (kind: FactorKind): string | null => (kind === "iron" ? "% WOF" : (VALUED[kind]?.unit ?? null));

/** A level of a factor that carries a number. */
export function valuedLevel(kind: FactorKind, value: number): Level {
  const label = VALUED[kind]?.label(value) ?? String(value);
  return level(`${kind.replaceAll("_", "-")}-${value}`, label, value);
}

export function ironLevel(value: number, route: NonNullable<Level["route"]> = "after-bath", seconds?: number): Level {
  if (value === 0) return level("iron-0", "No iron", 0);
  const time = seconds ? `, ${seconds} s` : "";
  const label = `Iron ${value} %${route === "after-bath" && !seconds ? "" : ` ${IRON_ROUTES[route]}`}${time}`;
  if (route === "after-bath" && !seconds) return level(`iron-${value}`, label, value);
  return {
    ...level(`iron-${value}-${route}${seconds ? `-${seconds}` : ""}`, label, value),
    route,
    ...(seconds ? { seconds } : {}),
  };
}

/** What can be added to a factor: from the Shelf, from the ways of working, or usual values. */
export function levelsToAdd(kind: FactorKind, shelf: Shelf): Level[] {
  if (kind === "fibre") return named(shelf.fibres ?? []);
  if (kind === "mordant") return named(shelf.mordant_routes ?? []);
  if (kind === "dye" || kind === "source") return named(shelf.dye_lots ?? []);
  if (kind === "second_dye") return [level("none", "No second dye"), ...named(shelf.dye_lots ?? [])];
  if (kind === "iron") return [0, 0.5, 1, 2].map((value) => ironLevel(value));
  if (kind === "addition") return [level("none", "Nothing put in")];
  const valued = VALUED[kind]?.usual.map((value) => valuedLevel(kind, value)) ?? [];
  return WAYS[kind] ?? [...(PLAIN[kind] ? [PLAIN[kind]] : []), ...valued];
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
