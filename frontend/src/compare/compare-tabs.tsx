import Box from "@mui/material/Box";

import { PanelTabs } from "../shell/panel-tabs";
import { COMPARE_PARTS, useComparePart } from "./compare-parts";

/** The grid, or one of the views of what came out. */
export function CompareTabs({ study }: { study: number }) {
  const { part, open } = useComparePart(study);
  return (
    <Box sx={{ px: 1, flex: "none" }} className="not-printed">
      <PanelTabs tabs={COMPARE_PARTS} value={part} onChange={(next) => open(next)} />
    </Box>
  );
}
