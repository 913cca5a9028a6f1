import Box from "@mui/material/Box";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useLayoutEffect, useMemo, useRef, useState } from "react";
import type { CSSProperties, KeyboardEvent, PointerEvent, RefObject } from "react";

import type { GridCell as Cell, StudyView } from "../api/client";
import { spansOf } from "./axes";
import type { Axes, Span } from "./axes";
import { cellWords } from "./cells";
import { CELL_H, CELL_LOOK, GridCell } from "./grid-cell";
import type { Face } from "./grid-cell";
import type { Selection } from "./selection";

const CELL_W = 48;
const WIDEST_CELL = 200;
const HEAD_H = 24;
const HEAD_W = [76, 84, 84, 70, 70];
const LETTER_W = 6.4;

interface GridProps {
  study: StudyView;
  axes: Axes;
  selection: Selection;
  faceOf: (cell: Cell) => Face;
}

/** The one grid that every lens looks at; only what is visible is drawn. */
export function StudyGrid({ study, axes, selection, faceOf }: GridProps) {
  const scroller = useRef<HTMLDivElement>(null);
  const dragging = useRef(false);
  const rowSpans = useMemo(() => spansOf(axes.rows), [axes]);
  const columnSpans = useMemo(() => spansOf(axes.columns), [axes]);
  const headHeight = Math.max(1, columnSpans.length) * HEAD_H;
  const headWidths = rowSpans.map((_, d) => HEAD_W[d] ?? 70);
  const headWidth = headWidths.reduce((sum, width) => sum + width, 0);
  const room = useWidth(scroller);
  const cellW = cellWidth(columnSpans, axes.columns.length, room - headWidth);
  const rows = useVirtualizer({
    count: axes.rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => CELL_H,
    overscan: 4,
  });
  const columns = useVirtualizer({
    horizontal: true,
    count: axes.columns.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => cellW,
    overscan: 6,
  });
  const measureColumns = columns.measure;
  useLayoutEffect(measureColumns, [cellW, measureColumns]);

  const chooseSpan = (span: Span, byRow: boolean) => {
    const chosen: string[] = [];
    for (let i = span.from; i < span.from + span.count; i++)
      for (let j = 0; j < (byRow ? axes.columns : axes.rows).length; j++) {
        const cell = byRow ? axes.cellAt(i, j) : axes.cellAt(j, i);
        if (cell) chosen.push(cell.key);
      }
    selection.replace(chosen);
  };
  const onKey = (event: KeyboardEvent) => {
    const step = { ArrowUp: [-1, 0], ArrowDown: [1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1] }[event.key];
    if (step) {
      event.preventDefault();
      selection.move(step[0] ?? 0, step[1] ?? 0, event.shiftKey);
    } else if (event.key === "Escape") selection.clear();
  };
  // Cells are found by where the pointer is, so that none is drawn again for a new handler.
  const onDown = (event: PointerEvent) => {
    const key = cellKeyAt(event.target);
    if (key === null) return;
    dragging.current = true;
    if (event.shiftKey) selection.extendTo(key);
    else if (event.ctrlKey || event.metaKey) selection.toggle(key);
    else selection.only(key);
  };
  const onOver = (event: PointerEvent) => {
    const key = dragging.current ? cellKeyAt(event.target) : null;
    if (key !== null) selection.extendTo(key);
  };
  const drawn = (cell: Cell, left: number, top: number, width: number) => (
    <GridCell
      key={cell.key}
      study={study}
      cell={cell}
      face={faceOf(cell)}
      left={left}
      top={top}
      width={width}
      selected={selection.keys.has(cell.key)}
      focused={selection.focus === cell.key}
    />
  );
  const head = (span: Span, byRow: boolean, style: CSSProperties, last: boolean) => (
    <button
      key={`${span.from}-${span.label}`}
      type="button"
      tabIndex={-1}
      title={span.unplanned ? `${span.label}, no longer planned` : span.label}
      onClick={() => chooseSpan(span, byRow)}
      className={`span ${byRow ? "by-row" : ""} ${last ? "last" : ""} ${span.unplanned ? "unplanned" : ""}`}
      style={style}
    >
      {span.unplanned ? `(${span.label})` : span.label}
    </button>
  );

  return (
    <Box sx={{ display: "flex", flexDirection: "column", minHeight: 0, height: "100%" }}>
      <Box
        ref={scroller}
        role="grid"
        aria-label="Swatches"
        aria-multiselectable
        aria-rowcount={axes.rows.length}
        aria-colcount={axes.columns.length}
        tabIndex={0}
        onKeyDown={onKey}
        onPointerDown={onDown}
        onPointerOver={onOver}
        onPointerUp={() => (dragging.current = false)}
        onPointerLeave={() => (dragging.current = false)}
        sx={{ overflow: "auto", flex: "0 1 auto", minHeight: 120, userSelect: "none", outlineOffset: -2, ...CELL_LOOK, ...SPAN_LOOK }}
      >
        <Box
          sx={{
            display: "grid",
            gridTemplateColumns: `${headWidth}px ${columns.getTotalSize()}px`,
            gridTemplateRows: `${headHeight}px ${rows.getTotalSize()}px`,
            width: headWidth + columns.getTotalSize(),
          }}
        >
          <Box sx={{ position: "sticky", left: 0, top: 0, zIndex: 3, bgcolor: "background.default" }} />
          <Box sx={{ position: "sticky", top: 0, zIndex: 2, bgcolor: "background.default" }}>
            {columnSpans.map((spans, d) =>
              spans.map((span) =>
                head(
                  span,
                  false,
                  { left: span.from * cellW, width: span.count * cellW, top: d * HEAD_H, height: HEAD_H },
                  d === columnSpans.length - 1,
                ),
              ),
            )}
          </Box>
          <Box sx={{ position: "sticky", left: 0, zIndex: 1, bgcolor: "background.default" }}>
            {rowSpans.map((spans, d) =>
              spans.map((span) =>
                head(
                  span,
                  true,
                  {
                    top: span.from * CELL_H,
                    height: span.count * CELL_H,
                    left: headWidths.slice(0, d).reduce((sum, width) => sum + width, 0),
                    width: headWidths[d],
                  },
                  d === rowSpans.length - 1,
                ),
              ),
            )}
          </Box>
          <Box sx={{ position: "relative" }}>
            {rows.getVirtualItems().flatMap((row) =>
              columns.getVirtualItems().map((column) => {
                const cell = axes.cellAt(row.index, column.index);
                return cell ? drawn(cell, column.start, row.start, cellW) : null;
              }),
            )}
          </Box>
        </Box>
      </Box>
      {axes.added.length > 0 && (
        <Box sx={{ flex: "none", borderTop: 1, borderColor: "divider", p: 1 }}>
          <Box component="h2" sx={{ m: 0, mb: 0.5, fontSize: 13 }}>
            {besideWords(axes.added)}
          </Box>
          <Box sx={{ display: "flex", overflowX: "auto", gap: 0.5, ...CELL_LOOK }} role="group" aria-label="Controls" onPointerDown={onDown} onPointerOver={onOver} onPointerUp={() => (dragging.current = false)}>
            {axes.added.map((cell) => (
              <Box key={cell.key} sx={{ position: "relative", width: 84, height: CELL_H + 16, flex: "none" }}>
                {drawn(cell, 18, 0, CELL_W)}
                <Box sx={{ position: "absolute", top: CELL_H, width: 1, textAlign: "center", fontSize: 11 }}>
                  {cellWords(study, cell)}
                </Box>
              </Box>
            ))}
          </Box>
        </Box>
      )}
    </Box>
  );
}

const SPAN_LOOK = {
  "& .span": {
    position: "absolute",
    p: "0 1px",
    font: "inherit",
    fontSize: 13,
    fontWeight: 700,
    color: "text.primary",
    bgcolor: "background.default",
    border: 0,
    borderRight: 1,
    borderBottom: 1,
    borderColor: "divider",
    overflow: "hidden",
    textOverflow: "ellipsis",
    textAlign: "center",
    lineHeight: 1.1,
    cursor: "pointer",
    whiteSpace: "nowrap",
    "&:hover": { textDecoration: "underline" },
  },
  "& .span.by-row": { p: "0 4px", textAlign: "left", whiteSpace: "normal" },
  "& .span.last": { fontSize: 11, fontWeight: 400 },
  "& .span.unplanned": { fontStyle: "italic" },
} as const;

/** The key of the cell in which something lies. */
function cellKeyAt(target: EventTarget): string | null {
  return target instanceof Element ? (target.closest<HTMLElement>("[data-cell]")?.dataset["cell"] ?? null) : null;
}

/** How wide a column is: as its longest header wants, where there is empty width for it. */
function cellWidth(spans: readonly Span[][], columns: number, room: number): number {
  const wanted = Math.max(CELL_W, ...spans.flat().map((span) => (span.label.length * LETTER_W + 8) / span.count));
  const free = columns > 0 ? Math.floor(room / columns) : CELL_W;
  return Math.round(Math.max(CELL_W, Math.min(wanted, free, WIDEST_CELL)));
}

/** The inner width of an element, also when the window changes. */
function useWidth(of: RefObject<HTMLElement | null>): number {
  const [width, setWidth] = useState(0);
  useLayoutEffect(() => {
    if (!of.current) return;
    const watch = new ResizeObserver((entries) => setWidth(entries[0]?.contentRect.width ?? 0));
    watch.observe(of.current);
    return () => watch.disconnect();
  }, [of]);
  return width;
}

/** What stands beside the crossing. */
function besideWords(cells: readonly Cell[]): string {
  const parts = [
    cells.some((cell) => cell.control) ? "controls" : "",
    cells.some((cell) => cell.larger) ? "larger pieces" : "",
    cells.some((cell) => cell.key.startsWith("guest=")) ? "swatches of other studies" : "",
  ].filter(Boolean);
  const words = parts.join(", ");
  return words.charAt(0).toUpperCase() + words.slice(1);
}
