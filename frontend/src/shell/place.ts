import { useCallback, useSyncExternalStore } from "react";

export const LENSES = ["plan", "weigh", "dye", "read", "fade", "compare"] as const;
export type Lens = (typeof LENSES)[number];
export type View = Lens | "today" | "shelf" | "safekeeping";

/** `part` is a place within a view, such as the days of the Dye lens. */
export interface Place {
  study: number | null;
  view: View;
  part?: string;
}

const VIEWS: readonly string[] = [...LENSES, "today", "shelf", "safekeeping"];

function parse(hash: string): Place {
  const [, study, view, part] = /^#\/(?:study\/(\d+)\/)?([a-z]+)(?:\/([A-Za-z0-9/-]+))?$/.exec(hash) ?? [];
  return {
    study: study ? Number(study) : null,
    view: view && VIEWS.includes(view) ? (view as View) : "plan",
    part: part ?? "",
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
    const study = place.study === null ? "" : `study/${place.study}/`;
    window.location.hash = `#/${study}${place.view}${place.part ? `/${place.part}` : ""}`;
  }, []);
  return [parse(hash), go];
}
