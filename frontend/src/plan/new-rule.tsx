import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import type { FactorKind, Schema, StudyPlan } from "../api/client";
import { FACTOR_NAMES } from "../grid/axes";
import { Several } from "../shell/several";
import { FIBRE_CLASSES } from "./levels";

type FibreClass = (typeof FIBRE_CLASSES)[number];

interface NewRuleProps {
  plan: StudyPlan;
  onMade: (rule: Schema["LeaveOutRule"]) => void;
  onClose: () => void;
}

/** Says which levels are left out together, and why. */
export function NewRule({ plan, onMade, onClose }: NewRuleProps) {
  const [levels, setLevels] = useState<Partial<Record<FactorKind, string[]>>>({});
  const [classes, setClasses] = useState<FibreClass[]>([]);
  const [reason, setReason] = useState("");
  const named = Object.fromEntries(Object.entries(levels).filter(([, keys]) => keys.length > 0));
  const says = Object.keys(named).length > 0 || classes.length > 0;
  return (
    <Box
      component="form"
      aria-label="New rule"
      onSubmit={(event) => {
        event.preventDefault();
        onMade({ levels: named, fibre_classes: classes, reason: reason.trim() });
      }}
      sx={{ display: "grid", gap: 1 }}>
      <Box sx={{ fontSize: 13 }}>Leave out every cell that has all of these together.</Box>
      {(plan.factors ?? []).map((factor) => (
        <Several
          key={factor.kind}
          label={FACTOR_NAMES[factor.kind]}
          options={factor.levels.map((level) => [level.key, level.label] as const)}
          value={levels[factor.kind] ?? []}
          onChange={(keys) => setLevels({ ...levels, [factor.kind]: keys })}
        />
      ))}
      <Several
        label="Class of fibre"
        options={FIBRE_CLASSES.map((one) => [one, one] as const)}
        value={classes}
        onChange={setClasses}
      />
      <TextField label="Reason" value={reason} onChange={(event) => setReason(event.target.value)} />
      <div>
        <Button type="submit" variant="outlined" disabled={!says} sx={{ mr: 1 }}>
          Leave these out
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </div>
    </Box>
  );
}
