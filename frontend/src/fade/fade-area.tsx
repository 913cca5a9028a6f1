import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import FormControlLabel from "@mui/material/FormControlLabel";
import Switch from "@mui/material/Switch";
import useMediaQuery from "@mui/material/useMediaQuery";
import { useState } from "react";

import type { GridCell, Schema, StudyView, TrialView } from "../api/client";
import { codesIn } from "../grid/cells";
import { useGroupsFading, useSwatchesFading } from "../api/hooks";
import { Awaited } from "../shell/said";
import { useShownPart } from "../shell/shown-part";
import { AwaitedLasting } from "./awaited-lasting";
import { Curves } from "./curves";
import type { FadeState } from "./fade-state";
import { FadingTable } from "./fading-table";
import { LastingView, Notes } from "./lasting-view";
import { LifeView } from "./life-view";
import { StainTable } from "./stain-table";
import { Strips } from "./strips";

const MOST_CURVES = 6;

interface FadeAreaProps {
  study: StudyView;
  trial: TrialView;
  chosen: readonly GridCell[];
  state: FadeState;
}

/** Beside the grid: strips of cloth, curves, what lasts, and life in a place. */
export function FadeArea({ study, trial, chosen, state }: FadeAreaProps) {
  const phone = useMediaQuery("(max-width: 600px)");
  const [at, setAt] = useState(0);
  if (trial.points.length === 0 && trial.stains.length === 0)
    return (
      <Box sx={{ p: 3 }}>
        No stage of “{trial.plan.name}” has been read yet. Print its sheets, lay the covered and the exposed parts in
        their cells, photograph them, and accept the photo in Read.
      </Box>
    );
  if (state.part === "life") return <LifeView study={study} trial={trial} state={state} chosen={chosen} />;
  return (
    <Box sx={{ p: 2 }}>
      <AwaitedLasting study={study} trial={trial} state={state}>
        {(lasting) => {
          if (state.part === "lasting")
            return <LastingView key={trial.id} study={study} trial={trial} lasting={lasting} />;
          const codes = shownCodes(lasting.fading.order, trial.points, chosen);
          const shown = phone
            ? codes.slice(at % Math.max(1, codes.length), (at % Math.max(1, codes.length)) + 1)
            : codes;
          return (
            <>
              {phone && <OneAtATime at={at} setAt={setAt} codes={codes} />}
              {state.part === "strips" ? (
                <StripsPart key={codes.join()} study={study} trial={trial} codes={shown} />
              ) : (
                <CurvesPart
                  study={study}
                  trial={trial}
                  codes={shown.slice(0, MOST_CURVES)}
                  more={phone ? 0 : codes.length - MOST_CURVES}
                  warnings={lasting.fading.warnings}
                />
              )}
            </>
          );
        }}
      </AwaitedLasting>
    </Box>
  );
}

const STRIPS_AT_ONCE = 40;

function StripsPart({ study, trial, codes }: { study: StudyView; trial: TrialView; codes: readonly string[] }) {
  const [shown, more] = useShownPart(codes, STRIPS_AT_ONCE);
  const fading = useSwatchesFading(study.id, trial.id, shown).data ?? [];
  return (
    <>
      <Strips
        study={study}
        trial={trial}
        codes={shown}
        fadingOf={(code) => fading.find((one) => one.swatch === code)}
      />
      {more}
      <StainTable trial={trial} codes={shown} />
      <Box sx={{ fontSize: 12, color: "text.secondary", mt: 1 }}>
        Along the lower edge the piece kept dark, as it was in the same photo. Ratings by ISO 105-A05 (5 no change, 1
        the most) under D50 and 2°. The standard asks for D65 and 10°, which is told where an instrument gave spectra;
        of 600 simulated dyes 14 were rated half a step otherwise by it, none more. A range says what the error of
        reading leaves open.
      </Box>
    </>
  );
}

/** Those of the selection, or all, from what lasts best; those whose doses nobody knows last. */
function shownCodes(
  order: readonly Schema["SwatchLasting"][],
  points: readonly Schema["FadePoint"][],
  chosen: readonly GridCell[],
): string[] {
  const selected = new Set(codesIn(chosen));
  const all = [...new Set([...order.map((one) => one.swatch), ...points.map((one) => one.swatch)])];
  const own = all.filter((code) => selected.has(code));
  return own.length > 0 ? own : all;
}

/** A phone shows one swatch, and the ones before and after it at a press. */
function OneAtATime({ at, setAt, codes }: { at: number; setAt: (at: number) => void; codes: readonly string[] }) {
  const count = Math.max(1, codes.length);
  const shown = at % count;
  return (
    <Box sx={{ display: "flex", alignItems: "center", gap: 1, mb: 1 }}>
      <Button variant="outlined" sx={{ minHeight: 48 }} onClick={() => setAt(shown + count - 1)}>
        Before
      </Button>
      <Box sx={{ flex: 1, textAlign: "center" }} role="status">
        {codes[shown]}, {shown + 1} of {count}
      </Box>
      <Button variant="outlined" sx={{ minHeight: 48 }} onClick={() => setAt(shown + 1)}>
        Next
      </Button>
    </Box>
  );
}

interface CurvesPartProps {
  study: StudyView;
  trial: TrialView;
  codes: readonly string[];
  more: number;
  warnings: readonly string[];
}

function CurvesPart(props: CurvesPartProps) {
  const fading = useSwatchesFading(props.study.id, props.trial.id, props.codes);
  return <Awaited query={fading}>{(swatches) => <DrawnCurves {...props} swatches={swatches} />}</Awaited>;
}

function DrawnCurves(props: CurvesPartProps & { swatches: readonly Schema["SwatchFading"][] }) {
  const { study, trial, swatches, more } = props;
  const [onLog, setOnLog] = useState(false);
  const [byGroup, setByGroup] = useState(false);
  const asked = useGroupsFading(study.id, trial.id, byGroup);
  const groups = asked.data ?? [];
  const kind = trial.plan.kind;
  const series = swatches.map((fading) => ({
    fading,
    points: trial.points.filter((one) => one.swatch === fading.swatch),
  }));
  if (series.length === 0)
    return (
      <>
        <p>None of the selected swatches was read in this trial at a dose that is known.</p>
        <Notes warnings={props.warnings} />
      </>
    );
  return (
    <>
      <Box sx={{ display: "flex", alignItems: "center", gap: 2, flexWrap: "wrap" }}>
        <Box sx={{ flex: 1, fontSize: 13 }}>
          Bands hold the truth nine times in ten; the brackets at the foot say how sure each stage’s dose is.
          {more > 0 ? ` Select swatches in the grid to see others: ${more} more.` : ""}
        </Box>
        <FormControlLabel
          control={<Switch color="secondary" checked={byGroup} onChange={(_, on) => setByGroup(on)} />}
          label="By dye"
        />
        <FormControlLabel
          control={<Switch color="secondary" checked={onLog} onChange={(_, on) => setOnLog(on)} />}
          label="Dose on a log scale"
        />
      </Box>
      {byGroup && groups.length === 0 && (
        <Box role="status">
          {asked.isPending ? "The curves of the dyes are being worked out." : "No dye has two swatches in this trial."}
        </Box>
      )}
      <Curves
        kind={kind}
        onLog={onLog}
        height="max(300px, 45dvh)"
        series={
          byGroup && groups.length > 0
            ? groups.map((one) => ({
                name: one.group,
                curve: one.curve,
                points: [],
                words: `${one.swatches.length} swatches`,
              }))
            : series.map(({ fading, points }) => ({
                name: fading.swatch,
                curve: fading.curve,
                points,
                words: fading.words,
              }))
        }
      />
      <Notes warnings={props.warnings} />
      <FadingTable study={study} kind={kind} swatches={series.map(({ fading }) => fading)} />
    </>
  );
}
