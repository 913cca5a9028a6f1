import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import { useState } from "react";

import type { Cell, StudyPlan, StudyView } from "../api/client";
import { useShelf } from "../api/hooks";
import { cellWords } from "../grid/axes";
import type { Selection } from "../grid/selection";
import { Awaited, Part, ProblemNote } from "../shell/said";
import { DeleteStudy } from "./delete-study";
import { FactorEditor } from "./factor-editor";
import { LateField } from "./late-field";
import type { PlanDraft } from "./plan-draft";

interface PlanPanelProps {
  study: StudyView;
  draft: PlanDraft;
  selection: Selection;
  chosen: readonly Cell[];
  onGone: () => void;
}

const CONTROL_WORDS = { undyed: "Undyed fibre", unmordanted: "Dyed without mordant" } as const;

export function PlanPanel({ study, draft, selection, chosen, onGone }: PlanPanelProps) {
  const plan = study.plan;
  const shelf = useShelf();
  const change = (part: Partial<StudyPlan>) => draft.change({ ...plan, ...part });
  const included = study.cells.filter((cell) => cell.included).length;

  return (
    <>
      {draft.conflict && (
        <Box role="alertdialog" aria-label="Changed elsewhere" sx={{ border: 2, p: 1.5, my: 1.5 }}>
          <strong>This study was changed in another tab or on another device.</strong>
          <p>Your last change is not saved yet, and nothing is overwritten.</p>
          <Button variant="contained" onClick={draft.useTheirs} sx={{ mr: 1 }}>
            Show the newer version
          </Button>
          <Button variant="outlined" onClick={draft.saveMine}>
            Save mine over it
          </Button>
        </Box>
      )}
      <ProblemNote error={draft.problem} />
      <Part title={chosen.length ? `${chosen.length} selected` : "Nothing selected"}>
        <SelectionActions study={study} chosen={chosen} change={change} selection={selection} />
      </Part>
      <Part title="Study">
        <Box sx={{ display: "grid", gap: 1.5 }}>
          <LateField label="Name" value={plan.name} onChange={(name) => change({ name })} />
          <LateField label="Question" multiline value={plan.question ?? ""} onChange={(question) => change({ question })} />
        </Box>
      </Part>
      <Part title="What is crossed">
        <Awaited query={shelf}>{(there) => <FactorEditor plan={plan} shelf={there} change={change} />}</Awaited>
        <Box sx={{ fontSize: 13, color: "text.secondary" }}>
          {study.cells.length} cells, {included} swatches, {study.vessels.length} vessels
          {draft.saving ? " · saving" : " · saved"}
        </Box>
      </Part>
      <Part title="Controls">
        <Box sx={{ fontSize: 13 }}>○ marks a control: a swatch with a treatment left out on purpose.</Box>
        {(["undyed", "unmordanted"] as const).map((control) => (
          <FormControlLabel
            key={control}
            sx={{ display: "flex" }}
            control={
              <Checkbox
                checked={(plan.controls ?? []).includes(control)}
                onChange={(_, on) =>
                  change({
                    controls: on
                      ? [...(plan.controls ?? []), control]
                      : (plan.controls ?? []).filter((one) => one !== control),
                  })
                }
              />
            }
            label={
              CONTROL_WORDS[control] +
              (study.missing_controls.includes(control) ? " – often missed afterwards" : "")
            }
          />
        ))}
      </Part>
      {study.advice.length > 0 && (
        <Part title="Worth a second thought">
          {study.advice.map((advice) => (
            <Box key={advice.code} sx={{ mb: 1.25, fontSize: 13 }}>
              <strong>{advice.text}</strong> {advice.reason}{" "}
              <Button size="small" sx={{ minHeight: 24, p: 0 }} onClick={() => selection.replace(advice.cells)}>
                Show the {advice.cells.length} swatches
              </Button>
            </Box>
          ))}
        </Part>
      )}
      <Part title="Amounts">
        <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1.5 }}>
          <LateField
            label="Dry mass of a swatch, g"
            number
            value={String(plan.swatch_mass_g)}
            onChange={(mass) => change({ swatch_mass_g: Number(mass) })}
          />
          <LateField
            label="Liquor ratio, mL/g"
            number
            value={String(plan.liquor_ratio_ml_per_g)}
            onChange={(ratio) => change({ liquor_ratio_ml_per_g: Number(ratio) })}
          />
        </Box>
      </Part>
      <Vessels study={study} selection={selection} />
      <DeleteStudy id={study.id} name={plan.name} onGone={onGone} />
    </>
  );
}

function SelectionActions(props: {
  study: StudyView;
  chosen: readonly Cell[];
  selection: Selection;
  change: (part: Partial<StudyPlan>) => void;
}) {
  const { study, chosen, change } = props;
  const plan = study.plan;
  if (chosen.length === 0)
    return <Box sx={{ fontSize: 13 }}>Click a swatch, drag over several, or click a header.</Box>;
  const out = new Set(plan.left_out ?? []);
  const keys = chosen.map((cell) => cell.key);
  const one = chosen.length === 1 ? chosen[0] : undefined;
  return (
    <>
      {one && (
        <Box sx={{ mb: 1 }}>
          <strong>{study.codes[one.key] ?? "left out"}</strong> {cellWords(plan, one)}
        </Box>
      )}
      <Button
        variant="outlined"
        sx={{ mr: 1 }}
        disabled={chosen.every((cell) => !cell.included)}
        onClick={() => change({ left_out: [...new Set([...out, ...keys])] })}
      >
        Leave out
      </Button>
      <Button
        variant="outlined"
        disabled={chosen.every((cell) => cell.included)}
        onClick={() => change({ left_out: [...out].filter((key) => !keys.includes(key)) })}
      >
        Put back
      </Button>
    </>
  );
}

function Vessels({ study, selection }: { study: StudyView; selection: Selection }) {
  const [open, setOpen] = useState(false);
  const shown = open ? study.vessels : study.vessels.slice(0, 4);
  return (
    <Part title={`Vessels: ${study.vessels.length}`}>
      {shown.map((vessel) => (
        <Box key={vessel.key} sx={{ display: "flex", alignItems: "center", fontSize: 13, gap: 1 }}>
          <strong>{vessel.name}</strong>
          <Box sx={{ flex: 1 }}>{vessel.title}</Box>
          <Button size="small" onClick={() => selection.replace(vessel.cells)}>
            {vessel.cells.length} swatches
          </Button>
        </Box>
      ))}
      {study.vessels.length > 4 && (
        <Button size="small" onClick={() => setOpen(!open)}>
          {open ? "Show fewer" : `Show all ${study.vessels.length}`}
        </Button>
      )}
    </Part>
  );
}
