import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useEffect } from "react";

import type { FactorKind, Level, StudyView } from "../api/client";
import { FACTOR_NAMES } from "../grid/axes";
import { cellOf } from "../grid/cells";
import { counted } from "../shell/counted";

/** What is about to be taken out: a level, or a factor with all its levels. */
export interface Going {
  kind: FactorKind;
  level?: Level;
}

interface GoesWithItProps {
  study: StudyView;
  going: Going;
  onTakeOut: () => void;
  onKeep: () => void;
}

/** What goes with what is taken out, before it goes; nothing is asked where nothing does. */
export function GoesWithIt({ study, going, onTakeOut, onKeep }: GoesWithItProps) {
  const { kind, level } = going;
  const name = level?.label ?? FACTOR_NAMES[kind];
  const levels = study.plan.factors.find((factor) => factor.kind === kind)?.levels.length ?? 0;
  const swatches = study.swatches.filter((one) => {
    const own = one.planned ? cellOf(study, one.code)?.levels[kind] : undefined;
    return level ? own === level.key : own !== undefined && levels > 1;
  });
  const codes = new Set(swatches.map((one) => one.code));
  const vessels = study.vessels.filter(
    (one) => one.swatches.length > 0 && one.swatches.every((code) => codes.has(code)),
  );
  const begun = swatches.filter((one) => one.begun).length;
  const nothing = swatches.length === 0;
  useEffect(() => {
    if (nothing) onTakeOut();
  }, [nothing, onTakeOut]);
  if (nothing) return null;
  return (
    <Box role="alertdialog" aria-label={`Take out ${name}`} sx={{ border: 2, p: 1.25, my: 1 }}>
      {level ? (
        <strong>
          With {name} {counted(swatches.length, "swatch")}{" "}
          {vessels.length > 0 ? `and ${counted(vessels.length, "vessel")} ` : ""}
          {swatches.length + vessels.length > 1 ? "go" : "goes"} out of the plan.
        </strong>
      ) : (
        <strong>
          {counted(swatches.length, "swatch")} {swatches.length > 1 ? "have" : "has"} one of the {levels} levels of{" "}
          {name}. Without it, where several differ in nothing else, one of each is kept and the others go out of the
          plan.
        </strong>
      )}
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
