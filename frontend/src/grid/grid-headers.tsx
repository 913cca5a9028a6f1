import { inMyUnits } from "../settings/quantities";
import type { CSSProperties } from "react";

import type { Span } from "./axes";
import { spotId } from "./spot-id";
import { useIsAt } from "./selection";
import type { Selection } from "./selection";

const LETTER_W = 6.9;
const SMALL_LETTER_W = 5.6;
const LEVEL_H = 24;
const HIGHEST = 124;
const LEAST_HEAD_W = 44;

/** About as wide as a name is written; the innermost headers are in smaller letters. */
export const labelWidth = (label: string, innermost = false): number =>
  innermost ? label.length * SMALL_LETTER_W + 6 : label.length * LETTER_W + 12;

/** How high each depth of column headers is, and whether it is written upright: where its words are wider than their columns. */
export function columnHeads(spans: readonly Span[][], cellW: number): { height: number; upright: boolean }[] {
  return spans.map((own, d) => {
    const inner = d === spans.length - 1;
    const upright = own.some((span) => labelWidth(span.label, inner) > span.count * cellW + 4);
    const longest = Math.max(...own.map((span) => labelWidth(span.label, inner)));
    return { upright, height: upright ? Math.min(HIGHEST, longest + 4) : LEVEL_H };
  });
}

/** How wide each depth of row headers is: its longest words, broken where the rows are high enough. */
export function rowHeads(spans: readonly Span[][], cellH: number, most: number): number[] {
  return spans.map((own) => {
    const wanted = own.map((span) => {
      const lines = Math.max(1, Math.min(3, Math.floor((span.count * cellH) / 16)));
      const longestWord = Math.max(...span.label.split(" ").map((word) => labelWidth(word)));
      return Math.max(longestWord, lines > 1 ? (labelWidth(span.label) / lines) * 1.25 : labelWidth(span.label));
    });
    return Math.round(Math.min(most, Math.max(LEAST_HEAD_W, ...wanted)));
  });
}

export const HEAD_LOOK = {
  "& .span": {
    position: "absolute",
    display: "flex",
    alignItems: "center",
    justifyContent: "center",
    fontSize: 13,
    fontWeight: 700,
    color: "text.primary",
    bgcolor: "background.default",
    borderRight: 1,
    borderBottom: 1,
    borderColor: "divider",
    overflow: "clip",
    textAlign: "center",
    lineHeight: 1.15,
    cursor: "pointer",
    whiteSpace: "nowrap",
    "&:hover span": { textDecoration: "underline" },
  },
  "& .span span": { position: "sticky", px: "4px" },
  "& .span.upright span": { writingMode: "vertical-rl", transform: "rotate(180deg)", px: 0, py: "4px" },
  "& .span.by-row": {
    justifyContent: "flex-start",
    alignItems: "flex-start",
    textAlign: "left",
    whiteSpace: "normal",
    pointerEvents: "auto",
  },
  "& .span.by-row.last": { alignItems: "center" },
  "& .span.by-row.flat span": { fontSize: 9, whiteSpace: "nowrap" },
  "& .span.last": { fontSize: 11, fontWeight: 400 },
  "& .span.last.by-row": { fontSize: 12 },
  "& .span.unplanned": { fontStyle: "italic" },
  "& .span.focused": { outline: "2px solid", outlineOffset: -3 },
} as const;

interface HeadProps {
  span: Span;
  selection: Selection;
  row: number;
  column: number;
  byRow: boolean;
  innermost: boolean;
  upright?: boolean;
  style: CSSProperties;
  /** Where the words stay in sight while their rows or columns are scrolled away. */
  stays: CSSProperties;
}

/** The name of a level over the cells that have it; choosing it chooses them. */
export function Head({ span, selection, row, column, byRow, innermost, upright = false, style, stays }: HeadProps) {
  const focused = useIsAt(selection, row, column);
  const flat = byRow && Number(style.height) < 22;
  const looks = [
    byRow && "by-row",
    innermost && "last",
    span.unplanned && "unplanned",
    upright && "upright",
    focused && "focused",
    flat && "flat",
  ];
  return (
    <div
      role={byRow ? "rowheader" : "columnheader"}
      id={spotId(row, column)}
      aria-colspan={byRow ? undefined : span.count}
      aria-rowspan={byRow ? span.count : undefined}
      title={inMyUnits(span.unplanned ? `${span.label}, no longer planned` : span.label)}
      data-span={`${byRow ? "row" : "column"} ${span.from} ${span.count}`}
      className={`span ${looks.filter(Boolean).join(" ")}`}
      style={style}>
      <span style={stays}>{inMyUnits(span.unplanned ? `(${span.label})` : span.label)}</span>
    </div>
  );
}
