import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useState } from "react";

import type { GridCell, Schema, StudyPlan, StudyView } from "../api/client";
import { FACTOR_NAMES } from "../grid/axes";
import type { Selection } from "../grid/selection";
import { inMyUnits } from "../settings/quantities";
import { counted } from "../shell/counted";
import { hasKey } from "../shell/keys";
import { Part } from "../shell/said";
import type { Change } from "./change-plan";
import { NewRule } from "./new-rule";

type Rule = NonNullable<StudyPlan["rules"]>[number];

interface LeaveOutProps {
  study: StudyView;
  chosen: readonly GridCell[];
  selection: Selection;
  change: Change;
}

/** Leaving out by hand, by header or by rule, and the rules that common practice proposes. */
export function LeaveOutPart({ study, chosen, selection, change }: LeaveOutProps) {
  const [making, setMaking] = useState(false);
  const plan = study.plan;
  const rules = plan.rules ?? [];
  const cellsOf = (number: number) => study.grid.cells.filter((cell) => cell.rule === number).map((cell) => cell.key);
  return (
    <>
      {chosen.length === 0 && (
        <Part title="By hand">
          <Box sx={{ fontSize: 13 }}>Click a swatch, drag over several, or click a header.</Box>
        </Part>
      )}
      {study.proposed_rules.length > 0 && (
        <Part title="Worth leaving out">
          {study.proposed_rules.map((proposal) => (
            <Box key={proposal.words} sx={{ mb: 1.25, fontSize: 13 }}>
              <strong>{inMyUnits(proposal.words)}.</strong> {inMyUnits(proposal.rule.reason)}
              <div>
                <Button variant="outlined" size="small" onClick={() => change({ rules: [...rules, proposal.rule] })}>
                  Leave out {proposal.words.toLowerCase()}
                </Button>
              </div>
            </Box>
          ))}
        </Part>
      )}
      <Part title={`Rules: ${rules.length}`}>
        {rules.map((rule, i) => (
          <Box key={i} sx={{ mb: 1, fontSize: 13 }}>
            <strong>{ruleWords(plan, rule)}.</strong> {rule.reason}{" "}
            <Button size="small" sx={{ minHeight: 24, p: 0, mr: 1 }} onClick={() => selection.replace(cellsOf(i + 1))}>
              Show {counted(cellsOf(i + 1).length, "cell")}
            </Button>
            <Button
              size="small"
              sx={{ minHeight: 24, p: 0 }}
              onClick={() => change({ rules: rules.filter((_, k) => k !== i) })}>
              Take the rule away
            </Button>
          </Box>
        ))}
        {making ? (
          <NewRule
            plan={plan}
            onMade={(rule) => {
              change({ rules: [...rules, rule] });
              setMaking(false);
            }}
            onClose={() => setMaking(false)}
          />
        ) : (
          <Button variant="outlined" onClick={() => setMaking(true)}>
            New rule
          </Button>
        )}
      </Part>
    </>
  );
}

function ruleWords(plan: StudyPlan, rule: Rule | Schema["LeaveOutRule"]): string {
  const parts = Object.entries(rule.levels ?? {}).map(([kind, keys]) => {
    const levels = plan.factors?.find((factor) => factor.kind === kind)?.levels ?? [];
    const labels = (keys ?? []).map((key) => levels.find((level) => level.key === key)?.label ?? key);
    return labels.join(" or ") || (hasKey(FACTOR_NAMES, kind) ? FACTOR_NAMES[kind] : kind);
  });
  const classes = rule.fibre_classes ?? [];
  return [...parts, ...(classes.length ? [`${classes.join(" or ")} fibre`] : [])].join(" with ");
}
