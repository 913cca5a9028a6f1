import { useCallback, useState } from "react";

import type { Span } from "./axes";
import { labelWidth } from "./grid-headers";

/** Widths of a cell in pixels, from a fleck of colour to a hand's breadth. */
export const SMALLEST = 14;
export const LARGEST = 300;
/** Below this a code cannot be read, and only the cloth is shown. */
const LEAST_WITH_CODE = 40;
const FITTED_LEAST = 48;
const KEPT = "cell-size";
const WIDEST_COLUMN = 220;
export const SCROLLBAR = 14;

export interface CellMeasures {
  width: number;
  height: number;
  chip: { width: number; height: number };
  /** Lines of words below the cloth: its code, then its colour, then its numbers. */
  lines: 0 | 1 | 2 | 3;
  gap: number;
}

const LINE_H = [0, 14, 17, 18] as const;

/** How high cloth is for its width: as it is cut, and the flattest that still looks like a piece. */
const SHAPES = [0.76, 0.64, 0.52] as const;
export type Shape = (typeof SHAPES)[number];

/** What a cell of some width holds: cloth first, words where there is room for them. */
export function measuresOf(width: number, shape: Shape = SHAPES[0]): CellMeasures {
  const lines = width < LEAST_WITH_CODE ? 0 : width < 96 ? 1 : width < 150 ? 2 : 3;
  const gap = width < LEAST_WITH_CODE ? 2 : width < 96 ? 10 : 16;
  const chipWidth = Math.max(8, Math.round(width - gap));
  const chipHeight = Math.max(8, Math.round(chipWidth * shape));
  const words = lines === 0 ? 0 : LINE_H[lines] * lines + 4;
  return {
    width,
    height: chipHeight + words + Math.max(2, gap - 2),
    chip: { width: chipWidth, height: chipHeight },
    lines,
    gap,
  };
}

interface Fitted {
  width: number;
  shape: Shape;
}

/** The widest cell with which a grid fits into a room both ways; where it never does, one whose code can be read. */
export function fittedCell(room: { width: number; height: number }, rows: number, columns: number): Fitted {
  for (let width = LARGEST; rows * columns > 0 && width > FITTED_LEAST; width -= 2)
    for (const shape of SHAPES)
      if (width * columns <= room.width && measuresOf(width, shape).height * rows <= room.height)
        return { width, shape };
  return { width: FITTED_LEAST, shape: SHAPES[0] };
}

/** The widest cell with which all of a grid is seen at once. */
export function wholeWidth(room: { width: number; height: number }, rows: number, columns: number): number {
  for (let width = LARGEST; width > SMALLEST; width -= 1)
    if (width * columns <= room.width && measuresOf(width).height * rows <= room.height) return width;
  return SMALLEST;
}

/** How wide a column is: as its longest header wants, where there is empty width for it. */
export function columnWidth(width: number, spans: readonly Span[][], columns: number, room: number): number {
  const wanted = Math.max(width, ...spans.flat().map((span) => labelWidth(span.label) / span.count));
  const free = columns > 0 ? Math.floor(room / columns) : width;
  return Math.round(Math.max(width, Math.min(wanted, free, Math.max(width, WIDEST_COLUMN))));
}

/** The widest cell with which so many fit into a room one after the other. */
export function flowWidth(room: { width: number; height: number }, count: number): number {
  for (let width = 220; width > 48; width -= 4)
    if (
      Math.ceil(count / Math.max(1, Math.floor((room.width - SCROLLBAR) / width))) * measuresOf(width).height <=
      room.height
    )
      return width;
  return 72;
}

export const bounded = (width: number): number => Math.round(Math.min(LARGEST, Math.max(SMALLEST, width)));

/** The slider runs by ratios, so that each step is seen alike. */
export const toSlider = (width: number): number => Math.log(width / SMALLEST) / Math.log(LARGEST / SMALLEST);
export const fromSlider = (share: number): number => bounded(SMALLEST * (LARGEST / SMALLEST) ** share);

/** The width that was chosen on this device; null: as wide as the room lets it be. */
export function useChosenWidth(): [number | null, (width: number | null) => void] {
  const [chosen, setChosen] = useState<number | null>(() => Number(localStorage.getItem(KEPT)) || null);
  const choose = useCallback((width: number | null) => {
    const kept = width === null ? null : bounded(width);
    setChosen(kept);
    if (kept === null) localStorage.removeItem(KEPT);
    else localStorage.setItem(KEPT, String(kept));
  }, []);
  return [chosen, choose];
}
