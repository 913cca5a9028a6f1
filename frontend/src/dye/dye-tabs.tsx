import Box from "@mui/material/Box";

import type { StudyView } from "../api/client";
import { PanelTabs } from "../shell/panel-tabs";
import { usePlace } from "../shell/place";

const PARTS = { swatches: "Swatches", days: "Days", log: "Log" } as const;
const PARTS_ON_A_PHONE = { bench: "Bench", ...PARTS } as const;

/** On a phone the bench has the screen to itself, and so have the others. */
export function usePartOfDye() {
  const [place, go] = usePlace();
  const [first, code] = (place.part ?? "").split("/");
  const known = first === "days" || first === "log" || first === "swatches";
  const part: keyof typeof PARTS_ON_A_PHONE = known ? first : first === "swatch" ? "log" : "bench";
  return {
    part,
    swatch: first === "swatch" ? code : undefined,
    open: (study: number, next: string) => go({ study, view: "dye", part: next }),
  };
}

export function DyeTabsOnAPhone({ study }: { study: StudyView }) {
  const { part, open } = usePartOfDye();
  return (
    <Box className="not-printed" sx={{ display: { xs: "block", md: "none" }, px: 1, flex: "none" }}>
      <PanelTabs tabs={PARTS_ON_A_PHONE} value={part} onChange={(key) => open(study.id, key === "bench" ? "" : key)} />
    </Box>
  );
}

/** Beside the bench, on a screen: the grid, the days, or the log. */
export function DyeTabs({ study }: { study: StudyView }) {
  const { part, open } = usePartOfDye();
  return (
    <Box className="not-printed" sx={{ px: 1, display: { xs: "none", md: "block" }, flex: "none" }}>
      <PanelTabs
        tabs={PARTS}
        value={part === "bench" ? "swatches" : part}
        onChange={(key) => open(study.id, key === "swatches" ? "" : key)}
      />
    </Box>
  );
}
