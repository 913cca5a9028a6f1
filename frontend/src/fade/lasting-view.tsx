import Box from "@mui/material/Box";

import type { Schema, StudyView, TrialView } from "../api/client";
import { cellOf, cellWords } from "../grid/cells";
import { RangeBar } from "../shell/range-bar";
import { Chip } from "../grid/chip";
import { reachedWords } from "./fade-words";

interface LastingViewProps {
  study: StudyView;
  trial: TrialView;
  lasting: Schema["LastingView"];
}

/** From what lasts best to what lasts least, what factors do to it, and which differences are real. */
export function LastingView({ study, trial, lasting }: LastingViewProps) {
  const kind = trial.plan.kind;
  const { fading, factors } = lasting;
  const isLight = kind === "light";
  const worst = Math.max(1, ...fading.swatches.map((one) => one.at_last.high_de00));
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr", lg: "1.5fr 1fr" }, gap: 3, alignItems: "start" }}>
      <section aria-label="Swatches in order of lasting">
        <Box component="h2" sx={{ mt: 0, fontSize: 16 }}>
          From what lasts best
        </Box>
        {fading.swatches.map((one, i) => {
          const gap = fading.gaps[i - 1];
          const points = trial.points.filter((p) => p.swatch === one.swatch);
          const last = points.at(-1);
          const cell = cellOf(study, one.swatch);
          return (
            <Box key={one.swatch}>
              {gap && (
                <Box sx={{ fontSize: 12, color: "text.secondary", pl: 11, lineHeight: 1.1 }}>
                  {gap.real ? `▼ lasts less, by ${gap.difference_de00.toFixed(1)} (${gap.low_de00.toFixed(1)} to ${gap.high_de00.toFixed(1)})` : "≈"}
                </Box>
              )}
              <Box sx={{ display: "grid", gridTemplateColumns: "76px minmax(0, 1fr) minmax(90px, 0.7fr)", gap: 1.5, alignItems: "center", py: 0.5 }}>
                <Chip fills={last ? [last.dark_hex, last.exposed_hex] : []} width={76} height={48} />
                <Box sx={{ fontSize: 13, lineHeight: 1.3 }}>
                  <strong>{one.swatch}</strong> {cell ? cellWords(study, cell) : ""}
                  <div>
                    {one.words} Rating {one.rating_at_last}
                    {one.fastness ? ` · light fastness ${one.fastness.words}` : ""}
                    {one.fastness_beside ? ` · beside the wools ${one.fastness_beside.words}` : ""}
                  </div>
                  <Box sx={{ color: "text.secondary" }}>
                    plain (ΔE00 2): {reachedWords(kind, one.thresholds["plain"] ?? NOT_REACHED)}
                    {isLight ? "" : `; half of the depth: ${reachedWords(kind, one.half_depth)}`}
                  </Box>
                </Box>
                <RangeBar value={one.at_last.de00} low={one.at_last.low_de00} high={one.at_last.high_de00} from={0} to={worst} />
              </Box>
            </Box>
          );
        })}
        <Notes warnings={fading.warnings} />
      </section>
      <section aria-label="What factors do to lasting">
        <Box component="h2" sx={{ mt: 0, fontSize: 16 }}>
          What makes it last
        </Box>
        {factors.length === 0 && <p>Too few swatches differ to say.</p>}
        {factors.map((factor) => (
          <Box key={factor.factor} sx={{ mb: 2 }}>
            <Box component="h3" sx={{ m: 0, mb: 0.5, fontSize: 14 }}>
              {factor.factor}: {factor.words}
            </Box>
            {factor.levels.map((level) => (
              <Box key={level.level} sx={{ display: "grid", gridTemplateColumns: "minmax(0, 1fr) 130px 120px", gap: 1, fontSize: 13, alignItems: "center" }}>
                <span>
                  {level.level} ({level.swatches})
                </span>
                <RangeBar value={level.change_de00} low={level.low_de00} high={level.high_de00} from={0} to={worst} />
                <span>
                  {level.change_de00.toFixed(1)} {level.real === true ? "more, real" : level.real === false ? "≈ cannot be told" : ""}
                </span>
              </Box>
            ))}
          </Box>
        ))}
        <Box sx={{ fontSize: 12, color: "text.secondary" }}>
          Change at {isLight ? `${(fading.last_dose / 1e6).toFixed(2)} Mlx·h` : fading.last_dose} in ΔE00, other factors being equal, with 90 % limits; compared
          with the level that lasts best, corrected for looking at many (Holm).
        </Box>
      </section>
    </Box>
  );
}

const NOT_REACHED = { dose: null, low: null, high: null, reached: false };

export function Notes({ warnings }: { warnings: readonly string[] }) {
  return (
    <>
      {warnings.map((words) => (
        <Box key={words} role="note" sx={{ borderLeft: 6, borderColor: "text.primary", pl: 1, my: 0.75, fontSize: 13 }}>
          {words}
        </Box>
      ))}
    </>
  );
}
