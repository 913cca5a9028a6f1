import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useSyncExternalStore } from "react";

import { Problem, answered, api } from "../api/client";
import type { Schema } from "../api/client";

type Entry = Schema["NewBenchEntry"];
/** What happened; when, who and by which device is added here. `at`: not when it is written down. */
export type NewEntry = Pick<Entry, "kind"> & Partial<Omit<Entry, "kind" | "key" | "entered_at" | "sent_at" | "who">>;

/** An entry on its way: kept on this device until the server has it. */
export interface Waiting {
  study: number;
  entry: Schema["NewBenchEntry"] & { key: string; entered_at: string };
  /** What the server said no to; then it waits for the person. */
  refused?: string;
  /** The server asks whether it is really so. */
  asks?: boolean;
  /** When the server took it; it is shown from here until it is seen in what the server says. */
  sentAt?: number;
}

const BOX = "zesty-grid outbox";
const WHO = "zesty-grid who";
const AGAIN_MS = 3000;
const SHOWN_MS = 60_000;
/** Refusals that are questions: the answer may be yes. */
const ASKING = ["far-from-planned", "wrong-swatch"];
const listeners = new Set<() => void>();
let waiting: readonly Waiting[] = stored();
let sending = false;

function stored(): Waiting[] {
  try {
    return JSON.parse(localStorage.getItem(BOX) ?? "[]") as Waiting[];
  } catch {
    return [];
  }
}

/** Another tab of this device may have sent or added some: what is stored counts. */
function change(make: (now: readonly Waiting[]) => readonly Waiting[]) {
  const old = Date.now() - SHOWN_MS;
  waiting = make(stored().filter((one) => !one.sentAt || one.sentAt > old));
  localStorage.setItem(BOX, JSON.stringify(waiting));
  listeners.forEach((changed) => changed());
}

const subscribe = (changed: () => void) => {
  const elsewhere = (event: StorageEvent) => {
    if (event.key !== BOX) return;
    waiting = stored();
    changed();
  };
  listeners.add(changed);
  window.addEventListener("storage", elsewhere);
  return () => {
    listeners.delete(changed);
    window.removeEventListener("storage", elsewhere);
  };
};

function newKey(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(12));
  return `device-${Array.from(bytes, (byte) => byte.toString(16).padStart(2, "0")).join("")}`;
}

export const whoIsHere = () => localStorage.getItem(WHO) ?? "";
export const setWho = (name: string) => {
  localStorage.setItem(WHO, name);
  listeners.forEach((changed) => changed());
};
export const useWho = () => useSyncExternalStore(subscribe, whoIsHere);
export const useOutbox = () => useSyncExternalStore(subscribe, () => waiting);

export const isUnsent = (one: Waiting) => !one.refused && !one.sentAt;

/** Says that it is so, what the server asked about. */
export const itIsSo = (key: string) =>
  change((now) =>
    now.map((one) => {
      if (one.entry.key !== key) return one;
      const { refused, asks, ...rest } = one;
      void [refused, asks];
      return { ...rest, entry: { ...one.entry, sure: true } };
    }),
  );

/** Lets an entry go that the server refused. */
export const forget = (key: string) => change((now) => now.filter((one) => one.entry.key !== key));

async function sendFirst(): Promise<"sent" | "later" | "empty"> {
  const first = waiting.find(isUnsent);
  if (!first) return "empty";
  try {
    await answered(
      api.POST("/api/studies/{study_id}/dye/entries", {
        params: { path: { study_id: first.study } },
        body: { ...first.entry, sent_at: new Date().toISOString() },
      }),
    );
    const sentAt = Date.now();
    change((now) => now.map((one) => (one.entry.key === first.entry.key ? { ...one, sentAt } : one)));
  } catch (error) {
    // A device that has to enter its code again keeps what it wrote until it is in.
    if (!(error instanceof Problem) || error.status >= 500 || [401, 429].includes(error.status)) return "later";
    const said = `${error.message} ${error.cure}`;
    const asks = ASKING.includes(error.code);
    change((now) => now.map((one) => (one.entry.key === first.entry.key ? { ...one, refused: said, asks } : one)));
  }
  return "sent";
}

async function sendAll(): Promise<boolean> {
  let any = false;
  while ((await sendFirst()) === "sent") any = true;
  return any;
}

/** Sends what waits, one after the other and in order; one tab of the device at a time. */
async function flush(): Promise<boolean> {
  if (sending) return false;
  sending = true;
  try {
    if ("locks" in navigator) return await navigator.locks.request(BOX, sendAll);
    return await sendAll();
  } finally {
    sending = false;
  }
}

/** Keeps sending while anything waits; used once, by the shell. */
export function useSending() {
  const queries = useQueryClient();
  const left = useOutbox().filter(isUnsent).length;
  useEffect(() => {
    if (left === 0) return;
    const go = () => void flush().then((any) => (any ? queries.invalidateQueries() : undefined));
    go();
    const again = setInterval(go, AGAIN_MS);
    window.addEventListener("online", go);
    return () => {
      clearInterval(again);
      window.removeEventListener("online", go);
    };
  }, [left, queries]);
}

let moment: string | null = null;

/** The time for which the bench is written down; null: now, as it happens. */
export const useMoment = () => useSyncExternalStore(subscribe, () => moment);
export function setMoment(iso: string | null) {
  moment = iso;
  listeners.forEach((changed) => changed());
}

/** Logs something, now or for the time for which the bench is written down; it is safe at once. */
export function useLogging(study: number) {
  return useCallback((entry: NewEntry) => {
    const now = new Date().toISOString();
    // A correction keeps the time of what it corrects, unless it says another.
    const at = entry.at ?? (entry.replaces ? null : (moment ?? now));
    const whole = { swatches: [], zones: [], note: "", vessel: "", step: "", stock: "", sure: false, ...entry, who: whoIsHere(), key: newKey(), entered_at: now, at };
    change((waitingNow) => [...waitingNow, { study, entry: whole }]);
  }, [study]);
}
