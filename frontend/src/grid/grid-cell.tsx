import { memo } from "react";

import type { GridCell as Cell, StudyView } from "../api/client";
import { cellWords, isElsewhere, oddWords, swatchesOf } from "./cells";
import { Chip } from "./chip";

export const CELL_H = 54;

/** What a lens shows in a cell. */
export interface Face {
  fills: readonly string[];
  caption: string;
  words: string;
  faint?: boolean;
  /** Foretold, not read. */
  ghost?: boolean;
  /** Shown although the plan leaves it out: a swatch of another study stands for it. */
  filler?: boolean;
}

/** How all cells look, for the element around them: a style for each would cost more than the cell. */
export const CELL_LOOK = {
  "& .cell": {
    position: "absolute",
    height: CELL_H,
    display: "flex",
    flexDirection: "column",
    alignItems: "center",
    justifyContent: "center",
    gap: "2px",
    fontSize: 11,
    lineHeight: 1,
    outlineOffset: -4,
    cursor: "default",
    contain: "layout style",
  },
  "& .cell.faint": { opacity: 0.45 },
  "& .cell.selected": { boxShadow: "inset 0 0 0 2px currentColor" },
  "& .cell.focused": { outline: "1px dotted" },
} as const;

interface GridCellProps {
  study: StudyView;
  cell: Cell;
  face: Face;
  left: number;
  top: number;
  width: number;
  selected: boolean;
  focused: boolean;
}

function DrawnCell({ study, cell, face, left, top, width, selected, focused }: GridCellProps) {
  const control = cell.control && !cell.added ? " (control)" : "";
  const there = cell.included || cell.swatches.length > 0;
  const shown = there || (face.ghost ?? false) || (face.filler ?? false);
  const said = [shown ? face.words : "left out", ...oddWords(study, cell)].join("; ");
  const words = `${cellWords(study, cell)}${control}: ${said}`;
  return (
    <div
      role="gridcell"
      aria-label={words}
      aria-selected={selected}
      title={words}
      data-cell={cell.key}
      className={`cell ${face.faint ? "faint" : ""} ${selected ? "selected" : ""} ${focused ? "focused" : ""}`}
      style={{ left, top, width }}
    >
      <Chip fills={shown ? face.fills : []} leftOut={!shown} ghost={face.ghost ?? false} />
      <span>
        {cell.control && there ? "○" : ""}
        {shown ? face.caption : "–"}
        <Marks study={study} cell={cell} />
      </span>
    </div>
  );
}

/** Drawn again only when what it shows has changed. */
export const GridCell = memo(DrawnCell, (before, now) => {
  const { face: one, ...rest } = before;
  const { face: other, ...others } = now;
  const same = Object.entries(rest).every(([key, value]) => others[key as keyof typeof others] === value);
  return (
    same &&
    one.words === other.words &&
    one.caption === other.caption &&
    one.faint === other.faint &&
    one.ghost === other.ghost &&
    one.filler === other.filler &&
    one.fills.length === other.fills.length &&
    one.fills.every((fill, i) => fill === other.fills[i])
  );
});

/** ◂ has come from another place, ▸ has gone to one, × is no longer planned. */
function Marks({ study, cell }: { study: StudyView; cell: Cell }) {
  const came = cell.swatches.some((code) => isElsewhere(study, code));
  const gone = cell.swatches.some((code) => swatchesOf(study).get(code)?.planned === false);
  if (!came && !gone && cell.meant.length === 0) return null;
  return (
    <strong>
      {came && " ◂"}
      {cell.meant.length > 0 && " ▸"}
      {gone && " ×"}
    </strong>
  );
}
