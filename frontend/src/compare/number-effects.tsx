import Box from "@mui/material/Box";

import type { Schema, StudyView } from "../api/client";
import { useFadingEffects, useUnevenness } from "./compare-queries";
import { levelWords, range } from "./level-words";

type NumberEffect = Schema["NumberEffect"];

/** Unevenness and lasting, compared as colour is. */
export function NumberEffects({ study, words }: { study: StudyView; words: Record<string, string> }) {
  const uneven = useUnevenness(study.id).data ?? [];
  const trials = useFadingEffects(study.id).data ?? [];
  return (
    <>
      <Numbers
        title="Unevenness"
        of="how uneven a piece is"
        effects={uneven}
        words={words}
        more="less even"
        less="more even"
      />
      {trials.map((trial) => (
        <Numbers
          key={trial.trial}
          title={`Lasting: ${trial.name}, ${trial.stage}`}
          of={`how much ${trial.swatches} swatches had changed`}
          effects={trial.effects}
          words={words}
          more="changes more"
          less="changes less"
        />
      ))}
    </>
  );
}

interface NumbersProps {
  title: string;
  of: string;
  effects: readonly NumberEffect[];
  words: Record<string, string>;
  more: string;
  less: string;
}

function Numbers({ title, of, effects, words, more, less }: NumbersProps) {
  if (effects.length === 0) return null;
  const real = effects
    .filter((one) => one.verdict === "different")
    .sort((a, b) => Math.abs(b.change) - Math.abs(a.change));
  const same = effects.filter((one) => one.verdict === "same").length;
  const untold = effects.length - real.length - same;
  return (
    <Box component="section" aria-label={title} sx={{ mb: 2 }}>
      <Box component="h2" sx={{ m: 0, fontSize: 16 }}>
        {title}
      </Box>
      <Box sx={{ fontSize: 13, color: "text.secondary" }}>
        {of}, in ΔE00: {real.length} different, {same} the same, {untold} cannot be told
      </Box>
      {real.map((one) => (
        <div key={`${one.factor}${one.from_level}${one.to_level}`}>
          {levelWords(words, one.factor, one.to_level)} {one.change > 0 ? more : less} than{" "}
          {levelWords(words, one.factor, one.from_level)}: by {Math.abs(one.change).toFixed(1)} (
          {range(Math.min(Math.abs(one.low), Math.abs(one.high)), Math.max(Math.abs(one.low), Math.abs(one.high)))})
        </div>
      ))}
    </Box>
  );
}
