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
          <Noise study={study} told={told} change={change} />
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
      <Box sx={{ color: "text.secondary" }}>
        {effect.between ? "Pots: " : "Swatches: "}
        {counts.join(", ")}
      </Box>
    </Box>
  );
}

function Noise(props: { study: StudyView; told: Schema["Telling"]; change: Change }) {
  const { study, told, change } = props;
  const own = study.plan.noise;
  const now = told.start;
  const field = (label: string, key: keyof typeof now) => (
    <LateNumber
      label={label}
      value={now[key]}
      digits={2}
      onTake={(value) => change({ noise: { ...now, [key]: value } })}
    />
  );
  const learnt = (["swatch", "vessel", "day"] as const).filter((name) => (told.noise[name].repeats ?? 0) > 0.5);
  return (
    <Part title="When the same is done again, ΔE00">
      <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1 }}>
        {field("Swatch from swatch", "swatch_de00")}
        {field("Vessel from vessel", "vessel_de00")}
        {field("Day from day", "day_de00")}
        {field("Reading", "reading_de00")}
      </Box>
      <Box sx={{ fontSize: 13, mt: 0.75 }}>
        Standard deviations; {own ? "your own figures" : "usual values, common practice"}.{" "}
        {learnt.length > 0 &&
          `Other studies have sharpened them: ${learnt
            .map((name) => `${name} ${told.noise[name].sd_de00.toFixed(2)}`)
            .join(", ")}. `}
        {own && (
          <Button size="small" sx={{ p: 0, minHeight: 24 }} onClick={() => change({ noise: null })}>
            Use the usual values
          </Button>
        )}
      </Box>
    </Part>
  );
}
