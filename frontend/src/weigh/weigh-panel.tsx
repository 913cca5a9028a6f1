import { useState } from "react";

import type { GridCell, StudyPlan, StudyView } from "../api/client";
import { useWeigh } from "../api/hooks";
import { codesIn } from "../grid/cells";
import { inRunOrder } from "../grid/run-order";
import type { PlanDraft } from "../plan/plan-draft";
import { PanelTabs } from "../shell/panel-tabs";
import { Awaited, Part, ProblemNote } from "../shell/said";
import { BathsPart } from "./baths-part";
import { BeforePart } from "./before-part";
import { TotalsPart } from "./totals-part";

const TABS = { before: "Make ready", baths: "Baths", totals: "Totals" } as const;

export function WeighPanel(props: { study: StudyView; chosen: readonly GridCell[]; draft: PlanDraft }) {
  const { study, chosen, draft } = props;
  const weigh = useWeigh(study.id);
  const [picked, setTab] = useState<keyof typeof TABS | null>(null);
  // Whoever selects swatches wants their baths.
  const tab = picked ?? (chosen.length > 0 ? "baths" : "before");
  const codes = new Set(codesIn(chosen));
  const vessels = inRunOrder(study.vessels).filter(
    (vessel) => chosen.length === 0 || vessel.swatches.some((code) => codes.has(code)),
  );
  const change = (part: Partial<StudyPlan>) => draft.change({ ...study.plan, ...part });
  return (
    <>
      <PanelTabs tabs={TABS} value={tab} onChange={setTab} />
      <ProblemNote error={draft.problem} />
      <Awaited query={weigh}>
        {(view) => (
          <>
            {tab === "before" && <BeforePart study={study} view={view} />}
            {tab === "totals" && <TotalsPart plan={study.plan} weighing={view.weighing} change={change} />}
            {tab === "baths" && (
              <>
                <BathsPart study={study} vessels={vessels} weighing={view.weighing} />
                {vessels.length === 0 && (
                  <Part title="No vessel">
                    {chosen.length > 0 ? "The selected swatches go into no vessel." : "The plan has no baths yet."}
                  </Part>
                )}
              </>
            )}
          </>
        )}
      </Awaited>
    </>
  );
}
