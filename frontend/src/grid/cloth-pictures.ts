import { useCallback, useSyncExternalStore } from "react";

// Few at a time: the server takes a photo apart for them, and other answers must come through.
const AT_ONCE = 2;
const NONE = "";

const found = new Map<number, string>();
const wanted: number[] = [];
const listeners = new Map<number, Set<() => void>>();
let under_way = 0;

function next(): void {
  while (under_way < AT_ONCE) {
    const reading = wanted.pop();
    if (reading === undefined) return;
    under_way += 1;
    void pictureOf(reading).then((url) => {
      under_way -= 1;
      found.set(reading, url);
      listeners.get(reading)?.forEach((changed) => changed());
      next();
    });
  }
}

async function pictureOf(reading: number): Promise<string> {
  try {
    const answer = await fetch(`/api/readings/${reading}/cloth.webp`);
    return answer.status === 200 ? URL.createObjectURL(await answer.blob()) : NONE;
  } catch {
    return NONE;
  }
}

/** The address of the cloth of a reading as its photo shows it, once it is there; undefined where no photo does. */
export function useClothPicture(reading: number | undefined): string | undefined {
  const subscribe = useCallback(
    (changed: () => void) => {
      if (reading === undefined) return () => undefined;
      const own = listeners.get(reading) ?? new Set();
      listeners.set(reading, own.add(changed));
      if (!found.has(reading) && !wanted.includes(reading)) wanted.push(reading);
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
  return useSyncExternalStore(subscribe, () => (reading === undefined ? undefined : found.get(reading) || undefined));
}
