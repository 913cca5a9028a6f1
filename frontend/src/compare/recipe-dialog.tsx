import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import { useState } from "react";

import type { Schema } from "../api/client";
import { waysNow } from "../settings/ways";
import { inMyUnits, massWords } from "../settings/quantities";
import { NumberField } from "../shell/number-field";
import { Awaited, Caution } from "../shell/said";
import { useRecipe } from "./compare-queries";

interface RecipeDialogProps {
  piece: Schema["Coloured"];
  mass_g: number;
  onClose: () => void;
}

/** How a colour was made, for the mass that is wanted. */
export function RecipeDialog({ piece, mass_g, onClose }: RecipeDialogProps) {
  const [wanted_g, setWanted] = useState(mass_g);
  const grams = wanted_g > 0 && wanted_g <= 100_000 ? wanted_g : mass_g;
  const run = /@(\d+)/.exec(piece.key)?.[1];
  const query = useRecipe(piece.code ?? "", grams, run);
  const address = (kind: string) =>
    `/api/swatches/${piece.code ?? ""}/recipe.${kind}?mass_g=${grams}${run ? `&run=${run}` : ""}`;
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth>
      <DialogTitle>
        {piece.name}: {inMyUnits(piece.words)}
      </DialogTitle>
      <DialogContent>
        <Box sx={{ height: 110, bgcolor: piece.hex, mb: 2 }} aria-hidden />
        <NumberField
          label="For dry fibre, g"
          start={mass_g}
          onTake={setWanted}
          error={grams !== wanted_g}
          sx={{ maxWidth: 260, mt: 0.5, mb: 1 }}
        />
        <Awaited query={query}>
          {(recipe) => (
            <>
              {!recipe.logged && (
                <Box role="note" sx={{ borderLeft: 6, pl: 1 }}>
                  Its baths were not logged: this is how it was planned.
                </Box>
              )}
              {shared(recipe).map((words) => (
                <Caution key={words}>{`${words} (${bathsWith(recipe, words)})`}</Caution>
              ))}
              {recipe.baths.map((bath, i) => (
                <Box key={bath.title + String(i)} component="section" sx={{ my: 1.5 }}>
                  <Box component="h3" sx={{ m: 0, fontSize: 15 }}>
                    {i + 1}. {inMyUnits(bath.title)}
                  </Box>
                  <div>{inMyUnits(bath.amounts.join("; "))}</div>
                  {bath.really && <Box sx={{ color: "text.secondary" }}>As it was done: {inMyUnits(bath.really)}</Box>}
                  {bath.cautions
                    ?.filter((words) => !shared(recipe).includes(words))
                    .map((words) => (
                      <Caution key={words}>{words}</Caution>
                    ))}
                </Box>
              ))}
              {recipe.needed.some((one) => one.in_hand_g != null && one.in_hand_g < one.grams) && (
                <Box role="note" sx={{ borderLeft: 6, pl: 1 }}>
                  Not all in hand:{" "}
                  {recipe.needed
                    .filter((one) => one.in_hand_g != null && one.in_hand_g < one.grams)
                    .map((one) => `${one.name} (${massWords(one.in_hand_g ?? 0)} of ${massWords(one.grams)})`)
                    .join(", ")}
                </Box>
              )}
            </>
          )}
        </Awaited>
      </DialogContent>
      <DialogActions>
        <Button component="a" href={address("html")} target="_blank" rel="noreferrer">
          As a page
        </Button>
        <Button
          variant="contained"
          component="a"
          href={`${address("pdf")}&paper=${waysNow().paper}`}
          target="_blank"
          rel="noreferrer">
          Print the card
        </Button>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </Dialog>
  );
}

type Recipe = Schema["Recipe"];

const withCaution = (recipe: Recipe, words: string) =>
  recipe.baths.flatMap((bath, i) => (bath.cautions?.includes(words) ? [i + 1] : []));

/** Cautions of several baths: they stand once, before all of them. */
const shared = (recipe: Recipe) =>
  [...new Set(recipe.baths.flatMap((bath) => bath.cautions ?? []))].filter(
    (words) => withCaution(recipe, words).length > 1,
  );

function bathsWith(recipe: Recipe, words: string): string {
  const places = withCaution(recipe, words);
  return places.length === recipe.baths.length
    ? "every bath"
    : `baths ${places.slice(0, -1).join(", ")} and ${places.at(-1) ?? ""}`;
}
