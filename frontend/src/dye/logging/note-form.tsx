import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import { useState } from "react";

import { AddNote } from "../../notes/add-note";
import type { VesselBench } from "../bench-state";

/** Words and a picture, of a bath or of the whole study. */
export function NoteForm({ study, one }: { study: number; one: VesselBench }) {
  const [whole, setWhole] = useState(false);
  return (
    <AddNote study={study} about={{ vessel: whole ? "" : one.vessel.name }}>
      <FormControlLabel
        control={<Checkbox checked={whole} onChange={(_, on) => setWhole(on)} />}
        label={`Of the whole study, not of ${one.vessel.name}`}
      />
    </AddNote>
  );
}
