import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import FormControlLabel from "@mui/material/FormControlLabel";
import MenuItem from "@mui/material/MenuItem";
import Switch from "@mui/material/Switch";
import TextField from "@mui/material/TextField";

import type { FactorKind, GridCell, Schema, StudyView } from "../api/client";
import { useBench, useColours } from "../api/hooks";
import { CellCodes } from "../grid/swatch-code";
import { FACTOR_NAMES } from "../grid/axes";
import { captionOf, cellWords, oddWords } from "../grid/cells";
import { inMyUnits } from "../settings/quantities";
import { ChoiceField } from "../shell/choice-field";
import { Awaited, Fetching, Part } from "../shell/said";
import type { Colours } from "../read/colours";
import { CameOutPart } from "./came-out-part";
import { ChartPanel, ChartPanelChosen } from "./chart-panel";
import type { CompareChoice } from "./compare-choice";
import type { CompareState } from "./compare-faces";
import { useComparePart } from "./compare-parts";
import type { ComparePart } from "./compare-parts";
import { useBetween } from "./compare-queries";
import { FindPanel } from "./find-panel";
import { RealPanel } from "./real-panel";
import { NothingRead } from "./nothing-read";
import { TablePanel } from "./table-panel";

const MOST_SHOWN = 12;

interface ComparePanelProps {
  study: StudyView;
  chosen: readonly GridCell[];
  state: CompareState;
  part: ComparePart;
  choice: CompareChoice;
  colours: Colours;
  /** The colours are on their way. */
  awaited: boolean;
}

/** What goes with the view that is open. */
export function ComparePanel(props: ComparePanelProps) {
  const { study, chosen, state, part, choice, colours, awaited } = props;
  if (part === "real" || part === "profiles") return <RealPanel study={study} colours={colours} choice={choice} />;
  if (part === "chart") return <ChartPanel study={study} chosen={chosen} colours={colours} choice={choice.chart} />;
  if (part === "find" || part === "next") return <FindPanel study={study} state={choice.find} />;
  if (part === "twins" || part === "tell") return <ChartPanelChosen study={study} chosen={chosen} colours={colours} />;
  if (part === "table")
    return (
      <TablePanel
        study={study}
        chosen={chosen}
        colours={colours}
        state={choice.table}
        filled={choice.filled}
        setFilled={choice.setFilled}
      />
    );
  return (
    <>
      <CameOutPart study={study} />
      <ReferencePanel study={study} chosen={chosen} state={state} awaited={awaited} />
      <GhostsPart study={study} choice={choice} />
    </>
  );
}

/** Empty cells as they are foretold, and how well that is done. */
function GhostsPart({ study, choice }: { study: StudyView; choice: CompareChoice }) {
  const between = useBetween(study.id, choice.ghosts).data;
  return (
    <Part title="Cells that were not read">
      <FormControlLabel
        control={<Switch color="secondary" checked={choice.ghosts} onChange={(_, on) => choice.setGhosts(on)} />}
        label="Show them as foretold"
      />
      {choice.ghosts && between && (
        <Box sx={{ fontSize: 13 }}>
          {between.how_well
            ? `Drawn with a dashed edge. ${between.how_well.words}`
            : "Fewer than six swatches are read: nothing can be foretold yet."}
        </Box>
      )}
    </Part>
  );
}

function ReferencePanel({
  study,
  chosen,
  state,
  awaited,
}: Pick<ComparePanelProps, "study" | "chosen" | "state" | "awaited">) {
  const one = chosen.length === 1 ? chosen[0] : undefined;
  const { reference } = state;
  return (
    <>
      <Part title="Compared with">
        <ReferenceWords study={study} state={state} />
        <Button
          variant="contained"
          disabled={!one || one.swatches.length === 0}
          onClick={() => one && state.setReference({ mode: "cell", cell: one.key })}>
          {one ? `Compare with ${captionOf(one)}` : "Select one swatch to compare with"}
        </Button>
        <TextField
          select
          label="Or: same but for"
          sx={{ mt: 1.5 }}
          value={reference?.mode === "factor" ? `${reference.factor}|${reference.level}` : ""}
          onChange={(event) => {
            const [factor, level] = event.target.value.split("|");
            state.setReference({ mode: "factor", factor: factor as FactorKind, level: level ?? "" });
          }}>
          {study.grid.factors.flatMap((factor) =>
            factor.levels.length < 2
              ? []
              : factor.levels
                  .filter((level) => level.key !== "")
                  .map((level) => (
                    <MenuItem key={`${factor.kind}|${level.key}`} value={`${factor.kind}|${level.key}`}>
                      {FACTOR_NAMES[factor.kind]}: {inMyUnits(level.label)}
                    </MenuItem>
                  )),
          )}
        </TextField>
        <BeforeField study={study} state={state} />
      </Part>
      {reference === null && (awaited ? <Fetching /> : <NothingRead study={study} />)}
      {reference !== null && (
        <Awaited query={state.comparison}>
          {(comparison) => (
            <Findings study={study} chosen={chosen} comparison={comparison} before={reference.mode === "before"} />
          )}
        </Awaited>
      )}
    </>
  );
}

/** Each piece against itself, before a bath or before its last one. */
function BeforeField({ study, state }: { study: StudyView; state: CompareState }) {
  const { reference } = state;
  const bench = useBench(study.id).data;
  const begun = bench?.vessels.filter((one) => one.begun && one.vessel.bath !== "extract") ?? [];
  const between = useBetweenStates(study);
  return (
    <ChoiceField
      label="Or: each piece with itself before"
      sx={{ mt: 1.5 }}
      value={reference?.mode === "before" ? (reference.state ?? (reference.vessel || "last")).toString() : ""}
      onChange={(chosen) => state.setReference(beforeOf(chosen))}
      options={[
        ["last", "the last bath between two readings"],
        ...begun.map((one) => [one.vessel.name, `${one.vessel.name} ${one.vessel.title}`] as const),
        ...between.map((one) => [String(one.run), `as it was ${one.label}, ${one.vessel}`] as const),
      ]}
    />
  );
}

function BeforeWords({ study, reference }: { study: StudyView; reference: Schema["BeforeReference"] }) {
  const between = useBetweenStates(study).find((one) => one.run === reference.state);
  return (
    <Box sx={{ mb: 1 }}>
      Each piece with itself {between ? "as it was " : "before "}
      <strong>{between?.label ?? (reference.vessel || "its last bath")}</strong>: left half before, right half after
    </Box>
  );
}

/** States in the middle of a bath, that pieces of this study were read in or can be. */
function useBetweenStates(study: StudyView): Schema["StateName"][] {
  return useColours(study.id).data?.names.filter((one) => one.run < 0) ?? [];
}

const beforeOf = (chosen: string): Schema["BeforeReference"] =>
  Number(chosen) < 0
    ? { mode: "before", vessel: "", state: Number(chosen) }
    : { mode: "before", vessel: chosen === "last" ? "" : chosen };

function ReferenceWords({ study, state }: { study: StudyView; state: CompareState }) {
  const { reference } = state;
  if (reference?.mode === "cell") {
    const cell = study.grid.cells.find((each) => each.key === reference.cell);
    if (!cell) return null;
    return (
      <Box sx={{ mb: 1 }}>
        <strong>{captionOf(cell)}</strong> {cellWords(study, cell)}
      </Box>
    );
  }
  if (reference?.mode === "factor") {
    const level = study.grid.factors
      .find((factor) => factor.kind === reference.factor)
      ?.levels.find((each) => each.key === reference.level);
    return (
      <Box sx={{ mb: 1 }}>
        The same swatch, but with <strong>{level?.label ?? reference.level}</strong>
      </Box>
    );
  }
  if (reference?.mode === "before") return <BeforeWords study={study} reference={reference} />;
  return null;
}

interface FindingsProps {
  study: StudyView;
  chosen: readonly GridCell[];
  comparison: Schema["Comparison"];
  before: boolean;
}

function Findings({ study, chosen, comparison, before }: FindingsProps) {
  const { open } = useComparePart(study.id);
  const onReal = () => open("real");
  const bench = useBench(study.id).data;
  const { differences, error_words } = comparison;
  if (differences.length === 0)
    return (
      <Part title="Nothing to compare yet">
        {before ? "No piece was read both before and after it." : "Read the reference and other swatches first."}
      </Part>
    );
  const cells = new Map(study.grid.cells.map((cell) => [cell.key, cell]));
  const keys = new Set(chosen.map((cell) => cell.key));
  const wanted = keys.size > 1 ? differences.filter((one) => keys.has(one.cell)) : differences;
  const sorted = [...wanted].sort((a, b) => b.difference.de00 - a.difference.de00);
  const same = wanted.filter((one) => !one.distinguishable).length;
  return (
    <Part title={`${wanted.length} ${wanted.length === 1 ? "difference" : "differences"}, ${same} too small to tell`}>
      <Box role="note" aria-label="What the error is" sx={{ fontSize: 13, mb: 1, borderLeft: 4, pl: 1 }}>
        {error_words}
      </Box>
      <Button variant="outlined" size="small" sx={{ mb: 1 }} onClick={onReal}>
        Which are real, pots and swatches counted?
      </Button>
      <Box sx={{ fontSize: 13, mb: 1 }}>
        ≈ marks what two colours that are the same are often read apart. About 1 ΔE00 is just visible side by side; 2 is
        plain.
      </Box>
      {sorted.slice(0, MOST_SHOWN).map((one) => {
        const cell = cells.get(one.cell);
        const d = one.difference;
        return (
          <Box key={`${one.cell} ${one.way ?? ""}`} sx={{ fontSize: 13, mb: 0.75 }}>
            {cell && <CellCodes study={study.id} cell={cell} />} {cell ? cellWords(study, cell) : ""}
            {cell && oddWords(study, cell).map((words) => <div key={words}>{words}</div>)}
            <AtTheBench bench={bench} codes={cell?.swatches ?? []} />
            {one.way && <strong>{inMyUnits(one.way)}</strong>}
            <div>
              ΔE00 {d.de00.toFixed(1)} ±{one.uncertainty_de00.toFixed(1)}
              {one.distinguishable ? ` · ${direction(d)}` : ` · too small to tell: below ${one.limit_de00.toFixed(1)}`}
              {one.pieces > 1 && ` · mean of ${one.pieces} pieces`}
            </div>
          </Box>
        );
      })}
      {sorted.length > MOST_SHOWN && <div>and {sorted.length - MOST_SHOWN} smaller ones</div>}
    </Part>
  );
}

/** What the log says of swatches that bears on their colour: true seconds in the iron, mishaps. */
function AtTheBench({ bench, codes }: { bench: Schema["DyeView"] | undefined; codes: readonly string[] }) {
  const dipped = bench?.passages.filter((one) => codes.includes(one.swatch) && one.seconds != null) ?? [];
  const marks = bench?.marks.filter((mark) => codes.includes(mark.swatch)) ?? [];
  const said = [
    ...dipped.map((one) => `${one.seconds?.toFixed(0) ?? ""} s in the iron`),
    ...marks.map((mark) => `went wrong: ${mark.deviation}`),
  ];
  return said.length > 0 ? <div>{[...new Set(said)].join(" · ")}</div> : null;
}

/** The main way in which the colour differs, in plain words. */
function direction(d: Schema["ColourDifference"]): string {
  const words = [];
  if (Math.abs(d.dl) > 1) words.push(d.dl > 0 ? "lighter" : "darker");
  if (Math.abs(d.da) > 1.5) words.push(d.da > 0 ? "redder" : "greener");
  if (Math.abs(d.db) > 1.5) words.push(d.db > 0 ? "yellower" : "bluer");
  return words.join(", ") || "alike in kind";
}
