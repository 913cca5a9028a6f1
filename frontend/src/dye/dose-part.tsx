import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import { useNextDose } from "../api/hooks";
import { ProblemNote } from "../shell/said";
import type { VesselBench } from "./bench-state";
import { useLogging } from "./outbox";
import { typedNumber } from "./reading-form";

/** Reading, dose, reading: then the bath's own buffering says what is still to be given. */
export function DosePart({ study, one }: { study: number; one: VesselBench }) {
  const log = useLogging(study);
  const advice = useNextDose(study, one.vessel.key);
  const [text, setText] = useState("");
  const grams = typedNumber(text);
  const said = advice.data;
  if (!said) return <ProblemNote error={advice.error} again={() => void advice.refetch()} />;
  const give = () => {
    log({ kind: "dose", vessel: one.vessel.key, step: "set-ph", grams, substance: said.substance });
    setText("");
  };
  return (
    <Box sx={{ my: 1, border: 1, borderColor: "divider", p: 1 }}>
      <Box aria-live="polite">
        <strong>{said.words}</strong>
        {said.given_g > 0 && ` Given so far: ${said.given_g.toFixed(2)} g.`}
        {said.dose && ` The bath buffers ${said.dose.buffer_mmol_l_ph.toFixed(1)} mmol/L for each pH.`}
      </Box>
      <Box sx={{ display: "flex", gap: 1, mt: 1 }}>
        <TextField label={`Given now, g ${said.substance}`} value={text} onChange={(event) => setText(event.target.value)} slotProps={{ htmlInput: { inputMode: "decimal" } }} />
        <Button variant="outlined" color="secondary" sx={{ minHeight: 48, flex: "none" }} disabled={!grams || grams <= 0} onClick={give}>
          Log dose
        </Button>
      </Box>
    </Box>
  );
}
