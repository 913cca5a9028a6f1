import Box from "@mui/material/Box";
import type { ReactNode } from "react";

import type { StudyView } from "../api/client";
import { PanelTabs } from "../shell/panel-tabs";
import { usePlace } from "../shell/place";
import { Awaited } from "../shell/said";
import type { DyeState } from "./bench-state";
import { DaysView } from "./days/days-view";
import { LogView } from "./log-view";
import { SwatchRecord } from "./swatch-record";

const PARTS = { swatches: "Swatches", days: "Days", log: "Log" } as const;

/** Beside the bench: the grid, the days, or the log. */
export function DyeArea({ study, state, grid }: { study: StudyView; state: DyeState; grid: ReactNode }) {
  const [place, go] = usePlace();
  const [first, code] = (place.part ?? "").split("/");
  const part = first === "days" || first === "log" ? first : first === "swatch" ? "log" : "swatches";
  const open = (next: string) => go({ study: study.id, view: "dye", part: next });
  return (
    <Box sx={{ display: "flex", flexDirection: "column", height: "100%", minHeight: 0 }}>
      <Box className="not-printed" sx={{ px: 1 }}>
        <PanelTabs tabs={PARTS} value={part} onChange={(key) => open(key === "swatches" ? "" : key)} />
      </Box>
      {part === "swatches" && grid}
      {part === "days" && <DaysView study={study} onVessel={state.choose} />}
      {part === "log" && first !== "swatch" && (
        <Awaited query={state.bench}>{(bench) => <LogView study={study} bench={bench} onSwatch={(one) => open(`swatch/${one}`)} />}</Awaited>
      )}
      {first === "swatch" && code && <SwatchRecord study={study} code={code} onBack={() => open("log")} />}
    </Box>
  );
}
