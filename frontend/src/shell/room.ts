import { useLayoutEffect, useState } from "react";
import type { RefObject } from "react";

/** The inner size of an element, also when the window changes. */
export function useRoom(of: RefObject<HTMLElement | null>): { width: number; height: number } {
  const [room, setRoom] = useState({ width: 0, height: 0 });
  useLayoutEffect(() => {
    if (!of.current) return;
    const watch = new ResizeObserver((entries) => {
      const box = entries[0]?.contentRect;
      if (box)
        setRoom((old) =>
          old.width === box.width && old.height === box.height ? old : { width: box.width, height: box.height },
        );
    });
    watch.observe(of.current);
    return () => watch.disconnect();
  }, [of]);
  return room;
}
