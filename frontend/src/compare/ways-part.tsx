import Box from "@mui/material/Box";
import { useState } from "react";

import type { Schema, StudyView } from "../api/client";
import { ChoiceField } from "../shell/choice-field";
import { Awaited } from "../shell/said";
import { useWays } from "./compare-queries";
import { factorWords, levelWords, range } from "./level-words";

type View = Schema["EffectsView"];
type Ways = Schema["Ways"];

/** Of each factor that was compared, its levels. */
function levelsOf(view: View): Map<string, string[]> {
  const found = new Map<string, string[]>();
  for (const one of view.compared?.effects ?? [])
    found.set(one.factor, [...new Set([...(found.get(one.factor) ?? []), one.from, one.to])]);
  return found;
}

interface WaysPartProps {
  study: StudyView;
  kinds: readonly (readonly [string, string])[];
  view: View;
}

/** Two ways against what both started from: which keeps more of its colour. */
export function WaysPart({ study, kinds, view }: WaysPartProps) {
  const levels = levelsOf(view);
  const [asked, ask] = useState({ factor: "", start: "", one: "", other: "" });
  const query = useWays(study.id, asked);
  const factors = [...levels].filter(([, own]) => own.length > 2 || (own.length > 1 && kinds.length > 1));
  if (factors.length === 0) return null;
  const named = (level: string): readonly [string, string] => [level, levelWords(view.words, asked.factor, level)];
  const own = (levels.get(asked.factor) ?? []).map(named);
  const starts = [...own, ...kinds.map(([kind, words]) => [`state:${kind}`, words] as const)];
  return (
    <Box component="details" sx={{ mb: 2 }}>
      <Box component="summary" sx={{ fontWeight: 700, minHeight: 32 }}>
        Which of two ways keeps more of its colour?
      </Box>
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: { xs: "1fr", md: "repeat(4, minmax(0, 180px))" },
          gap: 1.5,
          my: 1,
        }}>
        <ChoiceField
          label="Factor"
          value={asked.factor}
          onChange={(factor) => ask({ factor, start: "", one: "", other: "" })}
          options={factors.map(([factor]) => [factor, factorWords(view.words, factor)] as const)}
        />
        <ChoiceField
          label="Both started from"
          value={asked.start}
          onChange={(start) => ask({ ...asked, start })}
          options={starts}
        />
        <ChoiceField label="One way" value={asked.one} onChange={(one) => ask({ ...asked, one })} options={own} />
        <ChoiceField
          label="Other way"
          value={asked.other}
          onChange={(other) => ask({ ...asked, other })}
          options={own}
        />
      </Box>
      {asked.one && asked.other && asked.start && (
        <Awaited query={query}>{(ways) => <Answer ways={ways} words={view.words} />}</Awaited>
      )}
    </Box>
  );
}

function Answer({ ways, words }: { ways: Ways; words: Record<string, string> }) {
  if (!ways.combinations) return <div>Nowhere are all three read with all else the same.</div>;
  const { one_de00 = 0, other_de00 = 0, further_de00 = 0, low_de00 = 0, high_de00 = 0 } = ways;
  const one = levelWords(words, ways.factor, ways.one);
  const other = levelWords(words, ways.factor, ways.other);
  const size = `${Math.abs(further_de00).toFixed(1)} (${range(low_de00, high_de00)})`;
  return (
    <Box role="status">
      <div>
        {one} is ΔE00 {one_de00.toFixed(1)} from the start, {other} {other_de00.toFixed(1)}.{" "}
        <strong>
          {ways.verdict === "different"
            ? `${further_de00 > 0 ? one : other} keeps more of it, by ${size}.`
            : `Which keeps more cannot be told: ${size}.`}
        </strong>
      </div>
      {(ways.at ?? []).map((at) => (
        <Box key={Object.values(at.levels).join()} sx={{ display: "flex", gap: 1, alignItems: "center", my: 0.5 }}>
          <Box sx={{ display: "flex", width: 168, height: 56 }} aria-hidden>
            {[at.one_hex, at.start_hex, at.other_hex].map((hex, k) => (
              <Box key={k} sx={{ flex: 1, bgcolor: hex }} />
            ))}
          </Box>
          <span>
            {Object.entries(at.levels)
              .map(([factor, level]) => levelWords(words, factor, level))
              .join(", ")}
            : {at.one_de00.toFixed(1)}, start, {at.other_de00.toFixed(1)}
          </span>
        </Box>
      ))}
    </Box>
  );
}
