import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useState } from "react";

import { answered, api } from "../../api/client";
import type { Schema } from "../../api/client";
import { useChange } from "../../api/hooks";
import { ChoiceField } from "../../shell/choice-field";
import { QuantityField } from "../../shell/quantity-field";
import { ProblemNote } from "../../shell/said";
import type { VesselBench } from "../bench-state";

type KeptIn = Schema["Leftover"]["kept_in"];
const KEPT_IN: KeptIn[] = ["a jar", "a bottle", "the freezer"];

/** What is left in a vessel, kept as a lot on the Shelf, with its date. */
export function LeftoverForm({ study, one }: { study: number; one: VesselBench }) {
  const [millilitres, setMillilitres] = useState<number | null>(null);
  const [keptIn, setKeptIn] = useState<KeptIn>("a jar");
  const keep = useChange(
    () =>
      answered(
        api.POST("/api/studies/{study_id}/dye/leftovers", {
          params: { path: { study_id: study } },
          body: { vessel: one.vessel.name, volume_ml: millilitres ?? 0, kept_in: keptIn },
        }),
      ),
    { study },
    "shelf",
  );
  return (
    <Box
      role="group"
      aria-label="Keep what is left"
      sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1, my: 1 }}>
      <QuantityField key={keep.data?.key} label="Left, mL" start={null} onTake={setMillilitres} />
      <ChoiceField label="Kept in" value={keptIn} onChange={setKeptIn} options={KEPT_IN} />
      <Button
        variant="contained"
        sx={{ gridColumn: "1 / -1", minHeight: 48 }}
        disabled={millilitres === null || !(millilitres > 0) || keep.isPending}
        onClick={() => keep.mutate(undefined, { onSuccess: () => setMillilitres(null) })}>
        Keep it as a lot
      </Button>
      <Box sx={{ gridColumn: "1 / -1", fontSize: 13 }} aria-live="polite">
        {keep.data && `On the Shelf as “${keep.data.name}”.`}
        <ProblemNote error={keep.error} />
      </Box>
    </Box>
  );
}
