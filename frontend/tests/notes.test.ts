import { expect, it } from "vitest";

import { countsOf, notesAbout } from "../src/notes/about";

type Kept = Parameters<typeof countsOf>[0][number];
type Ahead = Parameters<typeof notesAbout>[2][number];

const note = (entry: number, more: Partial<Kept>): Kept => ({
  entry,
  key: `device-${entry}`,
  at: "2026-09-14T08:00:00Z",
  who: "",
  of: "study",
  words: `note ${entry}`,
  photo: null,
  vessel: "",
  swatches: [],
  levels: {},
  trial: null,
  ...more,
});
const KEPT = [
  note(5, {}),
  note(4, { of: "level", levels: { ph: "ph-9" } }),
  note(3, { of: "swatch", swatches: ["NAAB", "NAAC"] }),
  note(2, { of: "trial", trial: 2 }),
  note(1, { of: "vessel", vessel: "D1" }),
];
const words = (about: Parameters<typeof notesAbout>[0], waiting: Ahead[] = []) =>
  notesAbout(about, KEPT, waiting).map((one) => one.words);

it("gives each thing its own notes, and the study those that name nothing", () => {
  expect(words({})).toEqual(["note 5"]);
  expect(words({ levels: { ph: "ph-9" } })).toEqual(["note 4"]);
  expect(words({ levels: { ph: "ph-4" } })).toEqual([]);
  expect(words({ swatches: ["NAAC"] })).toEqual(["note 3"]);
  expect(words({ trial: 2 })).toEqual(["note 2"]);
  expect(words({ trial: 1 })).toEqual([]);
  expect(words({ vessel: "D1" })).toEqual(["note 1"]);
});

it("shows what waits to be sent first, and no longer what is about to be struck out", () => {
  const entry = {
    swatches: [],
    zones: [],
    note: "",
    vessel: "",
    step: "",
    stock: "",
    who: "",
    sure: false,
    entered_at: "2026-09-15T08:00:00Z",
  };
  const ahead: Ahead[] = [
    { study: 1, order: 1, entry: { ...entry, key: "device-aa", kind: "note", note: "written without a network" } },
    { study: 1, order: 2, entry: { ...entry, key: "device-ab", kind: "struck", replaces: 5 } },
  ];
  expect(words({}, ahead)).toEqual(["written without a network"]);
  expect(words({ trial: 2 }, ahead)).toEqual(["note 2"]);
});

it("shows what was sent until the server says it too, and then once", () => {
  const entry = {
    swatches: [],
    zones: [],
    vessel: "",
    step: "",
    stock: "",
    who: "",
    sure: false,
    entered_at: "2026-09-15T08:00:00Z",
    kind: "note" as const,
  };
  const sent = (key: string, note: string): Ahead => ({
    study: 1,
    order: 1,
    entry: { ...entry, key, note },
    sentAt: 1,
  });
  const shown = notesAbout({}, KEPT, [sent("device-new", "just now"), sent("device-5", "note 5")]);
  expect(shown.map((one) => [one.words, one.waits ?? false, one.entry])).toEqual([
    ["just now", false, undefined],
    ["note 5", false, 5],
  ]);
});

it("counts the notes of levels and swatches", () => {
  const counts = countsOf([...KEPT, note(6, { of: "level", levels: { ph: "ph-9" } })]);
  expect([counts.get("ph=ph-9"), counts.get("NAAB"), counts.get("NAAD")]).toEqual([2, 1, undefined]);
});
