import { useMemo, useState } from "react";

import type { Cell, Schema, StudyView } from "../api/client";
import { useBench } from "../api/hooks";
import type { Face } from "../grid/study-grid";
import { usePlace } from "../shell/place";
import { useOutbox } from "./outbox";
import { withWaiting } from "./with-waiting";

export type VesselBench = Schema["VesselBench"];
export type StepState = Schema["StepState"];

export interface DyeState {
  /** The query, with what this device has logged and not yet sent laid over it. */
  bench: { data: Schema["DyeView"] | undefined; error: unknown; refetch: () => unknown };
  vessel: VesselBench | undefined;
  choose: (key: string) => void;
  faceOf: (cell: Cell, plain: Face) => Face;
}

export const isDone = (one: VesselBench) => Boolean(one.steps[one.steps.length - 1]?.done_at);
export const isBegun = (one: VesselBench) => one.steps.some((step) => step.begun_at ?? step.done_at);

/** The first step after the last one that is ticked off. */
export function nextStep(one: VesselBench): number {
  const last = one.steps.reduce((found, step, i) => (step.done_at ? i : found), -1);
  return last + 1 < one.steps.length ? last + 1 : -1;
}

/** What runs comes first, then what can begin, then what waits for others. */
function mostUrgent(vessels: readonly VesselBench[]): VesselBench | undefined {
  const open = vessels.filter((one) => !isDone(one));
  return (
    open.find((one) => isBegun(one) && one.waits_for.length === 0) ??
    open.find((one) => one.waits_for.length === 0) ??
    open[0] ??
    vessels[0]
  );
}

/** The chosen vessel; its swatches stand out, and each cell says how far its baths are. */
export function useDyeFaces(study: StudyView): DyeState {
  const query = useBench(study.id);
  const waiting = useOutbox();
  const [chosen, setChosen] = useState<string | null>(null);
  const data = useMemo(
    () => (query.data ? withWaiting(query.data, study.id, waiting) : undefined),
    [query.data, study.id, waiting],
  );
  const vessels = useMemo(() => data?.vessels ?? [], [data]);
  const [place, go] = usePlace();
  const named = /^at\/(\w+)$/.exec(place.part ?? "")?.[1];
  const asked = vessels.find((one) => one.vessel.name === named)?.vessel.key ?? null;
  if (asked !== null && asked !== chosen) setChosen(asked);
  const [first, setFirst] = useState<string | null>(null);
  if (first === null && vessels.length > 0) setFirst(mostUrgent(vessels)?.vessel.key ?? null);
  const vessel = vessels.find((one) => one.vessel.key === (chosen ?? first)) ?? mostUrgent(vessels);
  const marked = useMemo(() => new Set(data?.marks.map((mark) => mark.swatch)), [data]);
  const ofCell = useMemo(() => {
    const found = new Map<string, VesselBench[]>();
    for (const one of vessels)
      for (const cell of one.vessel.cells) found.set(cell, [...(found.get(cell) ?? []), one]);
    return found;
  }, [vessels]);
  return {
    bench: { data, error: query.error, refetch: query.refetch },
    vessel,
    choose: (key) => {
      const name = vessels.find((one) => one.vessel.key === key)?.vessel.name;
      setChosen(key);
      if (name) go({ study: study.id, view: "dye", part: `at/${name}` });
    },
    faceOf: (cell, plain) => {
      const own = ofCell.get(cell.key) ?? [];
      const next = own.find((one) => !isDone(one));
      const mark = marked.has(study.codes[cell.key] ?? "") ? "!" : "";
      const caption = own.length === 0 ? "–" : next ? next.vessel.name : "dyed";
      const inVessel = vessel?.vessel.cells.includes(cell.key) ?? false;
      const now = next && nextStep(next) >= 0 ? next.steps[nextStep(next)]?.step.title : "";
      return {
        fills: inVessel ? plain.fills : [],
        caption: `${caption}${mark}`,
        faint: !inVessel,
        words: `${study.codes[cell.key] ?? ""}, ${next ? `next in ${next.vessel.name} ${next.vessel.title}: ${now ?? ""}` : caption}${mark ? "; something went wrong with it" : ""}`,
      };
    },
  };
}
