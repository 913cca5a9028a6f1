import Box from "@mui/material/Box";

import { Beside, Crossing, Pan, Pot, Seen, Sun } from "./icons";
import { LENSES } from "./place";
import type { Lens, View } from "./place";
import { ZEST } from "./theme";

const NAMES: Record<Lens, [string, string]> = {
  plan: ["Plan", "What do I cross, and what can I leave out?"],
  weigh: ["Weigh", "How much of everything?"],
  dye: ["Dye", "What do I do now, in which pot?"],
  read: ["Read", "What colour is it really?"],
  fade: ["Fade", "What do light and washing do to it?"],
  compare: ["Compare", "Which differences are real?"],
};
const SIGNS = { plan: Crossing, weigh: Pan, dye: Pot, read: Seen, fade: Sun, compare: Beside } as const;
// The lower edge of the current lens is cut with pinking shears.
const PINKED =
  "polygon(0 0,100% 0,100% 40%,95% 100%,90% 40%,85% 100%,80% 40%,75% 100%,70% 40%,65% 100%,60% 40%,55% 100%,50% 40%,45% 100%,40% 40%,35% 100%,30% 40%,25% 100%,20% 40%,15% 100%,10% 40%,5% 100%,0 40%)";

export function LensBar({ view, onChoose }: { view: View; onChoose: (lens: Lens) => void }) {
  return (
    <Box
      component="nav"
      className="not-printed"
      aria-label="Lenses"
      sx={{ display: "flex", borderBottom: 1, borderColor: "divider", overflowX: "auto", flex: "none" }}>
      {LENSES.map((lens, i) => {
        const current = view === lens;
        const Sign = SIGNS[lens];
        return (
          <Box
            key={lens}
            component="button"
            type="button"
            aria-current={current ? "page" : undefined}
            onClick={() => onChoose(lens)}
            sx={{
              flex: { xs: "1 1 0", md: "1 0 auto" },
              minWidth: 48,
              minHeight: 54,
              position: "relative",
              px: { xs: 0, sm: 1.25 },
              pb: 0.75,
              border: 0,
              bgcolor: current ? "background.paper" : "transparent",
              color: "text.primary",
              font: "inherit",
              textAlign: "left",
              cursor: "pointer",
            }}>
            <Box
              sx={{
                display: "flex",
                flexDirection: { xs: "column", md: "row" },
                alignItems: "center",
                justifyContent: { xs: "center", md: "flex-start" },
                gap: { xs: 0.25, md: 1 },
              }}>
              <Sign size={24} />
              <Box sx={{ minWidth: 0 }}>
                <Box sx={{ fontWeight: 700, fontSize: { xs: 12, md: 15 }, lineHeight: 1.25 }}>
                  <Box
                    component="span"
                    sx={{ color: "text.secondary", fontWeight: 400, mr: 0.5, display: { xs: "none", md: "inline" } }}>
                    {i + 1}
                  </Box>
                  {NAMES[lens][0]}
                </Box>
                <Box
                  sx={{
                    fontSize: 12,
                    color: "text.secondary",
                    display: { xs: "none", lg: current ? "block" : "none", xl: "block" },
                    whiteSpace: "nowrap",
                  }}>
                  {NAMES[lens][1]}
                </Box>
              </Box>
            </Box>
            {current && (
              <Box
                sx={{ position: "absolute", left: 0, right: 0, bottom: 0, height: 7, bgcolor: ZEST, clipPath: PINKED }}
              />
            )}
          </Box>
        );
      })}
    </Box>
  );
}
