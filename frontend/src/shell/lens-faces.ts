import type { GridCell, StudyView } from "../api/client";
import type { CompareState } from "../compare/compare-faces";
import type { DyeState } from "../dye/bench-state";
import type { FadeState } from "../fade/fade-state";
import { captionOf, swatchesOf, tieOf } from "../grid/cells";
import type { Face } from "../grid/grid-cell";
import { labWords } from "../read/colours";
import { seenIn } from "../read/seen-in";
import type { Colours, StateColour } from "../read/colours";
import type { Lens } from "./place";
import { chosenMass } from "../settings/quantities";

interface Seen {
  study: StudyView;
  colours: Colours;
  /** Which state the Read lens shows; null: the newest. */
  state: string | null;
  /** The colours are on their way. */
  awaited: boolean;
  goesInto: ReadonlyMap<string, string>;
  dye: DyeState;
  fade: FadeState;
  compare: CompareState;
}

/** What each lens shows in a cell. */
export function facesOf(seen: Seen): Record<Lens, (cell: GridCell) => Face> {
  const { study, colours, state, goesInto } = seen;
  const coloured = (cell: GridCell, colourOf: (code: string) => StateColour | undefined): Face => {
    const own = cell.swatches.flatMap((code) => seenIn(cell, code, colours, colourOf));
    const first = own[0]?.colour;
    const unsure = [...new Set(own.flatMap((one) => (one.unsure ? [one.unsure] : [])))].join(", ");
    const of = first
      ? `${unsure ? `${unsure}; ` : ""}${colours.labelOf(first.run)}: ${first.colour_words}, ${labWords(first.lab)}`
      : seen.awaited
        ? "its colour is fetched"
        : "not read yet";
    return {
      fills: own.map((one) => one.colour.hex),
      pictures: own.map((one) => (one.whole ? colours.pictureOf(one.code, one.colour.run) : undefined)),
      caption: captionOf(cell),
      words: `${cell.swatches.join(" ")}${cell.zone ? `, zone ${cell.zone}` : ""}, ${of}`,
      more: first
        ? [
            unsure || first.colour_words,
            own.length > cell.swatches.length ? `${own.length} zones` : labWords(first.lab),
          ]
        : cell.swatches.length > 0 && !seen.awaited
          ? ["not read yet"]
          : [],
    };
  };
  const plain = (cell: GridCell) => coloured(cell, colours.newest);
  return {
    plan: (cell) => {
      const code = cell.swatches[0] ?? "";
      const face = plain(cell);
      return {
        ...face,
        words: `${face.words}; tie ${tieOf(study, code) || "none"}; goes into ${goesInto.get(code) ?? "no vessel"}`,
      };
    },
    weigh: (cell) => {
      const masses = new Set(cell.swatches.map((code) => swatchesOf(study).get(code)?.mass_g ?? 0));
      const caption = [...masses].map((mass) => chosenMass(mass)).join(", ");
      const face = plain(cell);
      // The usual weight stands in the panel: only what weighs otherwise says so.
      const usual = masses.size === 1 && masses.has(study.plan.swatch_mass_g);
      return usual
        ? { ...face, words: `${face.words}; ${caption}`, more: [caption] }
        : { ...face, caption, more: [captionOf(cell)] };
    },
    dye: (cell) => seen.dye.faceOf(cell, plain(cell)),
    read: (cell) => (state === null ? plain(cell) : coloured(cell, (code) => colours.ofKind(code, state))),
    fade: (cell) => seen.fade.faceOf(cell, plain(cell)),
    compare: (cell) => seen.compare.faceOf(cell, plain(cell)),
  };
}
