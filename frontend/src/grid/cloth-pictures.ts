import { useCallback, useSyncExternalStore } from "react";

// Few at a time: the server takes a photo apart for them, and other answers must come through.
const AT_ONCE = 2;
/** The server has no picture of it. */
const NONE = "";

const found = new Map<number, string>();
const wanted: number[] = [];
const underWay = new Set<number>();
const listeners = new Map<number, Set<() => void>>();

function next(): void {
  while (underWay.size < AT_ONCE) {
    const reading = wanted.pop();
    if (reading === undefined) return;
    underWay.add(reading);
    void pictureOf(reading).then((url) => {
      underWay.delete(reading);
      if (url !== undefined) found.set(reading, url);
      listeners.get(reading)?.forEach((changed) => changed());
      next();
    });
  }
}

/** Undefined where it could not be fetched: whoever looks next asks again. */
async function pictureOf(reading: number): Promise<string | undefined> {
  try {
    const answer = await fetch(`/api/readings/${reading}/cloth.webp`);
    if (answer.status === 200) return URL.createObjectURL(await answer.blob());
    return answer.ok ? NONE : undefined;
  } catch {
    return undefined;
  }
}

/** The address of the cloth of a reading as its photo shows it: undefined until it is there, empty where no photo shows it. */
export function useClothPicture(reading: number | undefined): string | undefined {
  const subscribe = useCallback(
    (changed: () => void) => {
      if (reading === undefined) return () => undefined;
      const own = listeners.get(reading) ?? new Set();
      listeners.set(reading, own.add(changed));
      if (!found.has(reading) && !underWay.has(reading) && !wanted.includes(reading)) wanted.push(reading);
      next();
      return () => {
        own.delete(changed);
        // Scrolled away before its turn came.
        const place = own.size === 0 ? wanted.indexOf(reading) : -1;
        if (place >= 0) wanted.splice(place, 1);
      };
    },
    [reading],
  );
  return useSyncExternalStore(subscribe, () => (reading === undefined ? NONE : found.get(reading)));
}
