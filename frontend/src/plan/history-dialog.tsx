import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import useMediaQuery from "@mui/material/useMediaQuery";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { answered, api } from "../api/client";
import type { StudyPlan, StudyView } from "../api/client";
import { useVersions } from "../api/hooks";
import { FACTOR_NAMES } from "../grid/axes";
import { counted } from "../shell/counted";
import { momentWords } from "../shell/dates";
import { Awaited } from "../shell/said";
import type { PlanDraft } from "./plan-draft";
import { inMyUnits, chosenMass } from "../settings/quantities";

/** Every saved version of the plan: when, what changed, what it was; and the way back to it. */
export function HistoryDialog({ study, draft, onClose }: { study: StudyView; draft: PlanDraft; onClose: () => void }) {
  const narrow = useMediaQuery("(max-width: 599px)");
  const versions = useVersions(study.id, true);
  const [looked, setLooked] = useState(study.revision);
  const version = useQuery({
    queryKey: ["version", study.id, looked],
    staleTime: Infinity,
    queryFn: () =>
      answered(
        api.GET("/api/studies/{study_id}/versions/{revision}", {
          params: { path: { study_id: study.id, revision: looked } },
        }),
      ),
  });
  const back = () => {
    if (version.data) draft.change(version.data);
    onClose();
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="md" fullScreen={narrow} aria-labelledby="history">
      <DialogTitle id="history">How this plan became what it is</DialogTitle>
      <DialogContent sx={{ display: "flex", flexDirection: { xs: "column", sm: "row" }, gap: 3 }}>
        <Box sx={{ flex: { sm: 1 }, minWidth: 0 }}>
          <Awaited query={versions}>
            {(lines) =>
              lines.map((line) => (
                <Box
                  key={line.revision}
                  component="button"
                  type="button"
                  aria-pressed={line.revision === looked}
                  onClick={() => setLooked(line.revision)}
                  sx={{
                    display: "block",
                    width: "100%",
                    textAlign: "left",
                    font: "inherit",
                    fontSize: 14,
                    color: "inherit",
                    bgcolor: "transparent",
                    border: 0,
                    borderBottom: 1,
                    borderLeft: line.revision === looked ? 6 : 0,
                    borderColor: line.revision === looked ? "text.primary" : "divider",
                    py: 0.75,
                    pl: 1,
                    cursor: "pointer",
                    minHeight: 44,
                  }}>
                  <strong>{line.revision}.</strong> {inMyUnits(line.words)}
                  <Box sx={{ fontSize: 12, color: "text.secondary" }}>{momentWords(line.saved_at)}</Box>
                </Box>
              ))
            }
          </Awaited>
        </Box>
        <Box sx={{ flex: { sm: 1 }, minWidth: 0, fontSize: 14 }} role="group" aria-label={`Version ${looked}`}>
          <Awaited query={version}>{(plan) => <PlanSaid plan={plan} />}</Awaited>
        </Box>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Close</Button>
        <Button variant="contained" disabled={!version.data || looked === study.revision} onClick={back}>
          Go back to version {looked}
        </Button>
      </DialogActions>
    </Dialog>
  );
}

/** A plan in words, whatever has become of it since. */
function PlanSaid({ plan }: { plan: StudyPlan }) {
  const lines: [string, string][] = [
    ["Name", plan.name],
    ["Question", plan.question],
    ...plan.factors.map((factor): [string, string] => [
      FACTOR_NAMES[factor.kind],
      factor.levels.map((level) => level.label).join(", "),
    ]),
    ["Controls", plan.controls.join(", ")],
    ["Swatches of each cell", String(plan.replicates)],
    ["Dry mass of a swatch", chosenMass(plan.swatch_mass_g)],
    ["Larger pieces", plan.larger_pieces.map((piece) => `${piece.name}, ${chosenMass(piece.mass_g)}`).join("; ")],
    ["Liquor ratio", `${plan.liquor_ratio_ml_per_g} mL/g`],
    ["Left out by hand", plan.left_out.length > 0 ? counted(plan.left_out.length, "cell") : ""],
    ["Rules", plan.rules.length > 0 ? String(plan.rules.length) : ""],
    ["Further treatments", plan.treatments.map((one) => `${one.name} for ${one.swatches.length}`).join("; ")],
  ];
  return (
    <Box
      component="dl"
      sx={{
        m: 0,
        display: "grid",
        gridTemplateColumns: "max-content 1fr",
        columnGap: 1.5,
        rowGap: 0.5,
        "& dt": { color: "text.secondary" },
        "& dd": { m: 0 },
      }}>
      {lines
        .filter(([, said]) => said)
        .map(([name, said]) => (
          <Box key={name} sx={{ display: "contents" }}>
            <dt>{name}</dt>
            <dd>{said}</dd>
          </Box>
        ))}
    </Box>
  );
}
