import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useState } from "react";
import type { ReactNode } from "react";

import { answered, api } from "../api/client";
import type { GridCell, StudyPlan, StudyView } from "../api/client";
import { useChange, useShelf } from "../api/hooks";
import type { Selection } from "../grid/selection";
import { NotesPart } from "../notes/notes-part";
import { inMyUnits } from "../settings/quantities";
import { counted } from "../shell/counted";
import { PanelTabs } from "../shell/panel-tabs";
import { Awaited, Part, ProblemNote } from "../shell/said";
import { Several } from "../shell/several";
import { ChosenCells } from "./chosen-cells";
import { ControlsPart } from "./controls-part";
import { OpenPlaces } from "../dye/open-places";
import { CopyStudy } from "./copy-study";
import { DeleteStudy } from "./delete-study";
import { FactorEditor } from "./factor-editor";
import { TreatmentsPart } from "./going-on/treatments-part";
import { HistoryDialog } from "./history-dialog";
import { LateField, LateNumber } from "./late-field";
import { LayingPart } from "./laying-part";
import { LeaveOutPart } from "./leave-out-part";
import { MassesPart } from "./masses-part";
import type { PlanDraft } from "./plan-draft";
import { TellingPart } from "./telling-part";
import { VesselsPart } from "./vessels-part";

interface PlanPanelProps {
  study: StudyView;
  draft: PlanDraft;
  selection: Selection;
  chosen: readonly GridCell[];
  onGone: () => void;
  onCopied: (id: number) => void;
}

const PIECES = [
  ["dark", "a piece kept dark"],
  ["light", "a piece for light"],
  ["wash", "a piece for washing"],
  ["spare", "a spare"],
] as const;
const TABS = { cross: "Cross", out: "Leave out", on: "Go on", tell: "Tell", vessels: "Vessels" } as const;
type Tab = keyof typeof TABS;

export function PlanPanel({ study, draft, selection, chosen, onGone, onCopied }: PlanPanelProps) {
  const [tab, setTab] = useState<Tab>("cross");
  const plan = study.plan;
  const change = (part: Partial<StudyPlan>) => draft.change({ ...plan, ...part });
  const parts: Record<Tab, ReactNode> = {
    cross: (
      <CrossPart
        study={study}
        draft={draft}
        selection={selection}
        change={change}
        onGone={onGone}
        onCopied={onCopied}
      />
    ),
    out: <LeaveOutPart study={study} chosen={chosen} selection={selection} change={change} />,
    on: <TreatmentsPart study={study} chosen={chosen} selection={selection} change={change} />,
    tell: <TellingPart study={study} change={change} />,
    vessels: <VesselsPart study={study} selection={selection} change={change} />,
  };
  return (
    <>
      <Saving study={study} draft={draft} />
      <ProblemNote error={draft.problem} />
      <ChosenCells
        study={study}
        draft={draft}
        chosen={chosen}
        change={change}
        goOn={tab === "on" || study.begun.length > 0}
      />
      <OpenPlaces study={study} />
      <PanelTabs tabs={TABS} value={tab} onChange={setTab} />
      {(tab === "cross" || tab === "vessels") && <AdvicePart study={study} selection={selection} />}
      {parts[tab]}
    </>
  );
}

function Saving({ study, draft }: { study: StudyView; draft: PlanDraft }) {
  const swatches = study.swatches.filter((swatch) => swatch.planned).length;
  const past = study.swatches.length - swatches;
  return (
    <Box sx={{ display: "flex", alignItems: "center", gap: 0.5, pt: 1, fontSize: 13 }}>
      <Box sx={{ flex: 1 }} role="status">
        <strong>
          {counted(swatches, "swatch")}, {counted(study.vessels.length, "vessel")}
        </strong>
        {past > 0 && (
          <span>
            {" "}
            · {past} {study.entered_from ? "beside the plan" : "no longer planned"}
          </span>
        )}
        <Box component="span" sx={{ color: "text.secondary" }}>
          {` · ${savedWords(draft)}`}
        </Box>
        {study.entered_from && <div>Entered later, from {study.entered_from}: dyed before its record began.</div>}
        {draft.changedElsewhere && draft.held === null && (
          <div>Changed in another tab or on another device: this is the newer version.</div>
        )}
      </Box>
      <Button size="small" variant="outlined" disabled={!draft.canUndo} onClick={draft.undo} sx={{ minWidth: 0 }}>
        Undo
      </Button>
      <Button size="small" variant="outlined" disabled={!draft.canRedo} onClick={draft.redo} sx={{ minWidth: 0 }}>
        Redo
      </Button>
    </Box>
  );
}

/** Never "saved" while something is not. */
function savedWords(draft: PlanDraft): string {
  if (draft.held !== null) return "not saved yet";
  if (draft.problem) return "the last change was not taken";
  return draft.saving ? "saving" : "saved";
}

function CrossPart(props: {
  study: StudyView;
  draft: PlanDraft;
  selection: Selection;
  change: (part: Partial<StudyPlan>) => void;
  onGone: () => void;
  onCopied: (id: number) => void;
}) {
  const { study, change } = props;
  const plan = study.plan;
  const shelf = useShelf();
  const [history, setHistory] = useState(false);
  return (
    <>
      <Part title="What is crossed">
        <Awaited query={shelf}>
          {(there) => <FactorEditor study={study} shelf={there} selection={props.selection} change={change} />}
        </Awaited>
      </Part>
      <LayingPart plan={plan} change={change} />
      <ControlsPart study={study} change={change} />
      <Part title="Amounts">
        <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1.5 }}>
          <LateNumber
            label="Dry mass of a swatch, g"
            value={plan.swatch_mass_g}
            onTake={(swatch_mass_g) => change({ swatch_mass_g })}
          />
          <LateNumber
            label="Liquor ratio, mL/g"
            value={plan.liquor_ratio_ml_per_g}
            onTake={(liquor_ratio_ml_per_g) => change({ liquor_ratio_ml_per_g })}
          />
          <Box sx={{ gridColumn: "1 / -1" }}>
            <MassesPart plan={plan} change={change} />
          </Box>
          <Box sx={{ gridColumn: "1 / -1" }}>
            <Several
              label="Cut after dyeing into"
              options={PIECES}
              value={plan.pieces ?? []}
              onChange={(pieces) => pieces.length > 0 && change({ pieces: pieces as typeof plan.pieces })}
            />
          </Box>
        </Box>
      </Part>
      <Part title="Study">
        <Box sx={{ display: "grid", gap: 1.5 }}>
          <LateField label="Name" value={plan.name} onChange={(name) => change({ name })} />
          <LateField
            label="Question"
            multiline
            value={plan.question ?? ""}
            onChange={(question) => change({ question })}
          />
        </Box>
        <Button variant="outlined" sx={{ mt: 1.5, mr: 1 }} onClick={() => setHistory(true)}>
          How this plan became so
        </Button>
        {study.recipes_kept && <RecipesOfToday study={study} />}
        <Box sx={{ mt: 1.5 }}>
          <NotesPart study={study.id} about={{}} of="the study" />
        </Box>
        {history && <HistoryDialog study={study} draft={props.draft} onClose={() => setHistory(false)} />}
      </Part>
      <CopyStudy id={study.id} onCopied={props.onCopied} />
      <DeleteStudy id={study.id} name={plan.name} onGone={props.onGone} />
    </>
  );
}

/** Open while there is little of it; else its first line says how much there is. */
function AdvicePart({ study, selection }: { study: StudyView; selection: Selection }) {
  const count = study.advice.length;
  if (count === 0) return null;
  return (
    <Box component="details" open={count <= 2} sx={{ py: 1, borderBottom: 1, borderColor: "divider", fontSize: 13 }}>
      <Box component="summary" sx={{ fontSize: 15, fontWeight: 700, cursor: "pointer", minHeight: 28 }}>
        {count === 1 ? "One thing" : `${count} things`} worth a second thought
      </Box>
      {study.advice.map((advice) => (
        <Box key={advice.code} sx={{ mt: 0.75 }}>
          <strong>{inMyUnits(advice.text)}</strong> {inMyUnits(advice.reason)}{" "}
          <Button size="small" sx={{ minHeight: 24, p: 0 }} onClick={() => selection.replace(advice.cells)}>
            Show {counted(advice.cells.length, "swatch")}
          </Button>
        </Box>
      ))}
    </Box>
  );
}

/** Recipes stay as they were when dyeing began; what has not begun may take those of the Shelf today. */
function RecipesOfToday({ study }: { study: StudyView }) {
  const take = useChange(
    () => answered(api.POST("/api/studies/{study_id}/recipes", { params: { path: { study_id: study.id } } })),
    { study: study.id },
  );
  return (
    <Box sx={{ mt: 1.5, fontSize: 13 }}>
      Recipes are those of the day on which dyeing began.{" "}
      <Button size="small" variant="outlined" disabled={take.isPending} onClick={() => take.mutate(undefined)}>
        {take.isSuccess ? "Taken: those of today" : "Take those of today for what has not begun"}
      </Button>
      <ProblemNote error={take.error} />
    </Box>
  );
}
