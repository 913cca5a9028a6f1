import Box from "@mui/material/Box";
import { useRef } from "react";
import type { PointerEvent } from "react";

import type { Schema } from "../api/client";

export type LaidZone = Schema["LaidZone"];
const W = 300;
const H = 200;
const HANDLE = 14;
const LEAST = 0.04;

interface LaidMapProps {
  zones: readonly LaidZone[];
  label: string;
  /** An address of a picture that lies under it. */
  picture?: string | null;
  /** Zones can be moved, and drawn larger at their corner. */
  onChange?: (zones: LaidZone[]) => void;
}

const within = (value: number, least: number, most: number) => Math.min(Math.max(value, least), most);

/** What lies where on a cloth. */
export function LaidMap({ zones, label, picture, onChange }: LaidMapProps) {
  const held = useRef<{ at: number; sizing: boolean; x: number; y: number } | null>(null);
  const place = (event: PointerEvent<SVGElement>) => {
    const box =
      event.currentTarget.ownerSVGElement?.getBoundingClientRect() ?? event.currentTarget.getBoundingClientRect();
    return { x: (event.clientX - box.left) / box.width, y: (event.clientY - box.top) / box.height };
  };
  const take = (event: PointerEvent<SVGElement>, at: number, sizing: boolean) => {
    if (!onChange) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    held.current = { at, sizing, ...place(event) };
  };
  const move = (event: PointerEvent<SVGElement>) => {
    const now = held.current;
    const zone = now && zones[now.at];
    if (!now || !zone || !onChange) return;
    const { x, y } = place(event);
    const by = { x: x - now.x, y: y - now.y };
    held.current = { ...now, x, y };
    const changed = now.sizing
      ? {
          ...zone,
          width: within(zone.width + by.x, LEAST, 1 - zone.x),
          height: within(zone.height + by.y, LEAST, 1 - zone.y),
        }
      : { ...zone, x: within(zone.x + by.x, 0, 1 - zone.width), y: within(zone.y + by.y, 0, 1 - zone.height) };
    onChange(zones.map((one, i) => (i === now.at ? changed : one)));
  };
  const drop = () => (held.current = null);
  return (
    <Box
      component="svg"
      viewBox={`0 0 ${W} ${H}`}
      role="img"
      aria-label={label}
      sx={{
        width: "100%",
        maxWidth: 460,
        border: 1,
        borderColor: "text.primary",
        bgcolor: "background.paper",
        touchAction: onChange ? "none" : "auto",
        fontSize: 11,
      }}>
      {picture && <image href={picture} width={W} height={H} preserveAspectRatio="xMidYMid slice" opacity={0.75} />}
      {zones.map((zone, i) => (
        <g key={`${zone.zone} ${i}`}>
          <rect
            data-zone={zone.zone}
            x={zone.x * W}
            y={zone.y * H}
            width={zone.width * W}
            height={zone.height * H}
            fill={picture ? "rgb(255 255 255 / 0.45)" : "rgb(127 127 127 / 0.18)"}
            stroke="currentColor"
            strokeDasharray="5 3"
            style={{ cursor: onChange ? "move" : "default" }}
            onPointerDown={(event) => take(event, i, false)}
            onPointerMove={move}
            onPointerUp={drop}
          />
          <foreignObject
            x={zone.x * W + 2}
            y={zone.y * H + 2}
            width={Math.max(1, zone.width * W - 4)}
            height={Math.max(1, zone.height * H - 4)}
            style={{ pointerEvents: "none" }}>
            <div
              style={{
                fontSize: 10,
                lineHeight: 1.1,
                overflow: "hidden",
                height: "100%",
                color: picture ? "#000" : "inherit",
              }}>
              {zone.zone}
            </div>
          </foreignObject>
          {onChange && (
            <rect
              x={(zone.x + zone.width) * W - HANDLE}
              y={(zone.y + zone.height) * H - HANDLE}
              width={HANDLE}
              height={HANDLE}
              fill="currentColor"
              opacity={0.55}
              style={{ cursor: "nwse-resize" }}
              onPointerDown={(event) => take(event, i, true)}
              onPointerMove={move}
              onPointerUp={drop}
            />
          )}
        </g>
      ))}
    </Box>
  );
}
