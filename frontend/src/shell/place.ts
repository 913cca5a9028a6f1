import { useCallback, useSyncExternalStore } from "react";

export const LENSES = ["plan", "weigh", "dye", "read", "fade", "compare"] as const;
export type Lens = (typeof LENSES)[number];
const BESIDE = ["today", "shelf", "safekeeping", "words", "settings", "trainer"] as const;
export type View = Lens | (typeof BESIDE)[number];

/** `part` is a place within a view, such as the days of the Dye lens. */
export interface Place {
  study: number | null;
  view: View;
  part?: string;
}

const VIEWS: readonly string[] = [...LENSES, ...BESIDE];
const HASH = /^#\/(?:study\/(\d+)\/)?([a-z]+)(?:\/([A-Za-z0-9/-]+))?(?:\?(.*))?$/;

function parse(hash: string): Place {
  const [, study, view, part] = HASH.exec(hash) ?? [];
  return {
    study: study ? Number(study) : null,
    view: view && VIEWS.includes(view) ? (view as View) : "plan",
    part: part ?? "",
  };
}

/** Where the person is as the page opens. */
export const placeNow = (): Place => parse(window.location.hash);

export const isLens = (view: View): view is Lens => (LENSES as readonly string[]).includes(view);

const REPLACED = "placereplaced";
const subscribe = (changed: () => void) => {
  window.addEventListener("hashchange", changed);
  window.addEventListener(REPLACED, changed);
  return () => {
    window.removeEventListener("hashchange", changed);
    window.removeEventListener(REPLACED, changed);
  };
};

const queryIn = (hash: string): string => HASH.exec(hash)?.[4] ?? "";

/** Where the person is, kept in the address so that a reload comes back to it. */
export function usePlace(): [Place, (place: Place) => void] {
  const hash = useSyncExternalStore(subscribe, () => window.location.hash);
  const go = useCallback((place: Place) => {
    const study = place.study === null ? "" : `study/${place.study}/`;
    // What is chosen and looked for goes along from lens to lens of one study.
    const there = parse(window.location.hash).study;
    const query = place.study === there || there === null ? queryIn(window.location.hash) : "";
    window.location.hash = `#/${study}${place.view}${place.part ? `/${place.part}` : ""}${query ? `?${query}` : ""}`;
  }, []);
  return [parse(hash), go];
}

/** Something of the view that stands in the address, without a step in the browser's history. */
export function useInAddress(name: string): [string, (value: string) => void] {
  const hash = useSyncExternalStore(subscribe, () => window.location.hash);
  const set = useCallback(
    (value: string) => {
      const now = window.location.hash || "#/plan";
      const params = new URLSearchParams(queryIn(now));
      if (value) params.set(name, value);
      else params.delete(name);
      const query = params.toString();
      const [path = ""] = now.split("?");
      const next = query ? `${path}?${query}` : path;
      if (next === window.location.hash) return;
      window.history.replaceState(window.history.state, "", next);
      window.dispatchEvent(new Event(REPLACED));
    },
    [name],
  );
  return [new URLSearchParams(queryIn(hash)).get(name) ?? "", set];
}
