import Box from "@mui/material/Box";
import { useLayoutEffect, useRef } from "react";

import type { Axes } from "./axes";
import { outlineOf } from "./outline";
import type { Selection } from "./selection";

interface ChosenOutlineProps {
  selection: Selection;
  axes: Axes;
  left: number;
  top: number;
  cellW: number;
  cellH: number;
}

/** A row of stitches around what is chosen, and a dotted frame where the keyboard is. It lies on a layer of its own, so
 * that no cell is painted anew while a block is dragged. */
export function ChosenOutline({ selection, axes, left, top, cellW, cellH }: ChosenOutlineProps) {
  const stitches = useRef<SVGPathElement>(null);
  const frame = useRef<SVGRectElement>(null);
  useLayoutEffect(() => {
    let drawn: ReadonlySet<string> | null = null;
    const draw = () => {
      const { keys, focus } = selection;
      if (drawn !== keys) {
        drawn = keys;
        const places = [...keys].flatMap((key) => {
          const place = axes.placeOf.get(key);
          return place ? [place] : [];
        });
        stitches.current?.setAttribute("d", outlineOf(places, cellW, cellH));
      }
      const inside = focus && focus.row >= 0 && focus.column >= 0;
      const at = inside
        ? { x: focus.column * cellW + 4, y: focus.row * cellH + 4, width: cellW - 8, height: cellH - 8 }
        : { x: 0, y: 0, width: 0, height: 0 };
      for (const [name, value] of Object.entries(at)) frame.current?.setAttribute(name, `${value}`);
    };
    draw();
    return selection.subscribe(draw);
  }, [selection, axes, cellW, cellH]);
  return (
    <Box
      component="svg"
      aria-hidden
      className="not-printed"
      sx={{
        position: "absolute",
        zIndex: 1,
        pointerEvents: "none",
        overflow: "visible",
        willChange: "transform",
        color: "text.primary",
        fill: "none",
        stroke: "currentColor",
        "@media (forced-colors: active)": { stroke: "CanvasText" },
      }}
      style={{ left, top, width: axes.columns.length * cellW, height: axes.rows.length * cellH }}>
      <path ref={stitches} className="stitches" strokeWidth={3} strokeDasharray="9 4" />
      <rect ref={frame} strokeWidth={1} strokeDasharray="1.5 2.5" />
    </Box>
  );
}
