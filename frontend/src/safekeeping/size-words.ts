const STEPS = ["kB", "MB", "GB"];

/** 312 kB, 4.2 MB: steps of a thousand. */
export function sizeWords(bytes: number): string {
  let size = bytes / 1000;
  let step = 0;
  while (size >= 1000 && step < STEPS.length - 1) {
    size /= 1000;
    step += 1;
  }
  return `${size < 10 && step > 0 ? size.toFixed(1) : Math.max(1, Math.round(size))} ${STEPS[step] ?? "GB"}`;
}
