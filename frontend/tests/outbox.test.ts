import "fake-indexeddb/auto";
import { beforeEach, expect, it, vi } from "vitest";

const BEFORE = "zesty-grid outbox";
const kept = new Map<string, string>();
vi.stubGlobal("localStorage", {
  getItem: (key: string) => kept.get(key) ?? null,
  setItem: (key: string, value: string) => void kept.set(key, value),
  removeItem: (key: string) => void kept.delete(key),
});
vi.stubGlobal("window", {
  location: { origin: "http://localhost" },
  addEventListener: () => undefined,
  removeEventListener: () => undefined,
});
vi.stubGlobal(
  "BroadcastChannel",
  class {
    postMessage = () => undefined;
  },
);

const { keepWaiting, dropWaiting, readWaiting } = await import("../src/dye/kept-outbox");
const entry = (key: string) => ({
  key,
  kind: "done" as const,
  vessel: "D1",
  step: "fill",
  stock: "",
  who: "",
  note: "",
  sure: false,
  swatches: [],
  zones: [],
  entered_at: "2026-09-14T08:00:00Z",
});
const keys = async () => (await readWaiting()).map((one) => one.entry.key);

beforeEach(async () => dropWaiting(...(await keys())));

/** The page as it opens anew on this device. */
async function opened() {
  vi.resetModules();
  const box = await import("../src/dye/outbox");
  await box.lookAgain();
  return box;
}

it("keeps the order in which entries were written down, with their pictures", async () => {
  const picture = new File(["cloth"], "pot.jpg", { type: "image/jpeg" });
  await keepWaiting(
    { study: 1, entry: entry("later"), order: 2, picture },
    { study: 1, entry: entry("earlier"), order: 1 },
  );
  expect(await keys()).toEqual(["earlier", "later"]);
  expect(await (await readWaiting())[1]?.picture?.text()).toBe("cloth");
});

it("takes over what waited in the device before pictures could", async () => {
  kept.set(
    BEFORE,
    JSON.stringify([
      { study: 1, entry: entry("a") },
      { study: 2, entry: entry("b") },
    ]),
  );
  expect(await keys()).toEqual(["a", "b"]);
  expect(kept.has(BEFORE)).toBe(false);
  expect(await keys()).toEqual(["a", "b"]);
});

it("waits with what was not sent, and not with what was refused or taken", async () => {
  await keepWaiting(
    { study: 1, entry: entry("a"), order: 1 },
    { study: 1, entry: entry("b"), order: 2, refused: "That is far from what was planned.", asks: true },
    { study: 1, entry: entry("c"), order: 3, sentAt: Date.now() },
    { study: 1, entry: entry("old"), order: 4, sentAt: 1 },
  );
  const { isUnsent } = await opened();
  expect((await readWaiting()).filter(isUnsent).map((one) => one.entry.key)).toEqual(["a"]);
  expect(await keys()).not.toContain("old");
});

it("sends again what was asked about once the person says that it is so", async () => {
  await keepWaiting({
    study: 1,
    entry: entry("b"),
    order: 2,
    refused: "That is far from what was planned.",
    asks: true,
  });
  const { isUnsent, itIsSo, lookAgain } = await opened();
  itIsSo("b");
  await lookAgain();
  const [said] = await readWaiting();
  expect(said?.entry.sure).toBe(true);
  expect(said && isUnsent(said)).toBe(true);
});

it("sends the words alone where the server could not use the picture", async () => {
  await keepWaiting({
    study: 1,
    entry: entry("p"),
    order: 1,
    picture: new File(["?"], "pot.jpg"),
    refused: "This is not a picture.",
  });
  const { isUnsent, lookAgain, withoutPicture } = await opened();
  withoutPicture("p");
  await lookAgain();
  const [said] = await readWaiting();
  expect(said?.picture).toBeUndefined();
  expect(said && isUnsent(said)).toBe(true);
});

it("keeps all else when one entry is let go", async () => {
  await keepWaiting(
    { study: 1, entry: entry("a"), order: 1, refused: "No such vessel." },
    { study: 1, entry: entry("b"), order: 2 },
  );
  const { forget, lookAgain } = await opened();
  forget("a");
  await lookAgain();
  expect(await keys()).toEqual(["b"]);
});
