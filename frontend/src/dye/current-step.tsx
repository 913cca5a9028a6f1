import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useState } from "react";

import type { Schema, StudyView } from "../api/client";
import { tieOf } from "../grid/cells";
import { counted } from "../shell/counted";
import { Caution } from "../shell/said";
import { durationWords } from "../shell/durations";
import { clockWords, useTicking } from "../shell/ticking";
import { FigureRow } from "../weigh/figure-row";
import { amountWords } from "../weigh/amount-words";
import { BathWatch } from "./bath-watch";
import { nowIn, whoIs } from "./bench-state";
import type { StepState, VesselBench } from "./bench-state";
import { DosePart } from "./dose-part";
import { HandForm } from "./hand-form";
import { IronWatch } from "./iron-watch";
import { LoadingCheck } from "./loading-check";
import { AdditionForm } from "./logging/addition-form";
import { useLogging } from "./outbox";
import { MapForm } from "./map-form";
import { ReadingForm } from "./reading-form";
import { RinsesForm } from "./rinses-form";
import { RollsForm } from "./rolls-form";
import { inMyUnits, massWords, temperatureWords } from "../settings/quantities";

/** The steps in which a pH is set or kept: only there the bath is asked what it still needs. */
const MOST_NAMED = 24;
const SETS_PH = ["set-ph", "hold"];

/** Which pieces are in the vessel, and which are out of it already. */
function InIt({ bench, one }: { bench: Schema["DyeView"]; one: VesselBench }) {
  const { inside, out } = nowIn(bench, one);
  if (inside.length === 0 || inside.length > MOST_NAMED) return null;
  return (
    <Box sx={{ my: 0.5 }}>
      In it now: <strong>{inside.join(" ")}</strong>
      {out.length > 0 && `; out: ${out.join(" ")}`}
    </Box>
  );
}

interface CurrentStepProps {
  study: StudyView;
  bench: Schema["DyeView"];
  one: VesselBench;
  number: number;
  state: StepState;
  following: StepState | undefined;
  /** The step is ticked off; only what is noted afterwards is shown. */
  after?: boolean;
}

/** The step that is to be done now, big, with what it needs before it and the next one in sight. */
export function CurrentStep({ study, bench, one, number, state, following, after = false }: CurrentStepProps) {
  const { step } = state;
  const log = useLogging(study.id);
  const at = { vessel: one.vessel.name, step: step.key };
  const [sure, setSure] = useState(false);
  const [noting, setNoting] = useState(false);
  const [otherwise, setOtherwise] = useState(false);
  const runs = (step.warm_min ?? 0) + (step.duration_min ?? 0);
  const missing = step.asks === "loading" ? whoIs(one).filter((code) => !one.inside.includes(code)) : [];
  const asPlanned = step.adds != null && !otherwise;
  const done = () => {
    if (missing.length > 0 && !sure) return setSure(true);
    const note = missing.length > 0 ? `without ${missing.join(" ")}` : "";
    if (asPlanned) log({ kind: "addition", ...at, addition: step.adds ?? null });
    log({ kind: "done", ...at, note });
  };
  if (after) return <HandForm study={study} one={one} />;
  const readable =
    step.asks !== "iron watch" && (step.wants_ph || step.heat || step.key === "cool" || step.temperature_c != null);
  return (
    <Box component="section" aria-label={`Step ${number}`} aria-current="step" sx={{ py: 1.5 }}>
      <Box component="h2" sx={{ m: 0, fontSize: 24, lineHeight: 1.15 }}>
        <Box component="span" sx={{ color: "text.secondary", fontWeight: 400 }}>
          {number}.{" "}
        </Box>
        {inMyUnits(step.title)}
      </Box>
      <Box sx={{ fontSize: 20, fontWeight: 700, mt: 0.5 }}>
        {[
          step.temperature_c != null ? temperatureWords(step.temperature_c) : null,
          step.duration_min ? durationWords(step.duration_min) : null,
          step.warm_min ? `after ${durationWords(step.warm_min)} of warming` : null,
        ]
          .filter(Boolean)
          .join(" · ")}
      </Box>
      <Box sx={{ my: 0.5, fontSize: 16 }}>{inMyUnits(step.detail)}</Box>
      {number === 1 && <LayOut one={one} />}
      {step.asks !== "loading" && <InIt bench={bench} one={one} />}
      {step.caution && <Caution>{step.caution}</Caution>}
      {step.asks === "loading" && <LoadingCheck study={study} one={one} step={step.key} />}
      {step.asks === "map" && <MapForm study={study.id} one={one} step={step.key} />}
      {step.asks === "rolls" && <RollsForm study={study} one={one} step={step.key} />}
      {step.asks === "iron watch" && <IronWatch study={study} one={one} state={state} passages={bench.passages} />}
      {step.takes_out.length > 0 && (
        <Box sx={{ my: 1, fontSize: 16 }}>
          {step.takes_out.map((code) => (
            <div key={code}>
              <strong>{code}</strong> {tieOf(study, code)}
            </div>
          ))}
        </Box>
      )}
      {step.adds && !otherwise && (
        <Button sx={{ minHeight: 48 }} onClick={() => setOtherwise(true)}>
          Another amount, or something else
        </Button>
      )}
      {otherwise && <AdditionForm study={study.id} bench={bench} one={one} step={step.key} />}
      {step.asks === "rinses" && (
        <RinsesForm study={study.id} at={at} entries={bench.entries} standing={bench.standing} />
      )}
      {SETS_PH.includes(step.key) && <DosePart study={study.id} bench={bench} one={one} step={step.key} />}
      {(readable || noting) && <ReadingForm study={study.id} at={at} wantsPh={step.wants_ph ?? false} />}
      {!readable && !noting && step.asks !== "iron watch" && (
        <Button sx={{ minHeight: 48 }} onClick={() => setNoting(true)}>
          Read or note something
        </Button>
      )}
      {readable && <BathWatch study={study.id} one={one} step={step.key} />}
      {step.asks !== "iron watch" && runs > 0 && !state.begun_at && (
        <Button
          variant="contained"
          size="large"
          fullWidth
          sx={{ minHeight: 64, fontSize: 18, mt: 1 }}
          onClick={() => log({ kind: "begun", ...at, minutes: runs })}>
          Begin: {durationWords(runs)}
        </Button>
      )}
      {state.begun_at && step.asks !== "iron watch" && <Running begunAt={state.begun_at} minutes={runs} />}
      {sure && missing.length > 0 && (
        <Box role="alert" sx={{ borderLeft: 6, borderColor: "error.main", pl: 1, my: 1 }}>
          <strong>
            {missing.length} not in: {missing.join(" ")}.
          </strong>{" "}
          Look on the table and in the soaking bowl before the lid goes on.
        </Box>
      )}
      <Button
        variant={runs > 0 && !state.begun_at && step.asks !== "iron watch" ? "outlined" : "contained"}
        color={runs > 0 && !state.begun_at && step.asks !== "iron watch" ? "secondary" : "primary"}
        size="large"
        fullWidth
        sx={{ minHeight: 64, fontSize: 18, mt: 1 }}
        onClick={done}>
        {sure && missing.length > 0
          ? `Go on without ${missing.length}`
          : asPlanned
            ? "Put in as said"
            : step.takes_out.length > 0
              ? "They are out"
              : "Done"}
      </Button>
      {following && (
        <Box sx={{ mt: 1, color: "text.secondary" }}>
          Next: {inMyUnits(following.step.title)}
          {following.step.duration_min ? `, ${durationWords(following.step.duration_min)}` : ""}
        </Box>
      )}
    </Box>
  );
}

function Running({ begunAt, minutes }: { begunAt: string; minutes: number }) {
  const gone = (useTicking() - Date.parse(begunAt)) / 1000;
  return (
    <Box sx={{ fontSize: 22, fontWeight: 700, mt: 1 }}>
      {clockWords(gone)} of {durationWords(minutes)}
    </Box>
  );
}

/** Everything to put ready before the first step: the pot, the amounts, the pieces. */
function LayOut({ one }: { one: VesselBench }) {
  return (
    <Box sx={{ my: 1 }}>
      <strong>Put ready:</strong> {one.vessel.on_shelf_name || "a vessel"}
      {one.vessel.swatches.length > 0 &&
        `, ${counted(one.vessel.swatches.length, "swatch")}, ${massWords(one.amounts.dry_fibre_g)} dry`}
      {one.amounts.figures.map((figure) => (
        <FigureRow
          key={figure.role + figure.name + figure.moment}
          name={figure.moment ? `${figure.name}, ${figure.moment}` : figure.name}
          value={figure.role === "dye stuff" && figure.volume_ml ? (figure.words ?? "") : amountWords(figure)}
          working={figure.working}
          source={figure.source}
        />
      ))}
    </Box>
  );
}
