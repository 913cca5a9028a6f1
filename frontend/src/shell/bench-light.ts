import { useCallback, useState, useSyncExternalStore } from "react";

import type { Bench } from "./theme";

const KEPT = "bench";
const DARK = "(prefers-color-scheme: dark)";

const subscribe = (changed: () => void) => {
  const system = window.matchMedia(DARK);
  system.addEventListener("change", changed);
  return () => system.removeEventListener("change", changed);
};

/** A light or a dark bench: as the person chose on this device, else as the system has it (null). */
export function useBenchLight(): { bench: Bench; chosen: Bench | null; choose: (bench: Bench | null) => void } {
  const system = useSyncExternalStore(subscribe, () => (window.matchMedia(DARK).matches ? "dark" : "light"));
  const [chosen, setChosen] = useState<Bench | null>(() => {
    const kept = localStorage.getItem(KEPT);
    return kept === "light" || kept === "dark" ? kept : null;
  });
  const choose = useCallback((bench: Bench | null) => {
    setChosen(bench);
    if (bench === null) localStorage.removeItem(KEPT);
    else localStorage.setItem(KEPT, bench);
  }, []);
  return { bench: chosen ?? system, chosen, choose };
}
