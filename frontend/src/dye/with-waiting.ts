import type { Schema } from "../api/client";
import type { Waiting } from "./outbox";

type View = Schema["DyeView"];
type Vessel = Schema["VesselBench"];
type Entry = Waiting["entry"];

/** The bench with what this device has logged and the server has not heard of yet. */
export function withWaiting(view: View, study: number, waiting: readonly Waiting[]): View {
  const known = new Set(view.entries.map((entry) => entry.key));
  const own = waiting
    .filter((one) => one.study === study && !one.refused && !known.has(one.entry.key))
    .map((one) => one.entry);
  return own.reduce(after, view);
}

function after(view: View, entry: Entry): View {
  const vessels = view.vessels.map((one) => (one.vessel.key === entry.vessel ? vesselAfter(one, entry) : one));
  return { ...view, vessels, pulls: [...view.pulls, ...pullsOf(view, entry)] };
}

function vesselAfter(one: Vessel, entry: Entry): Vessel {
  const codes = entry.swatches ?? [];
  const inside =
    entry.kind === "loaded"
      ? [...one.inside, ...codes.filter((code) => !one.inside.includes(code))]
      : entry.kind === "unloaded"
        ? one.inside.filter((code) => !codes.includes(code))
        : one.inside;
  const steps = one.steps.map((state) => {
    if (state.step.key !== entry.step) return state;
    if (entry.kind === "begun") return { ...state, begun_at: state.begun_at ?? entry.at };
    if (entry.kind === "done") return { ...state, done_at: entry.at };
    if (entry.kind === "undone") return { ...state, done_at: null, begun_at: null };
    return state;
  });
  return { ...one, inside, steps };
}

function pullsOf(view: View, entry: Entry): View["pulls"] {
  if (entry.kind !== "pulled") return [];
  const vessel = view.vessels.find((one) => one.vessel.key === entry.vessel);
  const begun = vessel?.steps.find((state) => state.step.key === entry.step)?.begun_at;
  if (!begun) return [];
  const seconds = (Date.parse(entry.at) - Date.parse(begun)) / 1000;
  return (entry.swatches ?? []).map((swatch) => ({ swatch, vessel: entry.vessel ?? "", seconds }));
}
