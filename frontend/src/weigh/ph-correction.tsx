import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import { answered, api } from "../api/client";
import type { Schema } from "../api/client";
import { useLook } from "../api/hooks";
import { inMyUnits, typedMass, typedNumber } from "../settings/quantities";
import { waysNow } from "../settings/ways";
import { ProblemNote } from "../shell/said";

/** Two readings of the real bath say how much it buffers, and so what is still to give. */
export function PhCorrection({ question }: { question: Schema["PhQuestion"] }) {
  const [open, setOpen] = useState(false);
  const [first, setFirst] = useState("");
  const [given, setGiven] = useState("");
  const [second, setSecond] = useState("");
  const look = useLook(() =>
    answered(
      api.POST("/api/ph/next", {
        body: {
          question,
          ph_first: typedNumber(first) ?? NaN,
          grams_given: typedMass(given) ?? NaN,
          ph_second: typedNumber(second) ?? NaN,
          beside: [],
        },
      }),
    ),
  );
  if (!open)
    return (
      <Button size="small" variant="outlined" sx={{ mt: 0.5 }} onClick={() => setOpen(true)}>
        I have two readings
      </Button>
    );
  const field = (label: string, value: string, set: (value: string) => void) => (
    <TextField label={label} value={value} onChange={(event) => set(event.target.value)} />
  );
  return (
    <Box
      component="form"
      onSubmit={(event) => {
        event.preventDefault();
        look.mutate(undefined);
      }}
      sx={{ display: "grid", gridTemplateColumns: "1fr 1fr 1fr", gap: 1, mt: 1 }}>
      {field("pH at first", first, setFirst)}
      {field(`Given, ${waysNow().mass}`, given, setGiven)}
      {field("pH after", second, setSecond)}
      <Button
        type="submit"
        variant="outlined"
        disabled={!first || !given || !second || look.isPending}
        sx={{ gridColumn: "1 / -1" }}>
        What is still to give?
      </Button>
      <Box sx={{ gridColumn: "1 / -1" }}>
        <ProblemNote error={look.error} />
        {look.data && !look.error && (
          <Box role="status">
            <strong>{inMyUnits(look.data.words)}</strong> The bath buffers {look.data.buffer_mmol_l_ph.toFixed(1)}{" "}
            mmol/L for each pH more than your water.
          </Box>
        )}
      </Box>
    </Box>
  );
}
