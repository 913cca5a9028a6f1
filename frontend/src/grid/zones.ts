import type { StudyView } from "../api/client";
import { swatchesOf } from "./cells";

/** Parts of the mark of one source. */
const PARTS = ["petal", "centre", "leaf", "halo"];

/** The zones that the plan has on a swatch, or the places of a larger piece, by name. */
export function zonesOn(study: StudyView, code: string): string[] {
  const larger = swatchesOf(study).get(code)?.larger;
  const places = study.plan.larger_pieces.find((piece) => piece.key === larger)?.places ?? [];
  const zones = study.grid.cells.flatMap((cell) => (cell.zone && cell.swatches.includes(code) ? [cell.zone] : []));
  return [...new Set([...zones, ...zones.flatMap((zone) => PARTS.map((part) => `${zone}, ${part}`)), ...places])];
}
