import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import type { Schema } from "../api/client";
import { waysNow } from "../settings/ways";
import { typedNumber } from "../settings/quantities";
import { Awaited } from "../shell/said";
import { useRecipe } from "./compare-queries";

interface RecipeDialogProps {
  piece: Schema["Coloured"];
  mass: number;
  onClose: () => void;
}

/** How a colour was made, for the mass that is wanted. */
export function RecipeDialog({ piece, mass, onClose }: RecipeDialogProps) {
  const [typed, setTyped] = useState(String(mass));
  const wanted = typedNumber(typed);
  const grams = wanted !== null && wanted > 0 && wanted <= 100_000 ? wanted : mass;
  const run = /@(\d+)/.exec(piece.key)?.[1];
  const query = useRecipe(piece.code ?? "", grams, run);
  const address = (kind: string) => `/api/swatches/${piece.code ?? ""}/recipe.${kind}?mass_g=${grams}${run ? `&run=${run}` : ""}`;
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth>
      <DialogTitle>
        {piece.name}: {piece.words}
      </DialogTitle>
      <DialogContent>
        <Box sx={{ height: 110, bgcolor: piece.hex, mb: 2 }} aria-hidden />
        <TextField label="For so many grams of dry fibre" value={typed} onChange={(event) => setTyped(event.target.value)} sx={{ maxWidth: 260, mt: 0.5, mb: 1 }} error={wanted === null || wanted <= 0} />
        <Awaited query={query}>
          {(recipe) => (
            <>
              {!recipe.logged && <Box role="note" sx={{ borderLeft: 6, pl: 1 }}>Its baths were not logged: this is how it was planned.</Box>}
              {recipe.baths.map((bath, i) => (
                <Box key={bath.title + String(i)} component="section" sx={{ my: 1.5 }}>
                  <Box component="h3" sx={{ m: 0, fontSize: 15 }}>
                    {i + 1}. {bath.title}
                  </Box>
                  <div>{bath.amounts.join("; ")}</div>
                  {bath.really && <Box sx={{ color: "text.secondary" }}>As it was done: {bath.really}</Box>}
                  {bath.cautions?.slice(0, 3).map((words) => (
                    <Box key={words} sx={{ fontSize: 13, borderLeft: 4, pl: 1, mt: 0.25 }}>
                      {words}
                    </Box>
                  ))}
                </Box>
              ))}
              {recipe.needed.some((one) => one.in_hand_g != null && one.in_hand_g < one.grams) && (
                <Box role="note" sx={{ borderLeft: 6, pl: 1 }}>
                  Not all in hand:{" "}
                  {recipe.needed
                    .filter((one) => one.in_hand_g != null && one.in_hand_g < one.grams)
                    .map((one) => `${one.name} (${(one.in_hand_g ?? 0).toFixed(0)} of ${one.grams.toFixed(0)} g)`)
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
        <Button variant="contained" component="a" href={`${address("pdf")}&paper=${waysNow().paper}`} target="_blank" rel="noreferrer">
          Print the card
        </Button>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </Dialog>
  );
}
