import { useEffect, useLayoutEffect, useRef } from "react";
import type { RefObject } from "react";

import { bounded } from "./cell-size";
import type { Selection, Spot } from "./selection";

interface Laid {
  headWidth: number;
  headHeight: number;
  cellW: number;
  cellH: number;
}

/** Changes the size and leaves the cell under the pointer where it is. */
export function useSteadyResize(
  scroller: RefObject<HTMLElement | null>,
  laid: Laid,
  choose: (width: number) => void,
): (width: number, at: { x: number; y: number }) => void {
  const held = useRef<{ column: number; row: number; x: number; y: number } | null>(null);
  useLayoutEffect(() => {
    const [element, keep] = [scroller.current, held.current];
    if (!element || !keep) return;
    element.scrollTo(keep.column * laid.cellW - keep.x, keep.row * laid.cellH - keep.y);
    held.current = null;
  }, [scroller, laid.cellW, laid.cellH]);
  return (width: number, at: { x: number; y: number }) => {
    const element = scroller.current;
    if (!element) return;
    const [x, y] = [at.x - laid.headWidth, at.y - laid.headHeight];
    held.current = { column: (element.scrollLeft + x) / laid.cellW, row: (element.scrollTop + y) / laid.cellH, x, y };
    choose(bounded(width));
  };
}

/** Scrolls just so far that the keyboard's place is seen. */
export function useFocusInSight(scroller: RefObject<HTMLElement | null>, selection: Selection, laid: Laid): void {
  const now = useRef(laid);
  useEffect(() => {
    now.current = laid;
  });
  // Only where it moves: not when cells change their size under it.
  useEffect(() => {
    let seen = selection.focus;
    return selection.subscribe(() => {
      if (seen === selection.focus) return;
      seen = selection.focus;
      if (seen && scroller.current) bringInSight(scroller.current, seen, now.current);
    });
  }, [scroller, selection]);
}

function bringInSight(element: HTMLElement, focus: Spot, { headWidth, headHeight, cellW, cellH }: Laid): void {
  const keep = (start: number, size: number, from: number, room: number) =>
    Math.max(Math.min(from, start), start + size - room);
  element.scrollTo(
    focus.column >= 0
      ? keep(focus.column * cellW, cellW, element.scrollLeft, element.clientWidth - headWidth)
      : element.scrollLeft,
    focus.row >= 0
      ? keep(focus.row * cellH, cellH, element.scrollTop, element.clientHeight - headHeight)
      : element.scrollTop,
  );
}
