import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import { useState } from "react";

import { answered, api } from "../api/client";
import type { Schema } from "../api/client";
import { useChange } from "../api/hooks";
import { Chip } from "../grid/chip";
import { inMyUnits } from "../settings/quantities";
import { waysNow } from "../settings/ways";
import { NumberField } from "../shell/number-field";
import { usePlace } from "../shell/place";
import { Awaited, ProblemNote } from "../shell/said";
import { useRecipe } from "./compare-queries";
import { ToldRecipe } from "./told-recipe";

/** A swatch whose recipe is asked for, up to one of its states. */
export interface OfSwatch {
  of: Schema["RecipeOf"];
  words: string;
  hex: string | undefined;
  /** Foretold, not dyed. */
  ghost?: boolean;
}

export const ofCode = (code: string, words: string, hex: string | undefined): OfSwatch => ({
  of: { code },
  words,
  hex,
});

/** The swatch behind a colour that was found. */
export const ofColoured = (piece: Schema["Coloured"]): OfSwatch => {
  const run = /@(-?\d+)/.exec(piece.key)?.[1];
  return { of: { code: piece.code ?? "", run: run ? Number(run) : null }, words: piece.words, hex: piece.hex };
};

interface RecipeDialogProps {
  swatches: readonly OfSwatch[];
  mass_g: number;
  onClose: () => void;
}

const nameOf = (one: OfSwatch) => one.of.code ?? "Foretold";
const keyOf = (one: OfSwatch) => one.of.code ?? one.of.cell ?? "";
const HEAVIEST_G = 30_000;
const MOST_PIECES = 6;

/** How colours were made, for the mass that is wanted; and a run that makes so much of each. */
export function RecipeDialog({ swatches, mass_g, onClose }: RecipeDialogProps) {
  const [wanted_g, setWanted] = useState(mass_g);
  const grams = wanted_g > 0 && wanted_g <= HEAVIEST_G ? wanted_g : mass_g;
  const [pieces, setPieces] = useState(1);
  const parts = Number.isInteger(pieces) && pieces >= 1 && pieces <= MOST_PIECES ? pieces : 1;
  const [, go] = usePlace();
  const follow = useChange(
    () =>
      answered(
        api.POST("/api/recipes/follow", {
          body: { swatches: swatches.map((one) => one.of), mass_g: grams, pieces: parts, fibres: [] },
        }),
      ),
    "studies",
  );
  const [only, ...others] = swatches;
  if (!only) return null;
  const single = others.length === 0;
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth>
      <DialogTitle>
        {single ? `${nameOf(only)}: ${inMyUnits(only.words)}` : `Dye more of ${String(swatches.length)} colours`}
      </DialogTitle>
      <DialogContent>
        <Box sx={{ display: "flex", flexWrap: "wrap", gap: 2, mb: 2 }}>
          {swatches.map((one) => (
            <Box key={keyOf(one)} sx={{ width: single ? "100%" : 160, fontSize: 13 }}>
              <Chip
                fills={one.hex ? [one.hex] : []}
                ghost={one.ghost ?? false}
                width={single ? 240 : 160}
                height={100}
              />
              {!single && (
                <div>
                  <strong>{nameOf(one)}</strong> {inMyUnits(one.words)}
                </div>
              )}
            </Box>
          ))}
        </Box>
        <Box sx={{ display: "flex", gap: 2, mt: 0.5, mb: 1 }}>
          <NumberField
            label={single ? "For dry fibre, g" : "Dry fibre of each, g"}
            start={mass_g}
            onTake={setWanted}
            error={grams !== wanted_g}
          />
          <NumberField label="In so many pieces" start={1} onTake={setPieces} error={parts !== pieces} />
        </Box>
        {single && only.of.code && <OneRecipe of={only} mass_g={grams} />}
        <ProblemNote error={follow.error} />
      </DialogContent>
      <DialogActions>
        {single && only.of.code && <CardLinks of={only} mass_g={grams} />}
        <Button
          variant="contained"
          disabled={follow.isPending}
          onClick={() => follow.mutate(undefined, { onSuccess: (made) => go({ study: made.id, view: "plan" }) })}>
          Dye {inMyUnits(`${String(grams)} g`)} of {single ? "it" : "each"}
        </Button>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </Dialog>
  );
}

function OneRecipe({ of, mass_g }: { of: OfSwatch; mass_g: number }) {
  const query = useRecipe(of.of.code ?? "", mass_g, of.of.run ?? null);
  return <Awaited query={query}>{(recipe) => <ToldRecipe recipe={recipe} />}</Awaited>;
}

/** The card as a page and on paper. */
function CardLinks({ of, mass_g }: { of: OfSwatch; mass_g: number }) {
  const asked = `?mass_g=${String(mass_g)}${of.of.run == null ? "" : `&run=${String(of.of.run)}`}`;
  const address = (kind: string) => `/api/swatches/${of.of.code ?? ""}/recipe.${kind}${asked}`;
  return (
    <>
      <Button component="a" href={address("html")} target="_blank" rel="noreferrer">
        As a page
      </Button>
      <Button component="a" href={`${address("pdf")}&paper=${waysNow().paper}`} target="_blank" rel="noreferrer">
        Print the card
      </Button>
    </>
  );
}
