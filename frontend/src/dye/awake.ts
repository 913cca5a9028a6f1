import { useEffect } from "react";

/** Keeps the screen of a phone or tablet lit while somebody stands at the bench; where it is not allowed nothing happens. */
export function useScreenAwake(wanted: boolean): void {
  useEffect(() => {
    if (!wanted || !("wakeLock" in navigator)) return undefined;
    let lock: WakeLockSentinel | null = null;
    let over = false;
    const ask = () => {
      if (document.visibilityState !== "visible") return;
      navigator.wakeLock.request("screen").then(
        (held) => {
          if (over) void held.release();
          else lock = held;
        },
        () => undefined,
      );
    };
    ask();
    // It is let go whenever the page is hidden.
    document.addEventListener("visibilitychange", ask);
    return () => {
      over = true;
      document.removeEventListener("visibilitychange", ask);
      void lock?.release();
    };
  }, [wanted]);
}
