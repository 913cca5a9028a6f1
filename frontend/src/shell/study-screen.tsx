import Box from "@mui/material/Box";
import { useMemo } from "react";
import type { ReactNode } from "react";

import type { Cell, StudyView } from "../api/client";
import { useReadings, useRevisionWatch, useStudy } from "../api/hooks";
import { ComparePanel, useCompareFaces } from "../compare/compare-panel";
import { useDyeFaces } from "../dye/bench-state";
import { DyeArea, DyeTabs, DyeTabsOnAPhone, usePartOfDye } from "../dye/dye-area";
import { DyePanel } from "../dye/dye-panel";
import { FadePanel, useFadeFaces } from "../fade/fade-panel";
import { axesOf } from "../grid/axes";
import { useSelection } from "../grid/selection";
import { StudyGrid } from "../grid/study-grid";
import type { Face } from "../grid/study-grid";
import { PlanPanel } from "../plan/plan-panel";
import { usePlanDraft } from "../plan/plan-draft";
import { ReadPanel } from "../read/read-panel";
import { newestAsDyed } from "../read/newest";
import { WeighPanel } from "../weigh/weigh-panel";
import type { Lens } from "./place";
import { Awaited, ProblemNote } from "./said";

interface StudyScreenProps {
  id: number;
  lens: Lens;
  onGone: () => void;
  onCopied: (id: number) => void;
}

export function StudyScreen({ id, lens, ...moves }: StudyScreenProps) {
  const study = useStudy(id);
  return (
    <Awaited query={study}>
      {(data) => <OpenStudy study={data} lens={lens} {...moves} />}
    </Awaited>
  );
}

function OpenStudy(props: Omit<StudyScreenProps, "id"> & { study: StudyView }) {
  const { study, lens, onGone, onCopied } = props;
  const draft = usePlanDraft(study);
  const plan = study.plan;
  const axes = useMemo(() => axesOf(plan, study.cells), [plan, study.cells]);
  const selection = useSelection(axes);
  const readings = useReadings(study.id);
  useRevisionWatch(study.id, study.revision);
  const asDyed = useMemo(() => newestAsDyed(readings.data ?? []), [readings.data]);
  const dye = useDyeFaces(study);
  const { part } = usePartOfDye();
  const fade = useFadeFaces(study);
  const compare = useCompareFaces(study, selection.focus);
  const chosen = useMemo(
    () => study.cells.filter((cell) => selection.keys.has(cell.key)),
    [study.cells, selection.keys],
  );

  const goesInto = useMemo(() => vesselsByCell(study), [study]);

  const plainFace = (cell: Cell): Face => {
    const own = asDyed.get(cell.key) ?? [];
    const reading = own[0];
    const code = study.codes[cell.key] ?? "";
    const more = (plan.replicates ?? 1) - 1;
    return {
      fills: own.map((one) => one.hex),
      caption: more > 0 ? `${code}+${more}` : code,
      words: reading
        ? `${code}, ${reading.colour_words}, L* ${reading.lab[0].toFixed(1)} a* ${reading.lab[1].toFixed(1)} b* ${reading.lab[2].toFixed(1)}`
        : `${code}, not read yet`,
    };
  };
  const planFace = (cell: Cell): Face => {
    const plain = plainFace(cell);
    const tie = study.ties[cell.key];
    return { ...plain, words: `${plain.words}; tie ${tie ?? "none"}; goes into ${goesInto.get(cell.key) ?? "no vessel"}` };
  };
  const faces: Record<Lens, (cell: Cell) => Face> = {
    plan: planFace,
    weigh: (cell) => ({ ...plainFace(cell), caption: `${plan.swatch_mass_g} g` }),
    dye: (cell) => dye.faceOf(cell, plainFace(cell)),
    read: plainFace,
    fade: (cell) => fade.faceOf(cell, plainFace(cell)),
    compare: (cell) => compare.faceOf(cell, plainFace(cell)),
  };
  const panels: Record<Lens, ReactNode> = {
    plan: <PlanPanel study={study} draft={draft} selection={selection} chosen={chosen} onGone={onGone} onCopied={onCopied} />,
    weigh: <WeighPanel study={study} chosen={chosen} draft={draft} />,
    dye: <DyePanel study={study} state={dye} />,
    read: <ReadPanel study={study} chosen={chosen} readings={readings.data ?? []} />,
    fade: <FadePanel study={study} chosen={chosen} state={fade} />,
    compare: <ComparePanel study={study} chosen={chosen} state={compare} />,
  };

  const grid =
    axes.placeOf.size > 0 && (plan.factors ?? []).length > 0 ? (
      <StudyGrid plan={plan} axes={axes} selection={selection} faceOf={faces[lens]} />
    ) : (
      <Box sx={{ p: 3 }}>This study crosses nothing yet. Add a factor in the Plan lens.</Box>
    );
  // At the wet bench the step to be done has a phone to itself, and more room on a screen.
  const atBench = lens === "dye";
  const benchOnly = part === "bench";
  const besideGrid = atBench && (part === "days" || part === "log");
  const onAPhone = (shown: boolean, as: string) => (atBench && !shown ? "none" : as);

  return (
    <>
    {atBench && <DyeTabsOnAPhone study={study} />}
    <Box
      sx={{
        flex: 1,
        minHeight: 0,
        display: "flex",
        flexDirection: { xs: "column", md: "row" },
        overflow: { xs: "auto", md: "hidden" },
      }}
    >
      <Box
        sx={{
          display: { xs: onAPhone(!benchOnly, "flex"), md: "flex" },
          flexDirection: "column",
          flex: { md: 1 },
          minWidth: 0,
          minHeight: 0,
          height: { xs: atBench ? "auto" : "46vh", md: "auto" },
          flexShrink: 0,
        }}
      >
        <ProblemNote error={readings.error} again={() => void readings.refetch()} />
        {atBench && <DyeTabs study={study} />}
        <Box sx={{ display: besideGrid ? "none" : "block", flex: 1, minHeight: 0 }}>{grid}</Box>
        {besideGrid && <DyeArea study={study} state={dye} />}
      </Box>
      <Box
        component="aside"
        className="not-printed"
        aria-label={`${lens} panel`}
        sx={{
          display: { xs: onAPhone(benchOnly, "block"), md: "block" },
          width: { xs: "100%", md: atBench ? 430 : 350 },
          flex: { xs: "none", md: "none" },
          overflowY: { md: "auto" },
          bgcolor: "background.paper",
          borderLeft: { md: 1 },
          borderTop: { xs: 1, md: 0 },
          borderColor: { xs: "divider", md: "divider" },
          px: 2,
          pb: 3,
        }}
      >
        {panels[lens]}
      </Box>
    </Box>
    </>
  );
}

/** The names of the vessels that each cell goes into, in the order of the work. */
function vesselsByCell(study: StudyView): Map<string, string> {
  const found = new Map<string, string>();
  for (const vessel of study.vessels)
    for (const cell of vessel.cells) found.set(cell, `${found.has(cell) ? `${found.get(cell) ?? ""} ` : ""}${vessel.name}`);
  return found;
}
