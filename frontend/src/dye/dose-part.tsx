import Box from "@mui/material/Box";

import type { Schema } from "../api/client";
import { useNextDose } from "../api/hooks";
import { ProblemNote } from "../shell/said";
import type { VesselBench } from "./bench-state";
import { AdditionForm } from "./logging/addition-form";
import { inMyUnits, massWords } from "../settings/quantities";

interface DosePartProps {
  study: number;
  bench: Schema["DyeView"];
  one: VesselBench;
  step: string;
}

/** Reading, addition, reading: then the bath's own buffering says what is still to be given. */
export function DosePart({ study, bench, one, step }: DosePartProps) {
  const advice = useNextDose(study, one.vessel.name, step);
  const said = advice.data;
  if (!said) return <ProblemNote error={advice.error} again={() => void advice.refetch()} />;
  return (
    <Box sx={{ my: 1, border: 1, borderColor: "divider", p: 1 }}>
      <Box aria-live="polite">
        <strong>{inMyUnits(said.words)}</strong>
        {said.given_g > 0 && ` Given so far: ${massWords(said.given_g)} ${said.substance}.`}
        {said.dose && ` The bath buffers ${said.dose.buffer_mmol_l_ph.toFixed(1)} mmol/L for each pH.`}
      </Box>
      <AdditionForm
        key={said.substance}
        study={study}
        bench={bench}
        one={one}
        step={step}
        proposed={{ name: said.substance, stock: said.stock_percent }}
      />
    </Box>
  );
}
