import type { GridCell, Schema, StudyView } from "../api/client";
import { keysOf, entriesOf } from "../shell/keys";
import { FACTOR_NAMES } from "./axes";
import { inMyUnits } from "../settings/quantities";

type Swatch = Schema["Swatch"];

const KINDS = keysOf(FACTOR_NAMES);
const known = new WeakMap<StudyView, Map<string, Swatch>>();
const cellsByCode = new WeakMap<StudyView, Map<string, GridCell>>();

/** Every swatch of a study by its code. */
export function swatchesOf(study: StudyView): Map<string, Swatch> {
  const there = known.get(study);
  if (there) return there;
  const every = [...study.guests.map((guest) => guest.swatch), ...study.swatches];
  const made = new Map(every.map((swatch) => [swatch.code, swatch]));
  known.set(study, made);
  return made;
}

export const tieOf = (study: StudyView, code: string): string => swatchesOf(study).get(code)?.tie ?? "";

/** The codes of all swatches that stand in some cells. */
export const codesIn = (cells: readonly GridCell[]): string[] => cells.flatMap((cell) => cell.swatches);

/** The cell in which a swatch stands. */
export function cellOf(study: StudyView, code: string): GridCell | undefined {
  let there = cellsByCode.get(study);
  if (!there) {
    // The first cell of a code counts, as zones of one cloth stand in several.
    there = new Map(study.grid.cells.flatMap((cell) => cell.swatches.map((own) => [own, cell] as const)).reverse());
    cellsByCode.set(study, there);
  }
  return there.get(code);
}

/** "EYFC", or "EYFC+2" where more swatches stand in the same cell. */
export function captionOf(cell: GridCell): string {
  const [first, ...more] = cell.swatches;
  if (!first) return "";
  return more.length > 0 ? `${first}+${more.length}` : first;
}

/** A cell in words: "Wool, Alum, Coreopsis, pH 7, No iron". */
export function cellWords(study: StudyView, cell: GridCell): string {
  const guest = study.guests.find((one) => cell.key === `guest=${one.swatch.code}`);
  if (guest) return `${guest.words}, of “${guest.study_name}”`;
  const parts = KINDS.flatMap((kind) => {
    const key = cell.levels[kind];
    const level = study.grid.factors.find((factor) => factor.kind === kind)?.levels.find((one) => one.key === key);
    return key ? [level?.label ?? key] : [];
  });
  const larger = study.plan.larger_pieces.find((piece) => piece.key === cell.larger)?.name ?? cell.larger;
  const own = cell.larger ? larger : cell.added ? cell.control : null;
  return inMyUnits([...parts, ...(own ? [own] : [])].join(", "));
}

/** What is odd about a cell: no longer planned, or with swatches that went another way. */
export function oddWords(study: StudyView, cell: GridCell): string[] {
  const strays = cell.swatches.filter((code) => isElsewhere(study, code));
  const gone = cell.swatches.filter((code) => swatchesOf(study).get(code)?.planned === false);
  return [
    ...(gone.length > 0 ? [`no longer planned: ${gone.join(" ")}`] : []),
    ...(strays.length > 0 ? [`meant for another place: ${strays.join(" ")}`] : []),
    ...(cell.meant.length > 0
      ? [`${cell.meant.join(" ")} ${cell.meant.length === 1 ? "was" : "were"} meant for here and went another way`]
      : []),
  ];
}

/** Whether all of its pieces are lost, or went another way. */
export const isOpen = (study: StudyView, cell: GridCell): boolean =>
  cell.lacks > 0 && cell.lacks >= (cell.larger ? 1 : study.plan.replicates);

/** Whether a swatch got other levels than it was planned with. */
export function isElsewhere(study: StudyView, code: string): boolean {
  const swatch = swatchesOf(study).get(code);
  const truth = swatch?.true_levels;
  if (!swatch || !truth) return false;
  return entriesOf(truth).some(([kind, key]) => swatch.levels[kind] !== key);
}

/** The keys of the cells in which swatches stand. */
export const cellKeysOf = (study: StudyView, codes: readonly string[]): string[] => [
  ...new Set(codes.flatMap((code) => cellOf(study, code)?.key ?? [])),
];
