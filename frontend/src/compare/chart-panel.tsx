import Box from "@mui/material/Box";
import FormControlLabel from "@mui/material/FormControlLabel";
import Switch from "@mui/material/Switch";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";

import type { GridCell, StudyView } from "../api/client";
import { CellCodes } from "../grid/swatch-code";
import { FACTOR_NAMES } from "../grid/axes";
import { cellWords } from "../grid/cells";
import { Chip } from "../grid/chip";
import type { Colours } from "../read/colours";
import { ChoiceField } from "../shell/choice-field";
import { entriesOf } from "../shell/keys";
import { Part } from "../shell/said";
import type { ChartChoice } from "./chart-choice";
import { LADDERS } from "./ladder-order";
import { seenIn } from "../read/seen-in";

interface ChartPanelProps {
  study: StudyView;
  chosen: readonly GridCell[];
  colours: Colours;
  choice: ChartChoice;
}

/** What the chart shows, and what is chosen in it. */
export function ChartPanel({ study, chosen, colours, choice }: ChartPanelProps) {
  const crossed = study.grid.factors.filter((factor) => factor.levels.length > 1);
  return (
    <>
      <Part title="Show">
        <ToggleButtonGroup
          exclusive
          size="small"
          value={choice.view}
          onChange={(_, view: ChartChoice["view"] | null) => view && choice.set({ view })}
          aria-label="Plane">
          <ToggleButton value="ab">a* and b*</ToggleButton>
          <ToggleButton value="cl">L* and C*</ToggleButton>
          <ToggleButton value="ladder">In order</ToggleButton>
        </ToggleButtonGroup>
        {choice.view === "ladder" ? (
          <ChoiceField
            label="In the order of"
            sx={{ mt: 1.5 }}
            value={choice.by}
            onChange={(chosen) => choice.set({ by: chosen })}
            options={entriesOf(LADDERS)}
          />
        ) : (
          <>
            <ChoiceField
              label="What this factor does to each"
              sx={{ mt: 1.5 }}
              value={choice.factor}
              onChange={(chosen) => choice.set({ factor: chosen })}
              slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
              options={[
                ["", "no arrows"],
                ...crossed.map((factor) => [factor.kind, FACTOR_NAMES[factor.kind]] as const),
              ]}
            />
            <Box>
              <FormControlLabel
                control={
                  <Switch color="secondary" checked={choice.fading} onChange={(_, fading) => choice.set({ fading })} />
                }
                label="The way they fade"
              />
              <FormControlLabel
                control={
                  <Switch color="secondary" checked={choice.doubt} onChange={(_, doubt) => choice.set({ doubt })} />
                }
                label="Doubt of reading"
              />
            </Box>
          </>
        )}
      </Part>
      <ChartPanelChosen study={study} chosen={chosen} colours={colours} />
    </>
  );
}

/** What is chosen in the grid, in cloth. */
export function ChartPanelChosen({ study, chosen, colours }: Omit<ChartPanelProps, "choice">) {
  return (
    <Part title={chosen.length === 0 ? "Nothing chosen" : `${chosen.length} chosen`}>
      {chosen.slice(0, 12).map((cell) => {
        const fills = cell.swatches.flatMap((code) => seenIn(cell, code, colours).map((one) => one.colour.hex));
        return (
          <Box key={cell.key} sx={{ display: "flex", gap: 1, alignItems: "center", fontSize: 13, mb: 0.5 }}>
            <Chip fills={fills} width={64} height={44} />
            <span>
              <CellCodes study={study.id} cell={cell} /> {cellWords(study, cell)}
            </span>
          </Box>
        );
      })}
      {chosen.length > 12 && <div>and {chosen.length - 12} more</div>}
    </Part>
  );
}
