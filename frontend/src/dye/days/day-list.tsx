import Box from "@mui/material/Box";

import { inMyUnits } from "../../settings/quantities";
import type { DayPlan, PlannedWork } from "./day-plan";
import { clockOf, dayOf } from "./own-time";

/** What is done on each day, in order of the clock. */
export function DayList({ plan, onChoose }: { plan: DayPlan; onChoose: (work: PlannedWork) => void }) {
  const days = [...new Set(plan.work.map((one) => one.starts_at.slice(0, 10)))].sort();
  return (
    <>
      {days.map((day) => (
        <Box key={day} component="section" aria-label={dayOf(`${day}T00:00:00`)} sx={{ mb: 2 }}>
          <Box component="h3" sx={{ m: 0, mb: 0.5, fontSize: 15 }}>
            {dayOf(`${day}T00:00:00`)}
          </Box>
          {plan.work
            .filter((one) => one.starts_at.startsWith(day))
            .map((one) => (
              <Row key={one.task} work={one} onChoose={onChoose} />
            ))}
        </Box>
      ))}
    </>
  );
}

const lowerFirst = (words: string) => words.charAt(0).toLowerCase() + words.slice(1);

const STATES: Record<string, string> = { done: "✓", runs: "runs", planned: "" };

function Row({ work, onChoose }: { work: PlannedWork; onChoose: (work: PlannedWork) => void }) {
  return (
    <Box
      component="button"
      type="button"
      onClick={() => onChoose(work)}
      sx={{
        display: "flex",
        gap: 1.5,
        width: "100%",
        minHeight: 48,
        alignItems: "baseline",
        textAlign: "left",
        border: 0,
        borderBottom: 1,
        borderColor: "divider",
        bgcolor: "transparent",
        color: "inherit",
        font: "inherit",
        cursor: "pointer",
        py: 0.75,
        px: 0,
        opacity: work.state === "done" ? 0.6 : 1,
      }}>
      <Box sx={{ width: 48, fontWeight: 700, flex: "none" }}>{clockOf(work.starts_at)}</Box>
      <Box sx={{ width: 38, fontWeight: 700, flex: "none" }}>{work.vessel}</Box>
      <Box sx={{ flex: 1 }}>
        {inMyUnits(work.words || work.runs)}
        <Box sx={{ fontSize: 13, color: "text.secondary" }}>
          {inMyUnits(work.vessel_title)}
          {work.pot && `, in ${work.pot}`}
          {work.soak_from && `; into ${work.iron ? "the iron bowl" : "water"} from ${clockOf(work.soak_from)}`}
          {work.runs && work.words && `; then ${lowerFirst(inMyUnits(work.runs))}, until ${clockOf(work.ends_at)}`}
          {work.then && `; then ${lowerFirst(work.then)}`}
        </Box>
      </Box>
      <Box sx={{ flex: "none", fontSize: 13 }}>
        {work.pinned ? "held " : ""}
        {STATES[work.state]}
      </Box>
    </Box>
  );
}
