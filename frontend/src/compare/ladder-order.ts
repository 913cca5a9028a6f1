import type { Schema } from "../api/client";

export const LADDERS = { lightness: "Lightness", chroma: "Chroma", hue: "Hue", lasting: "Lasting" } as const;
export type LadderBy = keyof typeof LADDERS;

type Chart = Schema["ColourChart"];
type Point = Schema["ChartPoint"];

const hueOf = ([, a = 0, b = 0]: readonly number[]) => ((Math.atan2(b, a) * 180) / Math.PI + 360) % 360;

/** The points in order, each with the figure that it is ordered by; those without one are left out. */
export function ladder(chart: Chart, by: LadderBy): { point: Point; figure: string }[] {
  // Of several trials the newest counts.
  const changes = new Map(chart.fading.map((way) => [way.code, way.change_de00]));
  const valueOf = (point: Point): number | undefined => {
    const [l = 0, a = 0, b = 0] = point.lab;
    if (by === "lightness") return -l;
    if (by === "chroma") return -Math.hypot(a, b);
    if (by === "hue") return hueOf(point.lab);
    return changes.get(point.code);
  };
  const words = (value: number) =>
    by === "hue"
      ? `h ${value.toFixed(0)}°`
      : by === "lightness"
        ? `L* ${(-value).toFixed(0)}`
        : by === "chroma"
          ? `C* ${(-value).toFixed(0)}`
          : `ΔE00 ${value.toFixed(1)}`;
  return chart.points
    .flatMap((point) => {
      const value = valueOf(point);
      return value === undefined ? [] : [{ point, value }];
    })
    .sort((one, other) => one.value - other.value)
    .map(({ point, value }) => ({ point, figure: words(value) }));
}
