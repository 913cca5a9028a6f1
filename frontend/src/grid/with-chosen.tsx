import type { ReactNode } from "react";

import type { GridCell, StudyView } from "../api/client";
import { useChosenCells } from "./selection";
import type { Selection } from "./selection";

interface WithChosenProps {
  study: StudyView;
  selection: Selection;
  children: (chosen: readonly GridCell[]) => ReactNode;
}

/** What shows the chosen cells: it alone is drawn again when others are chosen, not the grid. */
export function WithChosen({ study, selection, children }: WithChosenProps) {
  return children(useChosenCells(study, selection));
}
