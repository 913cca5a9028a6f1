import Box from "@mui/material/Box";

import type { Schema } from "../api/client";

interface PrintedScaleProps {
  steps: readonly Schema["PhStep"][];
  /** A strip that was read, laid at its pH. */
  strip?: { ph: number; pads: readonly string[] } | undefined;
}

/** The colours that a box prints, a column for each pH; a strip is laid where its pH is. */
export function PrintedScale({ steps, strip }: PrintedScaleProps) {
  const at = strip ? nearest(steps, strip.ph) : -1;
  return (
    // In a grid of rows a box that scrolls would be squeezed.
    <div>
      <Box
        role="img"
        aria-label={`Printed colours from pH ${steps[0]?.ph} to ${steps[steps.length - 1]?.ph}`}
        sx={{
          display: "flex",
          gap: "3px",
          p: 1,
          bgcolor: "#777",
          color: "#fff",
          overflowX: "auto",

          fontSize: 12,
        }}>
        {steps.map((step, i) => (
          <Box
            key={step.ph}
            sx={{ display: "grid", gap: "3px", flex: "1 0 18px", textAlign: "center", alignContent: "start" }}>
            {step.ph}
            {step.hexes.map((hex, pad) => (
              <Box key={pad} sx={{ height: 24, bgcolor: hex }} />
            ))}
            {i === at && strip && (
              <Box sx={{ display: "grid", gap: "3px", mt: 0.5, outline: "2px solid #fff", outlineOffset: 2 }}>
                {strip.pads.map((hex, pad) => (
                  <Box key={pad} sx={{ height: 24, bgcolor: hex }} />
                ))}
              </Box>
            )}
          </Box>
        ))}
      </Box>
    </div>
  );
}

const nearest = (steps: readonly Schema["PhStep"][], ph: number) =>
  steps.reduce((best, step, i) => (Math.abs(step.ph - ph) < Math.abs((steps[best]?.ph ?? 99) - ph) ? i : best), 0);
