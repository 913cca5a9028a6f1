import {
  CM_PER_INCH,
  LX_PER_FC,
  lengthWords,
  massWords,
  temperatureWords,
  typedMass,
  typedNumber,
  typedTemperature,
  typedVolume,
  volumeTyped,
} from "./quantities";
import { waysNow } from "./ways";
import type { Ways } from "./ways";

/** What a field says of what it cannot read. */
export const NO_NUMBER = "It must be a number.";

/** How a quantity is typed in a field: its label with the chosen unit, and the way there and back. */
export interface FieldUnit {
  label: string;
  /** What is typed, in the unit that is stored; null where nothing is, NaN where it is no such quantity. */
  stored: (text: string) => number | null;
  /** What is stored, as it is typed. */
  typed: (stored: number) => string;
}

interface Measure {
  /** Its name where the person chose another unit than the stored one. */
  other: (ways: Ways) => string | false;
  read: (text: string) => number | null;
  write: (stored: number) => string;
}

const figureOf = (words: string) => words.slice(0, words.lastIndexOf(" "));
const plain = (text: string) => typedNumber(text);
const by = (factor: number, chosen: () => boolean) => (text: string) => {
  const value = plain(text);
  return value === null || !chosen() ? value : value * factor;
};
const MEASURES: Record<string, Measure> = {
  g: { other: (ways) => ways.mass === "oz" && "oz", read: typedMass, write: (g) => figureOf(massWords(g)) },
  "°C": {
    other: (ways) => ways.temperature === "F" && "°F",
    read: typedTemperature,
    write: (c) => figureOf(temperatureWords(c)),
  },
  cm: {
    other: (ways) => ways.length === "in" && "in",
    read: by(CM_PER_INCH, () => waysNow().length === "in"),
    write: (cm) => figureOf(lengthWords(cm)),
  },
  lx: {
    other: (ways) => ways.light === "fc" && "fc",
    read: by(LX_PER_FC, () => waysNow().light === "fc"),
    write: (lx) => String(Number((lx / LX_PER_FC).toFixed(1))),
  },
  mL: { other: (ways) => ways.volume === "us" && "cups", read: typedVolume, write: volumeTyped },
};

/** How the quantity of a label that ends with its stored unit is typed ("In hand, g", "Heat, °C; empty: cold"); without such a unit it is a plain number. */
export function fieldUnit(label: string): FieldUnit {
  const [, name = "", unit = "", rest = ""] = /^(.*, |)(g|°C|cm|lx|mL)(;.*|)$/.exec(label) ?? [];
  const measure = MEASURES[unit];
  const other = measure?.other(waysNow());
  const read = measure?.read ?? plain;
  return {
    label: other ? `${name}${other}${rest}` : label,
    stored: (text) => (text.trim() === "" ? null : (read(text) ?? NaN)),
    typed: (stored) => (other && measure ? measure.write(stored) : String(stored)),
  };
}
