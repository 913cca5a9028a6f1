import Box from "@mui/material/Box";

import type { Schema, StudyView } from "../api/client";
import type { Colours } from "../read/colours";
import { ChoiceField } from "../shell/choice-field";
import { DataTable } from "../shell/data-table";
import { Awaited, Part } from "../shell/said";
import type { CompareChoice } from "./compare-choice";
import { useEffects } from "./compare-queries";

interface RealPanelProps {
  study: StudyView;
  colours: Colours;
  choice: CompareChoice;
}

const restsOn = ({ known, repeats = 0 }: Schema["Component"]): string =>
  known ? "as given" : repeats > 0.5 ? `${Math.round(repeats)} repeats and usual value` : "usual value";

/** In which state, and against which noise. */
export function RealPanel({ study, colours, choice }: RealPanelProps) {
  const query = useEffects(study.id, choice.state, choice.filled);
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
      <Part title="When the same is done again">
        <Awaited query={query}>
          {({ compared }) => (
            <Box sx={{ fontSize: 13 }}>
              {compared && (
                <DataTable name="noise" aria-label="Noise" sx={{ "& td": { pr: 1.5, py: 0.25 } }}>
                  <tbody>
                    {(["swatch", "vessel", "day"] as const).map((name) => (
                      <tr key={name}>
                        <td>
                          {name} from {name}
                        </td>
                        <td>{compared.noise[name].sd_de00.toFixed(1)}</td>
                        <td>{restsOn(compared.noise[name])}</td>
                      </tr>
                    ))}
                    <tr>
                      <td>reading</td>
                      <td>{compared.reading_de00.toFixed(1)}</td>
                      <td>as measured</td>
                    </tr>
                  </tbody>
                </DataTable>
              )}
              <div>Standard deviations in ΔE00. Usual values are common practice; change them in Plan, Tell.</div>
            </Box>
          )}
        </Awaited>
      </Part>
    </>
  );
}
