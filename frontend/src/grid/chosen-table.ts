import type { FactorKind, GridCell, StudyView } from "../api/client";
import type { Colours } from "../read/colours";
import { plainText } from "../shell/csv";
import { FACTOR_NAMES } from "./axes";
import { seenIn } from "../read/seen-in";

const asText = (value: number | null | undefined, digits: number): string =>
  value == null ? "" : value.toFixed(digits);

/** Chosen swatches as a table with tabs, a line for each: their levels, and their newest colour. */
export function chosenTable(study: StudyView, chosen: readonly GridCell[], colours: Colours): string {
  const kinds = study.grid.factors.map((factor) => factor.kind);
  const head = [
    "Code",
    ...kinds.map((kind) => FACTOR_NAMES[kind]),
    "Zone",
    "State",
    "Colour",
    "L*",
    "a*",
    "b*",
    "± ΔE00",
    "sRGB",
  ];
  const lines = chosen.flatMap((cell) =>
    cell.swatches.flatMap((code) => {
      const seen = seenIn(cell, code, colours);
      return (seen.length > 0 ? seen : [{ zone: cell.zone ?? "", colour: undefined }]).map(({ zone, colour }) => [
        code,
        ...kinds.map((kind) => levelWords(study, cell, kind)),
        zone,
        colour ? colours.labelOf(colour.run) : "not read yet",
        colour?.colour_words ?? "",
        ...[0, 1, 2].map((i) => asText(colour?.lab[i], 2)),
        asText(colour?.uncertainty_de00, 2),
        colour?.hex ?? "",
      ]);
    }),
  );
  return [head, ...lines]
    .map((line) => line.map((words) => plainText(words.replace(/\s+/g, " "))).join("\t"))
    .join("\n");
}

function levelWords(study: StudyView, cell: GridCell, kind: FactorKind): string {
  const key = cell.levels[kind];
  return (
    study.grid.factors.find((factor) => factor.kind === kind)?.levels.find((level) => level.key === key)?.label ??
    key ??
    ""
  );
}
