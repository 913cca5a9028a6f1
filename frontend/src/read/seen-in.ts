import type { GridCell } from "../api/client";
import { isNamed } from "./colours";
import type { Colours, StateColour } from "./colours";

const NOT_NAMED = "zones not named yet";

export interface SeenColour {
  code: string;
  colour: StateColour;
  zone: string;
  whole?: boolean;
  /** What is not known of it, in words. */
  unsure?: string;
}

/**
 * The colours of a swatch in a cell. Of a print its zones; what was read and is not named yet, or was
 * read as one colour, stands in every zone that it may be.
 */
export function seenIn(
  cell: GridCell,
  code: string,
  colours: Colours,
  colourOf: (code: string) => StateColour | undefined = colours.newest,
): SeenColour[] {
  const whole = colourOf(code);
  if (!cell.zone && whole) return [{ code, colour: whole, zone: "", whole: true }];
  const zones = cell.zone ? colours.inZone(code, cell.zone) : colours.zonesOf(code);
  if (zones.length > 0)
    return zones.map((one) => ({
      code,
      colour: one.colour,
      zone: one.zone,
      ...(isNamed(one.zone) ? {} : { unsure: NOT_NAMED }),
    }));
  if (!cell.zone) return [];
  const unnamed = colours.zonesOf(code).filter((one) => !isNamed(one.zone));
  if (unnamed.length > 0)
    return unnamed.map((one) => ({ code, colour: one.colour, zone: one.zone, unsure: NOT_NAMED }));
  return whole ? [{ code, colour: whole, zone: "", unsure: "the whole cloth" }] : [];
}
