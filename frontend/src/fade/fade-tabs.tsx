import Box from "@mui/material/Box";

import { PanelTabs } from "../shell/panel-tabs";
import { FADE_PARTS } from "./fade-state";
import type { FadeState } from "./fade-state";

/** The grid, or what there is to see of a trial beside it. */
export function FadeTabs({ state }: { state: FadeState }) {
  return (
    <Box sx={{ px: 1, flex: "none" }} className="not-printed">
      <PanelTabs tabs={FADE_PARTS} value={state.part} onChange={state.open} />
    </Box>
  );
}
