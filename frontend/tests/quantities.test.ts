import { beforeEach, describe, expect, it, vi } from "vitest";

/** What a browser keeps on its device. */
function emptyStorage() {
  const kept = new Map<string, string>();
  return {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => void kept.set(key, value),
    removeItem: (key: string) => void kept.delete(key),
  };
}
vi.stubGlobal("localStorage", emptyStorage());

const { PLAIN_WAYS, chooseWays } = await import("../src/settings/ways");
const {
  chosenMass,
  figure,
  inMyUnits,
  lengthWords,
  massWords,
  temperatureWords,
  typedMass,
  typedNumber,
  typedTemperature,
  volumeWords,
} = await import("../src/settings/quantities");
const { fieldUnit } = await import("../src/settings/field-unit");

beforeEach(() => chooseWays(PLAIN_WAYS));

describe("as it is stored", () => {
  it("writes the digits that a quantity deserves", () => {
    expect([0.6, 12.46, 1500].map((g) => massWords(g))).toEqual(["0.60 g", "12.5 g", "1500 g"]);
    expect([8.46, 240.4, 1204].map(volumeWords)).toEqual(["8.5 mL", "240 mL", "1.20 L"]);
    expect(chosenMass(4)).toBe("4 g");
    expect(temperatureWords(60)).toBe("60 °C");
    expect(figure(-1.25, 1)).toBe("−1.3");
  });
  it("leaves a sentence as it is", () => {
    const words = "10 % × 6.0 g = 0.60 g → 60 mL of the 1 % stock, 80 °C, 15 g/L";
    expect(inMyUnits(words)).toBe(words);
  });
});

/* NIST Special Publication 811, appendix B.8: 1 oz = 28.349 52 g, 1 in = 2.54 cm exactly, 1 US cup = 236.588 mL,
   1 teaspoon = 4.928 922 mL, 1 footcandle = 10.763 91 lx; °F = 1.8 °C + 32. */
describe("in the units of another country", () => {
  beforeEach(() => chooseWays({ mass: "oz", volume: "us", temperature: "F", length: "in", light: "fc" }));
  it("converts", () => {
    expect(massWords(28.35)).toBe("1.00 oz");
    expect(massWords(0.6)).toBe("0.021 oz");
    expect(volumeWords(236.588)).toBe("1 cup");
    expect(volumeWords(473.176)).toBe("2 cups");
    expect(volumeWords(4.928922)).toBe("1.0 tsp");
    expect(temperatureWords(100)).toBe("212 °F");
    expect(lengthWords(25.4)).toBe("10 in");
  });
  it("rewrites what a sentence says, and nothing else in it", () => {
    expect(inMyUnits("15 % × 48.0 g = 7.20 g")).toBe("15 % × 1.69 oz = 0.254 oz");
    expect(inMyUnits("from 20 to 60 °C")).toBe("from 68 to 140 °F");
    expect(inMyUnits("40 mL/g, L* 54.2, pH 7, 5 g/L")).toBe("40 mL/g, L* 54.2, pH 7, 5 g/L");
    expect(inMyUnits("2 Mlx·h at 500 lx")).toBe("0.186 Mfc·h at 46.5 fc");
  });
  it("tells degrees between two temperatures from a temperature", () => {
    expect(inMyUnits("Wool felts at a jump of more than 20 °C: warm by about 1 °C a minute to 60 °C")).toBe(
      "Wool felts at a jump of more than 36 °F: warm by about 1.8 °F a minute to 140 °F",
    );
    expect(inMyUnits("It cools by 2.5 °C a minute: too steep")).toBe("It cools by 4.5 °F a minute: too steep");
    expect(inMyUnits("A jump of 30 °C: wool felts.")).toBe("A jump of 54 °F: wool felts.");
    expect(inMyUnits("Too hot: 85 °C, at most 82 °C. Turn it down.")).toBe(
      "Too hot: 185 °F, at most 180 °F. Turn it down.",
    );
  });
  it("takes what is typed, in the unit that it says or the chosen one", () => {
    expect(typedMass("1")).toBeCloseTo(28.349523, 5);
    expect(typedMass("2,5 g")).toBe(2.5);
    expect(typedMass("1 kg")).toBe(1000);
    expect(typedMass("1 lb")).toBeCloseTo(453.59237, 4);
    expect(typedTemperature("140")).toBeCloseTo(60, 6);
    expect(typedTemperature("60 °C")).toBe(60);
    expect(typedMass("much")).toBeNull();
  });
});

describe("a field of a quantity", () => {
  it("is filled in the chosen unit, and hands on what is stored", () => {
    chooseWays({ mass: "oz", temperature: "F", length: "in", light: "fc", volume: "us" });
    const mass = fieldUnit("In hand, g");
    expect([mass.label, mass.typed(28.349523125), mass.stored("2")]).toEqual(["In hand, oz", "1.00", 2 * 28.349523125]);
    expect(mass.stored("50 g")).toBe(50);
    const heat = fieldUnit("Heat, °C; empty: cold");
    expect([heat.label, heat.typed(60)]).toEqual(["Heat, °F; empty: cold", "140"]);
    expect(heat.stored("140")).toBeCloseTo(60, 6);
    expect(fieldUnit("°C").label).toBe("°F");
    expect(fieldUnit("Width of the cloth, cm").stored("10")).toBeCloseTo(25.4, 6);
    expect(fieldUnit("Light, lx").stored("50")).toBeCloseTo(538.2, 1);
    const left = fieldUnit("Left, mL");
    expect([left.label, left.typed(473.176)]).toEqual(["Left, cups", "2"]);
    expect([left.stored("2"), left.stored("3 tbsp"), left.stored("1,5 L")].map((ml) => Math.round(ml ?? 0))).toEqual([
      473, 44, 1500,
    ]);
  });

  it("tells what is empty from what cannot be read", () => {
    const heat = fieldUnit("Heat, °C; empty: cold");
    expect(heat.stored(" ")).toBeNull();
    expect(["warm", "1.2.3", "80 W"].map((text) => heat.stored(text))).toEqual([NaN, NaN, NaN]);
    expect(fieldUnit("Rounds").stored("two")).toBeNaN();
  });

  it("is a plain number where its label ends with no unit that one chooses", () => {
    chooseWays({ mass: "oz", volume: "us" });
    // Amounts for a mass of fibre, and per cent, are typed as they are.
    for (const label of ["Strength, % WOF; of a liquid, mL for 100 g", "Liquor ratio, mL/g", "Dose, % WOF"]) {
      const plain = fieldUnit(label);
      expect([plain.label, plain.typed(40), plain.stored("2,5")]).toEqual([label, "40", 2.5]);
    }
    chooseWays(PLAIN_WAYS);
    expect(fieldUnit("In hand, g").typed(0.25)).toBe("0.25");
    expect(fieldUnit("In hand, g").stored("1 oz")).toBeCloseTo(28.35, 2);
  });
});

it("takes a comma or a point, and writes the one that is chosen", () => {
  expect(typedNumber("6,5")).toBe(6.5);
  expect(typedNumber(" ")).toBeNull();
  expect(typedNumber("−2.5")).toBe(-2.5);
  chooseWays({ decimal: "," });
  expect(massWords(12.5)).toBe("12,5 g");
  expect(inMyUnits("7.20 g")).toBe("7,20 g");
});
