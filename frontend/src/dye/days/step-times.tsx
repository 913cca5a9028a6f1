import Box from "@mui/material/Box";
import { useState } from "react";

import type { Schema } from "../../api/client";
import { inMyUnits } from "../../settings/quantities";
import { ChoiceField } from "../../shell/choice-field";
import { DurationField } from "../../shell/duration-field";
import type { Protocol } from "./day-plan";

type StepTime = NonNullable<Protocol["step_times"]>[number];
type Bath = StepTime["bath"];

const TIMES = [
  ["shortest", "shortest_min"],
  ["longest", "longest_min"],
  ["hands", "hands_min"],
] as const;

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
  return (
    <Box sx={{ mt: 2 }}>
      <ChoiceField label="Times of the steps" value={bath} onChange={setBath} options={baths} />
      {one.steps.map(({ step }) => {
        const own = ownOf(step.key);
        return (
          <Box
            key={`${bath} ${step.key}`}
            sx={{
              display: "grid",
              gridTemplateColumns: { xs: "repeat(3, 1fr)", sm: "1fr 112px 112px 112px" },
              gap: 1,
              alignItems: "center",
              mt: 1,
            }}>
            <Box sx={{ fontSize: 14, gridColumn: { xs: "1 / -1", sm: "auto" } }}>{inMyUnits(step.title)}</Box>
            {TIMES.map(([label, name]) => (
              <DurationField
                key={name}
                label={label}
                minutes={own?.[name] ?? null}
                usual={step[name]}
                onTake={(minutes) => set(step.key, { [name]: minutes })}
              />
            ))}
          </Box>
        );
      })}
    </Box>
  );
}
