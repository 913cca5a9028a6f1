import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useState } from "react";

import { EyeChip } from "./eye-chip";
import type { EyeTask, Judged } from "./eye-queries";

interface OneTaskProps {
  task: EyeTask;
  onJudged: (judged: Judged) => void;
}

/** One task: the cloth, large, and how it is answered. What was right is said after it. */
export function OneTask({ task, onJudged }: OneTaskProps) {
  const [touched, setTouched] = useState<number[]>([]);
  const told = (right: boolean) => onJudged({ kind: task.kind, de00: task.de00, right, grade: null, said: null });
  const touch = (place: number) => {
    if (task.kind === "ladder") {
      const next = touched.includes(place) ? touched.filter((one) => one !== place) : [...touched, place];
      setTouched(next);
      if (next.length === task.chips.length) told(next.every((one, i) => one === task.right[i]));
    } else told(place === task.right[0]);
  };
  const [width, height] = task.chips.length > 3 ? [170, 170] : [260, 220];
  if (task.kind === "grey")
    return (
      <Box>
        <Box sx={{ display: "flex", justifyContent: "center", gap: 0 }}>
          {task.chips.map((chip, i) => (
            <EyeChip key={i} fill={chip} width={260} height={220} />
          ))}
        </Box>
        <Box
          role="group"
          aria-label="Rating on the grey scale"
          sx={{ display: "flex", flexWrap: "wrap", justifyContent: "center", gap: 1, mt: 3 }}>
          {task.grades.map((grade) => (
            <Button
              key={grade}
              variant="outlined"
              onClick={() =>
                onJudged({ kind: task.kind, de00: task.de00, right: null, grade: task.grade ?? null, said: grade })
              }
              sx={{ minWidth: 56, minHeight: 56, fontSize: 18 }}>
              {grade}
            </Button>
          ))}
        </Box>
        <Box sx={{ textAlign: "center", fontSize: 14, color: "text.secondary", mt: 1 }}>
          5: no change. 1: much change.
        </Box>
      </Box>
    );
  return (
    <Box
      role="group"
      aria-label={task.asks}
      sx={{
        display: "flex",
        flexWrap: "wrap",
        justifyContent: "center",
        alignItems: "flex-start",
        gap: task.kind === "which" ? 0 : 2,
      }}>
      {task.chips.map((chip, i) => {
        const given = task.kind === "damp" && i === 0;
        const turn = touched.indexOf(i);
        const piece = (
          <EyeChip
            fill={chip}
            blotch={task.kind === "uneven" && i === task.right[0] ? (task.blotch ?? undefined) : undefined}
            width={width}
            height={height}
          />
        );
        return given ? (
          <Box key={i} sx={{ textAlign: "center" }}>
            {piece}
            <div>dry</div>
          </Box>
        ) : (
          <Box
            key={i}
            component="button"
            type="button"
            aria-label={`Piece ${i + 1}${turn >= 0 ? `, number ${turn + 1}` : ""}`}
            onClick={() => touch(i)}
            sx={{
              p: 0,
              border: 0,
              bgcolor: "transparent",
              color: "inherit",
              font: "inherit",
              cursor: "pointer",
              maxWidth: "46vw",
            }}>
            {piece}
            {task.kind === "ladder" && <Box sx={{ minHeight: 24, fontWeight: 700 }}>{turn >= 0 ? turn + 1 : ""}</Box>}
          </Box>
        );
      })}
    </Box>
  );
}
