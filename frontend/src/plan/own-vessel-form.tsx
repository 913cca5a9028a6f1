import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import type { Shelf, StudyPlan, Vessel } from "../api/client";
import { typedNumber } from "../settings/quantities";
import { Several } from "../shell/several";
import type { Change } from "./change-plan";
import { KeepOrCancel } from "./keep-or-cancel";

/** The bath that a vessel is a part of. */
const bathOf = (vessel: Vessel) => vessel.key.split(":pot-")[0] ?? vessel.key;

interface OwnVesselFormProps {
  plan: StudyPlan;
  shelf: Shelf;
  vessel: Vessel;
  change: Change;
  onClose: () => void;
}

/** Vessels and volume of a bath, chosen by hand: also several of unequal size. */
export function OwnVesselForm({ plan, shelf, vessel, change, onClose }: OwnVesselFormProps) {
  const bath = bathOf(vessel);
  const own = plan.own_vessels.find((one) => one.bath === bath);
  const [pots, setPots] = useState<string[]>(own?.vessels ?? []);
  const [litres, setLitres] = useState(own?.litres == null ? "" : String(own.litres));
  const volume = typedNumber(litres);
  const wrong = litres.trim() !== "" && (volume === null || Number.isNaN(volume) || volume <= 0);
  const others = plan.own_vessels.filter((one) => one.bath !== bath);
  const keep = (chosen: StudyPlan["own_vessels"]) => {
    change({ own_vessels: [...others, ...chosen] });
    onClose();
  };
  return (
    <Box
      role="group"
      aria-label={`Vessels of ${vessel.name}`}
      sx={{ display: "grid", gap: 1, my: 1, p: 1, border: 1, borderColor: "divider" }}>
      <Several
        label="In these vessels; none: as worked out"
        options={shelf.vessels
          .filter((one) => !one.retired)
          .map((one) => [one.key, `${one.name}, ${one.litres} L`] as const)}
        value={pots}
        onChange={setPots}
      />
      <TextField
        label="Bath in all, L; empty: by the liquor ratio"
        value={litres}
        error={wrong}
        onChange={(event) => setLitres(event.target.value)}
        slotProps={{ htmlInput: { inputMode: "decimal" } }}
      />
      <KeepOrCancel
        words="Keep"
        sound={!wrong && (pots.length > 0 || volume !== null)}
        keep={() => keep([{ bath, vessels: pots, litres: volume }])}
        cancel={onClose}>
        {own && (
          <Button size="small" onClick={() => keep([])}>
            As worked out
          </Button>
        )}
      </KeepOrCancel>
    </Box>
  );
}
