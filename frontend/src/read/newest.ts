import type { Reading } from "../api/client";

/** The newest reading of each whole swatch, by cell: one for each replicate that has been read. */
export function newestAsDyed(readings: readonly Reading[]): Map<string, Reading[]> {
  const bySwatch = new Map(readings.filter((one) => one.piece === "whole").map((one) => [one.swatch, one]));
  const byCell = new Map<string, Reading[]>();
  for (const reading of bySwatch.values()) byCell.set(reading.cell, [...(byCell.get(reading.cell) ?? []), reading]);
  return byCell;
}
