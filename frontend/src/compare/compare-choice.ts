import { useState } from "react";

import { useChartChoice } from "./chart-choice";
import type { ChartChoice } from "./chart-choice";
import { useFindState } from "./find-state";
import type { FindState } from "./find-state";
import { useTable } from "./table-state";
import type { TableState } from "./table-state";

/** What the views of the lens share: in which state. */
export interface CompareChoice {
  state: string;
  setState: (state: string) => void;
  table: TableState;
  chart: ChartChoice;
  find: FindState;
  /** Cells that were not read are shown as they are foretold. */
  ghosts: boolean;
  setGhosts: (shown: boolean) => void;
  /** A study whose swatches fill the gaps of this one. */
  filled: number | null;
  setFilled: (study: number | null) => void;
}

export function useCompareChoice(study: number): CompareChoice {
  const [state, setState] = useState("");
  const table = useTable(study);
  const chart = useChartChoice();
  const find = useFindState();
  const [ghosts, setGhosts] = useState(false);
  const [filled, setFilled] = useState<number | null>(null);
  return { state, setState, table, chart, find, ghosts, setGhosts, filled, setFilled };
}
