import { useCallback, useState } from "react";

import type { Axes } from "./axes";

export interface Selection {
  keys: ReadonlySet<string>;
  focus: string | null;
  only: (key: string) => void;
  toggle: (key: string) => void;
  extendTo: (key: string) => void;
  replace: (keys: readonly string[]) => void;
  move: (down: number, right: number, extend: boolean) => void;
  clear: () => void;
}

/** Which cells are chosen; it stays while the lens changes. */
export function useSelection(axes: Axes): Selection {
  const [keys, setKeys] = useState<ReadonlySet<string>>(new Set());
  const [anchor, setAnchor] = useState<string | null>(null);
  const [focus, setFocus] = useState<string | null>(null);

  const only = useCallback((key: string) => {
    setKeys(new Set([key]));
    setAnchor(key);
    setFocus(key);
  }, []);
  const toggle = useCallback((key: string) => {
    setKeys((old) => {
      const next = new Set(old);
      if (!next.delete(key)) next.add(key);
      return next;
    });
    setAnchor(key);
    setFocus(key);
  }, []);
  const extendTo = useCallback(
    (key: string) => {
      const from = anchor ? axes.placeOf.get(anchor) : undefined;
      const to = axes.placeOf.get(key);
      setFocus(key);
      if (!from || !to) {
        setKeys((old) => new Set([...old, key]));
        return;
      }
      const block: string[] = [];
      for (let r = Math.min(from[0], to[0]); r <= Math.max(from[0], to[0]); r++)
        for (let c = Math.min(from[1], to[1]); c <= Math.max(from[1], to[1]); c++) {
          const cell = axes.cellAt(r, c);
          if (cell) block.push(cell.key);
        }
      setKeys(new Set(block));
    },
    [anchor, axes],
  );
  const replace = useCallback((wanted: readonly string[]) => {
    setKeys(new Set(wanted));
    setAnchor(wanted[0] ?? null);
    setFocus(wanted[0] ?? null);
  }, []);
  const move = useCallback(
    (down: number, right: number, extend: boolean) => {
      const [row, column] = (focus && axes.placeOf.get(focus)) || [-down, -right];
      const r = Math.min(axes.rows.length - 1, Math.max(0, row + down));
      const c = Math.min(axes.columns.length - 1, Math.max(0, column + right));
      const cell = axes.cellAt(r, c);
      if (cell) (extend ? extendTo : only)(cell.key);
    },
    [axes, focus, extendTo, only],
  );
  const clear = useCallback(() => setKeys(new Set()), []);
  return { keys, focus, only, toggle, extendTo, replace, move, clear };
}
