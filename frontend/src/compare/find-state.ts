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
  years: string;
  within: string;
  cost: string;
  mass: string;
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
    years: "10",
    within: "2",
    cost: "",
    mass: "100",
  });
  return { ...said, set: (change) => setSaid((old) => ({ ...old, ...change })), question: questionOf(said) };
}

export const massOf = (said: Pick<FindState, "mass">): number => {
  const mass = typedNumber(said.mass);
  return mass !== null && mass > 0 && mass <= 100_000 ? mass : 100;
};

function questionOf(said: Omit<FindState, "set" | "question">): FindQuestion | null {
  const [l, a, b] = said.lab.map((one) => typedNumber(one));
  const typed = l != null && a != null && b != null && l >= 0 && l <= 100 && Math.abs(a) <= 150 && Math.abs(b) <= 150;
  const colour =
    said.by === "piece" && said.piece ? { key: said.piece } : said.by === "number" ? (typed ? { lab: [l, a, b] as [number, number, number], uncertainty_de00: said.photoDoubt } : null) : { hex: said.hex };
  if (!colour) return null;
  const years = typedNumber(said.years);
  const within = typedNumber(said.within);
  const cost = typedNumber(said.cost);
  return {
    ...colour,
    fibres: said.fibre ? [said.fibre] : [],
    gentle: said.gentle,
    in_hand: said.inHand,
    lasting: said.place ? { place: said.place, years: years && years > 0 ? years : 10, within_de00: within && within > 0 ? within : 2 } : null,
    cost_at_most: cost && cost > 0 ? cost : null,
    mass_g: massOf(said),
    most: 12,
  } as FindQuestion;
}
