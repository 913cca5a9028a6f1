import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useState } from "react";

import type { Schema, StudyView } from "../api/client";
import { useTelling } from "../api/hooks";
import { Awaited, Part } from "../shell/said";
import { BudgetDialog } from "./budget-dialog";
import type { Change } from "./change-plan";
import { LateNumber } from "./late-field";

/** What this grid can tell, against which noise, and how to make it smaller without losing that. */
export function TellingPart({ study, change }: { study: StudyView; change: Change }) {
  const telling = useTelling(study.id);
  const [fitting, setFitting] = useState(false);
  return (
    <Awaited query={telling}>
      {(told) => (
        <>
          <Part title="What can this grid tell me?">
            {told.effects.length === 0 && <div>Nothing yet: it compares no two levels.</div>}
            {told.effects.map((effect) => (
              <EffectRow key={effect.factor} effect={effect} />
            ))}
            {told.joint.map((words) => (
              <Box key={words} sx={{ fontSize: 13, mb: 1 }}>
                {words}
              </Box>
            ))}
            <Button variant="outlined" sx={{ mt: 1 }} onClick={() => setFitting(true)}>
              Fit it to a budget
            </Button>
          </Part>
          <Part title="More of each">
            <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1.5 }}>
              <LateNumber
                label="Swatches of each cell"
                value={study.plan.replicates ?? 1}
                onTake={(replicates) => change({ replicates })}
              />
              <Button
                variant="outlined"
                disabled={(study.plan.replicates ?? 1) < 2}
                onClick={() =>
                  change({ replicate_vessels: study.plan.replicate_vessels === "apart" ? "shared" : "apart" })
                }>
                {study.plan.replicate_vessels === "apart" ? "Each in its own run" : "All in one pot"}
              </Button>
            </Box>
            <Box sx={{ fontSize: 13, mt: 0.75 }}>
              {(study.plan.replicates ?? 1) < 2
                ? "With two, in runs of their own, a pot can be told from what was done in it."
                : study.plan.replicate_vessels === "apart"
                  ? "Every bath is made anew for each run."
                  : "Repeats in one pot show the swatch, not the pot."}
            </Box>
          </Part>
          <Noise study={study} noise={told.noise} change={change} />
          <BudgetDialog study={study} open={fitting} onClose={() => setFitting(false)} change={change} />
        </>
      )}
    </Awaited>
  );
}

function EffectRow({ effect }: { effect: Schema["Effect"] }) {
  const counts = effect.levels.map((level) =>
    effect.between ? `${level.label}: ${level.vessels ?? "no"}` : `${level.label}: ${level.swatches}`,
  );
  return (
    <Box sx={{ mb: 1.25, fontSize: 13 }}>
      <Box component="span" aria-hidden sx={{ display: "inline-block", width: 18, fontWeight: 700 }}>
        {effect.can_be_told ? "✓" : "?"}
      </Box>
      <strong>{effect.name}</strong>
      {effect.words.slice(effect.name.length)}
      {effect.warnings.map((warning) => (
        <Box key={warning} sx={{ borderLeft: 4, pl: 1, my: 0.5 }}>
          {warning}
        </Box>
      ))}
      <Box sx={{ color: "text.secondary" }}>
        {effect.between ? "Pots: " : "Swatches: "}
        {counts.join(", ")}
      </Box>
    </Box>
  );
}

function Noise(props: { study: StudyView; noise: Schema["NoiseEstimate"]; change: Change }) {
  const { study, noise, change } = props;
  const set = (field: keyof typeof noise.levels) => (value: number) =>
    change({ noise: { ...noise.levels, [field]: value } });
  const field = (label: string, key: keyof typeof noise.levels) => (
    <LateNumber label={label} value={noise.levels[key]} digits={2} onTake={set(key)} />
  );
  return (
    <Part title="Noise it is told against, ΔE00">
      <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr 1fr", gap: 1 }}>
        {field("Swatch", "swatch_de00")}
        {field("Pot", "vessel_de00")}
        {field("Reading", "reading_de00")}
      </Box>
      <Box sx={{ fontSize: 13, mt: 0.75 }}>
        Standard deviations. {noise.words}{" "}
        {study.plan.noise && (
          <Button size="small" sx={{ p: 0, minHeight: 24 }} onClick={() => change({ noise: null })}>
            Use the estimate
          </Button>
        )}
      </Box>
    </Part>
  );
}
