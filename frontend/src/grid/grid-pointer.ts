import { useEffect, useRef } from "react";
import type { MouseEvent, PointerEvent, RefObject } from "react";

import type { Selection } from "./selection";

/** The key of the cell in which something lies. */
function cellKeyAt(target: EventTarget): string | null {
  return target instanceof Element ? (target.closest<HTMLElement>("[data-cell]")?.dataset["cell"] ?? null) : null;
}

export interface GridPointer {
  onPointerDown: (event: PointerEvent) => void;
  onPointerOver: (event: PointerEvent) => void;
  onPointerUp: () => void;
  onPointerLeave: () => void;
  onClick: (event: MouseEvent) => void;
  onDoubleClick: (event: MouseEvent) => void;
}

const byTouch = (event: MouseEvent): boolean => (event.nativeEvent as globalThis.PointerEvent).pointerType === "touch";

/** A mouse chooses where it is pressed and drags a block; a finger chooses by a tap only, so that scrolling never does.
 * Cells are found by where the pointer is, so that none is drawn again for a new handler. */
export function useGridPointer(selection: Selection, open: (key: string) => void): GridPointer {
  const dragging = useRef(false);
  const stop = () => {
    dragging.current = false;
  };
  return {
    onPointerDown: (event) => {
      const key = cellKeyAt(event.target);
      if (key === null || event.pointerType === "touch" || event.button !== 0) return;
      dragging.current = true;
      if (event.shiftKey) selection.extendTo(key);
      else if (event.ctrlKey || event.metaKey || selection.choosing) selection.toggle(key);
      else selection.only(key);
    },
    onPointerOver: (event) => {
      const key = dragging.current ? cellKeyAt(event.target) : null;
      if (key !== null && !selection.choosing) selection.extendTo(key);
    },
    onPointerUp: stop,
    onPointerLeave: stop,
    onClick: (event) => {
      const key = byTouch(event) ? cellKeyAt(event.target) : null;
      if (key === null) return;
      if (selection.choosing) selection.toggle(key);
      else selection.only(key);
    },
    onDoubleClick: (event) => {
      const key = cellKeyAt(event.target);
      if (key !== null) open(key);
    },
  };
}

/** Two fingers, or the wheel with Ctrl, change the size of the cells around the place where they are. */
export function usePinch(
  scroller: RefObject<HTMLElement | null>,
  width: number,
  resize: (width: number, at: { x: number; y: number }) => void,
): void {
  const now = useRef({ width, resize });
  useEffect(() => {
    now.current = { width, resize };
  });
  useEffect(() => {
    const element = scroller.current;
    if (!element) return;
    let began: { apart: number; width: number } | null = null;
    const within = (x: number, y: number) => {
      const box = element.getBoundingClientRect();
      return { x: x - box.left, y: y - box.top };
    };
    const onWheel = (event: WheelEvent) => {
      if (!event.ctrlKey && !event.metaKey) return;
      event.preventDefault();
      now.current.resize(now.current.width * Math.exp(-event.deltaY * 0.003), within(event.clientX, event.clientY));
    };
    const onTouch = (event: TouchEvent) => {
      const [one, other] = [event.touches[0], event.touches[1]];
      if (!one || !other) {
        began = null;
        return;
      }
      event.preventDefault();
      const apart = Math.hypot(one.clientX - other.clientX, one.clientY - other.clientY);
      began ??= { apart, width: now.current.width };
      now.current.resize(
        (began.width * apart) / began.apart,
        within((one.clientX + other.clientX) / 2, (one.clientY + other.clientY) / 2),
      );
    };
    const away = new AbortController();
    element.addEventListener("wheel", onWheel, { passive: false, signal: away.signal });
    for (const kind of ["touchstart", "touchmove", "touchend"] as const)
      element.addEventListener(kind, onTouch, { passive: false, signal: away.signal });
    return () => away.abort();
  }, [scroller]);
}
