import { memo } from "react";

import type { GridCell as Cell, StudyView } from "../api/client";
import { inMyUnits } from "../settings/quantities";
import { cellWords, isElsewhere, isOpen, oddWords, swatchesOf } from "./cells";
import type { CellMeasures } from "./cell-size";
import { Chip } from "./chip";
import { spotId } from "./spot-id";
import type { Selection } from "./selection";

/** What a lens shows in a cell. */
export interface Face {
  fills: readonly string[];
  caption: string;
  words: string;
  /** The readings whose photos show the cloth of each colour. */
  pictures?: readonly (number | undefined)[];
  /** What else is written below the cloth where there is room. */
  more?: readonly string[];
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
    top: 0,
    height: "100%",
    display: "flex",
    flexDirection: "column",
    alignItems: "center",
    justifyContent: "center",
    gap: "3px",
    fontSize: 11,
    lineHeight: "14px",
    textAlign: "center",
    outlineOffset: -4,
    cursor: "default",
    contain: "layout style",
  },
  // A clip for each of thousands of cells would be laid anew in every frame, and searched at every move of the pointer.
  "& .cell svg": { flex: "none", overflow: "visible", pointerEvents: "none" },
  "& .cell.roomy": { fontSize: 13, lineHeight: "17px" },
  "& .cell .code": { whiteSpace: "nowrap" },
  "& .ring": {
    display: "inline-block",
    width: "0.62em",
    height: "0.62em",
    mr: "2px",
    border: "1.5px solid",
    borderRadius: "50%",
  },
  "& .cell.roomy .code": { fontWeight: 700 },
  "& .cell .more": {
    maxWidth: "100%",
    px: "4px",
    fontSize: 12,
    color: "text.secondary",
    overflow: "hidden",
    textOverflow: "ellipsis",
    whiteSpace: "nowrap",
  },
  // Words stay as dark as they are: pale ones could not be read.
  "& .cell.faint svg": { opacity: 0.45 },
  "& .cell.unfound svg": { opacity: 0.16 },
  "& .cell.unfound span": { visibility: "hidden" },
} as const;

/** Fading is seen as it goes on from stage to stage, unless the person wants nothing to move. */
export const GRADUAL = {
  "@media (prefers-reduced-motion: no-preference)": { "& .cell svg *": { transition: "fill 420ms linear" } },
} as const;

interface GridCellProps {
  study: StudyView;
  cell: Cell;
  face: Face;
  selection: Selection;
  row: number;
  column: number;
  left: number;
  measures: CellMeasures;
  width: number;
  /** What is looked for is not here. */
  unfound: boolean;
}

const asWords = (text: string): string => ` ${text.replace(/[,;:]/g, " ").replace(/\s+/g, " ").trim()} `;

function DrawnCell({ study, cell, face, selection, row, column, left, measures, width, unfound }: GridCellProps) {
  const control = cell.control && !cell.added ? " (control)" : "";
  const there = cell.included || cell.swatches.length > 0;
  const open = isOpen(study, cell);
  const shown = (there && !open) || (face.ghost ?? false) || (face.filler ?? false);
  const instead = open ? "open" : "–";
  const said = [shown ? face.words : open ? "stands open" : "left out", ...oddWords(study, cell)].join("; ");
  const words = inMyUnits(`${cellWords(study, cell)}${control}: ${said}`);
  const more = shown ? (face.more ?? []).slice(0, Math.max(0, measures.lines - 1)).map(inMyUnits) : [];
  const marks = marksOf(study, cell);
  const seen = [`${shown ? face.caption : instead}${marks}`, ...more].join(" ");
  // What is seen is said, as it stands: who speaks to a screen says what is read on it.
  const label = measures.lines === 0 || !shown || asWords(words).includes(asWords(seen)) ? words : `${seen}. ${words}`;
  const looks = [face.faint && "faint", unfound && "unfound", measures.lines > 1 && "roomy"];
  return (
    <div
      role="gridcell"
      id={spotId(row, column)}
      aria-colindex={column + 1}
      aria-label={label}
      // What follows the pointer is written by `useMarks`; this is how it stands when the cell is drawn.
      aria-selected={selection.keys.has(cell.key)}
      title={words}
      data-cell={cell.key}
      className={`cell ${looks.filter(Boolean).join(" ")}`}
      style={{ left, width }}>
      <Chip
        fills={shown ? face.fills : []}
        pictures={face.pictures}
        leftOut={!shown}
        ghost={face.ghost ?? false}
        width={measures.chip.width}
        height={measures.chip.height}
      />
      {measures.lines > 0 && (
        <span className="code">
          {cell.control && there && <i className="ring" />}
          {shown ? face.caption : instead}
          {marks && <strong>{marks}</strong>}{" "}
        </span>
      )}
      {more.map((line) => (
        <span key={line} className="more">
          {line}{" "}
        </span>
      ))}
    </div>
  );
}

const sameList = (one: readonly unknown[] = [], other: readonly unknown[] = []) =>
  one.length === other.length && one.every((value, i) => value === other[i]);

/** Drawn again only when what it shows has changed. */
export const GridCell = memo(DrawnCell, (before, now) => {
  const { face: one, ...rest } = before;
  const { face: other, ...others } = now;
  return (
    Object.entries(rest).every(([key, value]) => others[key as keyof typeof others] === value) &&
    one.words === other.words &&
    one.caption === other.caption &&
    one.faint === other.faint &&
    one.ghost === other.ghost &&
    one.filler === other.filler &&
    sameList(one.fills, other.fills) &&
    sameList(one.pictures, other.pictures) &&
    sameList(one.more, other.more)
  );
});

/** ◂ has come from another place, ▸ has gone to one, × is no longer planned. */
function marksOf(study: StudyView, cell: Cell): string {
  const came = cell.swatches.some((code) => isElsewhere(study, code));
  const gone = cell.swatches.some((code) => swatchesOf(study).get(code)?.planned === false);
  return [came && " ◂", cell.meant.length > 0 && " ▸", gone && " ×"].filter(Boolean).join("");
}
