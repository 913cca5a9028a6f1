import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useMemo, useState } from "react";

import type { Cell, Schema, StudyView } from "../api/client";
import { useBench, useComparison } from "../api/hooks";
import type { Reference } from "../api/hooks";
import { FACTOR_NAMES, cellWords } from "../grid/axes";
import type { Face } from "../grid/study-grid";
import { Awaited, Part } from "../shell/said";

export interface CompareState {
  reference: Reference | null;
  setReference: (reference: Reference) => void;
  comparison: ReturnType<typeof useComparison>;
  faceOf: (cell: Cell, plain: Face) => Face;
}

/** Every cell's difference from the chosen reference. */
export function useCompareFaces(study: StudyView, focus: string | null): CompareState {
  const [chosen, setReference] = useState<Reference | null>(null);
  const first = study.cells.find((cell) => cell.included);
  const reference: Reference | null =
    chosen ?? (focus || first ? { mode: "cell", cell: first?.key ?? focus ?? "" } : null);
  const comparison = useComparison(study.id, reference);
  const byCell = useMemo(
    () => new Map(comparison.data?.map((one) => [one.cell, one])),
    [comparison.data],
  );
  return {
    reference,
    setReference,
    comparison,
    faceOf: (cell, plain) => {
      const found = byCell.get(cell.key);
      const isReference = reference?.mode === "cell" ? reference.cell === cell.key : false;
      if (!found) return { ...plain, caption: isReference ? "ref" : "", words: `${plain.words}${isReference ? "; the reference" : ""}` };
      const de = found.difference.de00.toFixed(1);
      return {
        ...plain,
        caption: found.distinguishable ? de : `≈ ${de}`,
        words: `${plain.words}; ΔE00 ${de}${found.distinguishable ? "" : ", not distinguishable"}`,
      };
    },
  };
}

interface ComparePanelProps {
  study: StudyView;
  chosen: readonly Cell[];
  state: CompareState;
}

export function ComparePanel({ study, chosen, state }: ComparePanelProps) {
  const one = chosen.length === 1 ? chosen[0] : undefined;
  const reference = state.reference;
  const referenceCell =
    reference?.mode === "cell" ? study.cells.find((cell) => cell.key === reference.cell) : undefined;
  return (
    <>
      <Part title="Compared with">
        {referenceCell && (
          <Box sx={{ mb: 1 }}>
            <strong>{study.codes[referenceCell.key]}</strong> {cellWords(study.plan, referenceCell)}
          </Box>
        )}
        {reference?.mode === "factor" && (
          <Box sx={{ mb: 1 }}>
            The same swatch, but with{" "}
            <strong>
              {study.plan.factors
                ?.find((factor) => factor.kind === reference.factor)
                ?.levels.find((level) => level.key === reference.level)?.label ?? reference.level}
            </strong>
          </Box>
        )}
        <Button
          variant="contained"
          disabled={!one?.included}
          onClick={() => one && state.setReference({ mode: "cell", cell: one.key })}
        >
          {one ? `Compare with ${study.codes[one.key] ?? ""}` : "Select one swatch to compare with"}
        </Button>
        <TextField
          select
          label="Or: same but for"
          sx={{ mt: 1.5 }}
          value={reference?.mode === "factor" ? `${reference.factor}|${reference.level}` : ""}
          onChange={(event) => {
            const [factor, level] = event.target.value.split("|");
            state.setReference({ mode: "factor", factor: factor as Schema["FactorReference"]["factor"], level: level ?? "" });
          }}
        >
          {(study.plan.factors ?? []).flatMap((factor) =>
            factor.levels.length < 2
              ? []
              : factor.levels.map((level) => (
                  <MenuItem key={`${factor.kind}|${level.key}`} value={`${factor.kind}|${level.key}`}>
                    {FACTOR_NAMES[factor.kind]}: {level.label}
                  </MenuItem>
                )),
          )}
        </TextField>
      </Part>
      <Awaited query={state.comparison}>
        {(differences) => <Findings study={study} chosen={chosen} differences={differences} />}
      </Awaited>
    </>
  );
}

interface FindingsProps {
  study: StudyView;
  chosen: readonly Cell[];
  differences: readonly Schema["CellDifference"][];
}

function Findings({ study, chosen, differences }: FindingsProps) {
  const bench = useBench(study.id).data;
  if (differences.length === 0)
    return <Part title="Nothing to compare yet">Read the reference and other swatches first.</Part>;
  const cells = new Map(study.cells.map((cell) => [cell.key, cell]));
  const keys = new Set(chosen.map((cell) => cell.key));
  const wanted = keys.size > 1 ? differences.filter((one) => keys.has(one.cell)) : differences;
  const sorted = [...wanted].sort((a, b) => b.difference.de00 - a.difference.de00);
  const same = wanted.filter((one) => !one.distinguishable).length;
  return (
    <Part title={`${wanted.length} ${wanted.length === 1 ? "difference" : "differences"}, ${same} too small to tell`}>
      <Box sx={{ fontSize: 13, mb: 1 }}>
        ≈ marks a difference smaller than twice its measuring uncertainty. About 1 ΔE00 is just visible side by
        side; 2 is plain.
      </Box>
      {sorted.slice(0, 12).map((one) => {
        const cell = cells.get(one.cell);
        const d = one.difference;
        return (
          <Box key={one.cell} sx={{ fontSize: 13, mb: 0.75 }}>
            <strong>{study.codes[one.cell]}</strong> {cell ? cellWords(study.plan, cell) : ""}
            <AtTheBench bench={bench} code={study.codes[one.cell] ?? ""} />
            <div>
              ΔE00 {d.de00.toFixed(1)} ±{one.uncertainty_de00.toFixed(1)}
              {one.distinguishable ? ` · ${direction(d)}` : " · not distinguishable"}
            </div>
          </Box>
        );
      })}
      {sorted.length > 12 && <div>and {sorted.length - 12} smaller ones</div>}
    </Part>
  );
}

/** What the log says of a swatch that bears on its colour: true seconds in the iron, mishaps. */
function AtTheBench({ bench, code }: { bench: Schema["DyeView"] | undefined; code: string }) {
  const pull = bench?.pulls.find((one) => one.swatch === code);
  const marks = bench?.marks.filter((mark) => mark.swatch === code) ?? [];
  const said = [pull ? `${pull.seconds.toFixed(0)} s in the iron` : "", ...marks.map((mark) => `went wrong: ${mark.deviation}`)];
  const words = said.filter(Boolean).join(" · ");
  return words ? <div>{words}</div> : null;
}

/** The main way in which the colour differs, in plain words. */
function direction(d: Schema["ColourDifference"]): string {
  const words = [];
  if (Math.abs(d.dl) > 1) words.push(d.dl > 0 ? "lighter" : "darker");
  if (Math.abs(d.da) > 1.5) words.push(d.da > 0 ? "redder" : "greener");
  if (Math.abs(d.db) > 1.5) words.push(d.db > 0 ? "yellower" : "bluer");
  return words.join(", ") || "alike in kind";
}
