/** The bench's own time has no zone: 2026-11-24T09:05:00. It is shown as it stands. */

import { dayWords } from "../../shell/dates";

const WEEKDAY = new Intl.DateTimeFormat("en-GB", { weekday: "short", timeZone: "UTC" });

const asUtc = (moment: string) => new Date(`${moment.slice(0, 19)}Z`);

/** Tue 24 Nov 2026, with the day as the person writes it. */
export const dayOf = (moment: string) => `${WEEKDAY.format(asUtc(moment))} ${dayWords(moment.slice(0, 10))}`;

/** 09:05 */
export const clockOf = (moment: string) => moment.slice(11, 16);

/** Minutes since some fixed moment. */
export const minutesOf = (moment: string) => asUtc(moment).getTime() / 60_000;

export const MINUTES_A_DAY = 24 * 60;
