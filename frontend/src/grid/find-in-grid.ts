import type { GridCell, StudyView } from "../api/client";
import { hueOf } from "../read/colours";
import type { Colours } from "../read/colours";
import { cellWords, isElsewhere, swatchesOf } from "./cells";
import { seenIn } from "../read/seen-in";

export const SHOWN = {
  all: "Everything",
  read: "Read",
  unread: "Not read yet",
  faded: "Faded in a trial",
  uneven: "Uneven",
  out: "Left out",
  controls: "Controls",
  astray: "Went another way",
  gone: "No longer planned",
} as const;
export type Shown = keyof typeof SHOWN;

export const ORDERS = {
  crossed: "As crossed",
  lightness: "Dark to light",
  chroma: "Dull to vivid",
  hue: "By hue",
  faded: "Most faded first",
  uneven: "Most uneven first",
  code: "By code",
} as const;
export type Order = keyof typeof ORDERS;

/** What is looked for in the grid, and in which order its swatches lie. */
export interface Looking {
  text: string;
  shown: Shown;
  order: Order;
}

export const LOOKING_AT_ALL: Looking = { text: "", shown: "all", order: "crossed" };
/** A rough limit: grade 4 of the grey scale is 1.7 CIELAB units (ISO 105-A02), about as much in ΔE00 for pale colours, less for vivid ones. */
const FADED_DE00 = 1.7;
/** Unevenness that is seen in a piece (common practice). */
const UNEVEN_DE00 = 1;

export const isLooking = (looking: Looking): boolean => looking.text.trim() !== "" || looking.shown !== "all";

/** What was found, in the order that was asked for; only swatches lie in another order than that of the crossing. */
export function cellsLookedFor(study: StudyView, colours: Colours, looking: Looking): GridCell[] {
  const found = findCells(study, colours, looking);
  if (looking.order === "crossed") return found;
  return inOrder(
    looking.shown === "out" ? found : found.filter((cell) => cell.swatches.length > 0),
    colours,
    looking.order,
  );
}

/** The cells that have all the words that are looked for, and are what is to be shown. */
function findCells(study: StudyView, colours: Colours, looking: Looking): GridCell[] {
  const wanted = looking.text.toLowerCase().split(/\s+/).filter(Boolean);
  return study.grid.cells.filter(
    (cell) =>
      isShown(study, colours, cell, looking.shown) && (wanted.length === 0 || hasWords(study, colours, cell, wanted)),
  );
}

function hasWords(study: StudyView, colours: Colours, cell: GridCell, wanted: readonly string[]): boolean {
  const swatches = swatchesOf(study);
  const own = cell.swatches.flatMap((code) => [
    code,
    colourOf(colours, cell, code)?.colour_words ?? "",
    swatches.get(code)?.tie ?? "",
  ]);
  const words = [cellWords(study, cell), cell.zone ?? "", ...own].join(" ").toLowerCase();
  return wanted.every((word) => words.includes(word));
}

const colourOf = (colours: Colours, cell: GridCell, code: string) => seenIn(cell, code, colours)[0]?.colour;

function isShown(study: StudyView, colours: Colours, cell: GridCell, shown: Shown): boolean {
  const some = (is: (code: string) => boolean) => cell.swatches.some(is);
  const tests: Record<Shown, () => boolean> = {
    all: () => true,
    read: () => some((code) => colourOf(colours, cell, code) !== undefined),
    unread: () => some((code) => colourOf(colours, cell, code) === undefined),
    faded: () => some((code) => colours.fadedBy(code) >= FADED_DE00),
    uneven: () => some((code) => colours.unevenBy(code) >= UNEVEN_DE00),
    out: () => !cell.included && cell.swatches.length === 0,
    controls: () => cell.control != null,
    astray: () => cell.meant.length > 0 || some((code) => isElsewhere(study, code)),
    gone: () => some((code) => swatchesOf(study).get(code)?.planned === false),
  };
  return tests[shown]();
}

/** Cells in the order that was asked for; what has no such value comes last. */
function inOrder(cells: readonly GridCell[], colours: Colours, order: Order): GridCell[] {
  const valueOf = (cell: GridCell): number | string => {
    const code = cell.swatches[0] ?? "";
    const colour = colourOf(colours, cell, code);
    if (order === "code") return code || "~";
    if (order === "faded") return -colours.fadedBy(code) || Infinity;
    if (order === "uneven") return -colours.unevenBy(code) || Infinity;
    if (!colour) return Infinity;
    const [l, a, b] = colour.lab;
    if (order === "lightness") return l;
    return order === "chroma" ? Math.hypot(a, b) : hueOf(colour.lab);
  };
  const valued = cells.map((cell) => [valueOf(cell), cell] as const);
  return valued.sort(([one], [other]) => (one < other ? -1 : one > other ? 1 : 0)).map(([, cell]) => cell);
}
