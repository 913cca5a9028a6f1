import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useEffect } from "react";

import type { FactorKind, Level, StudyView } from "../api/client";
import { cellOf } from "../grid/cells";
import { counted } from "../shell/counted";

/** A level that is about to be taken out. */
export interface Going {
  kind: FactorKind;
  level: Level;
}

interface GoesWithItProps {
  study: StudyView;
  going: Going;
  onTakeOut: () => void;
  onKeep: () => void;
}

/** What goes with a level that is taken out, before it goes; nothing is asked where nothing does. */
export function GoesWithIt({ study, going, onTakeOut, onKeep }: GoesWithItProps) {
  const swatches = study.swatches.filter((one) => one.planned && cellOf(study, one.code)?.levels[going.kind] === going.level.key);
  const codes = new Set(swatches.map((one) => one.code));
  const vessels = study.vessels.filter((one) => one.swatches.length > 0 && one.swatches.every((code) => codes.has(code)));
  const begun = swatches.filter((one) => one.begun).length;
  const nothing = swatches.length === 0;
  useEffect(() => {
    if (nothing) onTakeOut();
  }, [nothing, onTakeOut]);
  if (nothing) return null;
  return (
    <Box role="alertdialog" aria-label={`Take out ${going.level.label}`} sx={{ border: 2, p: 1.25, my: 1 }}>
      <strong>
        With {going.level.label} {counted(swatches.length, "swatch")} {vessels.length > 0 ? `and ${counted(vessels.length, "vessel")} ` : ""}
        {swatches.length + vessels.length > 1 ? "go" : "goes"} out of the plan.
      </strong>
      <Box sx={{ fontSize: 14, mb: 1 }}>
        {begun > 0
          ? `${begun} of them ${begun === 1 ? "was" : "were"} begun: what happened to ${begun === 1 ? "it" : "them"} stays in the record.`
          : "None of them was begun. It can be undone."}
      </Box>
      <Button variant="contained" autoFocus onClick={onTakeOut} sx={{ mr: 1 }}>
        Take it out
      </Button>
      <Button variant="outlined" onClick={onKeep}>
        Keep it
      </Button>
    </Box>
  );
}
