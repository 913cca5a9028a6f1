import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";

import type { Schema, StudyView } from "../api/client";
import { inMyUnits } from "../settings/quantities";
import { Awaited, Part } from "../shell/said";
import { isDone, nextStep } from "./bench-state";
import type { DyeState, VesselBench } from "./bench-state";
import { LogMore } from "./logging/log-more";
import { MomentBar } from "./logging/moment-bar";
import { Reheats } from "./logging/reheat-form";
import { StraysPart } from "./logging/strays-part";
import { MarksPart } from "./marks-part";
import { OpenPlaces } from "./open-places";
import { CurrentStep } from "./current-step";
import { StepLine } from "./step-line";
import { setWho, useWho } from "./outbox";
import { WentWrong } from "./went-wrong";

/** The bench: one step at a time at the vessel where the person stands. */
export function DyePanel({ study, state }: { study: StudyView; state: DyeState }) {
  return (
    <Awaited query={state.bench}>
      {(bench) => {
        const one = state.vessel;
        if (!one && study.entered_from)
          return (
            <Part title="Dyed before">
              These swatches were entered from {study.entered_from} when they had been dyed. To dye them further, select
              them and choose Go on in the Plan lens.
            </Part>
          );
        if (!one) return <Part title="Nothing to dye yet">Cross a dye or a mordant in the Plan lens first.</Part>;
        const next = nextStep(one);
        const current = one.steps[next];
        const following = one.steps[next + 1];
        return (
          <>
            <Box sx={{ display: "flex", gap: 1, pt: 1.5 }}>
              <VesselField bench={bench} one={one} choose={state.choose} />
              <WhoField />
            </Box>
            <MomentBar />
            {one.waits_for.length > 0 && !isDone(one) && (
              <Box role="note" sx={{ mt: 1, borderLeft: 6, pl: 1, fontSize: 13 }}>
                Not finished yet and needed first: {one.waits_for.join(", ")}.
              </Box>
            )}
            {current ? (
              <CurrentStep
                key={`${one.vessel.name} ${current.step.key}`}
                study={study}
                bench={bench}
                one={one}
                number={next + 1}
                state={current}
                following={following}
              />
            ) : (
              <NextVessel bench={bench} one={one} choose={state.choose} study={study} />
            )}
            <Reheats study={study.id} one={one} />
            <StraysPart study={study} bench={bench} />
            <OpenPlaces study={study} />
            <LogMore
              key={one.vessel.name}
              study={study}
              bench={bench}
              one={one}
              step={current?.step.key ?? ""}
              wentWrong={<WentWrong study={study} bench={bench} one={one} step={current?.step.key ?? ""} />}
            />
            <MarksPart study={study} bench={bench} one={one} />
            <Part title={`All steps at ${one.vessel.name}`}>
              {one.steps.map((step, i) => (
                <StepLine
                  key={step.step.key}
                  study={study.id}
                  vessel={one.vessel.name}
                  number={i + 1}
                  state={step}
                  current={i === next}
                  entries={bench.entries}
                  standing={bench.standing}
                />
              ))}
            </Part>
          </>
        );
      }}
    </Awaited>
  );
}

function VesselField({
  bench,
  one,
  choose,
}: {
  bench: Schema["DyeView"];
  one: VesselBench;
  choose: (name: string) => void;
}) {
  return (
    <TextField select label="At the vessel" value={one.vessel.name} onChange={(event) => choose(event.target.value)}>
      {bench.vessels.map((each) => (
        <MenuItem key={each.vessel.name} value={each.vessel.name} sx={{ minHeight: 48, whiteSpace: "normal" }}>
          {isDone(each) ? "✓ " : ""}
          {each.vessel.name} {inMyUnits(each.vessel.title)}
          {each.waits_for.length > 0 && !isDone(each) ? ` · after ${each.waits_for.join(", ")}` : ""}
        </MenuItem>
      ))}
    </TextField>
  );
}

/** The name that goes into the log; kept on this device. */
function WhoField() {
  const who = useWho();
  return (
    <TextField
      label="Who"
      value={who}
      onChange={(event) => setWho(event.target.value.slice(0, 60))}
      sx={{ width: 110, flex: "none" }}
    />
  );
}

interface NextVesselProps {
  study: StudyView;
  bench: Schema["DyeView"];
  one: VesselBench;
  choose: (name: string) => void;
}

function NextVessel({ study, bench, one, choose }: NextVesselProps) {
  const open = bench.vessels.filter((each) => !isDone(each));
  const ready = open.find((each) => each.waits_for.length === 0) ?? open[0];
  const dried = one.steps[one.steps.length - 1];
  return (
    <Part title={`${one.vessel.name} is done`}>
      {dried?.step.key === "dry" && (
        <CurrentStep
          study={study}
          bench={bench}
          one={one}
          number={one.steps.length}
          state={dried}
          following={undefined}
          after
        />
      )}
      {ready ? (
        <Button
          variant="contained"
          size="large"
          fullWidth
          sx={{ minHeight: 56 }}
          onClick={() => choose(ready.vessel.name)}>
          Go to {ready.vessel.name} {inMyUnits(ready.vessel.title)}
        </Button>
      ) : (
        "All vessels are done. When the pieces have rested a day, photograph them: lens 4, Read."
      )}
    </Part>
  );
}
