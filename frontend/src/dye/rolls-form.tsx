import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import type { StudyView } from "../api/client";
import { LoadingCheck } from "./loading-check";
import { whoIs } from "./bench-state";
import type { VesselBench } from "./bench-state";
import { useLogging } from "./outbox";
import { Several } from "../shell/several";

/** Bundle prints: who is in which roll, and what lies where in it. */
export function RollsForm({ study, one, step }: { study: StudyView; one: VesselBench; step: string }) {
  const log = useLogging(study.id);
  const [which, setWhich] = useState<string[]>([]);
  const [what, setWhat] = useState("");
  const [roll, setRoll] = useState(1);
  const keep = () => {
    log({ kind: "laid", vessel: one.vessel.name, step, swatches: which, note: `roll ${roll}: ${what.trim()}` });
    setWhich([]);
    setWhat("");
    setRoll(roll + 1);
  };
  return (
    <>
      <LoadingCheck study={study} one={one} step={step} />
      <Box sx={{ display: "grid", gap: 1, my: 1 }}>
        <Several
          label={`In roll ${roll}`}
          options={whoIs(one).map((code) => [code, code] as const)}
          value={which}
          onChange={setWhich}
        />
        <TextField
          label="What lies where, from the core outwards"
          multiline
          minRows={2}
          value={what}
          onChange={(event) => setWhat(event.target.value)}
        />
        <Button
          variant="outlined"
          color="secondary"
          sx={{ minHeight: 48 }}
          disabled={!what.trim() || which.length === 0}
          onClick={keep}>
          Keep roll {roll}
        </Button>
      </Box>
    </>
  );
}
