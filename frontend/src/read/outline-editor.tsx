import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useRef, useState } from "react";
import type { KeyboardEvent, PointerEvent } from "react";

import type { Photo, Schema } from "../api/client";
import { ProblemNote } from "../shell/said";
import { pointsOf } from "./marked-photo";
import type { Cell } from "./wanted-cells";

type Point = [number, number];
interface Shape {
  name: string;
  points: Point[];
  leftOut: boolean;
}

const STEP_PX = 2;
const FAR_STEP_PX = 12;
const MOST_POINTS = 24;

interface OutlineEditorProps {
  photo: Photo;
  cell: Cell;
  pending: boolean;
  error: unknown;
  onMeasure: (said: Schema["CellByHand"]) => void;
  onCancel: () => void;
}

/** Outlines of a piece and its zones over the photo, moved and drawn with mouse, finger or arrow keys. */
export function OutlineEditor({ photo, cell, pending, error, onMeasure, onCancel }: OutlineEditorProps) {
  const [shapes, setShapes] = useState<Shape[]>(() => shapesOf(cell, photo));
  const [chosen, setChosen] = useState(0);
  const [drawn, setDrawn] = useState<Point[] | null>(() => (shapes.length === 0 ? [] : null));
  const [drawsOut, setDrawsOut] = useState(false);
  const [moving, setMoving] = useState<number | null>(null);
  const svg = useRef<SVGSVGElement>(null);
  const box = boxAround(cell, photo);
  const radius = box.size / 60;
  const shape = shapes[chosen];

  const at = (event: PointerEvent): Point => {
    const frame = svg.current?.getBoundingClientRect();
    if (!frame) return [0, 0];
    return [
      box.x + ((event.clientX - frame.left) / frame.width) * box.w,
      box.y + ((event.clientY - frame.top) / frame.height) * box.h,
    ];
  };
  const setPoints = (points: Point[]) =>
    setShapes((old) => old.map((one, i) => (i === chosen ? { ...one, points } : one)));
  const movePoint = (index: number, point: Point) =>
    shape && setPoints(shape.points.map((one, i) => (i === index ? point : one)));
  const close = () => {
    if (drawn && drawn.length > 2) {
      setShapes((old) => [...old, { name: "", points: drawn, leftOut: drawsOut }]);
      setChosen(shapes.length);
    }
    setDrawn(null);
  };
  const onKey = (event: KeyboardEvent, index: number) => {
    const far = event.shiftKey ? FAR_STEP_PX : STEP_PX;
    const steps: Record<string, Point> = {
      ArrowLeft: [-far, 0],
      ArrowRight: [far, 0],
      ArrowUp: [0, -far],
      ArrowDown: [0, far],
    };
    const step = steps[event.key];
    const point = shape?.points[index];
    if (step && point) {
      event.preventDefault();
      event.stopPropagation();
      movePoint(index, [point[0] + step[0], point[1] + step[1]]);
    } else if (event.key === "Delete" && shape && shape.points.length > 3) {
      setPoints(shape.points.filter((_, i) => i !== index));
    }
  };
  const areas = shapes.filter((one) => !one.leftOut);
  return (
    <Box role="group" aria-label={`Outlines in cell ${cell.cell}`} sx={{ fontSize: 13 }}>
      <Box sx={{ mb: 1 }}>
        {drawn
          ? "Click round the part, point by point; then close it."
          : "Drag the round handles, or move to one with Tab and push it with the arrow keys; Delete takes it out. A click on an edge adds one."}
      </Box>
      <Box
        component="svg"
        ref={svg}
        viewBox={`${box.x} ${box.y} ${box.w} ${box.h}`}
        sx={{
          width: "100%",
          maxHeight: "56vh",
          bgcolor: "#777",
          touchAction: "none",
          cursor: drawn ? "crosshair" : "default",
        }}
        onPointerDown={(event: PointerEvent) => drawn && setDrawn([...drawn, at(event)])}
        onPointerMove={(event: PointerEvent) => moving !== null && movePoint(moving, at(event))}
        onPointerUp={() => setMoving(null)}
        data-testid="outlines">
        <image
          href={`/api/photos/${photo.id}/image?width=2400`}
          width={photo.measurement.photo_size_px[0]}
          height={photo.measurement.photo_size_px[1]}
        />
        {shapes.map((one, i) => (
          <polygon
            key={i}
            points={pointsOf(one.points)}
            fill={one.leftOut ? "rgba(0,0,0,0.5)" : "transparent"}
            stroke="#fff"
            strokeWidth={radius / (i === chosen ? 2 : 4)}
            strokeDasharray={one.leftOut ? radius : undefined}
            onPointerDown={(event: PointerEvent) => {
              if (drawn) return;
              if (i === chosen) setPoints(withPoint(one.points, at(event)));
              else setChosen(i);
            }}
          />
        ))}
        {drawn && <polyline points={pointsOf(drawn)} fill="none" stroke="#fff" strokeWidth={radius / 2} />}
        {!drawn &&
          shape?.points.map(([x, y], i) => (
            <circle
              key={i}
              cx={x}
              cy={y}
              r={radius}
              fill="#fff"
              stroke="#000"
              strokeWidth={radius / 4}
              tabIndex={0}
              role="button"
              aria-label={`Point ${i + 1}`}
              onKeyDown={(event) => onKey(event, i)}
              onPointerDown={(event) => {
                event.stopPropagation();
                event.currentTarget.setPointerCapture(event.pointerId);
                setMoving(i);
              }}
              onPointerMove={(event) => moving === i && movePoint(i, at(event))}
              onPointerUp={() => setMoving(null)}
            />
          ))}
      </Box>
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, mt: 1 }}>
        {drawn ? (
          <>
            <Button variant="contained" disabled={drawn.length < 3} onClick={close}>
              Close the outline
            </Button>
            <Button onClick={() => setDrawn(null)}>Drop it</Button>
          </>
        ) : (
          <>
            <Button
              variant="outlined"
              color="secondary"
              onClick={() => {
                setDrawsOut(false);
                setDrawn([]);
              }}>
              Draw a part
            </Button>
            <Button
              variant="outlined"
              color="secondary"
              onClick={() => {
                setDrawsOut(true);
                setDrawn([]);
              }}>
              Leave a part out
            </Button>
            {shape && (
              <Button
                variant="outlined"
                color="secondary"
                onClick={() => {
                  setShapes(shapes.filter((_, i) => i !== chosen));
                  setChosen(0);
                }}>
                Take this outline away
              </Button>
            )}
          </>
        )}
      </Box>
      {shapes.map((one, i) => (
        <Box key={i} sx={{ display: "flex", gap: 1, mt: 1, alignItems: "center" }}>
          <Button
            size="small"
            variant={i === chosen ? "contained" : "outlined"}
            color="secondary"
            onClick={() => setChosen(i)}>
            {one.leftOut ? "left out" : `part ${areas.indexOf(one) + 1}`}
          </Button>
          {!one.leftOut && (
            <TextField
              size="small"
              label={`Name of part ${areas.indexOf(one) + 1}`}
              value={one.name}
              onChange={(event) => setShapes(shapes.map((s, k) => (k === i ? { ...s, name: event.target.value } : s)))}
            />
          )}
        </Box>
      ))}
      <ProblemNote error={error} />
      <Box sx={{ display: "flex", gap: 1, mt: 1.5 }}>
        <Button
          variant="contained"
          disabled={pending || drawn !== null || shapes.length === 0}
          onClick={() =>
            onMeasure({
              cell: cell.cell,
              zone_count: 0,
              areas: areas.map(({ name, points }) => ({ name, outline_px: points })),
              left_out: shapes.filter((one) => one.leftOut).map((one) => one.points),
              empty: false,
              opaque: false,
            })
          }>
          Measure these
        </Button>
        <Button onClick={onCancel}>Leave it as it was</Button>
      </Box>
    </Box>
  );
}

function shapesOf(cell: Cell, photo: Photo): Shape[] {
  const said = photo.measurement.by_hand?.find((one) => one.cell === cell.cell);
  const kept = (said?.left_out ?? []).map((points): Shape => ({ name: "", points: points, leftOut: true }));
  if (said?.areas?.length)
    return [
      ...said.areas.map((area): Shape => ({ name: area.name ?? "", points: area.outline_px, leftOut: false })),
      ...kept,
    ];
  const zones = cell.zones ?? [];
  const outlines = zones.length > 1 ? zones.map((zone) => zone.outline_px) : [cell.outline_px ?? []];
  const found = outlines.filter((outline) => outline.length > 2);
  return [...found.map((outline): Shape => ({ name: "", points: thinned(outline), leftOut: false })), ...kept];
}

function thinned(points: Point[]): Point[] {
  const every = Math.ceil(points.length / MOST_POINTS);
  return points.filter((_, i) => i % every === 0);
}

/** The outline with a point added on the edge that lies closest. */
function withPoint(points: Point[], point: Point): Point[] {
  const away = (i: number) => {
    const [ax, ay] = points[i] ?? point;
    const [bx, by] = points[(i + 1) % points.length] ?? point;
    const along = Math.max(
      0,
      Math.min(1, ((point[0] - ax) * (bx - ax) + (point[1] - ay) * (by - ay)) / ((bx - ax) ** 2 + (by - ay) ** 2 || 1)),
    );
    return Math.hypot(point[0] - ax - along * (bx - ax), point[1] - ay - along * (by - ay));
  };
  const nearest = points.map((_, i) => i).reduce((best, i) => (away(i) < away(best) ? i : best), 0);
  return [...points.slice(0, nearest + 1), point, ...points.slice(nearest + 1)];
}

/** The part of the photo that is shown: around what was found, or around where the cell is printed. */
function boxAround(cell: Cell, photo: Photo) {
  const [width, height] = photo.measurement.photo_size_px;
  const points = cell.outline_px ?? [];
  const known: Point[] =
    points.length > 2
      ? points
      : [
          [0, 0],
          [width, height],
        ];
  const xs = known.map(([x]) => x);
  const ys = known.map(([, y]) => y);
  const w = Math.max(...xs) - Math.min(...xs);
  const h = Math.max(...ys) - Math.min(...ys);
  const rim = points.length < 3 ? 0 : photo.sheet.sheet.kind === "none" ? 0.6 : 0.15;
  return {
    x: Math.min(...xs) - rim * w,
    y: Math.min(...ys) - rim * h,
    w: w * (1 + 2 * rim),
    h: h * (1 + 2 * rim),
    size: Math.max(w, h),
  };
}
