import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import { answered, api } from "../../api/client";
import type { StudyView } from "../../api/client";
import { useChange } from "../../api/hooks";
import { SwatchPicker } from "../../grid/swatch-picker";
import { ChoiceField } from "../../shell/choice-field";
import { QuantityField } from "../../shell/quantity-field";
import { ProblemNote } from "../../shell/said";

interface StartFromDialogProps {
  study: StudyView;
  codes: readonly string[];
  onClose: () => void;
  onMade: (id: number) => void;
}

/** A study whose fibres are the cloth of these swatches. */
export function StartFromDialog({ study, codes, onClose, onMade }: StartFromDialogProps) {
  const [name, setName] = useState(`${study.plan.name}, on dyed cloth`);
  const [swatches, setSwatches] = useState<string[]>([...codes]);
  const [cut, setCut] = useState(false);
  const [mass, setMass] = useState<number | null>(2);
  const make = useChange(
    () =>
      answered(
        api.POST("/api/studies/from-swatches", { body: { name: name.trim(), swatches, cut, mass_g: mass ?? 0 } }),
      ),
    "studies",
    { study: study.id },
  );
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="start-from">
      <DialogTitle id="start-from">
        Start a study from {swatches.length === 1 ? swatches[0] : `${swatches.length} swatches`}
      </DialogTitle>
      <DialogContent>
        <Box sx={{ mb: 1.5 }}>
          Their cloth becomes the fibres of the new study. Both studies, and every swatch, keep the link.
        </Box>
        <SwatchPicker study={study} offered={codes} value={swatches} onChange={setSwatches} others />
        <Box sx={{ display: "grid", gap: 1.5, mt: 2 }}>
          <TextField label="Name of the new study" value={name} onChange={(event) => setName(event.target.value)} />
          <ChoiceField
            label="How they are taken"
            value={cut ? "cut" : "whole"}
            onChange={(chosen) => setCut(chosen === "cut")}
            options={[
              ["whole", "Whole, each under its own code"],
              ["cut", "New pieces, cut from them"],
            ]}
          />
          {cut && <QuantityField label="Dry mass of a piece, g" start={2} needed onTake={setMass} />}
        </Box>
        <ProblemNote error={make.error} />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Close</Button>
        <Button
          variant="contained"
          disabled={!name.trim() || swatches.length === 0 || (cut && !(mass !== null && mass > 0)) || make.isPending}
          onClick={() => make.mutate(undefined, { onSuccess: (made) => onMade(made.id) })}>
          Start it
        </Button>
      </DialogActions>
    </Dialog>
  );
}
