import { FACTOR_NAMES } from "../grid/axes";
import { hasKey } from "../shell/keys";

type Words = Record<string, string>;

export const factorWords = (words: Words, factor: string): string =>
  words[factor] ?? (hasKey(FACTOR_NAMES, factor) ? FACTOR_NAMES[factor] : factor);

export const levelWords = (words: Words, factor: string, level: string): string =>
  words[`${factor}=${level}`] ?? (level || "not set");

export const range = (low: number, high: number, digits = 1): string =>
  `${low.toFixed(digits).replace("-", "−")} to ${high.toFixed(digits).replace("-", "−")}`;

export const pWords = (p: number | null | undefined): string =>
  p == null ? "–" : p < 0.001 ? "< 0.001" : p.toFixed(3);
export const rangeWords = (effect: { de00: number; low_de00: number; high_de00: number }): string =>
  `${effect.de00.toFixed(1)} (${range(effect.low_de00, effect.high_de00)})`;
