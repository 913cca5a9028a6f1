import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";

import type { Shelf, StudyView } from "../../api/client";
import { ChoiceField } from "../../shell/choice-field";
import { entriesOf } from "../../shell/keys";
import { TreatmentForm } from "./treatment-form";
import { KIND_WORDS, draftOf } from "./treatment-draft";
import type { TreatmentDraft } from "./treatment-draft";

/** `some`: a part of the swatches is left as it is, to compare with. */
export interface ChoiceDraft {
  levels: TreatmentDraft[];
  some: boolean;
}

interface ChoiceEditorProps {
  title: string;
  study: StudyView;
  shelf: Shelf;
  choice: ChoiceDraft;
  change: (choice: ChoiceDraft) => void;
  remove: (() => void) | undefined;
}

/** One thing that is done, at one level or at several that are compared. */
export function ChoiceEditor({ title, study, shelf, choice, change, remove }: ChoiceEditorProps) {
  const set = (i: number, level: TreatmentDraft) =>
    change({ ...choice, levels: choice.levels.map((one, k) => (k === i ? level : one)) });
  const last = choice.levels[choice.levels.length - 1];
  return (
    <Box role="group" aria-label={title} sx={{ mt: 2 }}>
      <Box sx={{ display: "flex", alignItems: "center" }}>
        <Box component="h2" sx={{ m: 0, fontSize: 15, flex: 1 }}>
          {title}
        </Box>
        {remove && (
          <Button size="small" onClick={remove}>
            not that
          </Button>
        )}
      </Box>
      {choice.levels.map((level, i) => (
        <Box key={i} sx={{ display: "grid", gridTemplateColumns: { xs: "1fr", sm: "190px 1fr" }, gap: 1.5, my: 1 }}>
          <ChoiceField
            label={i === 0 ? "Treatment" : "Or else"}
            value={level.kind}
            onChange={(chosen) => set(i, draftOf(chosen))}
            options={entriesOf(KIND_WORDS)}
          />
          <Box>
            <TreatmentForm study={study} shelf={shelf} draft={level} change={(next) => set(i, next)} />
          </Box>
        </Box>
      ))}
      <FormControlLabel
        control={<Checkbox checked={choice.some} onChange={(_, on) => change({ ...choice, some: on })} />}
        label="Leave a part of them as they are, to compare"
      />
      <Button size="small" onClick={() => last && change({ ...choice, levels: [...choice.levels, { ...last }] })}>
        Compare with another
      </Button>
    </Box>
  );
}
