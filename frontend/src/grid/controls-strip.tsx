import Box from "@mui/material/Box";
import { useState } from "react";
import type { KeyboardEvent } from "react";

import type { GridCell as Cell, StudyView } from "../api/client";
import { cellWords } from "./cells";
import { measuresOf } from "./cell-size";
import { CELL_LOOK, GridCell } from "./grid-cell";
import { spotId } from "./spot-id";
import type { Face } from "./grid-cell";
import type { GridPointer } from "./grid-pointer";
import { useChosenKeys } from "./selection";
import type { Selection } from "./selection";

const WIDTH = 92;
const MEASURES = measuresOf(60);
/** Far away from the rows of the crossing, so that no place has two names. */
const ROW = 100_000;

interface ControlsStripProps {
  study: StudyView;
  added: readonly Cell[];
  selection: Selection;
  faceOf: (cell: Cell) => Face;
  unfound: (cell: Cell) => boolean;
  pointer: GridPointer;
  onOpen: (key: string) => void;
  /** There is little room: folded until it is asked for. */
  low: boolean;
}

/** What stands beside the crossing: controls, larger pieces, swatches of other studies. */
export function ControlsStrip({ study, added, selection, faceOf, unfound, pointer, onOpen, low }: ControlsStripProps) {
  const [unfolded, setUnfolded] = useState(false);
  const chosenKeys = useChosenKeys(selection);
  const chosenAt = added.findIndex((cell) => chosenKeys.has(cell.key));
  const words = besideWords(added);
  const onKey = (event: KeyboardEvent) => {
    const at = added.findIndex((cell) => selection.keys.has(cell.key));
    const step = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    const cell = step === undefined ? undefined : added[Math.min(added.length - 1, Math.max(0, at + step))];
    if (cell) selection.only(cell.key);
    else if (event.key === "Enter" && added[at]) onOpen(added[at].key);
    else return;
    event.preventDefault();
  };
  return (
    <Box sx={{ flex: "none", borderTop: 1, borderColor: "divider", px: 1, pt: 0.5 }}>
      {low ? (
        <Box
          component="button"
          type="button"
          aria-expanded={unfolded}
          onClick={() => setUnfolded(!unfolded)}
          sx={{
            width: "100%",
            minHeight: 48,
            border: 0,
            p: 0,
            bgcolor: "transparent",
            color: "inherit",
            font: "inherit",
            fontSize: 14,
            fontWeight: 700,
            textAlign: "left",
          }}>
          {unfolded ? "▾" : "▸"} {words} ({added.length})
        </Box>
      ) : (
        <Box component="h2" sx={{ m: 0, fontSize: 13 }}>
          {words}
        </Box>
      )}
      {(!low || unfolded) && (
        <Box
          role="grid"
          aria-label={words}
          aria-multiselectable
          aria-activedescendant={chosenAt < 0 ? undefined : spotId(ROW, chosenAt)}
          tabIndex={0}
          onKeyDown={onKey}
          {...pointer}
          sx={{
            overflowX: "auto",
            ...CELL_LOOK,
            "& .cell[aria-selected=true]": { outline: "3px dashed", outlineOffset: -3 },
          }}>
          <Box role="row" sx={{ display: "flex", gap: 0.5, height: 92 }}>
            {added.map((cell, i) => (
              <Box key={cell.key} role="presentation" sx={{ position: "relative", width: WIDTH, flex: "none" }}>
                <Box role="presentation" sx={{ position: "relative" }} style={{ height: MEASURES.height }}>
                  <GridCell
                    study={study}
                    cell={cell}
                    face={faceOf(cell)}
                    selection={selection}
                    row={ROW}
                    column={i}
                    left={(WIDTH - MEASURES.width) / 2}
                    width={MEASURES.width}
                    measures={MEASURES}
                    unfound={unfound(cell)}
                  />
                </Box>
                <Box
                  aria-hidden
                  sx={{ fontSize: 11, lineHeight: 1.2, textAlign: "center", height: 27, overflow: "hidden" }}>
                  {cellWords(study, cell)}
                </Box>
              </Box>
            ))}
          </Box>
        </Box>
      )}
    </Box>
  );
}

function besideWords(cells: readonly Cell[]): string {
  const parts = [
    cells.some((cell) => cell.control) ? "controls" : "",
    cells.some((cell) => cell.larger) ? "larger pieces" : "",
    cells.some((cell) => cell.key.startsWith("guest=")) ? "swatches of other studies" : "",
  ].filter(Boolean);
  const words = parts.join(", ");
  return words.charAt(0).toUpperCase() + words.slice(1);
}
