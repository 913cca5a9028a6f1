import { describe, expect, it } from "vitest";

import { keep, keptOver, readKept } from "../src/shell/kept";

/** A storage as the browser has it, with what is in it. */
function holding(kept: Record<string, string>): Storage {
  const all = new Map(Object.entries(kept));
  return {
    length: all.size,
    clear: () => all.clear(),
    key: () => null,
    removeItem: (name) => void all.delete(name),
    getItem: (name) => all.get(name) ?? null,
    setItem: (name, text) => void all.set(name, text),
  };
}

const PLAIN = { mass: "g", keys: ["a"], pairs: false };

describe("what the browser keeps", () => {
  it("is laid over what holds without it", () => {
    expect(keptOver(PLAIN, holding({ ways: '{"mass":"oz","keys":["b","c"]}' }), "ways")).toEqual({
      mass: "oz",
      keys: ["b", "c"],
      pairs: false,
    });
  });

  it("is left where it is of another sort than it is today", () => {
    expect(keptOver(PLAIN, holding({ ways: '{"mass":7,"keys":{"0":"b"},"pairs":null,"gone":1}' }), "ways")).toEqual(
      PLAIN,
    );
  });

  it("is nothing where it cannot be read", () => {
    for (const text of ['{"mass":', "null", '"oz"', "[1]"])
      expect(keptOver(PLAIN, holding({ ways: text }), "ways")).toEqual(PLAIN);
    expect(readKept(holding({ ways: "{" }), "ways")).toBeNull();
  });

  it("comes back as it was kept, and a device without room breaks nothing", () => {
    const storage = holding({});
    keep(storage, "ways", { ...PLAIN, mass: "oz" });
    expect(keptOver(PLAIN, storage, "ways").mass).toBe("oz");
    const full = {
      ...storage,
      setItem: () => {
        throw new DOMException("full", "QuotaExceededError");
      },
    };
    expect(() => keep(full, "ways", PLAIN)).not.toThrow();
  });
});
