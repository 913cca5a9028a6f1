import { useState } from "react";

import type { LadderBy } from "./ladder-order";
import type { Plane } from "./colour-chart";

/** What the chart shows. */
export interface ChartChoice {
  view: Plane | "ladder";
  factor: string;
  fading: boolean;
  doubt: boolean;
  by: LadderBy;
  set: (change: Partial<Omit<ChartChoice, "set">>) => void;
}

export function useChartChoice(): ChartChoice {
  const [choice, setChoice] = useState<Omit<ChartChoice, "set">>({
    view: "ab",
    factor: "",
    fading: false,
    doubt: true,
    by: "lightness",
  });
  return { ...choice, set: (change) => setChoice((old) => ({ ...old, ...change })) };
}
