import { afterEach, beforeEach, expect, it, vi } from "vitest";

import type { Ways } from "../src/settings/ways";

vi.stubGlobal("localStorage", { getItem: () => null, setItem: () => undefined });
beforeEach(() => vi.resetModules());
afterEach(() => vi.unstubAllEnvs());

/** The page as it opens in a time zone. */
async function opened(zone: string) {
  vi.stubEnv("TZ", zone);
  const { chooseWays } = await import("../src/settings/ways");
  const words = await import("../src/shell/dates");
  return { ...words, order: (dates: Ways["dates"]) => chooseWays({ dates }) };
}

it.each(["America/Los_Angeles", "UTC", "Europe/Berlin", "Pacific/Auckland"])(
  "writes a day as that day in %s, in each order",
  async (zone) => {
    const { dayWords, order } = await opened(zone);
    order("dmy");
    expect(dayWords("2026-12-01")).toBe("1 Dec 2026");
    order("mdy");
    expect(dayWords("2026-12-01")).toBe("Dec 1, 2026");
    order("iso");
    expect(dayWords("2026-12-01")).toBe("2026-12-01");
  },
);

it("writes a moment by the clock of where one is", async () => {
  const { dayWords, momentWords, order } = await opened("America/Los_Angeles");
  order("iso");
  expect(momentWords("2026-12-01T05:30:00Z")).toBe("2026-11-30 21:30");
  expect(dayWords("2026-12-01T05:30:00Z")).toBe("2026-11-30");
  order("dmy");
  expect(momentWords("2026-12-01T05:30:00Z")).toBe("30 Nov, 21:30");
});
