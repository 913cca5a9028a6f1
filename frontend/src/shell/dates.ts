const DAY = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short", year: "numeric" });
const MOMENT = new Intl.DateTimeFormat("en-GB", {
  day: "numeric",
  month: "short",
  hour: "2-digit",
  minute: "2-digit",
});

/** 3 Sep 2026 */
export const dayWords = (iso: string) => DAY.format(new Date(iso));

/** 3 Sep, 14:05 */
export const momentWords = (iso: string) => MOMENT.format(new Date(iso));

/** Today as 2026-09-03, in the person's own time zone. */
export function todayIso(): string {
  const now = new Date();
  const local = new Date(now.getTime() - now.getTimezoneOffset() * 60_000);
  return local.toISOString().slice(0, 10);
}
