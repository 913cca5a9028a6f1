import { openDB } from "idb";
import type { DBSchema, IDBPDatabase } from "idb";

import type { Schema } from "../api/client";

/** An entry on its way: kept on this device until the server has it. */
export interface Waiting {
  study: number;
  entry: Schema["NewBenchEntry"] & { key: string; entered_at: string };
  /** The later is larger. */
  order: number;
  /** Goes to the server before its entry. */
  picture?: File;
  /** What the server said no to; then it waits for the person. */
  refused?: string;
  /** The server asks whether it is really so. */
  asks?: boolean;
  /** When the server took it; it is shown from here until it is seen in what the server says. */
  sentAt?: number;
}

interface Outbox extends DBSchema {
  waiting: { key: string; value: Waiting };
}

const NAME = "zesty-grid outbox";
/** Where entries waited before pictures could. */
const BEFORE = "zesty-grid outbox";

let opened: Promise<IDBPDatabase<Outbox>> | null = null;
const box = () =>
  (opened ??= openDB<Outbox>(NAME, 1, {
    upgrade: (db) => void db.createObjectStore("waiting", { keyPath: "entry.key" }),
    terminated: () => (opened = null),
  }));

/** On the disk when it resolves, also if the power fails then. */
async function write(
  make: (store: {
    put: (one: Waiting) => Promise<unknown>;
    delete: (key: string) => Promise<unknown>;
  }) => Promise<unknown>[],
) {
  const change = (await box()).transaction("waiting", "readwrite", { durability: "strict" });
  // A transaction that is aborted fails each of its requests too.
  await Promise.all([...make(change.store), change.done]);
}

export const keepWaiting = (...ones: Waiting[]) => write((store) => ones.map((one) => store.put(one)));
export const dropWaiting = (...keys: string[]) => write((store) => keys.map((key) => store.delete(key)));

/** All that waits on this device, in the order in which it was written down. */
export async function readWaiting(): Promise<Waiting[]> {
  const before = localStorage.getItem(BEFORE);
  if (before !== null) {
    const ones = JSON.parse(before) as Waiting[];
    await keepWaiting(...ones.map((one, i) => ({ ...one, order: i })));
    localStorage.removeItem(BEFORE);
  }
  const all = await (await box()).getAll("waiting");
  return all.sort((one, other) => one.order - other.order);
}
