import { useCallback, useEffect, useState } from "react";

import type { Schema } from "../api/client";
import { keep, keptOver } from "../shell/kept";
import { useKeptTables } from "./compare-queries";
import { useComparePart } from "./compare-parts";

export type LaidTable = Schema["LaidTable"];
export type Ground = LaidTable["ground"];

const EMPTY: LaidTable = { name: "Side by side", keys: [], ground: "grey", pairs: false, undyed: false };
const STORED = "laid-table";
const MOST = 60;

export interface TableState {
  table: LaidTable;
  /** The number under which it is kept; none: it is not. */
  kept: number | null;
  /** Whether it differs from what is kept. */
  changed: boolean;
  set: (change: Partial<LaidTable>) => void;
  add: (keys: readonly string[]) => void;
  remove: (key: string) => void;
  move: (key: string, by: number) => void;
  moveTo: (key: string, place: number) => void;
  openKept: (id: number | null) => void;
}

const stored = (): LaidTable => keptOver(EMPTY, sessionStorage, STORED);

/** What lies on the table; it stays when the lens or the study changes, and until the window is closed. */
export function useTable(study: number): TableState {
  const { part, rest, open } = useComparePart(study);
  const kept = part === "table" && /^\d+$/.test(rest) ? Number(rest) : null;
  const tables = useKeptTables().data;
  const there = tables?.find((one) => one.id === kept)?.table;
  const [table, setTable] = useState<LaidTable>(stored);
  const [loaded, setLoaded] = useState<number | null>(null);
  if (kept !== null && there && loaded !== kept) {
    setLoaded(kept);
    setTable(there);
  }
  if (kept === null && loaded !== null) setLoaded(null);
  useEffect(() => keep(sessionStorage, STORED, table), [table]);
  const change = useCallback(
    (keys: (before: readonly string[]) => string[]) =>
      setTable((old) => ({ ...old, keys: keys(old.keys).slice(0, MOST) })),
    [],
  );
  const moveTo = (key: string, place: number) =>
    change((before) => {
      const rest = before.filter((one) => one !== key);
      rest.splice(Math.max(0, Math.min(place, rest.length)), 0, key);
      return rest;
    });
  return {
    table,
    kept,
    changed: there === undefined || JSON.stringify(there) !== JSON.stringify(table),
    set: (more) => setTable((old) => ({ ...old, ...more })),
    add: (keys) => change((before) => [...before, ...keys.filter((key) => !before.includes(key))]),
    remove: (key) => change((before) => before.filter((one) => one !== key)),
    move: (key, by) => moveTo(key, table.keys.indexOf(key) + by),
    moveTo,
    openKept: (id) => {
      if (id === null) setTable(EMPTY);
      open("table", id === null ? "" : String(id));
    },
  };
}
