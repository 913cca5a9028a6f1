import type { GridCell, StudyView } from "../api/client";
import { cellKeysOf } from "../grid/cells";
import type { Selection } from "../grid/selection";
import { withCellsBack } from "../plan/change-plan";
import type { PlanDraft } from "../plan/plan-draft";
import type { Colours } from "../read/colours";
import { usePlace } from "../shell/place";
import { ChartView } from "./chart-view";
import { useComparePart } from "./compare-parts";
import type { CompareChoice } from "./compare-choice";
import { FindView } from "./find-view";
import { NextView } from "./next-view";
import { OddView } from "./odd-view";
import { ProfilesView } from "./profiles-view";
import { RealView } from "./real-view";
import { TableView } from "./table-view";
import { TellView } from "./tell-view";

interface CompareViewProps {
  study: StudyView;
  draft: PlanDraft;
  chosen: readonly GridCell[];
  choice: CompareChoice;
  selection: Selection;
  colours: Colours;
}

/** The views of what came out, beside or instead of the grid. */
export function CompareArea(props: CompareViewProps) {
  const { study, choice, selection, chosen, colours, draft } = props;
  const { part, open } = useComparePart(study.id);
  const [, go] = usePlace();
  if (part === "chart")
    return <ChartView study={study} selection={selection} choice={choice.chart} filled={choice.filled} />;
  if (part === "profiles") return <ProfilesView study={study} />;
  if (part === "find") return <FindView study={study} state={choice.find} table={choice.table} />;
  if (part === "tell") return <TellView study={study} chosen={chosen} colours={colours} />;
  if (part === "twins") return <OddView study={study} selection={selection} table={choice.table} />;
  if (part === "next")
    return (
      <NextView
        study={study}
        find={choice.find}
        onMade={(made) => go({ study: made, view: "plan" })}
        onFind={() => open("find")}
        onFade={(codes) => {
          selection.replace(cellKeysOf(study, codes));
          go({ study: study.id, view: "fade" });
        }}
      />
    );
  if (part === "table") return <TableView study={study} colours={colours} state={choice.table} />;
  if (part === "real")
    return (
      <RealView
        study={study}
        kinds={colours.kinds}
        state={choice.state}
        filled={choice.filled}
        onThirdLot={(cells) => {
          draft.change(withCellsBack(study.plan, cells));
          go({ study: study.id, view: "plan" });
        }}
      />
    );
  return null;
}
