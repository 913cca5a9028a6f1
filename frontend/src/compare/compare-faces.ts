import { useMemo, useState } from "react";

import type { GridCell, Schema, StudyView } from "../api/client";
import { useComparison } from "../api/hooks";
import type { Reference } from "../api/hooks";
import { useBetween, useColourChart } from "./compare-queries";
import type { Face } from "../grid/grid-cell";
import type { Colours, StateColour } from "../read/colours";
import { seenIn } from "../read/seen-in";

type Difference = Schema["CellDifference"];

export interface CompareState {
  reference: Reference | null;
  setReference: (reference: Reference) => void;
  comparison: ReturnType<typeof useComparison>;
  faceOf: (cell: GridCell, plain: Face) => Face;
}

/** Every cell's difference from the chosen reference, or of its pieces from what they were before. */
export function useCompareFaces(
  study: StudyView,
  colours: Colours,
  shown: boolean,
  ghosts: boolean,
  filled: number | null,
): CompareState {
  const [chosen, setReference] = useState<Reference | null>(null);
  const first = study.grid.cells.find((cell) =>
    cell.swatches.some((code) => seenIn(cell, code, colours).some((one) => !one.unsure)),
  );
  const reference: Reference | null = chosen ?? (first ? { mode: "cell", cell: first.key } : null);
  const comparison = useComparison(study.id, shown ? reference : null);
  const between = useBetween(study.id, ghosts).data;
  const mended = useColourChart(study.id, filled, filled !== null).data;
  const fillers = useMemo(
    () => new Map((filled === null ? [] : mended?.points)?.map((one) => [one.cell, one])),
    [mended, filled],
  );
  const foretold = useMemo(
    () => new Map((ghosts ? between?.cells : [])?.map((one) => [one.cell, one.colour])),
    [between, ghosts],
  );
  const byCell = useMemo(() => {
    const found = new Map<string, Difference[]>();
    for (const one of comparison.data?.differences ?? []) found.set(one.cell, [...(found.get(one.cell) ?? []), one]);
    return found;
  }, [comparison.data]);
  return {
    reference,
    setReference,
    comparison,
    faceOf: (cell, plain) => {
      const filler = fillers.get(cell.key);
      if (filler && plain.fills.length === 0)
        return {
          ...plain,
          filler: true,
          fills: [filler.hex],
          more: [filler.colour_words],
          caption: `+${filler.code}`,
          words: `${filler.code} of another study fills this gap: ${filler.colour_words}`,
        };
      const ghost = foretold.get(cell.key);
      if (ghost && plain.fills.length === 0) {
        const off = ghost.uncertainty_de00.toFixed(0);
        return {
          ...plain,
          fills: [ghost.hex],
          ghost: true,
          caption: `±${off}`,
          words: `${plain.words}; foretold, not dyed, uncertain by ${off} ΔE00`,
        };
      }
      const found = byCell.get(cell.key);
      const isReference = reference?.mode === "cell" && reference.cell === cell.key;
      if (!found)
        return {
          ...plain,
          caption: isReference ? "ref" : "",
          words: `${plain.words}${isReference ? "; the reference" : ""}`,
        };
      // Pieces that went on by different ways stay apart.
      const caption = found.map(deOf).join(" | ");
      const said = found.map((one) => `${one.way ? `${one.way}: ` : ""}ΔE00 ${deWords(one)}`);
      const fills = reference?.mode === "before" ? beforeAndAfter(cell, colours, reference, study) : plain.fills;
      return {
        ...plain,
        fills,
        ...(fills === plain.fills ? {} : { pictures: [] }),
        more: [plain.caption, ...(plain.more ?? []).slice(0, 1)],
        caption,
        words: [plain.words, ...said].join("; "),
      };
    },
  };
}

const deOf = (one: Difference) =>
  one.distinguishable ? one.difference.de00.toFixed(1) : `≈ ${one.difference.de00.toFixed(1)}`;

const deWords = (one: Difference) =>
  `${one.difference.de00.toFixed(1)}${one.distinguishable ? "" : ", too small to tell"}`;

/** Each piece as it was and as it is: halves of its chip. */
function beforeAndAfter(
  cell: GridCell,
  colours: Colours,
  { vessel, state }: Schema["BeforeReference"],
  study: StudyView,
): string[] {
  return cell.swatches.flatMap((code) => {
    const states = colours.of(code);
    const read = (states?.states ?? []).flatMap(
      (run): StateColour[] => states?.colours.filter((colour) => colour.run === run) ?? [],
    );
    const inBath = (colour: StateColour) => !!vessel && colours.isOf(colour.run, study.id, vessel);
    // Of a bath with states between, its end; and before it none of them.
    const at = vessel ? read.findIndex((colour) => inBath(colour) && colour.run > 0) : read.length - 1;
    const earlier = read.slice(0, Math.max(0, at)).filter((colour) => !inBath(colour));
    const base = state == null ? earlier.at(-1) : earlier.find((colour) => colour.run === state);
    const pair = [base, read[at]].filter((colour) => colour !== undefined);
    return pair.length === 2 ? pair.map((colour) => colour.hex) : [];
  });
}
