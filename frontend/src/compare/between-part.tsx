import Box from "@mui/material/Box";
import Slider from "@mui/material/Slider";
import { useState } from "react";

import type { StudyView } from "../api/client";
import { FACTOR_NAMES } from "../grid/axes";
import { labWords } from "../read/colours";
import { ChoiceField } from "../shell/choice-field";
import { Awaited } from "../shell/said";
import { useBetween, useForetold } from "./compare-queries";

/** Recipes that were not dyed: choose levels, and numbers between them, and see what is foretold. */
export function BetweenPart({ study, wantedHex }: { study: StudyView; wantedHex: string | undefined }) {
  const query = useBetween(study.id);
  const [levels, setLevels] = useState<Record<string, string>>({});
  const [numbers, setNumbers] = useState<Record<string, number>>({});
  const factors = query.data?.factors ?? [];
  const ready = query.data?.how_well != null;
  const chosen = Object.fromEntries(
    factors.map((factor) => [
      factor,
      levels[factor] ??
        study.grid.factors.find((one) => one.kind === factor)?.levels.find((one) => one.key !== "")?.key ??
        "",
    ]),
  );
  const foretold = useForetold(study.id, ready ? { levels: chosen, numbers } : null).data;
  return (
    <Box
      component="section"
      aria-label="Between the swatches"
      sx={{ mt: 4, borderTop: 1, borderColor: "divider", pt: 2 }}>
      <Box component="h2" sx={{ m: 0, fontSize: 16 }}>
        Between the swatches
      </Box>
      <Awaited query={query}>
        {(view) =>
          view.how_well === null ? (
            <p>Fewer than six swatches of different recipes are read: nothing can be foretold yet.</p>
          ) : (
            <>
              <Box sx={{ fontSize: 13, mb: 1.5 }}>
                {view.how_well.words} {(100 * view.how_well.inside_95).toFixed(0)} of 100 lay within what was said of
                95.
              </Box>
              <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr", md: "300px 1fr" }, gap: 2 }}>
                <Box>
                  <Box sx={{ display: "flex", height: 170 }} aria-hidden>
                    {wantedHex && <Box sx={{ flex: 1, bgcolor: wantedHex }} />}
                    <Box
                      sx={{ flex: 1, bgcolor: foretold?.hex, border: "2px dashed", borderColor: "text.secondary" }}
                    />
                  </Box>
                  {foretold && (
                    <Box role="status" sx={{ fontSize: 13, mt: 0.5 }}>
                      Foretold, not dyed: {labWords(foretold.lab)}{" "}
                      <strong>±{foretold.uncertainty_de00.toFixed(1)} ΔE00</strong>
                      {foretold.beyond ? ", beyond what was dyed" : ""}
                    </Box>
                  )}
                </Box>
                <Box
                  sx={{
                    display: "grid",
                    gridTemplateColumns: "repeat(auto-fill, minmax(190px, 1fr))",
                    gap: 1.5,
                    alignItems: "start",
                  }}>
                  {factors.map((kind) => {
                    const factor = study.grid.factors.find((one) => one.kind === kind);
                    const span = view.numeric.find((one) => one.factor === kind);
                    if (!factor) return null;
                    if (span)
                      return (
                        <Box key={kind} sx={{ px: 1 }}>
                          <Box id={`between-${kind}`} sx={{ fontSize: 13 }}>
                            {FACTOR_NAMES[factor.kind]}:{" "}
                            <strong>{(numbers[kind] ?? span.low).toFixed(2).replace(/\.?0+$/, "")}</strong>
                          </Box>
                          <Slider
                            aria-labelledby={`between-${kind}`}
                            color="secondary"
                            min={span.low}
                            max={span.high}
                            step={(span.high - span.low) / 100}
                            value={numbers[kind] ?? span.low}
                            onChange={(_, value) => setNumbers((old) => ({ ...old, [kind]: value }))}
                          />
                        </Box>
                      );
                    return (
                      <ChoiceField
                        key={kind}
                        label={FACTOR_NAMES[factor.kind]}
                        value={chosen[kind] ?? ""}
                        onChange={(level) => setLevels((old) => ({ ...old, [kind]: level }))}
                        options={factor.levels
                          .filter((level) => level.key !== "")
                          .map((level) => [level.key, level.label] as const)}
                      />
                    );
                  })}
                </Box>
              </Box>
            </>
          )
        }
      </Awaited>
    </Box>
  );
}
