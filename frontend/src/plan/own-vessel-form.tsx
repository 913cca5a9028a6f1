import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import type { Shelf, StudyPlan, Vessel } from "../api/client";
import { massWords, typedNumber } from "../settings/quantities";
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
  const [asGiven, setAsGiven] = useState(own?.as_given ?? false);
  const given = vessel.given_for ?? own?.given_for;
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
      {(given != null || asGiven) && (
        <FormControlLabel
          control={<Checkbox checked={!asGiven} onChange={(_, on) => setAsGiven(!on)} />}
          label={`What is given by bath goes with the fibre${given ? `: it was for ${massWords(given.bath_g)}${given.vessel ? ` in ${given.vessel}` : ""}` : ""}`}
        />
      )}
      <KeepOrCancel
        words="Keep"
        sound={!wrong && (pots.length > 0 || volume !== null || asGiven !== (own?.as_given ?? false))}
        keep={() => keep([{ bath, vessels: pots, litres: volume, given_for: own?.given_for, as_given: asGiven }])}
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
