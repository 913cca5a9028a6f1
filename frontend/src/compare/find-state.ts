import { useState } from "react";

import type { Schema } from "../api/client";
import { typedNumber } from "../settings/quantities";

export type FindQuestion = Schema["FindQuestion"];

/** The colour that is wanted, however it is said, and what else it has to be. */
export interface FindState {
  hex: string;
  lab: [string, string, string];
  piece: string | null;
  photoDoubt: number;
  by: "picked" | "number" | "piece";
  fibre: string;
  gentle: boolean;
  inHand: boolean;
  place: string;
  years: number;
  within_de00: number;
  /** None: it may cost what it will. */
  costAtMost: number | null;
  mass_g: number;
  set: (change: Partial<Omit<FindState, "set" | "question">>) => void;
  /** None: what was typed is no colour. */
  question: FindQuestion | null;
}

export function useFindState(): FindState {
  const [said, setSaid] = useState<Omit<FindState, "set" | "question">>({
    hex: "#c98a3a",
    lab: ["", "", ""],
    piece: null,
    photoDoubt: 0,
    by: "picked",
    fibre: "",
    gentle: false,
    inHand: false,
    place: "",
    years: 10,
    within_de00: 2,
    costAtMost: null,
    mass_g: 100,
  });
  return { ...said, set: (change) => setSaid((old) => ({ ...old, ...change })), question: questionOf(said) };
}

const positive = (value: number | null, otherwise: number) => (value !== null && value > 0 ? value : otherwise);

function questionOf(said: Omit<FindState, "set" | "question">): FindQuestion | null {
  const [l, a, b] = said.lab.map((one) => typedNumber(one));
  const typed = l != null && a != null && b != null && l >= 0 && l <= 100 && Math.abs(a) <= 150 && Math.abs(b) <= 150;
  const colour =
    said.by === "piece" && said.piece
      ? { key: said.piece }
      : said.by === "number"
        ? typed
          ? { lab: [l, a, b] as [number, number, number], uncertainty_de00: said.photoDoubt }
          : null
        : { hex: said.hex };
  if (!colour) return null;
  return {
    ...colour,
    fibres: said.fibre ? [said.fibre] : [],
    gentle: said.gentle,
    in_hand: said.inHand,
    lasting: said.place
      ? { place: said.place, years: positive(said.years, 10), within_de00: positive(said.within_de00, 2) }
      : null,
    cost_at_most: said.costAtMost !== null && said.costAtMost > 0 ? said.costAtMost : null,
    mass_g: Math.min(positive(said.mass_g, 100), 100_000),
    most: 12,
  } as FindQuestion;
}
