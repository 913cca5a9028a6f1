import { KINDS } from "./kinds";
import type { ShelfKind } from "./kinds";

/** What is known of a thing, by the names of its fields. */
export type Facts = Record<string, unknown>;

/** A new thing with its usual values. */
export function startOf(kind: ShelfKind): Facts {
  const facts: Facts = { name: "", note: "", source: "added here" };
  for (const field of KINDS[kind].fields) if (field.start !== undefined) facts[field.name] = field.start;
  if (kind === "mordant_route") facts["baths"] = [];
  return facts;
}
