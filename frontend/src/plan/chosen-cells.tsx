import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useState } from "react";

import type { GridCell, StudyView } from "../api/client";
import { cellWords, codesIn, oddWords, tieOf } from "../grid/cells";
import { AddNote } from "../notes/add-note";
import { useNoteCounts } from "../notes/notes";
import { NotesPart } from "../notes/notes-part";
import { inMyUnits } from "../settings/quantities";
import { counted } from "../shell/counted";
import { usePlace } from "../shell/place";
import type { Change } from "./change-plan";
import { GoOnDialog } from "./going-on/go-on-dialog";
import { StartFromDialog } from "./going-on/start-from-dialog";
import type { PlanDraft } from "./plan-draft";

interface ChosenCellsProps {
  study: StudyView;
  draft: PlanDraft;
  chosen: readonly GridCell[];
  change: Change;
  /** Going on from the swatches, beside leaving them out. */
  goOn: boolean;
}

/** What the selection is; leaving it out, putting it back, and going on from its swatches. */
export function ChosenCells({ study, draft, chosen, change, goOn }: ChosenCellsProps) {
  const [, go] = usePlace();
  const [open, setOpen] = useState<"go-on" | "start" | null>(null);
  const plan = study.plan;
  if (chosen.length === 0) return null;
  const keys = new Set(chosen.map((cell) => cell.key));
  const codes = codesIn(chosen);
  const others = (list: readonly string[]) => list.filter((key) => !keys.has(key));
  const byRule = chosen.filter((cell) => cell.rule != null).map((cell) => cell.key);
  const one = chosen.length === 1 ? chosen[0] : undefined;
  const odd = chosen.flatMap((cell) => oddWords(study, cell));
  return (
    <Box role="group" aria-label="Selected" sx={{ borderLeft: 4, pl: 1, my: 1, fontSize: 13 }}>
      {!one && (
        <strong>
          {chosen.length} selected{codes.length !== chosen.length ? `, ${counted(codes.length, "swatch")}` : ""}{" "}
        </strong>
      )}
      {one && (
        <Box sx={{ mb: 0.5 }}>
          <strong>{codes.join(" ") || "left out"}</strong> {cellWords(study, one)}{" "}
          {study.begun.length > 0 &&
            codes.map((code) => (
              <Button
                key={code}
                size="small"
                sx={{ p: 0, mr: 1, minHeight: 24 }}
                onClick={() => go({ study: study.id, view: "dye", part: `swatch/${code}` })}>
                record of {code}
              </Button>
            ))}
          {codes.length > 0 && (
            <div>
              {codes.length === 1
                ? `Tie ${tieOf(study, codes[0] ?? "") || "none"}`
                : `Ties ${codes.map((code) => tieOf(study, code)).join(", ")}`}
            </div>
          )}
          {one.because && <div>{one.because}</div>}
        </Box>
      )}
      {odd.slice(0, 4).map((words) => (
        <div key={words}>{inMyUnits(words)}</div>
      ))}
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, mt: 0.5 }}>
        <Button
          variant="outlined"
          size="small"
          disabled={chosen.every((cell) => !cell.included || !cell.planned)}
          onClick={() => change({ left_out: [...others(plan.left_out), ...keys], put_back: others(plan.put_back) })}>
          Leave out
        </Button>
        <Button
          variant="outlined"
          size="small"
          disabled={chosen.every((cell) => cell.included)}
          onClick={() => change({ left_out: others(plan.left_out), put_back: [...others(plan.put_back), ...byRule] })}>
          Put back
        </Button>
        {goOn && codes.length > 0 && (
          <>
            <Button variant="contained" size="small" onClick={() => setOpen("go-on")}>
              Go on with {codes.length === 1 ? "it" : "them"} …
            </Button>
            <Button variant="outlined" size="small" onClick={() => setOpen("start")}>
              Start a study from {codes.length === 1 ? "it" : "them"} …
            </Button>
          </>
        )}
      </Box>
      {codes.length > 0 && <NotesOnChosen study={study} codes={codes} />}
      {open === "go-on" && <GoOnDialog study={study} draft={draft} codes={codes} onClose={() => setOpen(null)} />}
      {open === "start" && (
        <StartFromDialog
          study={study}
          codes={codes}
          onClose={() => setOpen(null)}
          onMade={(id) => go({ study: id, view: "plan" })}
        />
      )}
    </Box>
  );
}

/** The notes of one swatch; of several, one that is made of all of them at once. */
function NotesOnChosen({ study, codes }: { study: StudyView; codes: string[] }) {
  const [open, setOpen] = useState(false);
  const counts = useNoteCounts(study.id);
  const [only] = codes.length === 1 ? codes : [];
  const notes = only ? (counts.get(only) ?? 0) : 0;
  return (
    <>
      <Button size="small" aria-expanded={open} onClick={() => setOpen(!open)} sx={{ px: 0, mt: 0.5 }}>
        {notes > 0 ? counted(notes, "note") : only ? "Note on it …" : `Note on all ${codes.length} …`}
      </Button>
      {open &&
        (only ? (
          <NotesPart study={study.id} about={{ swatches: codes }} of={only} />
        ) : (
          <AddNote study={study.id} about={{ swatches: codes }} onKept={() => setOpen(false)} />
        ))}
    </>
  );
}
