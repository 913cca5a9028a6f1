import Box from "@mui/material/Box";
import { Suspense, lazy, useMemo, useState } from "react";
import type { ReactNode } from "react";

import type { GridCell, StudyView } from "../api/client";
import { useColours, useRevisionWatch, useStudy } from "../api/hooks";
import { useCompareChoice } from "../compare/compare-choice";
import { useComparePart } from "../compare/compare-parts";
import { CompareTabs } from "../compare/compare-tabs";
import { useCompareFaces } from "../compare/compare-faces";
import { useScreenAwake } from "../dye/awake";
import { useDyeFaces } from "../dye/bench-state";
import { DyeTabs, DyeTabsOnAPhone, usePartOfDye } from "../dye/dye-tabs";
import { useFadeFaces } from "../fade/fade-state";
import { FadeTabs } from "../fade/fade-tabs";
import { axesOf } from "../grid/axes";
import { ChosenInAddress } from "../grid/chosen-in-address";
import { ChosenActions } from "../grid/chosen-actions";
import { cellsLookedFor } from "../grid/find-in-grid";
import { useLooking } from "../grid/looking";
import { useSelection } from "../grid/selection";
import { StudyGrid } from "../grid/study-grid";
import { WithChosen } from "../grid/with-chosen";
import { WordsHere } from "../help/words-here";
import { usePlanDraft } from "../plan/plan-draft";
import { coloursOf } from "../read/colours";
import { facesOf } from "./lens-faces";
import { PANELS } from "./panels";
import { PhoneParts } from "./phone-parts";
import type { PhonePart } from "./phone-parts";
import { usePlace } from "./place";
import type { Lens } from "./place";
import { PanelBoundary } from "./panel-boundary";
import { Awaited, Fetching, ProblemNote } from "./said";
import { WhatIsMissing } from "./what-is-missing";

// Each lens brings its own panel; charts are large, and only Fade has them.
const FadeArea = lazy(() => import("../fade/fade-area").then((module) => ({ default: module.FadeArea })));

const CompareArea = lazy(() => import("../compare/compare-area").then((module) => ({ default: module.CompareArea })));

const ComparePanel = lazy(() => PANELS.compare().then((module) => ({ default: module.ComparePanel })));

const DyePanel = lazy(() => PANELS.dye().then((module) => ({ default: module.DyePanel })));

const PlanPanel = lazy(() => PANELS.plan().then((module) => ({ default: module.PlanPanel })));

const ReadPanel = lazy(() => PANELS.read().then((module) => ({ default: module.ReadPanel })));

const WeighPanel = lazy(() => PANELS.weigh().then((module) => ({ default: module.WeighPanel })));

const DyeArea = lazy(() => import("../dye/dye-area").then((module) => ({ default: module.DyeArea })));

const HeldChange = lazy(() => import("../plan/held-change").then((module) => ({ default: module.HeldChange })));

const FadePanel = lazy(() => PANELS.fade().then((module) => ({ default: module.FadePanel })));

interface StudyScreenProps {
  id: number;
  lens: Lens;
  onGone: () => void;
  onCopied: (id: number) => void;
}

export function StudyScreen({ id, lens, ...moves }: StudyScreenProps) {
  const study = useStudy(id);
  return <Awaited query={study}>{(data) => <OpenStudy study={data} lens={lens} {...moves} />}</Awaited>;
}

function OpenStudy(props: Omit<StudyScreenProps, "id"> & { study: StudyView }) {
  const { study, lens, onGone, onCopied } = props;
  const draft = usePlanDraft(study);
  const axes = useMemo(() => axesOf(study.grid), [study.grid]);
  const selection = useSelection();
  const [place, go] = usePlace();
  const stored = useColours(study.id);
  useRevisionWatch(study.id, study.revision);
  const colours = useMemo(() => coloursOf(stored.data), [stored.data]);
  const [state, setState] = useState<string | null>(null);
  const [phonePart, setPhonePart] = useState<PhonePart>(lens === "read" && place.part ? "panel" : "grid");
  const dye = useDyeFaces(study);
  const { part } = usePartOfDye();
  useScreenAwake(lens === "dye" && part === "bench");
  const fade = useFadeFaces(study, lens === "fade");
  const comparePart = useComparePart(study.id).part;
  const compareChoice = useCompareChoice(study.id);
  const compare = useCompareFaces(
    study,
    colours,
    lens === "compare",
    lens === "compare" && compareChoice.ghosts,
    lens === "compare" ? compareChoice.filled : null,
  );
  const [looking, setLooking] = useLooking();
  const found = useMemo(() => cellsLookedFor(study, colours, looking), [study, colours, looking]);
  const goesInto = useMemo(() => vesselsBySwatch(study), [study]);
  const faces = facesOf({ study, colours, state, awaited: stored.isPending, goesInto, dye, fade, compare });
  const withChosen = (draw: (chosen: readonly GridCell[]) => ReactNode) => (
    <WithChosen study={study} selection={selection}>
      {draw}
    </WithChosen>
  );
  const openRecord = (cell: GridCell) => go({ study: study.id, view: "dye", part: `swatch/${cell.swatches[0] ?? ""}` });
  const panels: Record<Lens, (chosen: readonly GridCell[]) => ReactNode> = {
    plan: (chosen) => (
      <PlanPanel
        study={study}
        draft={draft}
        selection={selection}
        chosen={chosen}
        onGone={onGone}
        onCopied={onCopied}
      />
    ),
    weigh: (chosen) => <WeighPanel study={study} chosen={chosen} draft={draft} />,
    dye: () => <DyePanel study={study} state={dye} />,
    read: (chosen) => <ReadPanel study={study} chosen={chosen} colours={colours} state={state} setState={setState} />,
    fade: (chosen) => <FadePanel study={study} chosen={chosen} state={fade} />,
    compare: (chosen) => (
      <ComparePanel
        study={study}
        chosen={chosen}
        state={compare}
        part={comparePart}
        choice={compareChoice}
        colours={colours}
        awaited={stored.data === undefined}
      />
    ),
  };

  const grid =
    axes.placeOf.size > 0 && study.grid.factors.length > 0 ? (
      <StudyGrid
        study={study}
        axes={axes}
        selection={selection}
        faceOf={faces[lens]}
        looking={looking}
        setLooking={setLooking}
        found={found}
        onOpen={openRecord}
        gradual={lens === "fade"}
        actions={withChosen((chosen) => (
          <ChosenActions
            study={study}
            selection={selection}
            chosen={chosen}
            colours={colours}
            ready={stored.data !== undefined}
            onOpen={openRecord}
          />
        ))}
      />
    ) : (
      <Box sx={{ p: 3 }}>This study crosses nothing yet. Add a factor in the Plan lens.</Box>
    );
  // At the wet bench the step to be done has a phone to itself, and more room on a screen.
  const atBench = lens === "dye";
  const benchOnly = part === "bench";
  const besideGrid = atBench && (part === "days" || part === "log");
  const shownTrial = fade.trial;
  const besideInFade = lens === "fade" && fade.part !== "grid" && shownTrial !== undefined;
  const besideInCompare = lens === "compare" && comparePart !== "grid";
  const areaOnly = besideInCompare || (lens === "fade" && fade.part !== "grid");
  // A phone shows one thing at a time: at the bench its step, else the grid or the panel.
  const gridOnAPhone = atBench ? !benchOnly : phonePart === "grid";
  const onAPhone = (shown: boolean, as: string) => (shown ? as : "none");

  return (
    <>
      <ChosenInAddress study={study} selection={selection} />
      {atBench && <DyeTabsOnAPhone study={study} />}
      {!atBench && <PhoneParts lens={lens} part={phonePart} other={areaOnly} onChoose={setPhonePart} />}
      <Box
        sx={{
          flex: 1,
          minHeight: 0,
          display: "flex",
          flexDirection: { xs: "column", md: "row" },
          overflow: { xs: "auto", md: "hidden" },
        }}>
        <Box
          sx={{
            display: { xs: onAPhone(gridOnAPhone, "flex"), md: "flex" },
            flexDirection: "column",
            flex: 1,
            minWidth: 0,
            minHeight: 0,
            height: { xs: areaOnly ? "auto" : "100%", md: "auto" },
            flexShrink: { xs: areaOnly || atBench ? 0 : 1, md: 0 },
          }}>
          <WhatIsMissing
            study={study}
            lens={lens}
            colours={colours}
            awaited={stored.data === undefined}
            trials={fade.trials.data}
            onGo={(next) => go({ study: study.id, view: next })}
          />
          <ProblemNote error={stored.error} again={() => void stored.refetch()} />
          {atBench && <DyeTabs study={study} />}
          {lens === "fade" && <FadeTabs state={fade} />}
          {besideInFade && shownTrial && (
            <Suspense fallback={null}>
              <Box sx={{ flex: 1.4, minHeight: 0, overflow: "auto" }}>
                <PanelBoundary of={`fade ${fade.part} ${shownTrial.id}`}>
                  {withChosen((chosen) => (
                    <FadeArea study={study} trial={shownTrial} chosen={chosen} state={fade} />
                  ))}
                </PanelBoundary>
              </Box>
            </Suspense>
          )}
          {lens === "compare" && <CompareTabs study={study.id} />}
          {besideInCompare && (
            <Suspense fallback={null}>
              <Box sx={{ flex: 1, minHeight: 0, overflow: "auto" }}>
                <PanelBoundary of={`compare ${comparePart}`}>
                  {withChosen((chosen) => (
                    <CompareArea
                      draft={draft}
                      study={study}
                      chosen={chosen}
                      choice={compareChoice}
                      selection={selection}
                      colours={colours}
                    />
                  ))}
                </PanelBoundary>
              </Box>
            </Suspense>
          )}
          <Box
            sx={{
              display:
                besideGrid || besideInCompare || (besideInFade && fade.part !== "life")
                  ? "none"
                  : { xs: besideInFade ? "none" : "block", md: "block" },
              flex: 1,
              minHeight: 0,
              borderTop: besideInFade ? 1 : 0,
              borderColor: "divider",
            }}>
            <PanelBoundary of={lens}>{grid}</PanelBoundary>
          </Box>
          {besideGrid && (
            <PanelBoundary of={part}>
              <Suspense fallback={<Fetching />}>
                <DyeArea study={study} state={dye} />
              </Suspense>
            </PanelBoundary>
          )}
        </Box>
        <Box
          component="aside"
          className="not-printed"
          aria-label={`${lens} panel`}
          sx={{
            display: { xs: onAPhone(!gridOnAPhone, "block"), md: "block" },
            width: { xs: "100%", md: atBench ? 430 : 350, xl: atBench ? 560 : 460 },
            flex: { xs: "none", md: "none" },
            overflowY: { md: "auto" },
            bgcolor: "background.paper",
            borderLeft: { md: 1 },
            borderTop: { xs: 1, md: 0 },
            borderColor: { xs: "divider", md: "divider" },
            px: 2,
            pb: 3,
          }}>
          {draft.held !== null && (
            <Suspense fallback={null}>
              <HeldChange draft={draft} />
            </Suspense>
          )}
          <PanelBoundary of={lens}>
            <Suspense fallback={<Fetching />}>
              {withChosen(panels[lens])}
              <WordsHere lens={lens} />
            </Suspense>
          </PanelBoundary>
        </Box>
      </Box>
    </>
  );
}

/** The names of the vessels that each swatch goes into, in the order of the work. */
function vesselsBySwatch(study: StudyView): Map<string, string> {
  const found = new Map<string, string>();
  for (const vessel of study.vessels)
    for (const code of vessel.swatches)
      found.set(code, `${found.has(code) ? `${found.get(code) ?? ""} ` : ""}${vessel.name}`);
  return found;
}
