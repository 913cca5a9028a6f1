import Box from "@mui/material/Box";
import { useState } from "react";

import type { Schema, StudyView } from "../api/client";
import { inMyUnits } from "../settings/quantities";
import { Awaited } from "../shell/said";
import { DataTable } from "../shell/data-table";
import { EffectDetail } from "./effect-detail";
import { effectName } from "./effect-name";
import { factorWords, pWords } from "./level-words";
import { PairOfCloth } from "./pair-of-cloth";
import { NumberEffects } from "./number-effects";
import { useEffects } from "./compare-queries";
import type { Noise } from "./compare-queries";

type Effect = Schema["FactorEffect"];

const VERDICTS: { key: Effect["verdict"]; title: string; sign: string }[] = [
  { key: "different", title: "Different", sign: "≠" },
  { key: "same", title: "The same", sign: "=" },
  { key: "untold", title: "Cannot be told yet", sign: "?" },
];

interface RealViewProps {
  study: StudyView;
  noise: Noise;
  state: string;
  filled: number | null;
}

/** Which differences are real: in sentences, then in figures, then with the working. */
export function RealView({ study, noise, state, filled }: RealViewProps) {
  const query = useEffects(study.id, noise, state, filled);
  const [open, setOpen] = useState<string | null>(null);
  return (
    <Awaited query={query}>
      {({ compared, words, foretold }) => {
        if (!compared || compared.effects.length === 0)
          return (
            <Box sx={{ p: 3, maxWidth: 640 }}>
              Too few swatches are read to say which differences are real. Read at least three that differ in a factor;
              the Plan lens tells how small a difference this grid can show.
            </Box>
          );
        const names = new Map(compared.effects.map((one) => [effectName(one), one]));
        const opened = open ? names.get(open) : undefined;
        return (
          <Box
            sx={{
              p: 2,
              display: "grid",
              gap: 2,
              gridTemplateColumns: { xs: "1fr", lg: opened ? "minmax(0, 1fr) minmax(380px, 1fr)" : "1fr" },
              alignItems: "start",
            }}>
            <Box>
              {VERDICTS.map(({ key, title, sign }) => {
                const own = compared.effects
                  .filter((one) => one.verdict === key)
                  .sort((a, b) => Number(Boolean(a.why)) - Number(Boolean(b.why)) || b.de00 - a.de00);
                if (own.length === 0) return null;
                return (
                  <Box component="section" key={key} aria-label={title} sx={{ mb: 2 }}>
                    <Box component="h2" sx={{ m: 0, mb: 0.5, fontSize: 16 }}>
                      {sign} {title} ({own.length})
                    </Box>
                    {own.map((one) => (
                      <Sentence
                        key={effectName(one)}
                        effect={one}
                        words={one.words}
                        open={open === effectName(one)}
                        onOpen={() => setOpen(open === effectName(one) ? null : effectName(one))}
                      />
                    ))}
                  </Box>
                );
              })}
              <Pairs compared={compared} words={words} />
              <NumberEffects study={study} words={words} />
            </Box>
            {opened && (
              <EffectDetail
                effect={opened}
                words={words}
                foretold={foretold.find((one) => one.factor === opened.factor)}
              />
            )}
          </Box>
        );
      }}
    </Awaited>
  );
}

function Sentence({
  effect,
  words,
  open,
  onOpen,
}: {
  effect: Effect;
  words: string;
  open: boolean;
  onOpen: () => void;
}) {
  return (
    <Box
      component="button"
      type="button"
      aria-expanded={open}
      onClick={onOpen}
      sx={{
        display: "grid",
        gridTemplateColumns: "92px minmax(0, 1fr)",
        gap: 1.5,
        alignItems: "center",
        width: "100%",
        minHeight: 48,
        textAlign: "left",
        font: "inherit",
        color: "inherit",
        bgcolor: open ? "background.paper" : "transparent",
        border: 0,
        borderBottom: 1,
        borderColor: "divider",
        borderLeft: open ? 6 : 0,
        cursor: "pointer",
        p: 0.75,
        "&:focus-visible": { outline: "3px solid", outlineColor: "text.primary" },
      }}>
      <PairOfCloth from={effect.from_hex} to={effect.to_hex} />
      <span>{inMyUnits(words)}</span>
    </Box>
  );
}

function Pairs({ compared, words }: { compared: Schema["Compared"]; words: Record<string, string> }) {
  if (compared.interactions.length === 0) return null;
  return (
    <Box component="section" aria-label="What depends on what" sx={{ mb: 2 }}>
      <Box component="h2" sx={{ m: 0, mb: 0.5, fontSize: 16 }}>
        What depends on what
      </Box>
      <DataTable
        name="what-depends-on-what"
        sx={{
          borderCollapse: "collapse",
          fontSize: 14,
          "& td, & th": {
            textAlign: "left",
            borderBottom: 1,
            borderColor: "divider",
            py: 0.5,
            pr: 2,
            verticalAlign: "top",
          },
        }}>
        <thead>
          <tr>
            <th>Pair</th>
            <th>Verdict</th>
            <th>By up to</th>
            <th>Tested</th>
          </tr>
        </thead>
        <tbody>
          {compared.interactions.map((one) => (
            <tr key={one.factors.join()}>
              <td>
                {factorWords(words, one.factors[0])} with{" "}
                {factorWords(words, one.factors[1]).toLowerCase().replace("ph", "pH")}
              </td>
              <td>
                {one.verdict === "different"
                  ? "act on each other"
                  : one.verdict === "same"
                    ? "do not"
                    : "cannot be told"}
              </td>
              <td>{one.largest_de00 == null ? "" : `${one.largest_de00.toFixed(1)} ΔE00`}</td>
              <td>{one.why || `${one.error}, p ${pWords(one.p)}`}</td>
            </tr>
          ))}
        </tbody>
      </DataTable>
    </Box>
  );
}
