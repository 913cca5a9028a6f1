import type { StudyView } from "../api/client";

/** The zones that the plan has on a swatch, by name. */
export const zonesOn = (study: StudyView, code: string): string[] => [
  ...new Set(study.grid.cells.flatMap((cell) => (cell.zone && cell.swatches.includes(code) ? [cell.zone] : []))),
];
