import { useState } from "react";

import type { Photo, Schema } from "../api/client";
import type { Lying } from "./what-lies-here";

type NamedZone = Schema["NamedZone"];
export type Cell = Schema["CellMeasurement"];
export type Piece = NonNullable<NamedZone["piece"]>;

/** What is to become readings: cells that are not left out, and their zones with names. */
export interface Wanted {
  cells: string[];
  zones: NamedZone[];
  /** Where something else lies than the sheet says. */
  lies: Schema["LiesIn"][];
  lyingIn: (cell: string) => Lying;
  setLying: (cell: string, lying: Lying) => void;
  isWanted: (cell: string) => boolean;
  /** Whether the mean of all of a piece is a colour of it: a print has only zones. */
  hasMean: (cell: string) => boolean;
  setWanted: (cell: string, wanted: boolean) => void;
  nameOf: (cell: string, zone: string) => string;
  setName: (cell: string, zone: string, name: string) => void;
  pieceOf: (cell: string, zone: string) => Piece | "";
  setPiece: (cell: string, zone: string, piece: Piece | "") => void;
}

export function useWanted(photo: Photo): Wanted {
  const [out, setOut] = useState<ReadonlySet<string>>(new Set());
  const [names, setNames] = useState<Record<string, string>>({});
  const [pieces, setPieces] = useState<Record<string, Piece | "">>({});
  const [said, setSaid] = useState<Record<string, Lying>>({});
  const printed = new Map(photo.sheet.assignments.map((one) => [one.cell, one.swatch]));
  const before = new Map(photo.cloths?.map((one) => [one.cell, one.cloth ?? null]));
  const lyingIn = (cell: string): Lying =>
    said[cell] ?? { swatch: printed.get(cell) ?? null, cloth: printed.has(cell) ? null : (before.get(cell) ?? null) };
  const measured = photo.measurement.cells.filter((cell) => cell.status === "measured");
  const ready = measured.filter((cell) => lyingIn(cell.cell).swatch !== null);
  const key = (cell: string, zone: string) => `${photo.measurement_id} ${cell} ${zone}`;
  const isWanted = (cell: string) => !out.has(cell);
  const lies = measured
    .filter((cell) => isWanted(cell.cell))
    .map((cell) => ({ cell: cell.cell, ...lyingIn(cell.cell) }))
    .filter((one) => one.cloth !== null || (one.swatch !== null && one.swatch !== printed.get(one.cell)));
  const chosen = ready.filter((cell) => isWanted(cell.cell));
  // What the printed zones of a trial's pieces are read as, unless a person says otherwise.
  const own = new Map((photo.own_zones ?? []).map((one) => [`${one.cell} ${one.zone}`, one]));
  const ownName = (cell: string, zone: string) => own.get(`${cell} ${zone}`)?.name;
  const nameOf = (cell: string, zone: string) =>
    names[key(cell, zone)] ?? ownName(cell, zone) ?? zoneOf(photo, cell, zone)?.name ?? "";
  const pieceOf = (cell: string, zone: string): Piece | "" =>
    pieces[key(cell, zone)] ?? own.get(`${cell} ${zone}`)?.piece ?? "";
  const zones = chosen.flatMap((cell) =>
    (cell.zones ?? []).map((zone): NamedZone => ({
      cell: cell.cell,
      zone: zone.zone,
      name: nameOf(cell.cell, zone.zone),
      piece: pieceOf(cell.cell, zone.zone) || null,
    })),
  );
  const places = chosen.flatMap((cell): NamedZone[] => {
    const name = nameOf(cell.cell, "").trim();
    return name && (cell.zones ?? []).length === 0 ? [{ cell: cell.cell, zone: "", name, piece: null }] : [];
  });
  const placed = new Set(places.map((place) => place.cell));
  // Halves that are pieces of a trial by themselves have no mean that means anything, nor have prints.
  const halved = new Set(zones.filter((zone) => zone.piece).map((zone) => zone.cell));
  const prints = new Set(
    photo.sheet.trial ? [] : [...own.values()].filter((zone) => zone.zone).map((zone) => zone.cell),
  );
  return {
    cells: chosen
      .map((cell) => cell.cell)
      .filter((cell) => !halved.has(cell) && !placed.has(cell) && !prints.has(cell)),
    zones: [...zones.filter((zone) => !halved.has(zone.cell) || zone.piece), ...places],
    lies,
    lyingIn,
    setLying: (cell, lying) => setSaid((old) => ({ ...old, [cell]: lying })),
    isWanted,
    hasMean: (cell) => !halved.has(cell) && !prints.has(cell),
    setWanted: (cell, wanted) =>
      setOut((old) => {
        const next = new Set(old);
        if (wanted) next.delete(cell);
        else next.add(cell);
        return next;
      }),
    nameOf,
    setName: (cell, zone, name) => setNames((old) => ({ ...old, [key(cell, zone)]: name })),
    pieceOf,
    setPiece: (cell, zone, piece) => setPieces((old) => ({ ...old, [key(cell, zone)]: piece })),
  };
}

function zoneOf(photo: Photo, cell: string, zone: string) {
  return photo.measurement.cells.find((one) => one.cell === cell)?.zones?.find((one) => one.zone === zone);
}

/** Zones side by side by their shares; a plain piece in its one colour. */
export function fillsOf(cell: Cell): string[] {
  if (cell.zones && cell.zones.length > 1) return cell.zones.map((zone) => zone.hex);
  return cell.hex ? [cell.hex] : [];
}
