import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useMemo, useState } from "react";

import type { Cell, Schema, StudyView } from "../api/client";
import { useBench } from "../api/hooks";
import type { Face } from "../grid/study-grid";
import { Awaited, Part } from "../shell/said";
import { StepCard } from "./step-card";

type VesselBench = Schema["VesselBench"];

export interface DyeState {
  bench: ReturnType<typeof useBench>;
  vessel: VesselBench | undefined;
  choose: (key: string) => void;
  faceOf: (cell: Cell, plain: Face) => Face;
}

const isDone = (vessel: VesselBench) => vessel.steps.every((step) => step.done_at);

/** The chosen vessel; its swatches stand out, and each cell says how far its baths are. */
export function useDyeFaces(study: StudyView): DyeState {
  const bench = useBench(study.id);
  const [chosen, setChosen] = useState<string | null>(null);
  const vessels = useMemo(() => bench.data?.vessels ?? [], [bench.data]);
  const vessel =
    vessels.find((one) => one.vessel.key === chosen) ?? vessels.find((one) => !isDone(one)) ?? vessels[0];
  const ofCell = useMemo(() => {
    const found = new Map<string, VesselBench[]>();
    for (const one of vessels)
      for (const cell of one.vessel.cells) found.set(cell, [...(found.get(cell) ?? []), one]);
    return found;
  }, [vessels]);
  return {
    bench,
    vessel,
    choose: setChosen,
    faceOf: (cell, plain) => {
      const own = ofCell.get(cell.key) ?? [];
      const next = own.find((one) => !isDone(one));
      const caption = own.length === 0 ? "–" : next ? next.vessel.name : "dyed";
      const inVessel = vessel?.vessel.cells.includes(cell.key) ?? false;
      return {
        fills: inVessel ? plain.fills : [],
        caption,
        faint: !inVessel,
        words: `${study.codes[cell.key] ?? ""}, ${next ? `next in ${next.vessel.name} ${next.vessel.title}` : caption}`,
      };
    },
  };
}

export function DyePanel({ study, state }: { study: StudyView; state: DyeState }) {
  return (
    <Awaited query={state.bench}>
      {(bench) => {
        if (!state.vessel)
          return <Part title="Nothing to dye yet">Cross a dye or a mordant in the Plan lens first.</Part>;
        const { vessel, codes, steps } = state.vessel;
        const next = steps.findIndex((step) => !step.done_at);
        const entries = bench.entries.filter((entry) => entry.vessel === vessel.key);
        return (
          <>
            <Part title="Vessel">
              <TextField
                select
                label="At the vessel"
                value={vessel.key}
                onChange={(event) => state.choose(event.target.value)}
              >
                {bench.vessels.map((one) => (
                  <MenuItem key={one.vessel.key} value={one.vessel.key} sx={{ minHeight: 48 }}>
                    {isDone(one) ? "✓ " : ""}
                    {one.vessel.name} {one.vessel.title} ·{" "}
                    {one.steps.filter((step) => step.done_at).length} of {one.steps.length}
                  </MenuItem>
                ))}
              </TextField>
              <Box sx={{ mt: 1, fontSize: 13 }}>
                Goes in, with its tie:{" "}
                {vessel.swatches.map((key, i) => (
                  <span key={key}>
                    <strong>{codes[i]}</strong> ({study.ties[key]}){" "}
                  </span>
                ))}
              </Box>
            </Part>
            {steps.map((state_, i) => (
              <StepCard
                key={`${vessel.key}-${state_.step.key}`}
                study={study.id}
                vessel={vessel.key}
                number={i + 1}
                state={state_}
                entries={entries.filter((entry) => entry.step === state_.step.key)}
                current={i === next}
              />
            ))}
            {next === -1 && <NextVessel bench={bench} choose={state.choose} />}
          </>
        );
      }}
    </Awaited>
  );
}

function NextVessel(props: { bench: Schema["DyeView"]; choose: (key: string) => void }) {
  const open = props.bench.vessels.find((one) => !isDone(one));
  return (
    <Part title="This vessel is done">
      {open ? (
        <Button variant="contained" size="large" onClick={() => props.choose(open.vessel.key)}>
          Go to {open.vessel.name} {open.vessel.title}
        </Button>
      ) : (
        "All vessels are done. When the pieces have rested a day, photograph them: lens 4, Read."
      )}
    </Part>
  );
}
