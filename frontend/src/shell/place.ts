import { useCallback, useSyncExternalStore } from "react";

export const LENSES = ["plan", "weigh", "dye", "read", "fade", "compare"] as const;
export type Lens = (typeof LENSES)[number];
export type View = Lens | "today" | "shelf";

export interface Place {
  study: number | null;
  view: View;
}

const VIEWS: readonly string[] = [...LENSES, "today", "shelf"];

function parse(hash: string): Place {
  const [, study, view] = /^#\/(?:study\/(\d+)\/)?([a-z]+)$/.exec(hash) ?? [];
  return {
    study: study ? Number(study) : null,
    view: view && VIEWS.includes(view) ? (view as View) : "plan",
  };
}

export const isLens = (view: View): view is Lens => (LENSES as readonly string[]).includes(view);

const subscribe = (changed: () => void) => {
  window.addEventListener("hashchange", changed);
  return () => window.removeEventListener("hashchange", changed);
};

/** Where the person is, kept in the address so that a reload comes back to it. */
export function usePlace(): [Place, (place: Place) => void] {
  const hash = useSyncExternalStore(subscribe, () => window.location.hash);
  const go = useCallback((place: Place) => {
    window.location.hash = `#/${place.study === null ? "" : `study/${place.study}/`}${place.view}`;
  }, []);
  return [parse(hash), go];
}
