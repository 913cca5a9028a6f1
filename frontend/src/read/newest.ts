import type { Reading } from "../api/client";

/** The newest reading of each cell's whole swatch; readings come oldest first. */
export function newestAsDyed(readings: readonly Reading[]): Map<string, Reading> {
  return new Map(readings.filter((one) => one.piece === "whole").map((one) => [one.cell, one]));
}
