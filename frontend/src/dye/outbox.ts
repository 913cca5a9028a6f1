import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useSyncExternalStore } from "react";

import { Problem, answered, api } from "../api/client";
import type { Schema } from "../api/client";
import { fileForm } from "../api/file-form";
import { hasLogged } from "../api/hooks";
import { askAnew } from "../api/what-changed";
import { dropWaiting, keepWaiting, readWaiting } from "./kept-outbox";
import type { Waiting } from "./kept-outbox";

type Entry = Schema["NewBenchEntry"];
/** What happened; when, who and by which device is added here. `at`: not when it is written down. */
export type NewEntry = Pick<Entry, "kind"> & Partial<Omit<Entry, "kind" | "key" | "entered_at" | "sent_at" | "who">>;

const BOX = "zesty-grid outbox";
const WHO = "zesty-grid who";
const AGAIN_MS = 3000;
const SHOWN_MS = 60_000;
/** Refusals that are questions: the answer may be yes. */
const ASKING = ["far-from-planned", "wrong-swatch"];
const listeners = new Set<() => void>();
const tabs = new BroadcastChannel(BOX);
let waiting: readonly Waiting[] = [];
let unkept = false;
let sending = false;
let writes = 0;
let writing: Promise<void> = Promise.resolve();

function show(now: readonly Waiting[]) {
  waiting = now;
  listeners.forEach((changed) => changed());
}

/** Writes come one after the other; a device that cannot keep them says so, and sends from memory. */
function written(write: () => Promise<void>): Promise<void> {
  writes += 1;
  writing = writing.then(write).then(
    () => tabs.postMessage("changed"),
    () => {
      unkept = true;
      show([...waiting]);
    },
  );
  return writing;
}

function keep(one: Waiting): Promise<void> {
  const others = waiting.filter((other) => other.entry.key !== one.entry.key);
  show([...others, one].sort((a, b) => a.order - b.order));
  return written(() => keepWaiting(one));
}

/** Another tab of this device may have sent or added some: what is kept counts. */
export async function lookAgain(): Promise<void> {
  await writing;
  if (unkept) return;
  const before = writes;
  const kept = await readWaiting().catch(() => null);
  if (before !== writes) return lookAgain();
  if (!kept) {
    unkept = true;
    return;
  }
  const old = kept.filter((one) => one.sentAt && one.sentAt < Date.now() - SHOWN_MS);
  show(kept.filter((one) => !old.includes(one)));
  if (old.length > 0) await written(() => dropWaiting(...old.map((one) => one.entry.key)));
}

tabs.onmessage = () => void lookAgain();
void lookAgain();

const subscribe = (changed: () => void) => {
  listeners.add(changed);
  return () => listeners.delete(changed);
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

/** Whether this device can keep what waits; where it cannot, the page must stay open until it is sent. */
export const useUnkept = () => useSyncExternalStore(subscribe, () => unkept);

const waitingAs = (key: string) => waiting.find((one) => one.entry.key === key);

/** Says that it is so, what the server asked about. */
export function itIsSo(key: string) {
  const one = waitingAs(key);
  if (one) void keep({ ...one, entry: { ...one.entry, sure: true }, refused: undefined, asks: undefined });
}

/** Sends the words alone, where the server could not use the picture. */
export function withoutPicture(key: string) {
  const one = waitingAs(key);
  if (one) void keep({ ...one, picture: undefined, refused: undefined });
}

/** Lets an entry go that the server refused. */
export function forget(key: string) {
  show(waiting.filter((one) => one.entry.key !== key));
  void written(() => dropWaiting(key));
}

async function sentPicture(one: Waiting): Promise<Waiting> {
  if (!one.picture || one.entry.photo) return one;
  const kept = await answered(
    api.POST("/api/studies/{study_id}/dye/photos", {
      params: { path: { study_id: one.study } },
      ...fileForm("file", one.picture),
    }),
  );
  return { ...one, entry: { ...one.entry, photo: kept.photo } };
}

/** The study of what was sent, or refused; nothing when all is sent or the network is away. */
async function sendFirst(): Promise<number | null> {
  const first = waiting.find(isUnsent);
  if (!first) return null;
  let one = first;
  try {
    one = await sentPicture(first);
    if (one !== first) await keep(one);
    const logged = await answered(
      api.POST("/api/studies/{study_id}/dye/entries", {
        params: { path: { study_id: one.study } },
        body: { ...one.entry, sent_at: new Date().toISOString() },
      }),
    );
    hasLogged(one.study, logged.newest);
    await keep({ ...one, picture: undefined, sentAt: Date.now() });
  } catch (error) {
    // A device that has to enter its code again keeps what it wrote until it is in.
    if (!(error instanceof Problem) || error.status >= 500 || [401, 429].includes(error.status)) return null;
    await keep({ ...one, refused: `${error.message} ${error.cure}`, asks: ASKING.includes(error.code) });
  }
  return one.study;
}

async function sendAll(): Promise<Set<number>> {
  await lookAgain();
  const studies = new Set<number>();
  for (let study = await sendFirst(); study !== null; study = await sendFirst()) studies.add(study);
  return studies;
}

/** Sends what waits, one after the other and in order; one tab of the device at a time. */
async function flush(): Promise<Set<number>> {
  if (sending) return new Set();
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
    const go = () =>
      void flush().then((studies) =>
        studies.size > 0
          ? askAnew(
              queries,
              [...studies].map((study) => ({ study })),
            )
          : undefined,
      );
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

/** Logs something, now or for the time for which the bench is written down; it is safe at once, and its picture with it. */
export function useLogging(study: number) {
  return useCallback(
    (entry: NewEntry, picture?: File) => {
      const now = new Date();
      // A correction keeps the time of what it corrects, unless it says another.
      const at = entry.at ?? (entry.replaces ? null : (moment ?? now.toISOString()));
      const whole = {
        swatches: [],
        zones: [],
        note: "",
        vessel: "",
        step: "",
        stock: "",
        sure: false,
        ...entry,
        who: whoIsHere(),
        key: newKey(),
        entered_at: now.toISOString(),
        at,
      };
      const last = waiting.at(-1)?.order ?? 0;
      void keep({ study, entry: whole, order: Math.max(now.getTime(), last + 1), picture });
    },
    [study],
  );
}
