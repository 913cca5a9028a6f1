import type { Schema } from "../api/client";

type StudyColours = Schema["StudyColours"];
export type StateColour = Schema["StateColour"];
export type ZoneColour = Schema["ZoneColour"];
type SwatchStates = Schema["SwatchStates"];

/** As it came: the state before any bath. */
export const AS_IT_CAME = 0;

/** The colours of a study's swatches, by code and state. */
export interface Colours {
  of: (code: string) => SwatchStates | undefined;
  /** The colour of the newest state that was read. */
  newest: (code: string) => StateColour | undefined;
  /** The colour of the last state of one kind, such as "as dyed". */
  ofKind: (code: string, kind: string) => StateColour | undefined;
  /** Kinds of states that were read in the study, each with its words, in the order of the work. */
  kinds: [string, string][];
  labelOf: (run: number) => string;
  /** Whether a state is the one after a bath of that study and name. */
  isOf: (run: number, study: number, vessel: string) => boolean;
  /** The zones of a swatch that lie in a planned one: itself, and parts of it ("Oak leaves, halo"). */
  inZone: (code: string, zone: string) => ZoneColour[];
  /** All zones of a swatch that were read. */
  zonesOf: (code: string) => ZoneColour[];
  /** The reading whose photo shows a swatch in one state. */
  pictureOf: (code: string, run: number) => number | undefined;
  /** The largest change in any trial, ΔE00; 0 where none was read. */
  fadedBy: (code: string) => number;
  /** How uneven its newest photographed state is, ΔE00; 0 where none is. */
  unevenBy: (code: string) => number;
}

const CAME = "as it came";
/** Zones that nobody has named yet go by their number. */
const UNNAMED = /^zone \d+$/;
export const isNamed = (zone: string) => !UNNAMED.test(zone);

export function coloursOf(data: StudyColours | undefined): Colours {
  const bySwatch = new Map(data?.swatches.map((one) => [one.swatch, one]));
  const names = new Map(data?.names.map((one) => [one.run, one]));
  const kindOf = (run: number) => (run === AS_IT_CAME ? CAME : (names.get(run)?.kind ?? ""));
  const inOrder = (states: SwatchStates | undefined) =>
    (states?.states ?? []).flatMap((run) => states?.colours.find((colour) => colour.run === run) ?? []);
  const zones = new Map<string, ZoneColour[]>();
  for (const one of data?.zones ?? []) zones.set(one.swatch, [...(zones.get(one.swatch) ?? []), one]);
  const zonesOf = (code: string) => zones.get(code) ?? [];
  const pictures = new Map(data?.pictures.map((one) => [`${one.swatch} ${one.run}`, one.reading]));
  const uneven = new Map(data?.pictures.map((one) => [one.swatch, one.levelness_de00]));
  const faded = new Map(data?.faded.map((one) => [one.swatch, one.de00]));
  const kinds = new Map<string, string>();
  for (const states of bySwatch.values())
    for (const colour of inOrder(states))
      kinds.set(kindOf(colour.run), colour.run === AS_IT_CAME ? CAME : (names.get(colour.run)?.label ?? ""));
  return {
    of: (code) => bySwatch.get(code),
    newest: (code) => inOrder(bySwatch.get(code)).at(-1),
    ofKind: (code, kind) =>
      inOrder(bySwatch.get(code))
        .filter((colour) => kindOf(colour.run) === kind)
        .at(-1),
    kinds: [...kinds],
    labelOf: (run) => (run === AS_IT_CAME ? CAME : (names.get(run)?.label ?? "after a bath")),
    inZone: (code, zone) => {
      const wanted = zone.trim().toLowerCase();
      return zonesOf(code).filter((one) => `${one.zone.toLowerCase()},`.startsWith(`${wanted},`));
    },
    zonesOf,
    pictureOf: (code, run) => pictures.get(`${code} ${run}`),
    fadedBy: (code) => faded.get(code) ?? 0,
    unevenBy: (code) => uneven.get(code) ?? 0,
    isOf: (run, study, vessel) => names.get(run)?.study === study && names.get(run)?.vessel === vessel,
  };
}

/** Hue angle h_ab in degrees, from 0 to 360 (CIE 15). */
export function hueOf(lab: readonly number[]): number {
  const [, a = 0, b = 0] = lab;
  return ((Math.atan2(b, a) * 180) / Math.PI + 360) % 360;
}

export function labWords(lab: readonly number[]): string {
  const [l = 0, a = 0, b = 0] = lab;
  const said = (value: number) => value.toFixed(1).replace("-", "−");
  return `L* ${said(l)} a* ${said(a)} b* ${said(b)}`;
}
