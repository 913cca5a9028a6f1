import type { Schema } from "../api/client";
import { inMyUnits, massWords, volumeWords } from "../settings/quantities";

/** An amount as it is read at the bench, with what it is made of or counts. */
export function amountWords(figure: Schema["Figure"]): string {
  const plain = plainAmount(figure);
  return figure.spelled ? `${plain} (${figure.spelled})` : plain;
}

function plainAmount(figure: Schema["Figure"]): string {
  if (figure.stock_percent != null && figure.volume_ml != null)
    return `${volumeWords(figure.volume_ml)} of ${figure.stock_percent} % stock${figure.spoons ? ` (by spoon: ${figure.spoons})` : ""}`;
  const spoons = figure.spoons ? ` (${figure.spoons})` : "";
  if (figure.role === "addition" && figure.volume_ml != null) return `${volumeWords(figure.volume_ml)}${spoons}`;
  if (figure.grams != null) return `${massWords(figure.grams)}${spoons}`;
  return figure.volume_ml != null ? volumeWords(figure.volume_ml) : inMyUnits(figure.words ?? "");
}
