import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useState } from "react";

import { PieceName } from "../grid/swatch-code";
import type { Schema, StudyView } from "../api/client";
import { labWords } from "../read/colours";
import { ProblemNote } from "../shell/said";
import { BetweenPart } from "./between-part";
import { useFound } from "./compare-queries";
import type { FindState } from "./find-state";
import { RecipeDialog, ofColoured } from "./recipe-dialog";
import { SetPart } from "./set-part";
import type { TableState } from "./table-state";
import { inMyUnits, temperatureWords } from "../settings/quantities";

type Found = Schema["FoundColour"];

interface FindViewProps {
  study: StudyView;
  state: FindState;
  table: TableState;
}

/** What lies nearest to the colour that is wanted, each beside it, with its recipe. */
export function FindView({ study, state, table }: FindViewProps) {
  const query = useFound(state.question);
  const [recipe, setRecipe] = useState<Found | null>(null);
  const view = query.data;
  return (
    <Box sx={{ p: 2 }}>
      {state.question === null && (
        <p>Say the colour in the panel: pick it, type it, choose a cloth, or take it from a photo.</p>
      )}
      <ProblemNote error={query.error} again={() => void query.refetch()} />
      {view && (
        <>
          <Box sx={{ display: "flex", gap: 2, alignItems: "center", mb: 2 }}>
            <Box sx={{ width: 120, height: 70, bgcolor: view.hex, flex: "none" }} aria-hidden />
            <Box>
              <Box component="h2" sx={{ m: 0, fontSize: 16 }}>
                Wanted: {view.colour_words}
              </Box>
              {labWords(view.lab)}
              {view.uncertainty_de00 > 0 ? ` ±${view.uncertainty_de00.toFixed(1)}` : ""}. Looked through {view.searched}{" "}
              colours of all studies.
              {view.lasting_unknown > 0 && (
                <div>{view.lasting_unknown} nearer ones were never in light, and are left out.</div>
              )}
            </Box>
          </Box>
          {view.found.length === 0 && (
            <p>Nothing that was read is all of that. Take a condition away, or see below what could be dyed.</p>
          )}
          <Box
            role="list"
            aria-label="Nearest colours"
            sx={{ display: "grid", gridTemplateColumns: "repeat(auto-fill, minmax(250px, 1fr))", gap: 2 }}>
            {view.found.map((one) => (
              <Box key={one.piece.key} role="listitem" sx={{ fontSize: 13, lineHeight: 1.35 }}>
                <Box sx={{ display: "flex", height: 96 }} aria-hidden>
                  <Box sx={{ flex: 1, bgcolor: view.hex }} />
                  <Box sx={{ flex: 1, bgcolor: one.piece.hex }} />
                </Box>
                <strong>
                  {one.same ? "≈ " : ""}
                  {one.de00.toFixed(1)} ±{one.uncertainty_de00.toFixed(1)}
                </strong>{" "}
                <PieceName piece={one.piece} /> {one.piece.state}
                <div>
                  {inMyUnits(one.piece.words)}
                  {one.piece.study !== study.id && one.piece.study_name ? ` · “${one.piece.study_name}”` : ""}
                </div>
                <div>{factsOf(one)}</div>
                {one.lasts && <div>{one.lasts.words}</div>}
                <Box sx={{ display: "flex", gap: 1, mt: 0.5 }}>
                  {one.piece.code && (
                    <Button
                      variant="outlined"
                      size="small"
                      onClick={() => setRecipe(one)}
                      aria-label={`Recipe of ${one.piece.name}`}>
                      Recipe
                    </Button>
                  )}
                  <Button
                    variant="outlined"
                    size="small"
                    onClick={() => table.add([one.piece.key])}
                    disabled={table.table.keys.includes(one.piece.key)}
                    aria-label={`${table.table.keys.includes(one.piece.key) ? "On the table" : "Lay on the table"}: ${one.piece.name}`}>
                    {table.table.keys.includes(one.piece.key) ? "On the table" : "Lay on the table"}
                  </Button>
                </Box>
              </Box>
            ))}
          </Box>
        </>
      )}
      <SetPart study={study} state={state} />
      <BetweenPart study={study} wantedHex={view?.hex} />
      {recipe && (
        <RecipeDialog swatches={[ofColoured(recipe.piece)]} mass_g={state.mass_g} onClose={() => setRecipe(null)} />
      )}
    </Box>
  );
}

function factsOf(one: Found): string {
  const { gentle } = one;
  if (!gentle) return "";
  const said = [
    one.is_gentle ? "gentle" : "",
    gentle.iron ? "iron" : "",
    gentle.copper ? "copper" : "",
    gentle.hottest_c != null ? `up to ${temperatureWords(gentle.hottest_c)}` : "",
    gentle.ph_low != null && gentle.ph_high != null
      ? `pH ${gentle.ph_low === gentle.ph_high ? gentle.ph_low : `${gentle.ph_low}–${gentle.ph_high}`}`
      : "",
    one.cost != null ? `stuffs cost ${one.cost.toFixed(2)}` : "",
    one.in_hand === true ? "in hand" : one.in_hand === false ? "not all in hand" : "",
  ];
  return said.filter(Boolean).join(" · ");
}
