import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import { useState } from "react";

import { answered, api } from "../api/client";
import type { Schema, StudyView } from "../api/client";
import { useLook } from "../api/hooks";
import { Chip } from "../grid/chip";
import { PieceName } from "../grid/swatch-code";
import { inMyUnits } from "../settings/quantities";
import { ChoiceField } from "../shell/choice-field";
import { counted } from "../shell/counted";
import { NumberField } from "../shell/number-field";
import { ProblemNote } from "../shell/said";
import type { FindState } from "./find-state";
import { RecipeDialog } from "./recipe-dialog";

type How = Schema["SetQuestion"]["how"];
const HOWS: readonly (readonly [How, string])[] = [
  ["apart", "as far apart as they can be"],
  ["steps", "in even steps from the colour wanted"],
];
const FEWEST = 2;
const MOST = 12;

/** A set of colours among all that was dyed, under the conditions of the panel, and dyed in one run. */
export function SetPart({ study, state }: { study: StudyView; state: FindState }) {
  const [how, setHow] = useState<How>("apart");
  const [count, setCount] = useState(5);
  const [last, setLast] = useState("#3f4a6b");
  const [foretold, setForetold] = useState(false);
  const [dyeing, setDyeing] = useState(false);
  const choose = useLook((question: Schema["SetQuestion"]) => answered(api.POST("/api/find/set", { body: question })));
  const sound = Number.isInteger(count) && count >= FEWEST && count <= MOST;
  const { question } = state;
  const found = choose.data;
  return (
    <Box component="details" sx={{ my: 2 }}>
      <Box component="summary" sx={{ fontWeight: 700, minHeight: 32 }}>
        A set of colours
      </Box>
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1.5, alignItems: "end", my: 1 }}>
        <NumberField label="How many" start={5} onTake={setCount} error={!sound} sx={{ width: 110 }} />
        <ChoiceField label="Which lie" value={how} onChange={setHow} options={HOWS} sx={{ width: 300 }} />
        {how === "steps" && (
          <label>
            to{" "}
            <input
              type="color"
              aria-label="Last colour of the set"
              value={last}
              onChange={(event) => setLast(event.target.value)}
              style={{ width: 64, height: 44, border: 0, padding: 0, verticalAlign: "middle" }}
            />
          </label>
        )}
        <FormControlLabel
          control={<Checkbox checked={foretold} onChange={(_, on) => setForetold(on)} />}
          label="also what is foretold here"
        />
        <Button
          variant="outlined"
          disabled={!sound || !question || choose.isPending}
          onClick={() =>
            question &&
            choose.mutate({ how, count, first: question, last_hex: last, study: foretold ? study.id : null })
          }>
          Choose them
        </Button>
      </Box>
      <ProblemNote error={choose.error} />
      {found && (
        <>
          <Box role="status" sx={{ mb: 1 }}>
            {found.found.length < count && `Only ${counted(found.found.length, "colour")} of that kind. `}
            {found.nearest_de00 != null && `The nearest two lie ΔE00 ${found.nearest_de00.toFixed(1)} apart. `}
            {counted(found.vessels, "vessel")} to dye them.
          </Box>
          <Box role="list" aria-label="The set" sx={{ display: "flex", flexWrap: "wrap", gap: 1.5 }}>
            {found.found.map((one) => (
              <Box key={one.of.code ?? one.of.cell} role="listitem" sx={{ width: 160, fontSize: 13, lineHeight: 1.35 }}>
                <Chip fills={[one.hex]} ghost={!one.piece} width={160} height={100} />
                {one.piece ? <PieceName piece={one.piece} /> : `Foretold ±${(one.foretold_de00 ?? 0).toFixed(1)}`}{" "}
                {inMyUnits(one.words)}
              </Box>
            ))}
          </Box>
          {found.found.length > 0 && (
            <Button variant="contained" sx={{ mt: 1.5 }} onClick={() => setDyeing(true)}>
              Dye them
            </Button>
          )}
          {dyeing && (
            <RecipeDialog
              swatches={found.found.map((one) => ({ of: one.of, words: one.words, hex: one.hex, ghost: !one.piece }))}
              mass_g={state.mass_g}
              onClose={() => setDyeing(false)}
            />
          )}
        </>
      )}
    </Box>
  );
}
