import Box from "@mui/material/Box";
import Button from "@mui/material/Button";

import type { Schema } from "../api/client";
import { DataTable } from "../shell/data-table";
import { RangeBar } from "../shell/range-bar";
import { factorWords, levelWords, pWords, range } from "./level-words";
import { PairOfCloth } from "./pair-of-cloth";

type Effect = Schema["FactorEffect"];
type Verdict = Effect["verdict"];

interface EffectDetailProps {
  effect: Effect;
  said: string;
  words: Record<string, string>;
  thirdLot: readonly string[];
  onThirdLot: (cells: readonly string[]) => void;
}

const VERDICTS: Record<Verdict, string> = { different: "differ", same: "are the same", untold: "cannot be told" };
const DEPTHS = [
  ["pieces", "These pieces"],
  ["again", "Dyed again"],
  ["rule", "As a rule"],
] as const;

/** One effect at its three depths, where it is more and where less, and the working. */
export function EffectDetail({ effect, said, words, thirdLot, onThirdLot }: EffectDetailProps) {
  const from = levelWords(words, effect.factor, effect.from);
  const to = levelWords(words, effect.factor, effect.to);
  const { directions = [], at = [], verdicts } = effect;
  const widest = Math.max(2, ...directions.flatMap((one) => [Math.abs(one.low_de00), Math.abs(one.high_de00)]));
  return (
    <Box
      component="section"
      aria-label={`${to} against ${from}`}
      sx={{ bgcolor: "background.paper", p: 2, fontSize: 14, position: { lg: "sticky" }, top: 8 }}>
      <Box component="h2" sx={{ m: 0, mb: 1, fontSize: 16 }}>
        {factorWords(words, effect.factor)}: {to} against {from}
      </Box>
      <Box sx={{ mb: 1 }}>{said}</Box>
      {thirdLot.length > 0 && (
        <Button variant="contained" sx={{ mb: 1 }} onClick={() => onThirdLot(thirdLot)}>
          Plan the lot that parts them
        </Button>
      )}
      {verdicts && effect.how !== "never" && (
        <DataTable name="depths" aria-label="At three depths" sx={tableLook}>
          <tbody>
            {DEPTHS.map(([depth, name]) => (
              <tr key={depth}>
                <td>{name}</td>
                <td>{VERDICTS[verdicts[depth]]}</td>
              </tr>
            ))}
          </tbody>
        </DataTable>
      )}
      {at.length > 0 && (
        <DataTable name="with-the-others" aria-label="With each level of the others" sx={tableLook}>
          <tbody>
            {at.map((one) => (
              <tr key={Object.values(one.levels).join()}>
                <td>
                  <PairOfCloth from={one.from_hex} to={one.to_hex} width={160} height={56} />
                </td>
                <td>
                  {Object.entries(one.levels)
                    .map(([factor, level]) => levelWords(words, factor, level))
                    .join(", ") || `${from}, ${to}`}
                </td>
                <td>
                  {one.different ? "" : "(?) "}ΔE00 {one.de00.toFixed(1)}
                </td>
              </tr>
            ))}
          </tbody>
        </DataTable>
      )}
      {(effect.combinations ?? 0) > at.length && at.length > 0 && (
        <div>The most and the least of {effect.combinations} combinations.</div>
      )}
      {directions.length > 0 && (
        <Box component="details" sx={{ mt: 1 }}>
          <summary>The working</summary>
          <DataTable name="directions" aria-label="In each direction of colour" sx={tableLook}>
            <tbody>
              {directions.map((one) => (
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
                </tr>
              ))}
            </tbody>
          </DataTable>
          <p>
            {effect.between ? "Vessels" : "Swatches"} of either: {effect.vessels?.join(" and ")}. As large by noise
            alone: p {pWords(effect.p_alone)}, {pWords(effect.p)} corrected for all that were compared.
          </p>
          <PromiseAndMore effect={effect} />
        </Box>
      )}
    </Box>
  );
}

/** What was promised, what it came to, and what more would make of it. */
function PromiseAndMore({ effect }: { effect: Effect }) {
  const shows = effect.shows_de00?.toFixed(1);
  return (
    <p>
      {effect.promised_de00 != null &&
        `Promised when the first bath began: ${effect.promised_de00.toFixed(1)}; now it shows differences from ${shows ?? ""} on. `}
      {effect.verdict === "untold" &&
        (effect.more_needed != null
          ? `${effect.more_needed} more of each would show one of this size 8 times in 10.`
          : "Not worth more of each: the difference is too small.")}
    </p>
  );
}

const tableLook = {
  width: "100%",
  borderCollapse: "collapse",
  my: 1,
  "& td": { py: 0.25, pr: 1, verticalAlign: "middle", fontSize: 13 },
} as const;
