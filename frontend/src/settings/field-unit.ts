import { CM_PER_INCH, LX_PER_FC, lengthWords, massWords, temperatureWords, typedMass, typedNumber, typedTemperature } from "./quantities";
import { waysNow } from "./ways";

/** How a quantity is typed in a field: its label with the chosen unit, and the way there and back. */
export interface FieldUnit {
  label: string;
  /** What is typed, in the unit that is stored; null where it is no such quantity. */
  stored: (text: string) => number | null;
  /** What is stored, as it is typed. */
  typed: (stored: number) => string;
}

const figureOf = (words: string) => words.slice(0, words.lastIndexOf(" "));
const sound = (value: number | null) => (value === null || Number.isNaN(value) ? null : value);
const scaled = (text: string, by: number) => sound((typedNumber(text) ?? NaN) * by);

/** The chosen unit for a field whose label ends with the stored one ("In hand, g"); none: it is typed as it is stored. */
export function fieldUnit(label: string): FieldUnit | null {
  const ways = waysNow();
  const [, name = "", unit = ""] = /^(.*, )(g|°C|cm|lx)$/.exec(label) ?? [];
  if (unit === "g" && ways.mass === "oz") return { label: `${name}oz`, stored: (text) => sound(typedMass(text)), typed: (g) => figureOf(massWords(g)) };
  if (unit === "°C" && ways.temperature === "F") return { label: `${name}°F`, stored: (text) => sound(typedTemperature(text)), typed: (c) => figureOf(temperatureWords(c)) };
  if (unit === "cm" && ways.length === "in") return { label: `${name}in`, stored: (text) => scaled(text, CM_PER_INCH), typed: (cm) => figureOf(lengthWords(cm)) };
  if (unit === "lx" && ways.light === "fc") return { label: `${name}fc`, stored: (text) => scaled(text, LX_PER_FC), typed: (lx) => String(Number((lx / LX_PER_FC).toFixed(1))) };
  return null;
}
