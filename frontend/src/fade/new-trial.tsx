import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import { answered, api } from "../api/client";
import type { GridCell, Schema, StudyView } from "../api/client";
import { useChange } from "../api/hooks";
import { codesIn } from "../grid/cells";
import { SwatchPicker } from "../grid/swatch-picker";
import { ProblemNote } from "../shell/said";

const numbers = (text: string) =>
  text
    .split(/[\s,;]+/)
    .filter(Boolean)
    .map(Number);

interface NewTrialProps {
  study: StudyView;
  chosen: readonly GridCell[];
  onMade: () => void;
}

/** Which swatches, and at which doses they are read. Light is counted in lx·h. */
export function NewTrial({ study, chosen, onMade }: NewTrialProps) {
  const [kind, setKind] = useState<"light" | "wash">("light");
  const [name, setName] = useState("");
  const [steps, setSteps] = useState("1 2 4 8 16");
  const [hours, setHours] = useState("8");
  const [lux, setLux] = useState("12000");
  const offered = codesIn(chosen);
  const [without, setWithout] = useState<readonly string[]>([]);
  const swatches = offered.filter((code) => !without.includes(code));
  const count = swatches.length === 1 ? "1 swatch" : `${swatches.length} swatches`;
  const perDay = Number(hours) * Number(lux);
  const stages = (): Schema["StagePlan"][] =>
    numbers(steps).map((step) =>
      kind === "light"
        ? { label: step === 1 ? "1 day" : `${step} days`, days: step, dose_lxh: step * perDay, washes: 0 }
        : { label: step === 1 ? "1 wash" : `${step} washes`, days: 0, dose_lxh: 0, washes: step },
    );
  const make = useChange(() =>
    answered(
      api.POST("/api/studies/{study_id}/trials", {
        params: { path: { study_id: study.id } },
        body: { kind, name, swatches, stages: stages() },
      }),
    ),
  );
  return (
    <Box component="form" sx={{ display: "grid", gap: 1.5, mt: 1 }} onSubmit={(event) => event.preventDefault()}>
      <strong>{count} selected in the grid</strong>
      {offered.length > 0 && (
        <SwatchPicker study={study} offered={offered} value={swatches} onChange={(codes) => setWithout(offered.filter((code) => !codes.includes(code)))} />
      )}
      <TextField select label="Trial" value={kind} onChange={(e) => {
        const wanted = e.target.value as "light" | "wash";
        setKind(wanted);
        setSteps(wanted === "light" ? "1 2 4 8 16" : "1 3 5");
      }}>
        <MenuItem value="light">Light</MenuItem>
        <MenuItem value="wash">Washing</MenuItem>
      </TextField>
      <TextField label="Name of the trial" value={name} onChange={(e) => setName(e.target.value)} />
      <TextField
        label={kind === "light" ? "Read after days" : "Read after washes"}
        value={steps}
        onChange={(e) => setSteps(e.target.value)}
      />
      {kind === "light" && (
        <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1 }}>
          <TextField label="Hours of light a day" value={hours} onChange={(e) => setHours(e.target.value)} />
          <TextField label="Mean lx" value={lux} onChange={(e) => setLux(e.target.value)} />
          <Box sx={{ gridColumn: "1 / -1", fontSize: 13 }}>
            {hours} h × {lux} lx = {(perDay / 1000).toFixed(0)} klx·h a day. Typical: overcast 10 klx, sunny sill
            behind glass 10 to 50 klx, bright room 500 lx.
          </Box>
        </Box>
      )}
      <ProblemNote error={make.error} />
      <Button
        variant="contained"
        disabled={swatches.length === 0 || !name.trim() || make.isPending}
        onClick={() => make.mutate(undefined, { onSuccess: onMade })}
      >
        Start with {count}
      </Button>
    </Box>
  );
}
