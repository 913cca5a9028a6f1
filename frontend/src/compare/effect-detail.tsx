import Box from "@mui/material/Box";

import type { Schema } from "../api/client";
import { factorWords, levelWords, pWords, range, rangeWords } from "./level-words";
import { PairOfCloth } from "./pair-of-cloth";
import { inMyUnits } from "../settings/quantities";
import { RangeBar } from "../shell/range-bar";
import { DataTable } from "../shell/data-table";

interface EffectDetailProps {
  effect: Schema["FactorEffect"];
  words: Record<string, string>;
  foretold: Schema["Foretold"] | undefined;
}

/** The figures of one effect, where it is more and where less, and the working. */
export function EffectDetail({ effect, words, foretold }: EffectDetailProps) {
  const from = levelWords(words, effect.factor, effect.from);
  const to = levelWords(words, effect.factor, effect.to);
  const widest = Math.max(2, ...effect.directions.flatMap((one) => [Math.abs(one.low_de00), Math.abs(one.high_de00)]));
  const most = Math.max(2, effect.high_de00, ...effect.at.map((one) => one.high_de00));
  const told = effect.why === "";
  return (
    <Box
      component="section"
      aria-label={`${to} against ${from}`}
      sx={{ bgcolor: "background.paper", p: 2, fontSize: 14, position: { lg: "sticky" }, top: 8 }}>
      <Box component="h2" sx={{ m: 0, mb: 1, fontSize: 16 }}>
        {factorWords(words, effect.factor)}: {to} against {from}
      </Box>
      <PairOfCloth from={effect.from_hex} to={effect.to_hex} width={340} height={90} />
      <Box sx={{ display: "flex", width: 340, fontSize: 12, mb: 1 }}>
        <Box sx={{ flex: 1 }}>{from}</Box>
        <Box sx={{ flex: 1 }}>{to}</Box>
      </Box>
      <strong>ΔE00 {told ? rangeWords(effect) : effect.de00.toFixed(1)}</strong>, 95 in 100, averaged over all else.
      {effect.why && <Box sx={{ borderLeft: 6, pl: 1, my: 1 }}>{effect.why}</Box>}
      {told && (
        <DataTable name="directions" aria-label="In each direction of colour" sx={tableLook}>
          <tbody>
            {effect.directions.map((one) => (
              <tr key={one.direction}>
                <td>{one.direction}</td>
                <td>
                  <RangeBar
                    value={one.change_de00}
                    low={one.low_de00}
                    high={one.high_de00}
                    from={-widest}
                    to={widest}
                  />
                </td>
                <td>
                  {one.change_de00.toFixed(1).replace("-", "−")} ({range(one.low_de00, one.high_de00)})
                </td>
                <td>{one.real ? one.word : "≈"}</td>
              </tr>
            ))}
          </tbody>
        </DataTable>
      )}
      {effect.at.length > 0 && told && (
        <Box component="details" open>
          <summary>With each level of the others</summary>
          <DataTable name="with-the-others" aria-label="With each level of the others" sx={tableLook}>
            <tbody>
              {effect.at.map((one) => (
                <tr key={`${one.factor} ${one.level}`}>
                  <td>
                    {factorWords(words, one.factor)}: {levelWords(words, one.factor, one.level)}
                  </td>
                  <td>
                    <RangeBar value={one.de00} low={one.low_de00} high={one.high_de00} from={0} to={most} />
                  </td>
                  <td>{rangeWords(one)}</td>
                </tr>
              ))}
            </tbody>
          </DataTable>
        </Box>
      )}
      <Box component="details" sx={{ mt: 1 }} open>
        <summary>The working</summary>
        <p>
          Tested {effect.error}
          {effect.df == null
            ? ", the noise being known"
            : `, with ${effect.df.toFixed(effect.df < 10 ? 1 : 0)} degrees of freedom`}
          : p {pWords(effect.p)}, corrected for three directions of colour and for all that was looked at (p{" "}
          {pWords(effect.p_alone)} before).{" "}
          {told &&
            `With 95 in 100 it lies under ${effect.furthest_de00.toFixed(1)} ΔE00 in every direction; under 1.0 it counts as the same.`}
        </p>
        {effect.verdict === "untold" && effect.would_take && <p>{effect.would_take}</p>}
        {foretold && (
          <p>
            Foretold: {inMyUnits(foretold.words)}{" "}
            {foretold.smallest_difference_de00 != null && told
              ? effect.de00 >= foretold.smallest_difference_de00
                ? "It came out larger than that."
                : "It came out smaller than that."
              : ""}
          </p>
        )}
      </Box>
    </Box>
  );
}

const tableLook = {
  width: "100%",
  borderCollapse: "collapse",
  my: 1,
  "& td": { py: 0.25, pr: 1, verticalAlign: "middle", fontSize: 13 },
  "& td:nth-of-type(2)": { width: "28%" },
  "& td:nth-of-type(3)": { whiteSpace: "nowrap" },
} as const;
