import Box from "@mui/material/Box";

import type { StudyView } from "../api/client";
import { cellWords } from "../grid/cells";
import { useChosenKeys } from "../grid/selection";
import type { Selection } from "../grid/selection";
import { labWords } from "../read/colours";
import { Awaited } from "../shell/said";
import { ColourChart } from "./colour-chart";
import type { ChartChoice } from "./chart-choice";
import { Ladder } from "./ladder";
import { NothingRead } from "./nothing-read";
import { useColourChart, useEffects } from "./compare-queries";

interface ChartViewProps {
  study: StudyView;
  selection: Selection;
  choice: ChartChoice;
  filled: number | null;
}

/** The colours of the study at their places; what is chosen here is chosen in the grid, and back. */
export function ChartView({ study, selection, choice, filled }: ChartViewProps) {
  const query = useColourChart(study.id, filled);
  const chosenKeys = useChosenKeys(selection);
  const choose = (cell: string, more: boolean) => (more ? selection.toggle(cell) : selection.only(cell));
  return (
    <Awaited query={query}>
      {(chart) => {
        if (chart.points.length === 0)
          return (
            <Box sx={{ p: 3 }}>
              <NothingRead study={study} />
            </Box>
          );
        const cells = new Map(study.grid.cells.map((cell) => [cell.key, cell]));
        const wordsOf = (one: (typeof chart.points)[number]) => {
          const cell = cells.get(one.cell);
          return `${one.code}, ${cell ? cellWords(study, cell) : ""}, ${one.colour_words}, ${labWords(one.lab)}`;
        };
        return (
          <Box sx={{ p: 2 }}>
            {choice.view === "ladder" ? (
              <Ladder chart={chart} by={choice.by} chosen={chosenKeys} wordsOf={wordsOf} onChoose={choose} />
            ) : (
              <ColourChart
                chart={chart}
                plane={choice.view}
                factor={choice.factor}
                fading={choice.fading}
                doubt={choice.doubt}
                chosen={chosenKeys}
                wordsOf={wordsOf}
                onChoose={choose}
              />
            )}
            {choice.view !== "ladder" && choice.factor && <InWords study={study} factor={choice.factor} />}
            <Box sx={{ fontSize: 12, color: "text.secondary", mt: 1 }}>
              Click, or go with the arrow keys and press Enter; with Shift several. What is chosen here is chosen in the
              grid. Ellipses hold 95 in 100 of the error of reading.
            </Box>
          </Box>
        );
      }}
    </Awaited>
  );
}

/** What the arrows say, in words. */
function InWords({ study, factor }: { study: StudyView; factor: string }) {
  const said = (useEffects(study.id).data?.statements ?? []).filter((one) => one.factor === factor);
  return (
    <Box component="ul" aria-label="What the arrows say" sx={{ m: 0, mt: 0.5, pl: 2.5 }}>
      {said.map((one) => (
        <li key={one.words}>{one.words}</li>
      ))}
    </Box>
  );
}
