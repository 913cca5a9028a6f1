import Box from "@mui/material/Box";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useCallback, useLayoutEffect, useMemo, useRef } from "react";
import type { KeyboardEvent, MouseEvent, ReactNode } from "react";

import type { GridCell as Cell, StudyView } from "../api/client";
import { inARow, spansOf } from "./axes";
import type { Axes, Span } from "./axes";
import { SCROLLBAR, columnWidth, fittedCell, flowWidth, measuresOf, useChosenWidth, wholeWidth } from "./cell-size";
import { ChosenOutline } from "./chosen-outline";
import { ControlsStrip } from "./controls-strip";
import { GridBar } from "./grid-bar";
import { CELL_LOOK, GRADUAL, GridCell } from "./grid-cell";
import { spotId } from "./spot-id";
import type { Face } from "./grid-cell";
import { HEAD_LOOK, Head, columnHeads, rowHeads } from "./grid-headers";
import { onGridKey } from "./grid-keys";
import { useGridPointer, usePinch } from "./grid-pointer";
import { useFocusInSight, useSteadyResize } from "./grid-room";
import { useRoom } from "../shell/room";
import { isLooking } from "./find-in-grid";
import type { Looking } from "./find-in-grid";
import { useMarks } from "./marks";
import type { Selection, Spot } from "./selection";

const LOW = 520;

interface GridProps {
  study: StudyView;
  axes: Axes;
  selection: Selection;
  faceOf: (cell: Cell) => Face;
  looking: Looking;
  setLooking: (looking: Looking) => void;
  /** What was found, in the order that was asked for. */
  found: readonly Cell[];
  /** Opens the record of a cell's swatch. */
  onOpen: (cell: Cell) => void;
  /** What can be done with what is chosen. */
  actions: ReactNode;
  /** Colours go over into each other, as from one stage of fading to the next. */
  gradual?: boolean;
}

/** The one grid that every lens looks at; only what is visible is drawn, as large as there is room for. */
export function StudyGrid({
  study,
  axes: crossed,
  selection,
  faceOf,
  looking,
  setLooking,
  found,
  onOpen,
  actions,
  gradual = false,
}: GridProps) {
  const frame = useRef<HTMLDivElement>(null);
  const scroller = useRef<HTMLDivElement>(null);
  const room = useRoom(frame);
  const [chosenWidth, chooseWidth] = useChosenWidth();
  const flowing = looking.order !== "crossed";
  const rowSpans = useMemo(() => (flowing ? [] : spansOf(crossed.rows)), [crossed, flowing]);
  const columnSpans = useMemo(() => (flowing ? [] : spansOf(crossed.columns)), [crossed, flowing]);
  const added = flowing ? [] : crossed.added;

  const low = room.height < LOW;
  const stripHeight = added.length === 0 ? 0 : low ? 52 : 118;
  const mostHeadW = room.width < 560 ? 74 : 170;
  const roomFor = useCallback(
    (width: number) => {
      const heads = columnHeads(columnSpans, width).reduce((sum, head) => sum + head.height, 0);
      const sides = rowHeads(rowSpans, measuresOf(width).height, mostHeadW).reduce((sum, own) => sum + own, 0);
      return { width: room.width - sides - 2, height: room.height - heads - stripHeight - SCROLLBAR };
    },
    [columnSpans, rowSpans, mostHeadW, room, stripHeight],
  );
  const fitted = useMemo(
    () =>
      flowing
        ? { width: flowWidth(room, found.length) }
        : fittedCell(roomFor(120), crossed.rows.length, crossed.columns.length),
    [flowing, room, found.length, roomFor, crossed],
  );
  const wholeAt = flowing ? fitted.width : wholeWidth(roomFor(24), crossed.rows.length, crossed.columns.length);
  const width = chosenWidth ?? fitted.width;
  const shape = chosenWidth === null && "shape" in fitted ? fitted.shape : undefined;
  const measures = useMemo(() => measuresOf(width, shape), [width, shape]);
  const perRow = Math.max(1, Math.floor((room.width - SCROLLBAR) / width));
  const axes = useMemo(() => (flowing ? inARow(found, perRow) : crossed), [flowing, found, perRow, crossed]);
  useLayoutEffect(() => selection.lay(axes), [selection, axes]);
  const isFound = useMemo(() => new Set(found.map((cell) => cell.key)), [found]);

  const headWidths = rowHeads(rowSpans, measures.height, mostHeadW);
  const headWidth = sumOf(headWidths);
  const cellW = flowing ? width : columnWidth(width, columnSpans, axes.columns.length, room.width - headWidth - 2);
  const heads = columnHeads(columnSpans, cellW);
  const headHeight = sumOf(heads.map((head) => head.height));
  const rows = useVirtualizer({
    count: axes.rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => measures.height,
    overscan: 4,
  });
  const columns = useVirtualizer({
    horizontal: true,
    count: axes.columns.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => cellW,
    overscan: 6,
  });
  const [measureRows, measureColumns] = [rows.measure, columns.measure];
  useLayoutEffect(measureColumns, [cellW, measureColumns]);
  useLayoutEffect(measureRows, [measures.height, measureRows]);

  const resize = useSteadyResize(scroller, { headWidth, headHeight, cellW, cellH: measures.height }, chooseWidth);
  usePinch(scroller, width, resize);
  useFocusInSight(scroller, selection, { headWidth, headHeight, cellW, cellH: measures.height });

  const chooseSpan = (byRow: boolean, from: number, count: number) => {
    const chosen: string[] = [];
    for (let i = from; i < from + count; i++)
      for (let j = 0; j < (byRow ? axes.columns : axes.rows).length; j++) {
        const cell = byRow ? axes.cellAt(i, j) : axes.cellAt(j, i);
        if (cell) chosen.push(cell.key);
      }
    selection.replace(chosen);
  };
  const chooseHead = (spot: Spot) => {
    const byRow = spot.column < 0;
    const spans = byRow ? rowSpans[rowSpans.length + spot.column] : columnSpans[columnSpans.length + spot.row];
    const at = byRow ? spot.row : spot.column;
    const span = spans?.find((one) => at >= one.from && at < one.from + one.count);
    if (!span) return;
    chooseSpan(byRow, span.from, span.count);
    selection.moveTo(spot, "stay");
  };
  const open = (key: string) => {
    const cell = study.grid.cells.find((one) => one.key === key);
    if (cell && cell.swatches.length > 0) onOpen(cell);
  };
  const pointer = useGridPointer(selection, open);
  const onClick = (event: MouseEvent) => {
    const span =
      event.target instanceof Element
        ? event.target.closest<HTMLElement>("[data-span]")?.dataset["span"]?.split(" ")
        : undefined;
    if (span) chooseSpan(span[0] === "row", Number(span[1]), Number(span[2]));
    else pointer.onClick(event);
  };
  const onKey = (event: KeyboardEvent) => {
    const rowsInSight = Math.max(1, Math.floor((room.height - headHeight - stripHeight) / measures.height));
    if (
      onGridKey(event, {
        axes,
        selection,
        depth: { rows: rowSpans.length, columns: columnSpans.length },
        rowsInSight,
        chooseHead,
        open,
      })
    )
      event.preventDefault();
  };
  const next = () => {
    const keys = found.map((cell) => cell.key).filter((key) => axes.placeOf.has(key));
    const key = keys[(keys.indexOf(selection.focusedKey() ?? "") + 1) % Math.max(1, keys.length)];
    if (key !== undefined) selection.only(key);
  };
  const visible = rows.getVirtualItems();
  const firstRow = visible[0]?.index ?? 0;
  // Where the span of a keyboard's place begins, as one header stands for all of them.
  useMarks(frame, scroller, selection, (focus) => spotId(...startOfSpan(focus, rowSpans, columnSpans, firstRow)));

  return (
    <Box sx={{ display: "flex", flexDirection: "column", minHeight: 0, height: "100%" }}>
      <GridBar
        looking={looking}
        setLooking={setLooking}
        found={found.length}
        all={study.grid.cells.length}
        onNext={next}
        onChooseFound={() => selection.replace(found.map((cell) => cell.key))}
        width={width}
        fitted={chosenWidth === null}
        setWidth={chooseWidth}
        wholeAt={wholeAt}>
        {actions}
      </GridBar>
      <Box ref={frame} sx={{ display: "flex", flexDirection: "column", minHeight: 0, flex: 1 }}>
        <Box
          ref={scroller}
          role="grid"
          aria-label="Swatches"
          aria-multiselectable
          aria-rowcount={axes.rows.length + columnSpans.length}
          aria-colcount={axes.columns.length + rowSpans.length}
          tabIndex={0}
          onKeyDown={onKey}
          {...pointer}
          onClick={onClick}
          sx={{
            overflow: "auto",
            flex: "0 1 auto",
            minHeight: 120,
            userSelect: "none",
            touchAction: "pan-x pan-y",
            outlineOffset: -2,
            ...CELL_LOOK,
            ...HEAD_LOOK,
            ...(gradual && GRADUAL),
          }}>
          <Box
            role="presentation"
            sx={{ position: "relative" }}
            style={{ width: headWidth + columns.getTotalSize(), height: headHeight + rows.getTotalSize() }}>
            <ChosenOutline
              selection={selection}
              axes={axes}
              left={headWidth}
              top={headHeight}
              cellW={cellW}
              cellH={measures.height}
            />
            {columnSpans.map((spans, d) => (
              <Box
                key={d}
                role="row"
                aria-rowindex={d + 1}
                sx={{ position: "sticky", zIndex: 3, bgcolor: "background.default" }}
                style={{ top: sumOf(heads.slice(0, d).map((head) => head.height)), height: heads[d]?.height }}>
                <Box
                  role="presentation"
                  sx={{ position: "sticky", left: 0, height: "100%", zIndex: 1, bgcolor: "background.default" }}
                  style={{ width: headWidth }}
                />
                {spans.map((span) => (
                  <Head
                    key={span.from}
                    span={span}
                    selection={selection}
                    row={d - columnSpans.length}
                    column={span.from}
                    byRow={false}
                    innermost={d === columnSpans.length - 1}
                    upright={heads[d]?.upright ?? false}
                    style={{
                      left: headWidth + span.from * cellW,
                      width: span.count * cellW,
                      top: 0,
                      height: heads[d]?.height,
                    }}
                    stays={{ left: headWidth, right: 0 }}
                  />
                ))}
              </Box>
            ))}
            {(room.width > 0 ? visible : []).map((row) => (
              <Box
                key={row.index}
                role="row"
                aria-rowindex={row.index + columnSpans.length + 1}
                sx={{ position: "absolute", left: 0, width: "100%" }}
                style={{ top: headHeight + row.start, height: measures.height }}>
                {rowSpans.length > 0 && (
                  <Box
                    role="presentation"
                    sx={{ position: "sticky", left: 0, height: "100%", zIndex: 2, pointerEvents: "none" }}
                    style={{ width: headWidth }}>
                    {rowSpans.map((spans, d) =>
                      spans
                        .filter(
                          (span) =>
                            span.from === row.index ||
                            (row.index === firstRow && span.from < row.index && span.from + span.count > row.index),
                        )
                        .map((span) => (
                          <Head
                            key={d}
                            span={span}
                            selection={selection}
                            row={row.index}
                            column={d - rowSpans.length}
                            byRow
                            innermost={d === rowSpans.length - 1}
                            style={{
                              top: (span.from - row.index) * measures.height,
                              height: span.count * measures.height,
                              left: sumOf(headWidths.slice(0, d)),
                              width: headWidths[d],
                            }}
                            stays={{ top: headHeight + 4, bottom: 0 }}
                          />
                        )),
                    )}
                  </Box>
                )}
                {columns.getVirtualItems().map((column) => {
                  const cell = axes.cellAt(row.index, column.index);
                  return cell ? (
                    <GridCell
                      key={cell.key}
                      study={study}
                      cell={cell}
                      face={faceOf(cell)}
                      selection={selection}
                      row={row.index}
                      column={column.index}
                      left={headWidth + column.start}
                      width={cellW}
                      measures={measures}
                      unfound={isLooking(looking) && !isFound.has(cell.key)}
                    />
                  ) : null;
                })}
              </Box>
            ))}
          </Box>
        </Box>
        {flowing && found.length === 0 && <Box sx={{ p: 2 }}>No swatch is like that.</Box>}
        {added.length > 0 && (
          <ControlsStrip
            study={study}
            added={added}
            selection={selection}
            faceOf={faceOf}
            unfound={(cell) => isLooking(looking) && !isFound.has(cell.key)}
            pointer={pointer}
            onOpen={open}
            low={low}
          />
        )}
      </Box>
    </Box>
  );
}

const sumOf = (numbers: readonly number[]): number => numbers.reduce((sum, one) => sum + one, 0);

/** The place of the header that a place within its span belongs to. */
function startOfSpan(
  spot: Spot,
  rowSpans: readonly Span[][],
  columnSpans: readonly Span[][],
  firstRow: number,
): [number, number] {
  const within = (spans: readonly Span[] | undefined, at: number) =>
    spans?.find((span) => at >= span.from && at < span.from + span.count)?.from ?? at;
  if (spot.column < 0)
    return [Math.max(firstRow, within(rowSpans[rowSpans.length + spot.column], spot.row)), spot.column];
  if (spot.row < 0) return [spot.row, within(columnSpans[columnSpans.length + spot.row], spot.column)];
  return [spot.row, spot.column];
}
