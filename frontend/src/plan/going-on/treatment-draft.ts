import type { Schema, Shelf, Vessel } from "../../api/client";
import { fieldUnit } from "../../settings/field-unit";
import { typedNumber } from "../../settings/quantities";
import { asLevelValue } from "../levels";
import { durationWords, typedMinutes } from "../../shell/durations";

export type Treatment = Schema["Treatment"];
type TreatmentKind = Treatment["kind"];

/** A treatment while it is typed: all of it is text. */
export interface TreatmentDraft {
  kind: TreatmentKind;
  iron: string;
  route: "after-bath" | "hot bath";
  seconds: string;
  ph: string;
  adjustWith: string;
  dye: string;
  strength: string;
  again: string;
  temperature: string;
  duration: string;
}

export const KIND_WORDS: Record<TreatmentKind, string> = {
  iron: "Iron",
  adjust: "pH after-bath",
  dye: "Another dye",
  again: "The same bath again",
  wash: "Wash",
};

const EMPTY = {
  iron: "",
  route: "after-bath",
  seconds: "",
  ph: "",
  adjustWith: "",
  dye: "",
  strength: "",
  again: "",
  temperature: "",
  duration: "",
} as const;
/** What is usual for each; common practice. */
const USUAL: Record<TreatmentKind, Partial<TreatmentDraft>> = {
  iron: { iron: "2", seconds: "30" },
  adjust: { ph: "9", duration: "15 min" },
  dye: { duration: "1 h" },
  again: { duration: "1 h" },
  wash: { temperature: "40", duration: "30 min" },
};

export function draftOf(kind: TreatmentKind): TreatmentDraft {
  const usual = USUAL[kind];
  return {
    ...EMPTY,
    kind,
    ...usual,
    ...(usual.temperature && { temperature: heat().typed(Number(usual.temperature)) }),
  };
}

const heat = () => fieldUnit("°C");
const NUMBERS = ["iron", "seconds", "ph", "strength"] as const;

/** The treatment as the server takes it; a string says what is missing. Its swatches are dealt out there. */
export function treatmentOf(draft: TreatmentDraft, shelf: Shelf, anySwatch: string): Treatment | string {
  const minutes = typedMinutes(draft.duration);
  if (draft.duration.trim() && minutes === null) return "Say the time as 45 min, 2 h, 3 days or 2 weeks.";
  const warmth = heat().stored(draft.temperature);
  if (Number.isNaN(warmth) || NUMBERS.some((name) => Number.isNaN(typedNumber(draft[name]))))
    return "Say numbers as 2 or 2.5.";
  const base = {
    key: "new",
    kind: draft.kind,
    swatches: [anySwatch],
    temperature_c: asLevelValue(warmth, "°C"),
    duration_min: minutes === null ? null : Math.round(minutes),
  };
  const warm = base.temperature_c === null ? "" : `, ${base.temperature_c} °C`;
  const long = base.duration_min === null ? "" : `, ${durationWords(base.duration_min)}`;
  switch (draft.kind) {
    case "iron": {
      const dose = typedNumber(draft.iron);
      const seconds = draft.route === "after-bath" ? typedNumber(draft.seconds) : null;
      if (dose === null) return "Say how much iron.";
      const how = draft.route === "hot bath" ? " hot" : seconds === null ? "" : `, ${seconds} s`;
      return {
        ...base,
        name: `Iron ${dose} %${how}`,
        iron_percent_wof: dose,
        route: draft.route,
        seconds: seconds === null ? null : Math.round(seconds),
      };
    }
    case "adjust": {
      const ph = typedNumber(draft.ph);
      if (ph === null) return "Say which pH.";
      const by = shelf.substances.find((one) => one.key === draft.adjustWith);
      return {
        ...base,
        name: `pH ${ph}${by ? ` with ${by.name.toLowerCase()}` : ""}${long}`,
        ph,
        adjust_with: draft.adjustWith || null,
      };
    }
    case "dye": {
      const lot = shelf.dye_lots.find((one) => one.key === draft.dye);
      if (!lot) return "Choose the dye.";
      const strength = typedNumber(draft.strength);
      return {
        ...base,
        name: `${lot.name} over it${strength === null ? "" : `, ${strength} %`}`,
        dye: lot.key,
        strength_percent_wof: strength,
        ph: typedNumber(draft.ph),
      };
    }
    case "again":
      if (!draft.again) return "Choose which bath is used again.";
      return { ...base, name: `${draft.again} again${warm}`, again: draft.again };
    case "wash":
      if (base.temperature_c === null) return "Say how warm the wash is.";
      return { ...base, name: `Wash${warm}${long}` };
  }
}

/** Baths whose liquor can be used once more. */
export const bathsToUseAgain = (vessels: readonly Vessel[]): Vessel[] =>
  vessels.filter((vessel) => ["mordant", "dye", "overdye", "tannin", "iron mordant"].includes(vessel.bath));
