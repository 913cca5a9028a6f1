import Box from "@mui/material/Box";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import type { Schema } from "../../api/client";
import type { Protocol } from "./protocol-dialog";

type StepTime = NonNullable<Protocol["step_times"]>[number];
type Bath = StepTime["bath"];

interface StepTimesProps {
  bench: Schema["DyeView"];
  protocol: Protocol;
  change: (part: Partial<Protocol>) => void;
}

/** Shortest and longest times and hands of each step, over the defaults of common practice. */
export function StepTimes({ bench, protocol, change }: StepTimesProps) {
  const baths = [...new Set(bench.vessels.map((one) => one.vessel.bath))];
  const [chosen, setBath] = useState<Bath | null>(null);
  const bath = chosen ?? baths[0];
  const one = bench.vessels.find((each) => each.vessel.bath === bath);
  if (!bath || !one) return null;
  const times = protocol.step_times ?? [];
  const ownOf = (step: string) => times.find((time) => time.bath === bath && time.step === step);
  const set = (step: string, part: Partial<StepTime>) => {
    const next = { ...(ownOf(step) ?? { bath, step }), ...part };
    const others = times.filter((time) => time.bath !== bath || time.step !== step);
    const empty = next.shortest_min == null && next.longest_min == null && next.hands_min == null;
    change({ step_times: empty ? others : [...others, next] });
  };
  const field = (label: string, own: number | null | undefined, usual: number | null | undefined, take: (value: number | null) => void) => (
    <TextField
      label={label}
      placeholder={usual == null ? "any" : String(Math.round(usual * 10) / 10)}
      value={own ?? ""}
      onChange={(event) => take(event.target.value === "" ? null : Number(event.target.value))}
      slotProps={{ inputLabel: { shrink: true }, htmlInput: { inputMode: "numeric" } }}
    />
  );
  return (
    <Box sx={{ mt: 2 }}>
      <TextField select label="Times of the steps, in minutes" value={bath} onChange={(event) => setBath(event.target.value as Bath)}>
        {baths.map((each) => (
          <MenuItem key={each} value={each}>
            {each}
          </MenuItem>
        ))}
      </TextField>
      {one.steps.map(({ step }) => {
        const own = ownOf(step.key);
        return (
          <Box key={step.key} sx={{ display: "grid", gridTemplateColumns: "1fr 86px 86px 86px", gap: 1, alignItems: "center", mt: 1 }}>
            <Box sx={{ fontSize: 14 }}>{step.title}</Box>
            {field("shortest", own?.shortest_min, step.shortest_min, (value) => set(step.key, { shortest_min: value }))}
            {field("longest", own?.longest_min, step.longest_min, (value) => set(step.key, { longest_min: value }))}
            {field("hands", own?.hands_min, step.hands_min, (value) => set(step.key, { hands_min: value }))}
          </Box>
        );
      })}
    </Box>
  );
}
