import type { FactorKind, GridCell, StudyView } from "../api/client";
import type { Colours } from "../read/colours";
import { plainText } from "../shell/csv";
import { FACTOR_NAMES } from "./axes";

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
    cell.swatches.map((code) => {
      const colour = cell.zone ? colours.ofZone(code, cell.zone) : colours.newest(code);
      return [
        code,
        ...kinds.map((kind) => levelWords(study, cell, kind)),
        cell.zone ?? "",
        colour ? colours.labelOf(colour.run) : "not read yet",
        colour?.colour_words ?? "",
        ...[0, 1, 2].map((i) => asText(colour?.lab[i], 2)),
        asText(colour?.uncertainty_de00, 2),
        colour?.hex ?? "",
      ];
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
