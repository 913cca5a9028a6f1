import { PLAIN_WAYS, waysNow } from "./ways";

const G_PER_OZ = 28.349523125;
const ML_PER_CUP = 236.5882365;
const ML_PER_TABLESPOON = 14.78676478125;
const ML_PER_TEASPOON = 4.92892159375;
export const CM_PER_INCH = 2.54;
export const LX_PER_FC = 10.763910416709722;

/** A number with the digits that it deserves and the person's decimal mark; a true minus sign. */
export function figure(value: number, digits: number): string {
  const text = value.toFixed(digits).replace("-", "−");
  return waysNow().decimal === "," ? text.replace(".", ",") : text;
}

/** Without zeros at the end. */
const short = (value: number, digits: number): string => {
  const text = String(Number(value.toFixed(digits))).replace("-", "−");
  return waysNow().decimal === "," ? text.replace(".", ",") : text;
};

/** A mass: 0.60 g, 12.5 g, 0.021 oz; in grams with so many `digits` as are said. */
export function massWords(g: number, digits?: number): string {
  if (waysNow().mass === "oz") {
    const oz = g / G_PER_OZ;
    return `${figure(oz, oz < 1 ? 3 : oz < 10 ? 2 : 1)} oz`;
  }
  return `${figure(g, digits ?? (g < 10 ? 2 : g < 1000 ? 1 : 0))} g`;
}

/** A mass as somebody chose it: 4 g, 3.5 g. */
export const chosenMass = (g: number): string => (waysNow().mass === "oz" ? massWords(g) : `${short(g, 3)} g`);

/** A volume: 8.5 mL, 240 mL, 1.20 L; or cups and spoons of the United States. */
export function volumeWords(ml: number): string {
  if (waysNow().volume === "us") return usVolume(ml);
  return ml >= 1000 ? `${figure(ml / 1000, 2)} L` : `${figure(ml, ml < 10 ? 1 : 0)} mL`;
}

function usVolume(ml: number): string {
  if (ml >= ML_PER_CUP / 4) return counted(ml / ML_PER_CUP, ml < 3 * ML_PER_CUP ? 2 : 1, "cup");
  if (ml >= ML_PER_TABLESPOON) return `${figure(ml / ML_PER_TABLESPOON, 1)} tbsp`;
  return `${figure(ml / ML_PER_TEASPOON, ml < ML_PER_TEASPOON ? 2 : 1)} tsp`;
}

const counted = (value: number, digits: number, unit: string): string =>
  `${short(value, digits)} ${Number(value.toFixed(digits)) === 1 ? unit : `${unit}s`}`;

export function temperatureWords(c: number): string {
  return waysNow().temperature === "F" ? `${short(c * 1.8 + 32, 0)} °F` : `${short(c, 1)} °C`;
}

export function lengthWords(cm: number): string {
  return waysNow().length === "in" ? `${short(cm / CM_PER_INCH, 2)} in` : `${short(cm, 1)} cm`;
}

const GRAMS_IN: Record<string, number> = { g: 1, kg: 1000, mg: 0.001, oz: G_PER_OZ, lb: 16 * G_PER_OZ };

/** What is typed, in grams: in the chosen unit unless it says another ("0.5 oz", "2,5 g", "1 kg"); null where it is no mass. */
export function typedMass(text: string): number | null {
  const [, number = "", unit = ""] = /^\s*([-−+]?[\d.,]+)\s*([A-Za-z]*)\s*$/.exec(text) ?? [];
  const value = typedNumber(number);
  const factor = GRAMS_IN[unit.toLowerCase() || waysNow().mass];
  return value === null || factor === undefined ? null : value * factor;
}

const ML_IN: Record<string, number> = {
  ml: 1,
  l: 1000,
  cup: ML_PER_CUP,
  cups: ML_PER_CUP,
  tbsp: ML_PER_TABLESPOON,
  tsp: ML_PER_TEASPOON,
};

/** What is typed, in millilitres: in the chosen unit (cups, or mL) unless it says another ("2 tbsp", "1.5 L"); null where it is no volume. */
export function typedVolume(text: string): number | null {
  const [, number = "", unit = ""] = /^\s*([-−+]?[\d.,]+)\s*([A-Za-z]*)\s*$/.exec(text) ?? [];
  const value = typedNumber(number);
  const factor = ML_IN[unit.toLowerCase() || (waysNow().volume === "us" ? "cup" : "ml")];
  return value === null || factor === undefined ? null : value * factor;
}

/** As it is typed in the chosen unit. */
export const volumeTyped = (ml: number): string =>
  String(Number((waysNow().volume === "us" ? ml / ML_PER_CUP : ml).toFixed(2)));

/** In degrees Celsius. */
export function typedTemperature(text: string): number | null {
  const [, number = "", unit = ""] = /^\s*([-−+]?[\d.,]+)\s*°?\s*([CFcf]?)\s*$/.exec(text) ?? [];
  const value = typedNumber(number);
  if (value === null) return null;
  const fahrenheit = unit ? unit.toUpperCase() === "F" : waysNow().temperature === "F";
  return fahrenheit ? (value - 32) / 1.8 : value;
}

/** A number as it is typed at the bench, with a comma or a point; null where there is none, NaN where it is no number. */
export function typedNumber(text: string): number | null {
  const plain = text.trim().replace(",", ".").replace("−", "-");
  return plain === "" ? null : Number(plain);
}

const AMOUNT =
  /(\d+(?:\.\d+)?)((?: to |–| × |−)(\d+(?:\.\d+)?))?[\u00a0 ](kg|mg|g|mL|L|°C|cm|Mlx·h|klx·h|lx·h|lx)(?![\w*/·²%])/g;

/** Whether quantities are written otherwise than they are stored. */
const isOtherwise = (ways: ReturnType<typeof waysNow>) =>
  (["mass", "volume", "temperature", "length", "light", "decimal"] as const).some(
    (key) => ways[key] !== PLAIN_WAYS[key],
  );

/** A sentence of the server with its quantities in the person's units. */
export function inMyUnits(words: string): string {
  const chosen = waysNow();
  if (!isOtherwise(chosen)) return words;
  const converted = words.replace(
    AMOUNT,
    (all: string, first: string, joined: string | undefined, second: string | undefined, unit: string, at: number) => {
      const write =
        unit === "°C" && isDifference(words.slice(0, at), words.slice(at + all.length))
          ? WRITERS["°C apart"]
          : WRITERS[unit];
      if (!write?.wanted(chosen)) return all;
      const one = write.write(Number(first));
      if (!joined || second === undefined) return one;
      const other = write.write(Number(second));
      return `${one.slice(0, one.lastIndexOf(" "))}${joined.slice(0, joined.length - second.length)}${other}`;
    },
  );
  return chosen.decimal === "," ? converted.replace(/(\d)\.(\d)/g, "$1,$2") : converted;
}

/** "a jump of 20 °C", "by 1.5 °C a minute": degrees between two temperatures, not one that a thermometer shows. */
const isDifference = (before: string, after: string) =>
  /(jump of( more than)?|±) ?$/i.test(before) || /^ a minute/.test(after);

interface Writer {
  wanted: (ways: ReturnType<typeof waysNow>) => boolean;
  write: (value: number) => string;
}

const ounces = (ways: ReturnType<typeof waysNow>) => ways.mass === "oz";
const cups = (ways: ReturnType<typeof waysNow>) => ways.volume === "us";
const candles = (ways: ReturnType<typeof waysNow>) => ways.light === "fc";

const WRITERS: Record<string, Writer> = {
  g: { wanted: ounces, write: (value) => massWords(value) },
  kg: { wanted: ounces, write: (value) => massWords(value * 1000) },
  mg: { wanted: ounces, write: (value) => massWords(value / 1000) },
  mL: { wanted: cups, write: (value) => volumeWords(value) },
  L: { wanted: cups, write: (value) => volumeWords(value * 1000) },
  "°C": { wanted: (ways) => ways.temperature === "F", write: (value) => temperatureWords(value) },
  "°C apart": { wanted: (ways) => ways.temperature === "F", write: (value) => `${short(value * 1.8, 1)} °F` },
  cm: { wanted: (ways) => ways.length === "in", write: (value) => lengthWords(value) },
  lx: { wanted: candles, write: (value) => `${short(value / LX_PER_FC, 1)} fc` },
  "lx·h": { wanted: candles, write: (value) => `${short(value / LX_PER_FC, 1)} fc·h` },
  "klx·h": { wanted: candles, write: (value) => `${short(value / LX_PER_FC, 2)} kfc·h` },
  "Mlx·h": { wanted: candles, write: (value) => `${short(value / LX_PER_FC, 3)} Mfc·h` },
};
