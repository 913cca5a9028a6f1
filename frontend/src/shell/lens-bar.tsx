import Box from "@mui/material/Box";

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
// The lower edge of the current lens is cut with pinking shears.
const PINKED =
  "polygon(0 0,100% 0,100% 40%,95% 100%,90% 40%,85% 100%,80% 40%,75% 100%,70% 40%,65% 100%,60% 40%,55% 100%,50% 40%,45% 100%,40% 40%,35% 100%,30% 40%,25% 100%,20% 40%,15% 100%,10% 40%,5% 100%,0 40%)";

export function LensBar({ view, onChoose }: { view: View; onChoose: (lens: Lens) => void }) {
  return (
    <Box
      component="nav"
      className="not-printed"
      aria-label="Lenses"
      sx={{ display: "flex", borderBottom: 1, borderColor: "divider", overflowX: "auto", flex: "none" }}
    >
      {LENSES.map((lens, i) => {
        const current = view === lens;
        return (
          <Box
            key={lens}
            component="button"
            type="button"
            aria-current={current ? "page" : undefined}
            onClick={() => onChoose(lens)}
            sx={{
              flex: "1 0 auto",
              minWidth: 58,
              minHeight: 48,
              position: "relative",
              px: { xs: 0.5, sm: 1.5 },
              pb: 0.75,
              border: 0,
              bgcolor: current ? "background.paper" : "transparent",
              color: "text.primary",
              font: "inherit",
              textAlign: "left",
              cursor: "pointer",
            }}
          >
            <Box sx={{ fontWeight: 700, fontSize: 15 }}>
              <Box component="span" sx={{ color: "text.secondary", fontWeight: 400, mr: 0.5 }}>
                {i + 1}
              </Box>
              {NAMES[lens][0]}
            </Box>
            <Box sx={{ fontSize: 12, color: "text.secondary", display: { xs: "none", md: "block" } }}>
              {NAMES[lens][1]}
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
