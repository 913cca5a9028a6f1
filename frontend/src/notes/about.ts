import type { Schema } from "../api/client";
import type { Waiting } from "../dye/kept-outbox";
import type { NewEntry } from "../dye/outbox";

type Note = Schema["Note"];

/** What in a study a note is about; of the study itself where nothing is named. */
export type About = Pick<NewEntry, "vessel" | "swatches" | "levels" | "trial">;

/** A note that is kept, or that this device has written and not yet seen in what the server says. */
export interface ShownNote {
  key: string;
  /** Its number in the log; none while it is on its way. */
  entry?: number;
  /** It could not be sent yet. */
  waits?: boolean;
  words: string;
  photo: string | null;
  /** On this device until it is sent. */
  picture?: Blob;
  at: string;
  who: string;
}

export function notesAbout(about: About, kept: readonly Note[], waiting: readonly Waiting[]): ShownNote[] {
  const gone = new Set(waiting.map((one) => one.entry.replaces));
  const there = new Set(kept.map((note) => note.key));
  const own = kept.filter((note) => isAbout(about, note) && !gone.has(note.entry));
  const ahead = waiting.filter(({ entry }) => entry.kind === "note" && !there.has(entry.key) && isAbout(about, entry));
  return [
    ...ahead
      .map(({ entry, picture, sentAt }) => ({
        key: entry.key,
        words: entry.note ?? "",
        photo: entry.photo ?? null,
        picture,
        at: entry.entered_at,
        who: entry.who ?? "",
        waits: !sentAt,
      }))
      .reverse(),
    ...own.map((note) => ({
      key: note.key,
      entry: note.entry,
      words: note.words,
      photo: note.photo,
      at: note.at,
      who: note.who,
    })),
  ];
}

type Named = { [Key in keyof About]: About[Key] | null };

function isAbout(about: About, note: Named): boolean {
  const [code] = about.swatches ?? [];
  if (code) return note.swatches?.includes(code) ?? false;
  if (note.swatches?.length) return false;
  const [level] = Object.entries(about.levels ?? {});
  if (level) return note.levels?.[level[0]] === level[1];
  return (
    (note.vessel ?? "") === (about.vessel ?? "") &&
    (note.trial ?? null) === (about.trial ?? null) &&
    Object.keys(note.levels ?? {}).length === 0
  );
}

/** The name of a level in the counts of notes. */
export const levelNoteKey = (kind: string, key: string) => `${kind}=${key}`;

/** How many notes there are of each level and of each swatch, by its code. */
export function countsOf(notes: readonly Note[]): Map<string, number> {
  const counts = new Map<string, number>();
  for (const note of notes) {
    const of =
      note.of === "swatch" ? note.swatches : Object.entries(note.levels).map(([kind, key]) => levelNoteKey(kind, key));
    for (const one of of) counts.set(one, (counts.get(one) ?? 0) + 1);
  }
  return counts;
}
