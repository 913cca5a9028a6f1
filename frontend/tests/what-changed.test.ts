import { QueryClient, QueryObserver } from "@tanstack/react-query";
import { expect, it } from "vitest";

import { askAnew, isTouched } from "../src/api/what-changed";
import type { Changed } from "../src/api/what-changed";

const KEYS = [
  ["study", 1, "dye"],
  ["study", 2, "dye"],
  ["study", 2, "compare", "beside", 1],
  ["today"],
  ["shelf"],
  ["tables"],
  ["tables", "look", []],
  ["questions"],
  ["access"],
];
const touched = (changed: Changed) => KEYS.filter((key) => isTouched(key, changed)).map((key) => key.join(" "));

it("asks anew for a study that changed and for what tells of all studies, not for other studies", () => {
  expect(touched({ study: 1 })).toEqual(["study 1 dye", "study 2 compare beside 1", "today", "tables look "]);
});

it("asks anew for all that stands on the Shelf when the Shelf changes", () => {
  expect(touched("shelf")).toEqual([
    "study 1 dye",
    "study 2 dye",
    "study 2 compare beside 1",
    "today",
    "shelf",
    "questions",
  ]);
});

it("leaves every study alone when tables, the door or the list changes", () => {
  expect(touched("tables")).toEqual(["tables", "tables look "]);
  expect(touched("access")).toEqual(["access"]);
  expect(touched("studies")).toEqual(["today"]);
  expect(touched("everything")).toHaveLength(KEYS.length);
});

it("marks the rest as old, so that it is asked for when it is looked at next; what came with the change is new", async () => {
  const queries = new QueryClient();
  for (const key of KEYS) queries.setQueryData(key, "kept");
  await askAnew(queries, [{ study: 1 }], [["study", 1, "dye"]]);
  const old = KEYS.filter((key) => queries.getQueryState(key)?.isInvalidated).map((key) => key.join(" "));
  expect(old).toHaveLength(KEYS.length - 1);
  expect(old).not.toContain("study 1 dye");
});

it("asks again for what was on its way for the first time, as it may be older than the change", async () => {
  const queries = new QueryClient();
  let there = 0;
  let answer: ((count: number) => void) | undefined;
  const sheets = {
    queryKey: ["study", 1, "sheets"],
    queryFn: () => (answer ? there : new Promise<number>((resolve) => (answer = resolve))),
  };
  const stop = new QueryObserver(queries, sheets).subscribe(() => undefined);
  there = 1;
  const asked = askAnew(queries, [{ study: 1 }]);
  await Promise.resolve();
  answer?.(0);
  await asked;
  expect(queries.getQueryData(sheets.queryKey)).toBe(1);
  stop();
});
