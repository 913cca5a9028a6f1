import { waysNow } from "../settings/ways";

// Making a formatter takes long, and a log has thousands of lines.
const formatsOf = (locale: string) => ({
  day: new Intl.DateTimeFormat(locale, { day: "numeric", month: "short", year: "numeric" }),
  shortDay: new Intl.DateTimeFormat(locale, { day: "numeric", month: "short" }),
});
const FORMATS = { dmy: formatsOf("en-GB"), mdy: formatsOf("en-US") } as const;
const CLOCK = new Intl.DateTimeFormat("en-GB", { hour: "2-digit", minute: "2-digit" });

/** 3 Sep 2026, Sep 3, 2026 or 2026-09-03, as the person has it. */
export function dayWords(iso: string): string {
  const order = waysNow().dates;
  const day = dayOf(iso);
  return order === "iso" ? isoDay(day) : FORMATS[order].day.format(day);
}

/** A day without a clock is that day wherever one is; the language itself takes it as midnight in Greenwich. */
const dayOf = (iso: string) => new Date(iso.length === 10 ? `${iso}T00:00` : iso);

/** 3 Sep, 14:05 */
export function momentWords(iso: string): string {
  const order = waysNow().dates;
  const moment = new Date(iso);
  const clock = CLOCK.format(moment);
  if (order === "iso") return `${isoDay(moment)} ${clock}`;
  return `${FORMATS[order].shortDay.format(moment)}, ${clock}`;
}

/** Today as 2026-09-03, in the person's own time zone. */
export const todayIso = (): string => isoDay(new Date());

function isoDay(moment: Date): string {
  const local = new Date(moment.getTime() - moment.getTimezoneOffset() * 60_000);
  return local.toISOString().slice(0, 10);
}
