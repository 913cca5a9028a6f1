import { keep, keptOver } from "../shell/kept";

/** How a person wants quantities, numbers and dates to be written. Everything is stored in SI units. */
export interface Ways {
  mass: "g" | "oz";
  volume: "mL" | "us";
  temperature: "C" | "F";
  length: "cm" | "in";
  light: "lx" | "fc";
  decimal: "." | ",";
  dates: "dmy" | "mdy" | "iso";
  paper: "A4" | "Letter";
}

export const PLAIN_WAYS: Ways = {
  mass: "g",
  volume: "mL",
  temperature: "C",
  length: "cm",
  light: "lx",
  decimal: ".",
  dates: "dmy",
  paper: "A4",
};

const KEPT = "ways";
let ways: Ways = keptOver(PLAIN_WAYS, globalThis.localStorage, KEPT);
const listeners = new Set<() => void>();

export const waysNow = (): Ways => ways;

export function chooseWays(change: Partial<Ways>): void {
  ways = { ...ways, ...change };
  keep(globalThis.localStorage, KEPT, ways);
  listeners.forEach((changed) => changed());
}

export function onWays(changed: () => void): () => void {
  listeners.add(changed);
  return () => listeners.delete(changed);
}
