import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import useMediaQuery from "@mui/material/useMediaQuery";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { answered, api } from "../../api/client";
import type { Schema, StudyView } from "../../api/client";
import { useChange, useShelf, useEveryStudy } from "../../api/hooks";
import { SwatchPicker } from "../../grid/swatch-picker";
import { ChoiceField } from "../../shell/choice-field";
import { ProblemNote } from "../../shell/said";
import type { PlanDraft } from "../plan-draft";
import { ChoiceEditor } from "./choice-editor";
import type { ChoiceDraft } from "./choice-editor";
import { draftOf, treatmentOf } from "./treatment-draft";

interface GoOnDialogProps {
  study: StudyView;
  draft: PlanDraft;
  codes: readonly string[];
  onClose: () => void;
}

const MOST_CHOICES = 3;

/** Further treatments for swatches: which, what, dealt out to whom, and what that does. */
export function GoOnDialog({ study, draft, codes, onClose }: GoOnDialogProps) {
  const narrow = useMediaQuery("(max-width: 599px)");
  const shelf = useShelf().data;
  const studies = useEveryStudy().data ?? [];
  const [swatches, setSwatches] = useState<string[]>([...codes]);
  const [choices, setChoices] = useState<ChoiceDraft[]>([{ levels: [draftOf("iron")], some: codes.length > 1 }]);
  const [seed, setSeed] = useState(1);
  const [target, setTarget] = useState(study.id);
  const made = shelf
    ? choices.map((choice) => choice.levels.map((level) => treatmentOf(level, shelf, swatches[0] ?? "")))
    : [];
  const missing = made.flat().find((one) => typeof one === "string");
  const wanted: Schema["GoingOn"] = {
    swatches,
    seed,
    choices: choices.map((choice, i) => ({
      levels: [...(made[i] ?? []).filter((one) => typeof one !== "string"), ...(choice.some ? [null] : [])],
    })),
  };
  const sound = made.length > 0 && missing === undefined && swatches.length > 0;
  const tried = useQuery({
    queryKey: ["study", target, "go-on", wanted],
    enabled: sound,
    retry: false,
    placeholderData: (before) => before,
    queryFn: () =>
      answered(
        api.POST("/api/studies/{study_id}/go-on/effect", { params: { path: { study_id: target } }, body: wanted }),
      ),
  });
  const elsewhere = useChange(
    async () => {
      const at = { params: { path: { study_id: target } } };
      const { revision } = await answered(api.GET("/api/studies/{study_id}/revision", at));
      return answered(api.POST("/api/studies/{study_id}/go-on", { ...at, body: { revision, wanted } }));
    },
    { study: target },
  );
  const save = () => {
    if (target !== study.id) return elsewhere.mutate(undefined, { onSuccess: onClose });
    const treatments = tried.data?.dealt.treatments ?? [];
    draft.change({ ...study.plan, treatments: [...study.plan.treatments, ...treatments] }, { looked: true });
    onClose();
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="md" fullScreen={narrow} aria-labelledby="go-on">
      <DialogTitle id="go-on">
        Go on with {swatches.length === 1 ? swatches[0] : `${swatches.length} swatches`}
      </DialogTitle>
      <DialogContent>
        <SwatchPicker study={study} offered={codes} value={swatches} onChange={setSwatches} others />
        {shelf &&
          choices.map((choice, i) => (
            <ChoiceEditor
              key={i}
              title={i === 0 ? "What is done" : "And after that"}
              study={study}
              shelf={shelf}
              choice={choice}
              change={(next) => setChoices(choices.map((one, k) => (k === i ? next : one)))}
              remove={i > 0 ? () => setChoices(choices.filter((_, k) => k !== i)) : undefined}
            />
          ))}
        {choices.length < MOST_CHOICES && (
          <Button
            variant="outlined"
            onClick={() => setChoices([...choices, { levels: [draftOf("wash")], some: false }])}>
            And after that …
          </Button>
        )}
        <Box sx={{ mt: 2, borderTop: 1, borderColor: "divider", pt: 1.5 }} aria-live="polite">
          {missing !== undefined && <Box role="note">{missing}</Box>}
          <ProblemNote error={sound ? tried.error : null} />
          {sound && tried.data && <WhoGetsWhat tried={tried.data} shuffle={() => setSeed(seed + 1)} />}
        </Box>
        <ProblemNote error={elsewhere.error} />
      </DialogContent>
      <DialogActions sx={{ flexWrap: "wrap", gap: 1 }}>
        {studies.length > 1 && (
          <ChoiceField
            label="Planned in"
            value={target}
            onChange={setTarget}
            sx={{ width: { xs: "100%", sm: 280 }, mr: "auto" }}
            options={studies.map((one) => [one.id, one.id === study.id ? "this study" : one.name] as const)}
          />
        )}
        <Button onClick={onClose}>Close</Button>
        <Button
          variant="contained"
          disabled={!sound || !tried.data || tried.isPlaceholderData || tried.isError || elsewhere.isPending}
          onClick={save}>
          Plan it
        </Button>
      </DialogActions>
    </Dialog>
  );
}

function WhoGetsWhat({ tried, shuffle }: { tried: Schema["GoingOnTried"]; shuffle: () => void }) {
  const { arms } = tried.dealt;
  return (
    <>
      <Box sx={{ display: "flex", alignItems: "center", gap: 1 }}>
        <Box component="h2" sx={{ m: 0, fontSize: 15, flex: 1 }}>
          Who gets what
        </Box>
        {arms.length > 1 && (
          <Button variant="outlined" size="small" onClick={shuffle}>
            Deal again
          </Button>
        )}
      </Box>
      {arms.map((arm) => (
        <Box key={arm.words} sx={{ my: 0.75, fontSize: 14 }}>
          <strong>
            {arm.words}: {arm.swatches.length}
          </strong>{" "}
          {arm.swatches.join(" ")}
        </Box>
      ))}
      {arms.length > 1 && (
        <Box sx={{ fontSize: 13, color: "text.secondary" }}>
          Dealt at random; swatches of one cell go different ways, so that the cell itself is the measure.
        </Box>
      )}
      <Box component="ul" sx={{ pl: 2.5, my: 1 }}>
        {tried.effect.words.map((words) => (
          <li key={words}>{words}</li>
        ))}
      </Box>
    </>
  );
}
