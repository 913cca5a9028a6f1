import { expect, it, vi } from "vitest";

const BOX = "zesty-grid outbox";
const kept = new Map<string, string>();
vi.stubGlobal("localStorage", {
  getItem: (key: string) => kept.get(key) ?? null,
  setItem: (key: string, value: string) => void kept.set(key, value),
  removeItem: (key: string) => void kept.delete(key),
});
vi.stubGlobal("window", { location: { origin: "http://localhost" }, addEventListener: () => undefined, removeEventListener: () => undefined });

const entry = (key: string) => ({ key, kind: "done", vessel: "D1", step: "fill", entered_at: "2026-09-14T08:00:00Z" });
kept.set(
  BOX,
  JSON.stringify([
    { study: 1, entry: entry("a") },
    { study: 1, entry: entry("b"), refused: "That is far from what was planned.", asks: true },
    { study: 1, entry: entry("c"), sentAt: Date.now() },
    { study: 1, entry: entry("old"), sentAt: 1 },
  ]),
);
const { forget, isUnsent, itIsSo } = await import("../src/dye/outbox");
const now = () => (JSON.parse(kept.get(BOX) ?? "[]") as Parameters<typeof isUnsent>[0][]);

it("waits with what was not sent, and not with what was refused or taken", () => {
  expect(now().filter(isUnsent).map((one) => one.entry.key)).toEqual(["a"]);
});

it("sends again what was asked about once the person says that it is so", () => {
  itIsSo("b");
  const said = now().find((one) => one.entry.key === "b");
  expect(said?.refused).toBeUndefined();
  expect(isUnsent(said as never)).toBe(true);
});

it("keeps all else when one entry is let go, and drops what the server has had for long", () => {
  forget("a");
  expect(now().map((one) => one.entry.key)).toEqual(["b", "c"]);
});
