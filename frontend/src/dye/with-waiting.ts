import type { Schema } from "../api/client";
import type { Waiting } from "./kept-outbox";

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
  const vessels = view.vessels.map((one) => (one.vessel.name === entry.vessel ? vesselAfter(one, entry) : one));
  return { ...view, vessels, passages: passagesAfter(view, entry) };
}

function vesselAfter(one: Vessel, entry: Entry): Vessel {
  const codes = entry.swatches;
  const inside =
    entry.kind === "loaded"
      ? [...one.inside, ...codes.filter((code) => !one.inside.includes(code))]
      : entry.kind === "unloaded"
        ? one.inside.filter((code) => !codes.includes(code))
        : one.inside;
  const at = entry.at ?? entry.entered_at;
  const steps = one.steps.map((state) => {
    if (state.step.key !== entry.step) return state;
    if (entry.kind === "begun") return { ...state, begun_at: state.begun_at ?? at };
    if (entry.kind === "done") return { ...state, done_at: at };
    if (entry.kind === "undone") return { ...state, done_at: null, begun_at: null };
    return state;
  });
  const reheats = one.reheats.map((reheat) =>
    reheat.key === entry.step && entry.kind === "done" ? { ...reheat, done_at: at } : reheat,
  );
  return { ...one, inside, steps, reheats };
}

/** Seconds in an iron watch stand as soon as a piece is pulled. */
function passagesAfter(view: View, entry: Entry): View["passages"] {
  if (entry.kind !== "pulled") return view.passages;
  const vessel = view.vessels.find((one) => one.vessel.name === entry.vessel);
  const begun = vessel?.steps.find((state) => state.step.key === entry.step)?.begun_at;
  if (!begun) return view.passages;
  const out = entry.at ?? entry.entered_at;
  const seconds = (Date.parse(out) - Date.parse(begun)) / 1000;
  const pulled: View["passages"] = entry.swatches.map((swatch) => ({
    swatch,
    vessel: entry.vessel,
    in_at: begun,
    out_at: out,
    ended: true,
    known: "ticked",
    stray: false,
    seconds,
  }));
  const others = view.passages.filter((one) => one.vessel !== entry.vessel || !entry.swatches.includes(one.swatch));
  return [...others, ...pulled];
}
