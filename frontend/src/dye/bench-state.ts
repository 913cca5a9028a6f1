import { useMemo, useState } from "react";

import type { GridCell, Schema, StudyView } from "../api/client";
import { useBench } from "../api/hooks";
import type { Face } from "../grid/grid-cell";
import { usePlace } from "../shell/place";
import { useOutbox } from "./outbox";
import { withWaiting } from "./with-waiting";

export type VesselBench = Schema["VesselBench"];
export type StepState = Schema["StepState"];

export interface DyeState {
  /** The query, with what this device has logged and not yet sent laid over it. */
  bench: { data: Schema["DyeView"] | undefined; error: unknown; refetch: () => unknown };
  vessel: VesselBench | undefined;
  choose: (name: string) => void;
  faceOf: (cell: GridCell, plain: Face) => Face;
}

export const isDone = (one: VesselBench) => Boolean(one.steps[one.steps.length - 1]?.done_at);
const isBegun = (one: VesselBench) => one.steps.some((step) => step.begun_at ?? step.done_at);

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
  const marked = useMemo(() => new Set(data?.marks.map((mark) => mark.swatch)), [data]);
  const [place, go] = usePlace();
  const asked = /^at\/(\w+)$/.exec(place.part ?? "")?.[1];
  const named = (name: string | null | undefined) => vessels.find((one) => one.vessel.name === name);
  if (asked !== undefined && named(asked) && asked !== chosen) setChosen(asked);
  // Where one stands stays, also when its last step is done.
  if (chosen === null && vessels.length > 0) setChosen(mostUrgent(vessels)?.vessel.name ?? null);
  const vessel = named(chosen) ?? mostUrgent(vessels);
  const ofSwatch = useMemo(() => {
    const found = new Map<string, VesselBench[]>();
    for (const one of vessels) for (const code of whoIs(one)) found.set(code, [...(found.get(code) ?? []), one]);
    return found;
  }, [vessels]);
  return {
    bench: { data, error: query.error, refetch: query.refetch },
    vessel,
    choose: (name) => {
      setChosen(name);
      go({ study: study.id, view: "dye", part: `at/${name}` });
    },
    faceOf: (cell, plain) => {
      const own = [...new Set(cell.swatches.flatMap((code) => ofSwatch.get(code) ?? []))];
      const next = own.find((one) => !isDone(one));
      const mark = cell.swatches.some((code) => marked.has(code)) ? "!" : "";
      const caption = own.length === 0 ? "–" : next ? next.vessel.name : "dyed";
      const inVessel = vessel ? whoIs(vessel).some((code) => cell.swatches.includes(code)) : false;
      const now = next && nextStep(next) >= 0 ? next.steps[nextStep(next)]?.step.title : "";
      return {
        fills: inVessel ? plain.fills : [],
        ...(inVessel && plain.pictures ? { pictures: plain.pictures } : {}),
        more: [plain.caption, now ?? ""].filter(Boolean),
        caption: `${caption}${mark}`,
        faint: !inVessel,
        words: `${cell.swatches.join(" ")}, ${next ? `next in ${next.vessel.name} ${next.vessel.title}: ${now ?? ""}` : caption}${mark ? "; something went wrong with it" : ""}`,
      };
    },
  };
}

/** Everybody who belongs in a vessel or is in it, without those with whom it did not wait. */
export function whoIs(one: VesselBench): string[] {
  const missed = new Set(one.missed);
  return [...new Set([...one.vessel.swatches, ...one.inside])].filter((code) => !missed.has(code));
}

/** Who is in a vessel now, as ticked or else as planned, and who came out of it already. */
export function nowIn(bench: Schema["DyeView"], one: VesselBench): { inside: string[]; out: string[] } {
  const own = bench.passages.filter((passage) => passage.vessel === one.vessel.name);
  const out = own.filter((passage) => passage.out_at).map((passage) => passage.swatch);
  const there = one.inside.length > 0 ? one.inside : own.map((passage) => passage.swatch);
  return { inside: there.filter((code) => !out.includes(code)), out };
}
