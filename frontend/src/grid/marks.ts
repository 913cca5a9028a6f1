import { useEffect, useLayoutEffect, useRef } from "react";
import type { RefObject } from "react";

import type { Selection, Spot } from "./selection";

type Element = RefObject<HTMLElement | null>;

/** Writes which cells in a frame are chosen, and where the keyboard is, for those who hear it: a drag over thousands of
 * cells draws none of them anew. */
export function useMarks(frame: Element, grid: Element, selection: Selection, idAt: (focus: Spot) => string): void {
  const spoken = useRef(idAt);
  useLayoutEffect(() => {
    spoken.current = idAt;
    // Cells that were drawn while something else was chosen, and places that moved.
    if (frame.current) markChosen(frame.current, selection.keys);
    if (grid.current) markFocus(grid.current, selection.focus, idAt);
  });
  useEffect(() => {
    let { keys, focus } = selection;
    return selection.subscribe(() => {
      if (frame.current && keys !== selection.keys) markChosen(frame.current, selection.keys);
      if (grid.current && focus !== selection.focus) markFocus(grid.current, selection.focus, spoken.current);
      ({ keys, focus } = selection);
    });
  }, [frame, grid, selection]);
}

function markChosen(frame: HTMLElement, keys: ReadonlySet<string>): void {
  for (const cell of frame.querySelectorAll<HTMLElement>("[data-cell]")) {
    const chosen = `${keys.has(cell.dataset["cell"] ?? "")}`;
    if (cell.getAttribute("aria-selected") !== chosen) cell.setAttribute("aria-selected", chosen);
  }
}

function markFocus(grid: HTMLElement, focus: Spot | null, idAt: (focus: Spot) => string): void {
  if (focus) grid.setAttribute("aria-activedescendant", idAt(focus));
  else grid.removeAttribute("aria-activedescendant");
}
