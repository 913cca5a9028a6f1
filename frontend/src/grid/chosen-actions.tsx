import Button from "@mui/material/Button";
import { useState } from "react";

import type { GridCell, StudyView } from "../api/client";
import { RecipeDialog, ofCode } from "../compare/recipe-dialog";
import type { Colours } from "../read/colours";
import { chosenTable } from "./chosen-table";
import { cellOf, cellWords, codesIn } from "./cells";
import { useChoosing } from "./selection";
import type { Selection } from "./selection";

interface ChosenActionsProps {
  study: StudyView;
  selection: Selection;
  chosen: readonly GridCell[];
  colours: Colours;
  /** The colours are there; a table without them would say that nothing was read. */
  ready: boolean;
  onOpen: (cell: GridCell) => void;
}

const SAID_MS = 2500;
const MOST_RECIPES = 12;
const MASS_G = 100;

const wordsOf = (study: StudyView, code: string) => {
  const cell = cellOf(study, code);
  return cell ? cellWords(study, cell) : "";
};

/** What can be done with the chosen swatches in every lens. */
export function ChosenActions({ study, selection, chosen, colours, ready, onOpen }: ChosenActionsProps) {
  const choosing = useChoosing(selection);
  const [copied, setCopied] = useState("");
  const codes = codesIn(chosen);
  const [recipes, setRecipes] = useState(false);
  // Repeats of a cell went by one recipe.
  const oneOfEach = chosen.flatMap((cell) => cell.swatches.slice(0, 1));
  const [only] = chosen;
  const copy = () => {
    void navigator.clipboard
      .writeText(chosenTable(study, chosen, colours))
      .then(
        () => setCopied("Copied"),
        () => setCopied("Not allowed here"),
      )
      .then(() => setTimeout(() => setCopied(""), SAID_MS));
  };
  const look = { minHeight: 40, minWidth: 0, px: 1, flex: "none" } as const;
  return (
    <>
      <Button
        size="small"
        aria-pressed={choosing}
        onClick={() => selection.setChoosing(!choosing)}
        sx={{ ...look, display: { xs: "inline-flex", md: choosing ? "inline-flex" : "none" } }}>
        {choosing ? "Done choosing" : "Choose several"}
      </Button>
      {chosen.length > 0 && (
        <>
          <Button
            size="small"
            onClick={() => selection.clear()}
            title="Select nothing (Esc)"
            sx={{ ...look, display: { xs: "none", sm: "inline-flex" } }}>
            {chosen.length} selected ✕
          </Button>
          {chosen.length === 1 && only && only.swatches.length > 0 && (
            <Button size="small" onClick={() => onOpen(only)} sx={look}>
              Record
            </Button>
          )}
          {oneOfEach.length > 0 && oneOfEach.length <= MOST_RECIPES && (
            <Button size="small" onClick={() => setRecipes(true)} sx={look}>
              {oneOfEach.length === 1 ? "Recipe" : "Dye more"}
            </Button>
          )}
          {recipes && (
            <RecipeDialog
              swatches={oneOfEach.map((code) => ofCode(code, wordsOf(study, code), colours.newest(code)?.hex))}
              mass_g={MASS_G}
              onClose={() => setRecipes(false)}
            />
          )}
          {codes.length > 0 && (
            <Button
              size="small"
              disabled={!ready}
              onClick={copy}
              aria-live="polite"
              title="As a table, for a spreadsheet"
              sx={{ ...look, display: { xs: "none", sm: "inline-flex" } }}>
              {copied || "Copy"}
            </Button>
          )}
        </>
      )}
    </>
  );
}
