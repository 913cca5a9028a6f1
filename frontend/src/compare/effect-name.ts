import type { Schema } from "../api/client";

/** An effect by what it compares. */
export const effectName = (one: Schema["FactorEffect"]): string => `${one.factor}:${one.from}:${one.to}`;
