import Box from "@mui/material/Box";

import { inMyUnits } from "../../settings/quantities";
import { durationWords } from "../../shell/durations";
import type { DayPlan } from "./day-plan";
import { clockOf, dayOf } from "./own-time";

/** What the plan comes to, and how much shorter it could be at most. */
export function PlanFacts({ plan }: { plan: DayPlan }) {
  const facts: [string, string][] = [
    ["Ready to read", `${dayOf(plan.ready_at)}, ${clockOf(plan.ready_at)}`],
    ["Days with work", String(plan.working_days)],
    ["Hands", durationWords(plan.hands_min)],
    ["Waiting between", durationWords(plan.idle_min)],
  ];
  return (
    <Box sx={{ my: 1.5 }}>
      <Box component="dl" sx={{ display: "flex", flexWrap: "wrap", gap: 3, m: 0 }}>
        {facts.map(([name, value]) => (
          <div key={name}>
            <Box component="dt" sx={{ fontSize: 13, color: "text.secondary" }}>
              {name}
            </Box>
            <Box component="dd" sx={{ m: 0, fontSize: 20, fontWeight: 700 }}>
              {value}
            </Box>
          </div>
        ))}
      </Box>
      <Box sx={{ fontSize: 13, mt: 1, maxWidth: 720 }}>
        {plan.proven
          ? "No plan is ready sooner: that is proven."
          : `The best plan might be up to ${plan.could_be_shorter_percent} % shorter, no more: none is ready before ${dayOf(plan.bound_at)}, ${clockOf(plan.bound_at)}, as ${plan.why}.`}
        {plan.against_list && ` ${plan.against_list}`}
        {" Stirring is not planned to the minute: the timers remind you."}
      </Box>
      {(plan.short ?? []).map((words) => (
        <Box key={words} role="alert" sx={{ borderLeft: 6, borderColor: "error.main", pl: 1, mt: 1 }}>
          {inMyUnits(words)}
        </Box>
      ))}
    </Box>
  );
}
