import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useState } from "react";

import { answered, api } from "../../api/client";
import type { StudyView } from "../../api/client";
import { useBench, useChange, useDayPlan } from "../../api/hooks";
import { Awaited, ProblemNote } from "../../shell/said";
import { isDone } from "../bench-state";
import { DayList } from "./day-list";
import type { PlannedWork } from "./day-plan";
import { MoveDialog } from "./move-dialog";
import { PlanFacts } from "./plan-facts";
import { PlanningBar } from "./planning-bar";
import { ProtocolDialog } from "./protocol-dialog";
import { Timeline } from "./timeline";

/** From plan to days: when hands are needed, who is in which vessel, and how good the plan is. */
export function DaysView({ study, onVessel }: { study: StudyView; onVessel: (key: string) => void }) {
  const days = useDayPlan(study.id);
  const vessels = useBench(study.id).data?.vessels ?? [];
  const allDone = vessels.length > 0 && vessels.every(isDone);
  const [asking, setAsking] = useState(false);
  const [moving, setMoving] = useState<PlannedWork | null>(null);
  const make = useChange(
    (wanted: { seconds: number; with_cures: boolean }) =>
      answered(
        api.POST("/api/studies/{study_id}/dye/plan", { params: { path: { study_id: study.id } }, body: wanted }),
      ),
    { study: study.id },
  );
  return (
    <Awaited query={days}>
      {(view) => {
        const running = view.planning?.running ?? false;
        const plan = (running ? view.planning?.best : null) ?? view.plan;
        return (
          <Box sx={{ p: 2, overflow: "auto", minHeight: 0 }}>
            <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, alignItems: "center" }}>
              <Button
                variant={allDone ? "outlined" : "contained"}
                sx={{ minHeight: 48 }}
                disabled={running || allDone}
                onClick={() => make.mutate({ seconds: 20, with_cures: false })}>
                {view.plan ? "Plan the rest anew from now" : "Plan the days"}
              </Button>
              <Button variant="outlined" color="secondary" sx={{ minHeight: 48 }} onClick={() => setAsking(true)}>
                Hours, hands and waits
              </Button>
              {view.plan && (
                <>
                  <Button disabled={running} onClick={() => make.mutate({ seconds: 8, with_cures: true })}>
                    What would make it sooner
                  </Button>
                  <Button component="a" href={`/api/studies/${study.id}/dye/plan.ics`}>
                    Calendar file
                  </Button>
                </>
              )}
            </Box>
            <ProblemNote error={make.error} />
            {view.outdated && !running && (
              <Box role="note" sx={{ borderLeft: 6, pl: 1, my: 1 }}>
                The study has changed since these days were planned: plan the rest anew.
              </Box>
            )}
            {view.planning && <PlanningBar study={study.id} planning={view.planning} />}
            {plan ? (
              <>
                <PlanFacts plan={plan} />
                <Box
                  sx={{
                    display: "grid",
                    gridTemplateColumns: { xs: "minmax(0, 1fr)", xl: "minmax(0, 3fr) minmax(0, 2fr)" },
                    columnGap: 4,
                  }}>
                  <Timeline plan={plan} onChoose={setMoving} />
                  <Box sx={{ mt: { xl: 2 } }}>
                    <DayList plan={plan} onChoose={setMoving} />
                  </Box>
                </Box>
              </>
            ) : (
              !running && (
                <p>
                  {allDone
                    ? "Every bath of this study is done: no day is left to plan."
                    : "No day is planned yet. The planner lays every bath into your working hours: pots, heat places and hands are never taken twice, and what may cool overnight does."}
                </p>
              )
            )}
            {asking && <ProtocolDialog study={study} onClose={() => setAsking(false)} />}
            {moving && (
              <MoveDialog
                study={study.id}
                work={moving}
                onClose={() => setMoving(null)}
                onBench={() => {
                  onVessel(moving.vessel);
                  setMoving(null);
                }}
              />
            )}
          </Box>
        );
      }}
    </Awaited>
  );
}
