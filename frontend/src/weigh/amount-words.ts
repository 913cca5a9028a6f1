import type { Schema } from "../api/client";

export const grams = (g: number) => `${g.toFixed(g < 10 ? 2 : g < 1000 ? 1 : 0)} g`;

export const volume = (ml: number) =>
  ml >= 1000 ? `${(ml / 1000).toFixed(2)} L` : `${ml.toFixed(ml < 10 ? 1 : 0)} mL`;

/** An amount as it is read at the bench, with what it is made of or counts. */
export function amountWords(figure: Schema["Figure"]): string {
  const plain = plainAmount(figure);
  return figure.spelled ? `${plain} (${figure.spelled})` : plain;
}

function plainAmount(figure: Schema["Figure"]): string {
  if (figure.stock_percent != null && figure.volume_ml != null)
    return `${volume(figure.volume_ml)} of ${figure.stock_percent} % stock${figure.spoons ? ` (by spoon: ${figure.spoons})` : ""}`;
  if (figure.grams != null) {
    const spoons = figure.spoons ? ` (${figure.spoons})` : "";
    return `${grams(figure.grams)}${spoons}`;
  }
  return figure.volume_ml != null ? volume(figure.volume_ml) : (figure.words ?? "");
}
