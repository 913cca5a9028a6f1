import Box from "@mui/material/Box";
import IconButton from "@mui/material/IconButton";
import { useState } from "react";
import type { DragEvent } from "react";

import type { FactorKind, StudyPlan } from "../api/client";
import { FACTOR_NAMES } from "../grid/axes";
import { moved } from "./change-plan";
import type { Axis, Change } from "./change-plan";

const WORDS: Record<Axis, string> = { rows: "Down the rows", columns: "Across the columns" };
const OTHER: Record<Axis, Axis> = { rows: "columns", columns: "rows" };

/** Which factor goes on which axis, and in which order they nest; dragged, or moved with a button. */
export function AxisLanes({ plan, change }: { plan: StudyPlan; change: Change }) {
  const [dragged, setDragged] = useState<FactorKind | null>(null);
  const drop = (event: DragEvent, axis: Axis, before?: FactorKind) => {
    event.preventDefault();
    event.stopPropagation();
    const kind = plan.factors?.find((factor) => factor.kind === event.dataTransfer.getData("text/plain"))?.kind;
    if (kind && kind !== before) change(moved(plan, kind, axis, before));
    setDragged(null);
  };
  return (
    <Box sx={{ display: "grid", gap: 0.75 }}>
      {(["rows", "columns"] as const).map((axis) => (
        <Box
          key={axis}
          role="group"
          aria-label={WORDS[axis]}
          onDragOver={(event) => event.preventDefault()}
          onDrop={(event) => drop(event, axis)}
          sx={{ border: 1, borderStyle: "dashed", borderColor: "divider", p: 0.75, minHeight: 46 }}>
          <Box sx={{ fontSize: 12, color: "text.secondary" }}>{WORDS[axis]}</Box>
          <Box sx={{ display: "flex", flexWrap: "wrap", gap: 0.5 }}>
            {(plan[axis] ?? []).map((kind) => (
              <Box
                key={kind}
                draggable
                onDragStart={(event) => {
                  event.dataTransfer.setData("text/plain", kind);
                  setDragged(kind);
                }}
                onDragEnd={() => setDragged(null)}
                onDrop={(event) => drop(event, axis, kind)}
                sx={{
                  border: 1,
                  borderColor: "text.secondary",
                  pl: 1,
                  display: "flex",
                  alignItems: "center",
                  cursor: "grab",
                  opacity: dragged === kind ? 0.5 : 1,
                }}>
                {FACTOR_NAMES[kind]}
                <IconButton
                  size="small"
                  color="inherit"
                  aria-label={`Move ${FACTOR_NAMES[kind]} to the ${OTHER[axis]}`}
                  title={`Move to the ${OTHER[axis]}`}
                  onClick={() => change(moved(plan, kind, OTHER[axis]))}
                  sx={{ fontSize: 15, width: 28, height: 28 }}>
                  {axis === "rows" ? "→" : "↓"}
                </IconButton>
              </Box>
            ))}
          </Box>
        </Box>
      ))}
    </Box>
  );
}
