import Box from "@mui/material/Box";

import type { Schema, StudyPlan } from "../api/client";
import { ChoiceField } from "../shell/choice-field";
import { Caution, Part } from "../shell/said";
import type { Change } from "./change-plan";
import { LateField, LateNumber } from "./late-field";

type Rolling = Schema["Rolling"];
type Folding = Schema["Folding"];
const WRAPS: Rolling["wrapped_in"][] = ["nothing", "cloth", "paper", "plastic film"];
const CORES: Rolling["rolled_on"][] = ["a stick", "a metal pipe", "a plastic pipe", "a jar", "nothing"];
const USUAL: Rolling = { cloths_per_roll: 1, rolled_on: "a stick", bound_with: "string", wrapped_in: "nothing" };
const UNFOLDED: Folding = { fold: "", corners: "", depth_cm: null, into: "dye" };

/** How printed cloths are rolled, and folded ones dipped; only where the plan has zones for it. */
export function LayingPart({ plan, change }: { plan: StudyPlan; change: Change }) {
  const crossed = new Set(plan.factors.map((factor) => factor.kind));
  return (
    <>
      {crossed.has("source") && (
        <RollingPart rolling={plan.rolling ?? USUAL} dyed={crossed.has("dye")} change={change} />
      )}
      {crossed.has("times_in") && <FoldingPart folding={plan.folding ?? UNFOLDED} change={change} />}
    </>
  );
}

function RollingPart({ rolling, dyed, change }: { rolling: Rolling; dyed: boolean; change: Change }) {
  const set = (part: Partial<Rolling>) => change({ rolling: { ...rolling, ...part } });
  const choice = <K extends "rolled_on" | "wrapped_in">(label: string, key: K, options: Rolling[K][]) => (
    <ChoiceField
      label={label}
      value={rolling[key]}
      onChange={(chosen) => set({ [key]: chosen } as Partial<Rolling>)}
      options={options}
    />
  );
  const melts = rolling.wrapped_in === "plastic film" || rolling.rolled_on === "a plastic pipe";
  return (
    <Part title="Rolls">
      <Box sx={{ fontSize: 13, mb: 1 }}>
        All sources lie on one cloth, each in its zone.{" "}
        {dyed
          ? "The rolls lie in the dye bath: take the dye out of what is crossed to steam them instead."
          : "The rolls are steamed: cross a dye to lay them in its bath instead."}
      </Box>
      <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1.5 }}>
        <ChoiceField
          label="Cloths on one another"
          value={rolling.cloths_per_roll}
          onChange={(chosen) => set({ cloths_per_roll: chosen })}
          options={[1, 2, 3, 4, 6].map((count) => [count, count === 2 ? "2, face to face" : count] as const)}
        />
        {choice("Rolled on", "rolled_on", CORES)}
        <LateField label="Bound with" value={rolling.bound_with} onChange={(bound) => set({ bound_with: bound })} />
        {choice("Wrapped in", "wrapped_in", WRAPS)}
      </Box>
      {melts && <Caution>Plastic melts in steam and in a hot bath: take cloth, paper, wood or metal.</Caution>}
    </Part>
  );
}

function FoldingPart({ folding, change }: { folding: Folding; change: Change }) {
  const set = (part: Partial<Folding>) => change({ folding: { ...folding, ...part } });
  return (
    <Part title="Fold and dip">
      <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1.5 }}>
        <LateField label="The fold" value={folding.fold} onChange={(fold) => set({ fold })} />
        <LateField label="What is dipped" value={folding.corners} onChange={(corners) => set({ corners })} />
        <LateNumber
          label="How deep, cm"
          value={folding.depth_cm ?? null}
          onTake={(depth_cm) => set({ depth_cm })}
          onNone={() => set({ depth_cm: null })}
        />
        <ChoiceField
          label="Into"
          value={folding.into}
          onChange={(chosen) => set({ into: chosen })}
          options={[
            ["dye", "the dye bath"],
            ["iron", "the iron bath"],
          ]}
        />
      </Box>
    </Part>
  );
}
