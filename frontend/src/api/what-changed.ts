import type { QueryClient, QueryKey } from "@tanstack/react-query";

/** What a change touched. A study: its plan, record, readings or trials. `studies`: one came or went. */
export type Changed = { study: number } | "studies" | "shelf" | "tables" | "access" | "safekeeping" | "everything";

/** Photos of a study read cloths and charts of the Shelf too. */
const OF_STUDIES = [
  "studies",
  "today",
  "bench-now",
  "coloured-cloths",
  "cloth",
  "chart-watch",
  "find",
  "recipe",
  "photo",
  "eye",
];
const OF_SHELF = ["shelf", "chart", "questions", "study", ...OF_STUDIES];

/** Whether what a query shows is worked out from what changed. */
export function isTouched(key: QueryKey, changed: Changed): boolean {
  const head = String(key[0]);
  if (changed === "everything") return true;
  if (changed === "shelf") return OF_SHELF.includes(head);
  if (changed === "studies") return OF_STUDIES.includes(head) || head === "packages";
  if (typeof changed === "string") return head === changed;
  if (head === "study") return key[1] === changed.study || key.includes("beside");
  return OF_STUDIES.includes(head) || (head === "tables" && key[1] === "look");
}

/** Asks anew for what is on the screen and was touched; anything else is asked for when it is looked at next. What is `known` came with the change. */
export async function askAnew(
  queries: QueryClient,
  changes: readonly Changed[],
  known: readonly QueryKey[] = [],
): Promise<void> {
  const names = known.map((key) => JSON.stringify(key));
  const isAsked = (key: QueryKey) => !names.includes(JSON.stringify(key));
  const isTold = ({ queryKey }: { queryKey: QueryKey }) =>
    isAsked(queryKey) && changes.some((changed) => isTouched(queryKey, changed));
  // What is on its way for the first time may have been worked out before the change; it is not asked for twice at once.
  const early = queries
    .getQueryCache()
    .findAll({ predicate: isTold, fetchStatus: "fetching" })
    .filter(({ state }) => state.data === undefined);
  await queries.invalidateQueries({ refetchType: "none", predicate: ({ queryKey }) => isAsked(queryKey) });
  await queries.invalidateQueries({ predicate: isTold });
  if (early.length > 0) await queries.refetchQueries({ predicate: (query) => early.includes(query) });
}
