import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useMemo, useState } from "react";

import { useSwatchesFading } from "../api/hooks";
import type { Schema, StudyView, TrialView } from "../api/client";
import { SwatchCode } from "../grid/swatch-code";
import { cellOf, cellWords } from "../grid/cells";
import { inMyUnits } from "../settings/quantities";
import { RangeBar } from "../shell/range-bar";
import { useShownPart } from "../shell/shown-part";
import { Chip } from "../grid/chip";
import { reachedWords } from "./fade-words";

interface LastingViewProps {
  study: StudyView;
  trial: TrialView;
  lasting: Schema["LastingView"];
}

const AT_ONCE = 40;

/** From what lasts best to what lasts least, what factors do to it, and which differences are real. */
export function LastingView({ study, trial, lasting }: LastingViewProps) {
  const kind = trial.plan.kind;
  const { fading, factors } = lasting;
  const isLight = kind === "light";
  const worst = Math.max(1, ...fading.order.map((one) => one.high_de00));
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr", lg: "1.5fr 1fr" }, gap: 3, alignItems: "start" }}>
      <InOrder study={study} trial={trial} fading={fading} worst={worst} />
      <section aria-label="What factors do to lasting">
        <Box component="h2" sx={{ mt: 0, fontSize: 16 }}>
          What makes it last
        </Box>
        {factors.length === 0 && <p>Too few swatches differ to say.</p>}
        {factors.map((factor) => (
          <Box key={factor.factor} sx={{ mb: 2 }}>
            <Box component="h3" sx={{ m: 0, mb: 0.5, fontSize: 14 }}>
              {factor.factor}: {inMyUnits(factor.words)}
            </Box>
            {factor.levels.map((level) => (
              <Box
                key={level.level}
                sx={{
                  display: "grid",
                  gridTemplateColumns: "minmax(0, 1fr) 130px 120px",
                  gap: 1,
                  fontSize: 13,
                  alignItems: "center",
                }}>
                <span>
                  {level.level} ({level.swatches})
                </span>
                <RangeBar value={level.change_de00} low={level.low_de00} high={level.high_de00} from={0} to={worst} />
                <span>
                  {level.change_de00.toFixed(1)}{" "}
                  {level.real === true ? "more, real" : level.real === false ? "≈ cannot be told" : ""}
                </span>
              </Box>
            ))}
          </Box>
        ))}
        <Box sx={{ fontSize: 12, color: "text.secondary" }}>
          Change at {isLight ? `${(fading.last_dose / 1e6).toFixed(2)} Mlx·h` : fading.last_dose} in ΔE00, other factors
          being equal, with 90 % limits; compared with the level that lasts best, corrected for looking at many (Holm).
        </Box>
      </section>
    </Box>
  );
}

/** The swatches in order, from either end. */
function InOrder({
  study,
  trial,
  fading,
  worst,
}: {
  study: StudyView;
  trial: TrialView;
  fading: Schema["TrialFading"];
  worst: number;
}) {
  const [fromLeast, setFromLeast] = useState(false);
  const order = useMemo(() => {
    const ranked = fading.order.map((one, i) => ({ ...one, gap: fading.gaps[i - 1] }));
    if (!fromLeast) return ranked;
    return ranked.map((one, i) => ({ ...one, gap: fading.gaps[i] })).reverse();
  }, [fading, fromLeast]);
  const [shown, more] = useShownPart(order, AT_ONCE);
  const told = useSwatchesFading(
    study.id,
    trial.id,
    shown.map((one) => one.swatch),
  ).data;
  return (
    <section aria-label="Swatches in order of lasting">
      <Box sx={{ display: "flex", alignItems: "baseline", justifyContent: "space-between", gap: 2 }}>
        <Box component="h2" sx={{ m: 0, fontSize: 16 }}>
          From what lasts {fromLeast ? "least" : "best"}
        </Box>
        {order.length > 1 && (
          <Button variant="text" size="small" onClick={() => setFromLeast(!fromLeast)}>
            From what lasts {fromLeast ? "best" : "least"}
          </Button>
        )}
      </Box>
      {shown.map((one, i) => (
        <Box key={one.swatch}>
          {i > 0 && one.gap && <GapLine gap={one.gap} up={fromLeast} />}
          <Box
            sx={{
              display: "grid",
              gridTemplateColumns: "76px minmax(0, 1fr) minmax(90px, 0.7fr)",
              gap: 1.5,
              alignItems: "center",
              py: 0.5,
              minHeight: 60,
            }}>
            <SwatchTold
              study={study}
              trial={trial}
              code={one.swatch}
              told={told?.find((other) => other.swatch === one.swatch)}
            />
            <RangeBar value={one.de00} low={one.low_de00} high={one.high_de00} from={0} to={worst} />
          </Box>
        </Box>
      ))}
      {more}
      <Notes warnings={fading.warnings} />
    </section>
  );
}

function GapLine({ gap, up }: { gap: Schema["Gap"]; up: boolean }) {
  const by = `${gap.difference_de00.toFixed(1)} (${gap.low_de00.toFixed(1)} to ${gap.high_de00.toFixed(1)})`;
  return (
    <Box sx={{ fontSize: 12, color: "text.secondary", pl: 11, lineHeight: 1.1 }}>
      {gap.real ? (up ? `▲ lasts better, by ${by}` : `▼ lasts less, by ${by}`) : "≈"}
    </Box>
  );
}

function SwatchTold({
  study,
  trial,
  code,
  told,
}: {
  study: StudyView;
  trial: TrialView;
  code: string;
  told: Schema["SwatchFading"] | undefined;
}) {
  const kind = trial.plan.kind;
  const last = trial.points.findLast((point) => point.swatch === code);
  const cell = cellOf(study, code);
  return (
    <>
      <Chip fills={last ? [last.dark_hex, last.exposed_hex] : []} width={76} height={48} />
      <Box sx={{ fontSize: 13, lineHeight: 1.3 }}>
        <SwatchCode study={study.id} code={code} /> {cell ? cellWords(study, cell) : ""}
        {told && (
          <>
            <div>
              {inMyUnits(told.words)} Rating {told.rating_at_last}
              {told.fastness ? ` · light fastness ${told.fastness.words}` : ""}
              {told.fastness_beside ? ` · beside the wools ${told.fastness_beside.words}` : ""}
            </div>
            <Box sx={{ color: "text.secondary" }}>
              plain (ΔE00 2): {reachedWords(kind, told.thresholds["plain"] ?? NOT_REACHED)}
              {kind === "light" ? "" : `; half of the depth: ${reachedWords(kind, told.half_depth)}`}
            </Box>
          </>
        )}
      </Box>
    </>
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
