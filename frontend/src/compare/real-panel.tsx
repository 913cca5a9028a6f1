import Box from "@mui/material/Box";
import FormControlLabel from "@mui/material/FormControlLabel";
import Radio from "@mui/material/Radio";
import RadioGroup from "@mui/material/RadioGroup";

import type { StudyView } from "../api/client";
import type { Colours } from "../read/colours";
import { inMyUnits } from "../settings/quantities";
import { ChoiceField } from "../shell/choice-field";
import { Awaited, Part } from "../shell/said";
import { DataTable } from "../shell/data-table";
import type { CompareChoice } from "./compare-choice";
import { useEffects } from "./compare-queries";

interface RealPanelProps {
  study: StudyView;
  colours: Colours;
  choice: CompareChoice;
}

const said = (value: number | null | undefined) => (value == null ? "nothing says" : value.toFixed(2));

/** Against which noise, and in which state. */
export function RealPanel({ study, colours, choice }: RealPanelProps) {
  const query = useEffects(study.id, choice.noise, choice.state, choice.filled);
  return (
    <>
      {choice.filled !== null && (
        <Box role="note" sx={{ borderLeft: 6, pl: 1, mt: 1 }}>
          Swatches of another study fill the gaps of this one (Side by side).
        </Box>
      )}
      <Part title="In which state">
        <ChoiceField
          label="Colour"
          value={choice.state}
          onChange={choice.setState}
          slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
          options={[["", "the last one of the grid"], ...colours.kinds.map(([kind, words]) => [kind, words] as const)]}
        />
      </Part>
      <Part title="Against which noise">
        <RadioGroup
          value={choice.noise}
          onChange={(_, value) => choice.setNoise(value === "known" ? "known" : "learnt")}>
          <FormControlLabel value="learnt" control={<Radio color="secondary" />} label="Learnt from this grid alone" />
          <FormControlLabel
            value="known"
            control={<Radio color="secondary" />}
            label="How pots differ taken from earlier studies"
          />
        </RadioGroup>
        <Awaited query={query}>
          {({ compared }) => (
            <Box sx={{ fontSize: 13, mt: 1 }}>
              {compared && (
                <DataTable name="noise" aria-label="Noise" sx={{ "& td": { pr: 1.5, py: 0.25 } }}>
                  <tbody>
                    <tr>
                      <td>swatch from swatch</td>
                      <td>{said(compared.noise.swatch)}</td>
                    </tr>
                    {Object.entries(compared.noise.vessels ?? {}).map(([kind, value]) => (
                      <tr key={kind}>
                        <td>{kind} vessel from vessel</td>
                        <td>{said(value)}</td>
                      </tr>
                    ))}
                    <tr>
                      <td>reading</td>
                      <td>{said(compared.noise.reading)}</td>
                    </tr>
                  </tbody>
                </DataTable>
              )}
              <div>
                Standard deviations in ΔE00 along the noisiest direction. What factors do together in one pot counts as
                pot noise where each has one pot.
              </div>
              {compared?.warnings.map((words) => (
                <Box key={words} role="note" sx={{ borderLeft: 6, pl: 1, mt: 1 }}>
                  {inMyUnits(words)}
                </Box>
              ))}
            </Box>
          )}
        </Awaited>
      </Part>
    </>
  );
}
