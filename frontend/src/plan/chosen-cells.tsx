import Box from "@mui/material/Box";
import Button from "@mui/material/Button";

import type { Cell, StudyView } from "../api/client";
import { cellWords } from "../grid/axes";
import type { Change } from "./change-plan";

/** What the selection is, and leaving it out or putting it back by hand. */
export function ChosenCells({ study, chosen, change }: { study: StudyView; chosen: readonly Cell[]; change: Change }) {
  const plan = study.plan;
  if (chosen.length === 0) return null;
  const keys = new Set(chosen.map((cell) => cell.key));
  const others = (list: readonly string[] | undefined) => (list ?? []).filter((key) => !keys.has(key));
  const byRule = chosen.filter((cell) => cell.rule != null).map((cell) => cell.key);
  const one = chosen.length === 1 ? chosen[0] : undefined;
  return (
    <Box role="group" aria-label="Selected" sx={{ borderLeft: 4, pl: 1, my: 1, fontSize: 13 }}>
      {!one && <strong>{chosen.length} selected </strong>}
      {one && (
        <Box sx={{ mb: 0.5 }}>
          <strong>{study.codes[one.key] ?? "left out"}</strong> {cellWords(plan, one)}
          {study.ties[one.key] && <div>Tie {study.ties[one.key]}</div>}
          {one.because && <div>{one.because}</div>}
        </Box>
      )}
      <Button
        variant="outlined"
        size="small"
        sx={{ mr: 1 }}
        disabled={chosen.every((cell) => !cell.included)}
        onClick={() => change({ left_out: [...others(plan.left_out), ...keys], put_back: others(plan.put_back) })}
      >
        Leave out
      </Button>
      <Button
        variant="outlined"
        size="small"
        disabled={chosen.every((cell) => cell.included)}
        onClick={() => change({ left_out: others(plan.left_out), put_back: [...others(plan.put_back), ...byRule] })}
      >
        Put back
      </Button>
    </Box>
  );
}
