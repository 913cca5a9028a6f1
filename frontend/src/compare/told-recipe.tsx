import Box from "@mui/material/Box";

import type { Schema } from "../api/client";
import { inMyUnits, massWords } from "../settings/quantities";
import { durationWords } from "../shell/durations";
import { Caution } from "../shell/said";

/** Every bath of a recipe as the bench has it, and what is not in hand. */
export function ToldRecipe({ recipe }: { recipe: Schema["Recipe"] }) {
  const short = recipe.needed.filter((one) => one.in_hand_g != null && one.in_hand_g < one.grams);
  return (
    <>
      {!recipe.logged && (
        <Box role="note" sx={{ borderLeft: 6, pl: 1 }}>
          Its baths were not logged: this is how it was planned.
        </Box>
      )}
      {recipe.baths.map((bath, i) => (
        <BathOfRecipe key={`${bath.title} ${String(i)}`} bath={bath} number={i + 1} />
      ))}
      {short.length > 0 && (
        <Box role="note" sx={{ borderLeft: 6, pl: 1 }}>
          Not all in hand:{" "}
          {short.map((one) => `${one.name} (${massWords(one.in_hand_g ?? 0)} of ${massWords(one.grams)})`).join(", ")}
        </Box>
      )}
    </>
  );
}

/** What goes in, then its steps; each caution where it is first met. */
function BathOfRecipe({ bath, number }: { bath: Schema["RecipeBath"]; number: number }) {
  return (
    <Box component="section" sx={{ my: 2 }}>
      <Box component="h3" sx={{ m: 0, fontSize: 15 }}>
        {number}. {inMyUnits(bath.title)}
      </Box>
      <div>{inMyUnits(bath.amounts.join("; "))}</div>
      {bath.really && <Box sx={{ color: "text.secondary" }}>As it was done: {inMyUnits(bath.really)}</Box>}
      {bath.cautions?.map((words) => (
        <Caution key={words}>{words}</Caution>
      ))}
      <Box component="ol" sx={{ m: 0, mt: 0.5, pl: 3, fontSize: 14 }}>
        {bath.steps?.map((step) => (
          <li key={step.title}>
            <strong>{inMyUnits(step.title)}</strong>
            {step.temperature_c != null && `, ${inMyUnits(`${step.temperature_c} °C`)}`}
            {step.duration_min ? `, ${durationWords(step.duration_min)}` : ""}
            {step.detail && `: ${inMyUnits(step.detail)}`}
            {step.caution && <Caution>{step.caution}</Caution>}
          </li>
        ))}
      </Box>
    </Box>
  );
}
