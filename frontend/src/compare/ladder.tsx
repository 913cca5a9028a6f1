import Box from "@mui/material/Box";

import type { Schema } from "../api/client";
import { Chip } from "../grid/chip";
import { ladder } from "./ladder-order";
import type { LadderBy } from "./ladder-order";

interface LadderProps {
  chart: Schema["ColourChart"];
  by: LadderBy;
  chosen: ReadonlySet<string>;
  wordsOf: (point: Schema["ChartPoint"]) => string;
  onChoose: (cell: string, more: boolean) => void;
}

/** All swatches in the order of one thing: rung by rung. */
export function Ladder({ chart, by, chosen, wordsOf, onChoose }: LadderProps) {
  const rungs = ladder(chart, by);
  if (rungs.length === 0)
    return <Box sx={{ p: 2 }}>{by === "lasting" ? "No stage of a trial was read yet." : "Nothing was read yet."}</Box>;
  return (
    <Box
      role="listbox"
      aria-label={`In the order of ${by}`}
      aria-multiselectable
      sx={{ display: "flex", flexWrap: "wrap", gap: 0.5 }}>
      {rungs.map(({ point, figure }) => (
        <Box
          key={point.code}
          component="button"
          type="button"
          role="option"
          aria-selected={chosen.has(point.cell)}
          aria-label={`${wordsOf(point)}, ${figure}`}
          title={wordsOf(point)}
          onClick={(event) => onChoose(point.cell, event.shiftKey || event.ctrlKey || event.metaKey)}
          sx={{
            p: 0.25,
            border: 2,
            borderColor: chosen.has(point.cell) ? "text.primary" : "transparent",
            bgcolor: "transparent",
            color: "inherit",
            font: "inherit",
            fontSize: 12,
            cursor: "pointer",
            lineHeight: 1.2,
          }}>
          <Chip fills={[point.hex]} width={66} height={58} />
          <div>{point.code}</div>
          <div>{figure}</div>
        </Box>
      ))}
    </Box>
  );
}
