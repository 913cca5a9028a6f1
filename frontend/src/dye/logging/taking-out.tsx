import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import type { Schema } from "../../api/client";
import { Several } from "../../shell/several";
import { nowIn } from "../bench-state";
import type { VesselBench } from "../bench-state";
import { useLogging } from "../outbox";

interface TakingOutProps {
  study: number;
  bench: Schema["DyeView"];
  one: VesselBench;
  step: string;
}

/** A piece is taken out: for a look, after which it goes back, or for good. */
export function TakingOut({ study, bench, one, step }: TakingOutProps) {
  const log = useLogging(study);
  const [which, setWhich] = useState<string[]>([]);
  const [note, setNote] = useState("");
  const [said, setSaid] = useState("");
  const take = (kind: "looked" | "unloaded", words: string) => {
    log({ kind, vessel: one.vessel.name, step, swatches: which, note });
    setSaid(`${which.join(" ")}: ${words}.`);
    setWhich([]);
    setNote("");
  };
  return (
    <Box role="group" aria-label="A piece out" sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1, my: 1 }}>
      <Box sx={{ gridColumn: "1 / -1" }}>
        <Several
          label="Which pieces"
          options={nowIn(bench, one).inside.map((code) => [code, code] as const)}
          value={which}
          onChange={setWhich}
        />
      </Box>
      <TextField
        label="Note"
        value={note}
        sx={{ gridColumn: "1 / -1" }}
        onChange={(event) => setNote(event.target.value)}
      />
      <Button
        variant="outlined"
        color="secondary"
        sx={{ minHeight: 48 }}
        disabled={which.length === 0}
        onClick={() => take("looked", "out for a look, and back")}>
        Out for a look
      </Button>
      <Button
        variant="outlined"
        color="secondary"
        sx={{ minHeight: 48 }}
        disabled={which.length === 0}
        onClick={() => take("unloaded", "out for good")}>
        Out for good
      </Button>
      <Box sx={{ gridColumn: "1 / -1", fontSize: 13 }} aria-live="polite">
        {said}
      </Box>
    </Box>
  );
}
