/** 1 swatch, 2 swatches. */
export function counted(count: number, unit: string): string {
  if (count === 1) return `1 ${unit}`;
  return `${count} ${unit}${/(s|ch)$/.test(unit) ? "es" : "s"}`;
}
