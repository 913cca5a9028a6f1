import type { Vessel } from "../api/client";

/** Kinds of bath in the order of the work, and each kind in the order in which it is run. */
export function inRunOrder(vessels: readonly Vessel[]): Vessel[] {
  const kinds = [...new Set(vessels.map((vessel) => vessel.bath))];
  return [...vessels].sort((a, b) => kinds.indexOf(a.bath) - kinds.indexOf(b.bath) || a.run_order - b.run_order);
}
