import Box from "@mui/material/Box";
import { useState } from "react";

import { useChartWatch } from "../api/hooks";
import { counted } from "../shell/counted";
import { dayWords } from "../shell/dates";
import { Awaited } from "../shell/said";

/** Whether a chart has yellowed, bleached or been soiled; `chart` is its key on the Shelf, empty for the common one. */
export function ChartOverTime({ chart }: { chart: string }) {
  const [open, setOpen] = useState(false);
  const watch = useChartWatch(chart, open);
  return (
    <Box
      component="details"
      sx={{ fontSize: 13, mt: 1 }}
      onToggle={(event) => setOpen((event.target as HTMLDetailsElement).open)}>
      <summary>The chart over time</summary>
      {open && (
        <Awaited query={watch}>
          {(found) => (
            <>
              {found.length === 0 && (
                <div>
                  Six photos of one camera in light of one kind are needed to tell whether the chart itself has changed.
                </div>
              )}
              {found.map((one) => (
                <Box key={`${one.camera} ${one.since}`} sx={{ mt: 1 }}>
                  <strong>{one.words}</strong>
                  <div>
                    {one.camera || "Camera"}, {counted(one.photos, "photo")}, {dayWords(one.since)} to{" "}
                    {dayWords(one.until)}. Bars: how far each patch has moved; the line: what is harmless.
                  </div>
                  <Box
                    role="img"
                    aria-label="How far each patch has moved"
                    sx={{
                      display: "flex",
                      alignItems: "flex-end",
                      gap: "2px",
                      height: 64,
                      position: "relative",
                      mt: 0.5,
                    }}>
                    {one.patches.map((patch) => (
                      <Box
                        key={patch.name}
                        title={`${patch.name}: ${patch.de00.toFixed(1)} ± ${patch.standard_error_de00.toFixed(1)}`}
                        sx={{
                          flex: 1,
                          bgcolor: patch.hex,
                          outline: patch.is_real ? "2px solid currentColor" : "1px solid #8a8a8a",
                          height: `${Math.max(4, Math.min(100, 40 * patch.de00))}%`,
                        }}
                      />
                    ))}
                    <Box
                      sx={{
                        position: "absolute",
                        left: 0,
                        right: 0,
                        bottom: "28%",
                        borderTop: "1px dashed currentColor",
                      }}
                    />
                  </Box>
                </Box>
              ))}
            </>
          )}
        </Awaited>
      )}
    </Box>
  );
}
