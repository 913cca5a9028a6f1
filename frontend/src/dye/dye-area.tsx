import type { StudyView } from "../api/client";
import { Awaited } from "../shell/said";
import type { DyeState } from "./bench-state";
import { DaysView } from "./days/days-view";
import { usePartOfDye } from "./dye-tabs";
import { LogView } from "./log-view";
import { SwatchRecord } from "./swatch-record";

/** The days or the log, in place of the grid. */
export function DyeArea({ study, state }: { study: StudyView; state: DyeState }) {
  const { part, swatch, open } = usePartOfDye();
  if (part === "days") return <DaysView study={study} onVessel={state.choose} />;
  if (swatch) return <SwatchRecord study={study} code={swatch} onBack={() => open(study.id, "log")} />;
  return (
    <Awaited query={state.bench}>
      {(bench) => <LogView study={study} bench={bench} onSwatch={(one) => open(study.id, `swatch/${one}`)} />}
    </Awaited>
  );
}
