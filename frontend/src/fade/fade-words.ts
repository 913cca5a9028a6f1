import type { Schema, TrialView } from "../api/client";

export type Kind = TrialView["plan"]["kind"];
type Reached = Schema["DoseReached"];

export const KIND_WORDS: Record<Kind, string> = {
  light: "Light",
  wash: "Washing",
  rub: "Rubbing",
  sweat: "Sweat",
  store: "Storing in the dark",
};

/** What a trial counts, in the plural. */
export const COUNTED: Record<Kind, string> = {
  light: "Mlx·h",
  wash: "washes",
  rub: "rubbings",
  sweat: "wettings",
  store: "days",
};

/** 1.25 Mlx·h, 260 klx·h, 3 washes */
export function doseWords(kind: Kind, dose: number): string {
  if (kind !== "light")
    return `${String(Math.round(dose * 10) / 10)} ${dose === 1 ? COUNTED[kind].replace(/e?s$/, (end) => (end === "es" && kind === "wash" ? "" : "")) : COUNTED[kind]}`;
  return dose >= 0.95e6 ? `${digits(dose / 1e6)} Mlx·h` : `${digits(dose / 1e3)} klx·h`;
}

/** Two digits that count, or whole numbers above ten. */
export function digits(value: number): string {
  if (value === 0) return "0";
  if (Math.abs(value) >= 9.95) return String(Math.round(value));
  return value.toFixed(Math.abs(value) >= 0.95 ? 1 : 2);
}

/** 0.8 Mlx·h (0.6 to 1.1), or that it was not reached. */
export function reachedWords(kind: Kind, reached: Reached): string {
  const unit = COUNTED[kind];
  const by = kind === "light" ? 1e6 : 1;
  const one = (value: number | null) => (value == null ? "?" : digits(value / by));
  if (reached.dose == null) return reached.low == null ? "not reached" : `not before ${one(reached.low)} ${unit}`;
  return `${one(reached.dose)} ${unit} (${one(reached.low)} ${reached.high == null ? "or more" : `to ${one(reached.high)}`})`;
}

/** 12 years (8 to 20), in months or days where it is short. */
export function yearsWords(years: Schema["YearsTo"]): string {
  if (years.middle == null && years.low == null) return "beyond what can be said";
  const base = years.middle ?? years.low ?? 1;
  const [by, unit] = base >= 2 ? [1, "years"] : base * 12 >= 2 ? [12, "months"] : [365, "days"];
  const one = (value: number | null) => (value == null ? "?" : digits(value * by));
  if (years.middle == null) return `more than ${one(years.low)} ${unit}`;
  return `${one(years.middle)} ${unit} (${one(years.low)} ${years.high == null ? "or more" : `to ${one(years.high)}`})`;
}

export const THRESHOLDS = [
  ["noticeable", "Just noticeable (ΔE00 1)"],
  ["plain", "Plain (ΔE00 2)"],
  ["rating_4", "Rating 4"],
  ["rating_3", "Rating 3"],
  ["rating_2", "Rating 2"],
] as const;

/** A small change that cannot be told has no number that means anything. */
export const changeWords = (point: Schema["FadePoint"]) =>
  point.distinguishable
    ? `ΔE00 ${point.difference.de00.toFixed(1)} ±${point.uncertainty_de00.toFixed(1)}`
    : `≈ no change that can be told (under ${point.limit_de00.toFixed(1)})`;

/** The rating, or the range that the error of reading leaves open. */
export const ratingWords = (point: Schema["FadePoint"]) =>
  point.distinguishable ? point.rating_words : `≈ ${point.rating_words}`;
