import { FACTOR_NAMES } from "../grid/axes";
import type { FactorKind } from "../api/client";

type Words = Record<string, string>;

export const factorWords = (words: Words, factor: string): string => words[factor] ?? (FACTOR_NAMES as Record<string, string>)[factor as FactorKind] ?? factor;

export const levelWords = (words: Words, factor: string, level: string): string => words[`${factor}=${level}`] ?? (level || "not set");

export const range = (low: number, high: number, digits = 1): string => `${low.toFixed(digits).replace("-", "−")} to ${high.toFixed(digits).replace("-", "−")}`;

export const pWords = (p: number | null | undefined): string => (p == null ? "–" : p < 0.001 ? "< 0.001" : p.toFixed(3));
export const rangeWords = (effect: { de00: number; low_de00: number; high_de00: number }): string => `${effect.de00.toFixed(1)} (${range(effect.low_de00, effect.high_de00)})`;
