import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import { useState } from "react";

import { answered, api } from "../api/client";
import type { Schema, StudyView } from "../api/client";
import { useLook } from "../api/hooks";
import { FACTOR_NAMES } from "../grid/axes";
import { counted } from "../shell/counted";
import { QuantityField } from "../shell/quantity-field";
import { ProblemNote } from "../shell/said";
import { Several } from "../shell/several";
import type { Change } from "./change-plan";

const lowerFirst = (words: string) => words.charAt(0).toLowerCase() + words.slice(1);

interface BudgetDialogProps {
  study: StudyView;
  open: boolean;
  onClose: () => void;
  change: Change;
}

/** Chooses the cells that keep the most information within so many swatches and dye vessels. */
export function BudgetDialog({ study, open, onClose, change }: BudgetDialogProps) {
  const plan = study.plan;
  const swatchesNow = study.swatches.filter((swatch) => swatch.planned).length;
  const vesselsNow = study.vessels.filter((vessel) => vessel.bath === "dye").length;
  const [swatches, setSwatches] = useState<number | null>(null);
  const [vessels, setVessels] = useState<number | null>(null);
  const [pairs, setPairs] = useState<string[]>([]);
  const [seed, setSeed] = useState(1);
  const crossed = (plan.factors ?? []).filter((factor) => factor.levels.length > 1).map((factor) => factor.kind);
  const offered = crossed.flatMap((a, i) =>
    crossed
      .slice(i + 1)
      .map((b) => ({
        key: `${a}+${b}`,
        factors: [a, b] as const,
        words: `${FACTOR_NAMES[a]} with ${lowerFirst(FACTOR_NAMES[b])}`,
      })),
  );
  const fit = useLook((wanted: number) =>
    answered(
      api.POST("/api/studies/{study_id}/budget", {
        params: { path: { study_id: study.id } },
        body: {
          swatches: swatches ?? swatchesNow,
          vessels: vessels ?? Math.max(1, vesselsNow),
          interactions: offered.filter(({ key }) => pairs.includes(key)).map(({ factors: [a, b] }) => [a, b]),
          seed: wanted,
        },
      }),
    ),
  );
  const take = (thinned: Schema["Thinned"]) => {
    change({ left_out: [...new Set([...(plan.left_out ?? []), ...thinned.left_out])] });
    onClose();
  };
  return (
    <Dialog open={open} onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>Fit it to a budget</DialogTitle>
      <DialogContent sx={{ display: "grid", gap: 1.5 }}>
        <div>
          Now: {counted(swatchesNow, "swatch")}, {counted(vesselsNow, "dye vessel")}. The cells that say the most about
          each factor stay; controls stay; nothing changes until you take it.
        </div>
        <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr", sm: "1fr 1fr" }, gap: 1.5, pt: 0.5 }}>
          <QuantityField
            autoFocus
            label="At most so many swatches"
            start={null}
            placeholder={String(swatchesNow)}
            onTake={setSwatches}
          />
          <QuantityField
            label="In at most so many dye vessels"
            start={null}
            placeholder={String(vesselsNow)}
            onTake={setVessels}
          />
        </Box>
        <Several
          label="Also keep what these do together"
          options={offered.map(({ key, words }): [string, string] => [key, words])}
          value={pairs}
          onChange={setPairs}
        />
        <ProblemNote error={fit.error} />
        {fit.data && !fit.error && (
          <Box role="status" sx={{ borderLeft: 4, pl: 1.5 }}>
            <strong>
              {counted(fit.data.cells, "cell")} and {counted(fit.data.controls, "control")} in{" "}
              {counted(fit.data.vessels, "dye vessel")}
            </strong>
            <div>
              keep {(100 * fit.data.kept_information).toFixed(0)} % of the information of the grid as it is; a swatch
              tells {fit.data.efficiency.toFixed(2)} times as much.
            </div>
            {fit.data.lost.map((words) => (
              <Box key={words} sx={{ fontSize: 13 }}>
                {words}
              </Box>
            ))}
            <Box sx={{ fontSize: 13, color: "text.secondary" }}>
              Seed {fit.data.seed}: the same again gives the same.
            </Box>
          </Box>
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        {fit.data && (
          <Button
            onClick={() => {
              setSeed(seed + 1);
              fit.mutate(seed + 1);
            }}>
            Another choice
          </Button>
        )}
        <Button
          variant={fit.data ? "outlined" : "contained"}
          disabled={fit.isPending || Number.isNaN(swatches) || Number.isNaN(vessels)}
          onClick={() => fit.mutate(seed)}>
          {fit.isPending ? "Choosing …" : "Choose the cells"}
        </Button>
        {fit.data && (
          <Button variant="contained" onClick={() => fit.data && take(fit.data)}>
            Take this choice
          </Button>
        )}
      </DialogActions>
    </Dialog>
  );
}
