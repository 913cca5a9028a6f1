import type { Schema, Shelf } from "../api/client";
import { counted } from "../shell/counted";
import { dayWords } from "../shell/dates";
import { durationWords } from "../shell/durations";

export type ShelfItem =
  | Schema["Fibre"]
  | Schema["MordantRoute"]
  | Schema["DyeLot"]
  | Schema["Substance"]
  | Schema["ShelfVessel"]
  | Schema["HeatPlace"]
  | Schema["Scale"]
  | Schema["Water"]
  | Schema["ShelfChart"]
  | Schema["ReferenceCloth"]
  | Schema["LightPlace"]
  | Schema["PhStrip"];
export type ShelfKind = NonNullable<ShelfItem["kind"]>;

/** How one fact about an item is typed in. */
export interface FieldShape {
  name: string;
  label: string;
  type?: "number" | "duration" | "choice" | "yes" | "several" | "sentences";
  options?: readonly string[];
  start?: unknown;
  /** Shown only where another field has this value. */
  when?: [string, string];
  /** Hidden where another field has this value. */
  unless?: [string, string];
}

interface KindShape {
  title: string;
  one: string;
  list: keyof Shelf;
  fields: FieldShape[];
  facts: (item: never) => (string | null | undefined | false)[];
}

const CLASSES = ["protein", "cellulose", "regenerated cellulose", "synthetic", "polyamide"] as const;
const STOCK: FieldShape[] = [
  { name: "amount_in_hand_g", label: "In hand, g", type: "number" },
  { name: "price_per_100_g", label: "Price for 100 g", type: "number" },
];
const inHand = (item: { amount_in_hand_g?: number | null }) =>
  item.amount_in_hand_g != null && `${item.amount_in_hand_g} g in hand`;

export const KINDS: Record<ShelfKind, KindShape> = {
  fibre: {
    title: "Fibres",
    one: "fibre",
    list: "fibres",
    fields: [
      {
        name: "fibre_class",
        label: "Class (of a blend: its larger part)",
        type: "choice",
        options: CLASSES,
        start: "protein",
      },
      {
        name: "form",
        label: "Form",
        type: "choice",
        options: ["cloth", "yarn", "roving", "garment", "loose"],
        start: "cloth",
      },
      { name: "mass_g_m2", label: "g/m²", type: "number", when: ["form", "cloth"] },
      { name: "width_cm", label: "Width of the cloth, cm", type: "number", when: ["form", "cloth"] },
      { name: "mass_g_per_100_m", label: "g for 100 m", type: "number", when: ["form", "yarn"] },
      {
        name: "twisted",
        label: "Tightly twisted: comes out uneven",
        type: "yes",
        start: false,
        when: ["form", "yarn"],
      },
      { name: "preparation", label: "Preparation" },
      ...STOCK,
    ],
    facts: (f: Schema["Fibre"]) => [
      f.blend?.length ? f.blend.map((part) => `${part.percent} % ${part.fibre_class}`).join(", ") : f.fibre_class,
      f.form,
      f.twisted && "twisted",
      f.mass_g_m2 != null && `${f.mass_g_m2} g/m²`,
      f.width_cm != null && `${f.width_cm} cm wide`,
      f.mass_g_per_100_m != null && `${f.mass_g_per_100_m} g for 100 m`,
      inHand(f),
    ],
  },
  mordant_route: {
    title: "Mordant routes",
    one: "mordant route",
    list: "mordant_routes",
    fields: [
      { name: "suits", label: "Suits", type: "several", options: CLASSES, start: ["protein"] },
      { name: "school", label: "School" },
      { name: "unsuited_reason", label: "Why it does not suit the others", type: "sentences" },
    ],
    facts: (r: Schema["MordantRoute"]) => [
      ...(r.baths ?? []).map(bathWords),
      `for ${r.suits.length === CLASSES.length ? "all fibres" : r.suits.join(", ")}`,
      r.school && `school: ${r.school}`,
    ],
  },
  dye_lot: {
    title: "Dye lots",
    one: "dye lot",
    list: "dye_lots",
    fields: [
      { name: "part", label: "Part of the plant" },
      {
        name: "state",
        label: "State",
        type: "choice",
        options: ["fresh", "dried", "frozen", "extract", "juice", "liquor"],
        start: "dried",
      },
      {
        name: "measured",
        label: "Measured",
        type: "choice",
        options: ["weighed", "liquid", "counted"],
        start: "weighed",
      },
      { name: "solution_percent", label: "A solution of, g in 100 mL", type: "number", when: ["measured", "liquid"] },
      { name: "piece_name", label: "What is counted: stone, gall", start: "", when: ["measured", "counted"] },
      { name: "pieces_per_100_g", label: "How many for 100 g of fibre", type: "number", when: ["measured", "counted"] },
      { name: "piece_g", label: "One weighs, g", type: "number", when: ["measured", "counted"] },
      { name: "cup_g", label: "A cup of 250 mL weighs, g", type: "number", when: ["measured", "weighed"] },
      { name: "teaspoon_g", label: "A level teaspoon weighs, g", type: "number", when: ["measured", "weighed"] },
      { name: "preparation", label: "Preparation: chopped, crushed", start: "" },
      {
        name: "known_for",
        label: "Known for",
        type: "several",
        options: ["fugitive", "protein only", "poisonous raw", "stains", "fumes"],
        start: [],
      },
      { name: "place", label: "Kind of place it is from" },
      { name: "collected", label: "When collected or bought" },
      {
        name: "strength_percent_wof",
        label: "Strength, % WOF; of a liquid, mL for 100 g",
        type: "number",
        start: 100,
        unless: ["measured", "counted"],
      },
      { name: "temperature_c", label: "Temperature, °C", type: "number", start: 80 },
      { name: "duration_min", label: "Extraction", type: "duration", start: 60 },
      { name: "spoils_above_c", label: "Spoils above, °C", type: "number" },
      ...STOCK,
    ],
    facts: (l: Schema["DyeLot"]) => [
      l.mixture?.length ? `mixed: ${l.mixture.map((part) => `${part.percent} % ${part.lot}`).join(", ")}` : null,
      l.state,
      l.part,
      strengthWords(l),
      ...l.known_for,
      `${l.temperature_c} °C`,
      durationWords(l.duration_min ?? 60),
      l.place,
      l.collected,
      inHand(l),
    ],
  },
  substance: {
    title: "Mordants, adjusters, modifiers",
    one: "substance",
    list: "substances",
    fields: [
      {
        name: "role",
        label: "What it is for",
        type: "choice",
        options: ["mordant", "tannin", "assist", "acid", "alkali", "modifier", "binder"],
        start: "mordant",
      },
      {
        name: "chemistry",
        label: "Taken in pH as",
        type: "choice",
        options: [
          "alum_potassium",
          "alum_sulphate",
          "alum_acetate",
          "cream_of_tartar",
          "citric_acid",
          "vinegar_5pct",
          "soda_ash",
          "washing_soda_decahydrate",
          "baking_soda",
          "ammonia_5pct",
          "iron_sulphate",
          "chalk",
        ],
      },
      { name: "hydrate", label: "Hydrate" },
      { name: "purity_percent", label: "Purity, %", type: "number", start: 100 },
      { name: "stock_percent", label: "Kept as a solution of, %", type: "number" },
      { name: "teaspoon_g", label: "A level teaspoon, g", type: "number" },
      { name: "dose_ml_per_100_g", label: "Of a liquor, mL for 100 g as tried on a strip", type: "number" },
      ...STOCK,
    ],
    facts: (s: Schema["Substance"]) => [
      s.role,
      s.hydrate,
      s.purity_percent !== 100 && `${s.purity_percent} % pure`,
      s.stock_percent != null && `${s.stock_percent} % solution`,
      s.teaspoon_g != null && `${s.teaspoon_g} g a teaspoon`,
      inHand(s),
    ],
  },
  vessel: {
    title: "Vessels",
    one: "vessel",
    list: "vessels",
    fields: [
      { name: "litres", label: "Litres", type: "number", start: 5 },
      { name: "form", label: "Form", type: "choice", options: ["pot", "jar", "steamer"], start: "pot" },
      {
        name: "material",
        label: "Made of",
        type: "choice",
        options: ["stainless steel", "enamel", "glass", "aluminium", "copper", "iron", "plastic"],
        start: "stainless steel",
      },
      { name: "count", label: "How many", type: "number", start: 1 },
      { name: "iron_only", label: "For iron only", type: "yes", start: false },
    ],
    facts: (v: Schema["ShelfVessel"]) => [`${v.count} × ${v.litres} L`, v.form, v.material, v.iron_only && "iron only"],
  },
  heat_place: {
    title: "Heat places",
    one: "heat place",
    list: "heat_places",
    fields: [
      { name: "power_w", label: "Power, W", type: "number", start: 1500 },
      { name: "count", label: "How many", type: "number", start: 1 },
    ],
    facts: (h: Schema["HeatPlace"]) => [`${h.count} × ${h.power_w} W`],
  },
  scale: {
    title: "Scales",
    one: "scale",
    list: "scales",
    fields: [
      { name: "resolution_g", label: "Shows steps of, g", type: "number", start: 0.1 },
      { name: "capacity_g", label: "Up to, g", type: "number", start: 500 },
    ],
    facts: (s: Schema["Scale"]) => [`steps of ${s.resolution_g} g, up to ${s.capacity_g} g`],
  },
  water: {
    title: "Water",
    one: "water",
    list: "waters",
    fields: [
      { name: "ph", label: "pH", type: "number", start: 7.5 },
      { name: "alkalinity_mg_l_caco3", label: "Alkalinity, mg/L as CaCO₃", type: "number", start: 120 },
      { name: "hardness_mg_l_caco3", label: "Hardness, mg/L as CaCO₃", type: "number", start: 150 },
    ],
    facts: (w: Schema["Water"]) => [
      `pH ${w.ph}`,
      `alkalinity ${w.alkalinity_mg_l_caco3}`,
      `hardness ${w.hardness_mg_l_caco3} mg/L as CaCO₃`,
    ],
  },
  chart: {
    title: "Charts",
    one: "chart",
    list: "charts",
    fields: [],
    facts: (c: Schema["ShelfChart"]) => [
      `${c.chart.rows} rows of ${c.chart.columns}`,
      `patches ${c.chart.pitch_mm?.[0]} mm apart`,
    ],
  },
  cloth: {
    title: "Reference cloths and tiles",
    one: "reference cloth",
    list: "cloths",
    fields: [
      {
        name: "is_tile",
        label: "A control tile: a stable thing that shows whether the reading has changed",
        type: "yes",
        start: false,
      },
    ],
    facts: (c: Schema["ReferenceCloth"]) => [c.is_tile && "control tile"],
  },
  light_place: {
    title: "Places of light",
    one: "place of light",
    list: "light_places",
    fields: [
      { name: "lux", label: "Light, lx", type: "number", start: 500 },
      { name: "hours_a_year", label: "Hours a year", type: "number", start: 3000 },
      { name: "uv", label: "With ultraviolet", type: "yes", start: true },
      { name: "times_off", label: "May be so many times more or less", type: "number", start: 1.5 },
    ],
    facts: (p: Schema["LightPlace"]) => [
      p.window
        ? `a window that faces ${p.window.faces_deg}°, ${p.window.glass} glass`
        : `${p.lux} lx for ${p.hours_a_year} h a year`,
      p.uv ? "with ultraviolet" : "without ultraviolet",
    ],
  },
  ph_strip: {
    title: "pH strips",
    one: "box of pH strips",
    list: "ph_strips",
    fields: [],
    facts: (s: Schema["PhStrip"]) => [
      `pH ${s.steps[0]?.ph} to ${s.steps[s.steps.length - 1]?.ph}`,
      counted(s.steps[0]?.pads.length ?? 1, "pad"),
      `taught ${dayWords(s.taught_on)}`,
    ],
  },
};

function strengthWords(lot: Schema["DyeLot"]): string {
  if (lot.measured === "counted")
    return `${lot.pieces_per_100_g} × ${lot.piece_name} for 100 g${lot.piece_g == null ? "" : `, ${lot.piece_g} g each`}`;
  return lot.measured === "liquid" && lot.solution_percent == null
    ? `${lot.strength_percent_wof} mL for 100 g`
    : `${lot.strength_percent_wof} % WOF`;
}

function bathWords(bath: Schema["MordantBath"]): string {
  const dose =
    bath.dose_percent_wof == null
      ? bath.dose_ml_per_100_g == null
        ? ""
        : ` ${bath.dose_ml_per_100_g} mL for 100 g`
      : ` ${bath.dose_percent_wof} %`;
  const assist = bath.assist ? ` + ${bath.assist} ${bath.assist_percent_wof} %` : "";
  return `${bath.substance}${dose}${assist}, ${bath.temperature_c ?? 20} °C, ${durationWords(bath.duration_min)}${bath.coats > 1 ? `, ${bath.coats} coats` : ""}`;
}

export const keyOf = (name: string) =>
  name
    .toLowerCase()
    .normalize("NFKD")
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-+|-+$/g, "")
    .slice(0, 40) || "item";
