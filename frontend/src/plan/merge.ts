/** Puts one change, made from `base`, onto a version that has become another meanwhile. */

type Json = unknown;
const alike = (one: Json, other: Json) => JSON.stringify(one) === JSON.stringify(other);
const isObject = (value: Json): value is Record<string, Json> =>
  typeof value === "object" && value !== null && !Array.isArray(value);

/** What names an element of a list: its key or kind, or all of it. */
function nameOf(element: Json): string {
  if (isObject(element)) {
    const name = element["key"] ?? element["kind"];
    if (typeof name === "string") return name;
  }
  return JSON.stringify(element);
}

/** What the change did stands; all that it did not touch is as in `newest`. */
export function merged<T>(base: T, mine: T, newest: T): T {
  if (alike(mine, base)) return newest;
  if (alike(newest, base) || alike(newest, mine)) return mine;
  if (Array.isArray(base) && Array.isArray(mine) && Array.isArray(newest)) return mergedLists(base, mine, newest) as T;
  if (isObject(base) && isObject(mine) && isObject(newest)) {
    const keys = new Set([...Object.keys(newest), ...Object.keys(mine)]);
    return Object.fromEntries([...keys].map((key) => [key, merged(base[key], mine[key], newest[key])])) as T;
  }
  return mine;
}

function mergedLists(base: Json[], mine: Json[], newest: Json[]): Json[] {
  const before = new Map(base.map((one) => [nameOf(one), one]));
  const wanted = new Map(mine.map((one) => [nameOf(one), one]));
  const there = new Map(newest.map((one) => [nameOf(one), one]));
  const sameElements = alike([...before.keys()].sort(), [...wanted.keys()].sort());
  // Only put in another order: that order counts, for what is still there.
  const kept = sameElements
    ? [...wanted.keys()].filter((name) => there.has(name))
    : [...there.keys()].filter((name) => wanted.has(name) || !before.has(name));
  const names = new Set([...kept, ...[...there.keys()].filter((name) => !before.has(name))]);
  for (const name of wanted.keys()) if (!before.has(name)) names.add(name);
  return [...names].map((name) => {
    if (!there.has(name)) return wanted.get(name);
    if (!wanted.has(name)) return there.get(name);
    return merged(before.get(name), wanted.get(name), there.get(name));
  });
}
