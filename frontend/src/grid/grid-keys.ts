import type { KeyboardEvent } from "react";

import type { Axes } from "./axes";
import type { Selection, Spot } from "./selection";

interface Reach {
  axes: Axes;
  selection: Selection;
  /** How many rows of headers stand over the columns, and how many columns of them before the rows. */
  depth: { rows: number; columns: number };
  rowsInSight: number;
  /** Chooses all cells under a header. */
  chooseHead: (spot: Spot) => void;
  open: (key: string) => void;
}

const ARROWS: Record<string, [number, number]> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
};

/** The keyboard on a grid as the ARIA authoring practices describe it; true where the key was taken. */
export function onGridKey(event: KeyboardEvent, reach: Reach): boolean {
  const { axes, selection, depth } = reach;
  const last: Spot = { row: axes.rows.length - 1, column: axes.columns.length - 1 };
  if (last.row < 0 || last.column < 0) return false;
  const command = event.ctrlKey || event.metaKey;
  if (command && event.key.toLowerCase() === "a") {
    selection.replace(axes.cells().map((cell) => cell.key));
    return true;
  }
  if (event.key === "Escape") {
    selection.clear();
    return true;
  }
  const at = selection.focus;
  if (at && (event.key === " " || event.key === "Enter")) {
    const key = selection.focusedKey();
    if (at.row < 0 || at.column < 0) reach.chooseHead(at);
    else if (key !== undefined && event.key === " ") selection.toggle(key);
    else if (key !== undefined) reach.open(key);
    return true;
  }
  const spot = nextSpot(event.key, command, at, last, reach.rowsInSight);
  if (!spot) return false;
  const within = {
    row: Math.min(last.row, Math.max(spot.column < 0 ? 0 : -depth.columns, spot.row)),
    column: Math.min(last.column, Math.max(spot.row < 0 ? 0 : -depth.rows, spot.column)),
  };
  selection.moveTo(within, event.shiftKey ? "extend" : command && event.key in ARROWS ? "stay" : "only");
  return true;
}

function nextSpot(key: string, command: boolean, at: Spot | null, last: Spot, page: number): Spot | null {
  if (!at) return key in ARROWS || key === "Home" ? { row: 0, column: 0 } : null;
  const arrow = ARROWS[key];
  if (arrow) return { row: at.row + arrow[0], column: at.column + arrow[1] };
  if (key === "Home") return { row: command ? 0 : at.row, column: 0 };
  if (key === "End") return { row: command ? last.row : at.row, column: last.column };
  if (key === "PageUp") return { row: Math.max(0, at.row - page), column: at.column };
  if (key === "PageDown") return { row: at.row + page, column: at.column };
  return null;
}
