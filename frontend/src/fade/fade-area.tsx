import Box from "@mui/material/Box";
import FormControlLabel from "@mui/material/FormControlLabel";
import Switch from "@mui/material/Switch";
import { useState } from "react";
import type { ReactNode } from "react";

import type { GridCell, Schema, StudyView, TrialView } from "../api/client";
import { codesIn } from "../grid/cells";
import { PanelTabs } from "../shell/panel-tabs";
import { Awaited } from "../shell/said";
import { Curves } from "./curves";
import { FADE_PARTS } from "./fade-state";
import type { FadeState } from "./fade-state";
import { THRESHOLDS, reachedWords } from "./fade-words";
import { LastingView, Notes } from "./lasting-view";
import { LifeView } from "./life-view";
import { StainTable } from "./stain-table";
import { Strips } from "./strips";

const MOST_CURVES = 6;

interface FadeAreaProps {
  study: StudyView;
  chosen: readonly GridCell[];
  state: FadeState;
  grid: ReactNode;
}

/** In place of the grid alone: strips of cloth, curves, what lasts, and life in a place. */
export function FadeArea({ study, chosen, state, grid }: FadeAreaProps) {
  const { trial, part } = state;
  return (
    <Box sx={{ display: "flex", flexDirection: "column", height: "100%", minHeight: 0 }}>
      <Box sx={{ px: 1, flex: "none" }} className="not-printed">
        <PanelTabs tabs={FADE_PARTS} value={part} onChange={state.open} />
      </Box>
      <Box sx={{ flex: 1, minHeight: 0, overflow: part === "grid" || part === "life" ? "hidden" : "auto" }}>
        {part === "grid" || !trial ? grid : <Shown study={study} trial={trial} chosen={chosen} state={state} grid={grid} />}
      </Box>
    </Box>
  );
}

function Shown({ study, trial, chosen, state, grid }: FadeAreaProps & { trial: TrialView }) {
  if (trial.points.length === 0 && trial.stains.length === 0)
    return (
      <Box sx={{ p: 3 }}>
        No stage of “{trial.plan.name}” has been read yet. Print its sheets, lay the covered and the exposed parts in their cells, photograph them, and accept the
        photo in Read.
      </Box>
    );
  if (state.part === "life") return <LifeView study={study} trial={trial} state={state} chosen={chosen} grid={grid} />;
  return (
    <Box sx={{ p: 2 }}>
      <Awaited query={state.lasting}>
        {(lasting) => {
          const codes = shownCodes(lasting.fading.swatches, trial.points, chosen);
          const fadingOf = (code: string) => lasting.fading.swatches.find((one) => one.swatch === code);
          if (state.part === "lasting") return <LastingView study={study} trial={trial} lasting={lasting} />;
          if (state.part === "strips")
            return (
              <>
                <Strips study={study} trial={trial} codes={codes} fadingOf={fadingOf} />
                <StainTable trial={trial} codes={codes} />
                <Box sx={{ fontSize: 12, color: "text.secondary", mt: 1 }}>
                  Along the lower edge the piece kept dark, as it was in the same photo. Ratings by ISO 105-A05 (5 no change, 1 the most) under D50 and 2°. The standard asks for D65 and 10°, which is
                  told where an instrument gave spectra; of 600 simulated dyes 14 were rated half a step otherwise by it, none more. A range says what the error of reading
                  leaves open.
                </Box>
              </>
            );
          return <CurvesPart trial={trial} swatches={codes.slice(0, MOST_CURVES).flatMap((code) => fadingOf(code) ?? [])} more={codes.length - MOST_CURVES} warnings={lasting.fading.warnings} />;
        }}
      </Awaited>
    </Box>
  );
}

/** Those of the selection, or all, from what lasts best; those whose doses nobody knows last. */
function shownCodes(swatches: readonly Schema["SwatchFading"][], points: readonly Schema["FadePoint"][], chosen: readonly GridCell[]): string[] {
  const selected = new Set(codesIn(chosen));
  const all = [...new Set([...swatches.map((one) => one.swatch), ...points.map((one) => one.swatch)])];
  const own = all.filter((code) => selected.has(code));
  return own.length > 0 ? own : all;
}

function CurvesPart(props: { trial: TrialView; swatches: readonly Schema["SwatchFading"][]; more: number; warnings: readonly string[] }) {
  const { trial, swatches, more } = props;
  const [onLog, setOnLog] = useState(false);
  const kind = trial.plan.kind;
  const series = swatches.map((fading) => ({ fading, points: trial.points.filter((one) => one.swatch === fading.swatch) }));
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
          Bands hold the truth nine times in ten; the brackets at the foot say how sure each stage’s dose is.{more > 0 ? ` Select swatches in the grid to see others: ${more} more.` : ""}
        </Box>
        <FormControlLabel control={<Switch color="secondary" checked={onLog} onChange={(_, on) => setOnLog(on)} />} label="Dose on a log scale" />
      </Box>
      <Curves kind={kind} series={series} onLog={onLog} height={360} />
      <Notes warnings={props.warnings} />
      <Box component="table" sx={{ borderCollapse: "collapse", fontSize: 13, mt: 1, width: "100%", "& th, & td": { textAlign: "left", p: 0.5, borderBottom: 1, borderColor: "divider" } }}>
        <thead>
          <tr>
            <th scope="col">Swatch</th>
            <th scope="col">Shape</th>
            {THRESHOLDS.map(([key, words]) => (
              <th key={key} scope="col">
                {words}
              </th>
            ))}
            {kind === "light" && <th scope="col">Light fastness</th>}
          </tr>
        </thead>
        <tbody>
          {series.map(({ fading }) => (
            <tr key={fading.swatch}>
              <th scope="row">{fading.swatch}</th>
              <td>{fading.model}</td>
              {THRESHOLDS.map(([key]) => {
                const reached = fading.thresholds[key];
                return <td key={key}>{reached ? reachedWords(kind, reached) : ""}</td>;
              })}
              {kind === "light" && (
                <td>
                  {fading.fastness?.words}
                  {fading.fastness_beside ? ` (beside the wools ${fading.fastness_beside.words})` : ""}
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </Box>
    </>
  );
}
