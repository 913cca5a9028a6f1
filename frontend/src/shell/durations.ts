const HOUR = 60;
const DAY = 24 * HOUR;
const WEEK = 7 * DAY;
const counted = (count: number, unit: string) => `${count} ${unit}${count === 1 ? "" : "s"}`;

/** 45 min, 1 h 30 min, 2 days 12 h, 3 weeks; nothing is rounded away but parts of a minute. */
export function durationWords(minutes: number): string {
  const whole = Math.round(minutes);
  if (whole > 0 && whole % WEEK === 0) return counted(whole / WEEK, "week");
  const inDays = whole >= 2 * DAY || whole % DAY === 0;
  const days = inDays ? Math.floor(whole / DAY) : 0;
  const rest = whole - days * DAY;
  const [hours, left] = [Math.floor(rest / HOUR), rest % HOUR];
  const parts = [
    days > 0 ? counted(days, "day") : "",
    hours > 0 ? `${hours} h` : "",
    left > 0 || whole === 0 ? `${left} min` : "",
  ];
  return parts.filter(Boolean).join(" ");
}

const UNITS: [RegExp, number][] = [
  [/^(w|wk|week|weeks)$/, WEEK],
  [/^(d|day|days)$/, DAY],
  [/^(h|hr|hour|hours)$/, HOUR],
  [/^(min|m|minute|minutes|)$/, 1],
];

/** Minutes of what was typed: "90", "1 h 30 min", "2.5 days", "3 weeks"; null for what is no time. */
export function typedMinutes(text: string): number | null {
  const said = text.trim().toLowerCase().replace(/,/g, ".");
  const parts = [...said.matchAll(/(\d+(?:\.\d+)?)\s*([a-z]*)/g)];
  if (
    parts.length === 0 ||
    parts
      .map((part) => part[0])
      .join("")
      .replace(/\s/g, "") !== said.replace(/\s/g, "")
  )
    return null;
  let minutes = 0;
  for (const [, number, word] of parts) {
    const unit = UNITS.find(([name]) => name.test(word ?? ""));
    if (!unit) return null;
    minutes += Number(number) * unit[1];
  }
  return minutes;
}
