import { startTransition, useCallback, useEffect, useMemo, useState, useSyncExternalStore } from "react";

import type { GridCell, StudyView } from "../api/client";
import type { Axes } from "./axes";

/** A place of the grid by row and column; below zero are the headers, innermost at -1. */
export interface Spot {
  row: number;
  column: number;
}

/** Which cells are chosen and where the keyboard is. Cells listen for themselves, so that choosing draws only what changes. */
export class Selection {
  keys: ReadonlySet<string> = new Set();
  focus: Spot | null = null;
  /** A tap adds to what is chosen, or takes it out. */
  choosing = false;
  private anchor: string | null = null;
  private axes: Axes | null = null;
  private readonly listeners = new Set<() => void>();

  readonly subscribe = (changed: () => void): (() => void) => {
    this.listeners.add(changed);
    return () => this.listeners.delete(changed);
  };

  /** How the cells lie now; what is chosen stays. */
  lay(axes: Axes): void {
    if (this.axes === axes) return;
    const at = this.focusedKey();
    this.axes = axes;
    const place = at === undefined ? undefined : axes.placeOf.get(at);
    this.focus = place ? { row: place[0], column: place[1] } : null;
    this.said();
  }

  only(key: string): void {
    this.keys = new Set([key]);
    this.goTo(key);
  }

  toggle(key: string): void {
    const next = new Set(this.keys);
    if (!next.delete(key)) next.add(key);
    this.keys = next;
    this.goTo(key);
  }

  extendTo(key: string): void {
    const from = this.anchor === null ? undefined : this.axes?.placeOf.get(this.anchor);
    const to = this.axes?.placeOf.get(key);
    if (from && to) this.keys = new Set(this.block(from, to));
    else this.keys = new Set([...this.keys, key]);
    if (to) this.focus = { row: to[0], column: to[1] };
    this.said();
  }

  replace(keys: readonly string[]): void {
    this.keys = new Set(keys);
    this.goTo(keys[0] ?? null);
  }

  clear(): void {
    this.keys = new Set();
    this.choosing = false;
    this.said();
  }

  setChoosing(choosing: boolean): void {
    this.choosing = choosing;
    this.said();
  }

  /** Moves the keyboard's place, to the headers too; `how`: what becomes of the selection. */
  moveTo(spot: Spot, how: "only" | "extend" | "stay"): void {
    if (!this.axes) return;
    const key = spot.row >= 0 && spot.column >= 0 ? this.axes.cellAt(spot.row, spot.column)?.key : undefined;
    if (key !== undefined && how === "extend") this.extendTo(key);
    else if (key !== undefined && how === "only") this.only(key);
    else {
      this.focus = spot;
      this.said();
    }
  }

  isAt(row: number, column: number): boolean {
    return this.focus?.row === row && this.focus.column === column;
  }

  focusedKey(): string | undefined {
    if (!this.focus || this.focus.row < 0 || this.focus.column < 0) return undefined;
    return this.axes?.cellAt(this.focus.row, this.focus.column)?.key;
  }

  private block(from: [number, number], to: [number, number]): string[] {
    const found: string[] = [];
    for (let r = Math.min(from[0], to[0]); r <= Math.max(from[0], to[0]); r++)
      for (let c = Math.min(from[1], to[1]); c <= Math.max(from[1], to[1]); c++) {
        const cell = this.axes?.cellAt(r, c);
        if (cell) found.push(cell.key);
      }
    return found;
  }

  private goTo(key: string | null): void {
    this.anchor = key;
    const place = key === null ? undefined : this.axes?.placeOf.get(key);
    if (place) this.focus = { row: place[0], column: place[1] };
    this.said();
  }

  private said(): void {
    this.listeners.forEach((changed) => changed());
  }
}

export function useSelection(): Selection {
  const [selection] = useState(() => new Selection());
  return selection;
}

/** All chosen keys, a moment later than the cells show them: panels are large, and a drag must not wait for them. */
export function useChosenKeys(selection: Selection): ReadonlySet<string> {
  const [keys, setKeys] = useState(selection.keys);
  useEffect(() => selection.subscribe(() => startTransition(() => setKeys(selection.keys))), [selection]);
  return keys;
}

/** The chosen cells, in the order of the grid. */
export function useChosenCells(study: StudyView, selection: Selection): GridCell[] {
  const keys = useChosenKeys(selection);
  return useMemo(() => study.grid.cells.filter((cell) => keys.has(cell.key)), [study.grid.cells, keys]);
}

export function useIsAt(selection: Selection, row: number, column: number): boolean {
  return useSyncExternalStore(
    selection.subscribe,
    useCallback(() => selection.isAt(row, column), [selection, row, column]),
  );
}

export function useChoosing(selection: Selection): boolean {
  return useSyncExternalStore(selection.subscribe, () => selection.choosing);
}
