import Box from "@mui/material/Box";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { KeyboardEvent, MouseEvent } from "react";

import { answered, api } from "../api/client";
import { fileForm, fileKey } from "../api/file-form";
import { usePictureUrl } from "./picture-url";
import { ProblemNote } from "./said";

/** A place in a photo, as shares of its width and height. */
export type Place = readonly [number, number];

interface TappedPhotoProps {
  file: File;
  alt: string;
  onTap: (place: Place) => void;
  /** Outlines of what was measured, in pixels of a photo of this size. */
  outlines?: readonly (readonly (readonly [number, number])[])[];
  sizePx?: readonly [number, number] | undefined;
  /** What was tapped so far. */
  tapped?: readonly Place[];
}

const STEP = 0.01;
const FAR_STEP = 0.05;
const STEPS: Record<string, Place> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

/** A photo in which a place is tapped, or gone to with the arrow keys and taken with Enter. */
export function TappedPhoto({ file, alt, onTap, outlines = [], sizePx, tapped = [] }: TappedPhotoProps) {
  const [unknownHere, setUnknownHere] = useState(false);
  const [cross, setCross] = useState<Place | null>(null);
  // Browsers show neither raw files nor all that phones take: then the server makes a picture of it.
  const made = useQuery({
    queryKey: ["picture for the screen", fileKey(file)],
    enabled: unknownHere,
    retry: false,
    gcTime: 0,
    queryFn: () => answered(api.POST("/api/find/photo/image", { ...fileForm("photo", file), parseAs: "blob" })),
  });
  const own = usePictureUrl(file);
  const drawn = usePictureUrl(made.data);
  const shown = unknownHere ? drawn : own;
  const onClick = (event: MouseEvent<HTMLElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    onTap([(event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height]);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const step = STEPS[event.key];
    const by = event.shiftKey ? FAR_STEP : STEP;
    const [x, y] = cross ?? [0.5, 0.5];
    if (event.key === "Enter" && cross) onTap(cross);
    else if (step) setCross([within(x + by * step[0]), within(y + by * step[1])]);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const [width, height] = sizePx ?? [1, 1];
  return (
    <Box sx={{ my: 1 }}>
      {made.isFetching && <div role="status">Opening the photo</div>}
      {shown && (
        <Box
          role="application"
          aria-label={`${alt}: arrow keys move a cross, Enter takes the place`}
          tabIndex={0}
          onClick={onClick}
          onKeyDown={onKeyDown}
          sx={{ position: "relative", cursor: "crosshair", lineHeight: 0 }}>
          <Box
            component="img"
            src={shown}
            alt={alt}
            onError={() => setUnknownHere(true)}
            sx={{ width: "100%", display: "block" }}
          />
          <Box
            component="svg"
            aria-hidden
            viewBox={`0 0 ${width} ${height}`}
            preserveAspectRatio="none"
            sx={{ position: "absolute", inset: 0, width: "100%", height: "100%", pointerEvents: "none", filter: EDGE }}>
            {outlines.map((points, i) => (
              <polygon key={i} points={points.join(" ")} {...LINE} stroke="#fff" />
            ))}
          </Box>
          {[...tapped, ...(cross ? [cross] : [])].map(([x, y], i) => (
            <Box key={i} aria-hidden sx={{ ...DOT, left: `${100 * x}%`, top: `${100 * y}%` }} />
          ))}
        </Box>
      )}
      <ProblemNote error={made.error} />
    </Box>
  );
}

const LINE = { fill: "none", strokeWidth: 2, vectorEffect: "non-scaling-stroke" } as const;
// White lines are seen on white paper too.
const EDGE = "drop-shadow(0 0 1px #000)";
const DOT = {
  position: "absolute",
  width: 12,
  height: 12,
  m: "-6px",
  borderRadius: "50%",
  border: "2px solid #fff",
  outline: "1px solid #000",
} as const;

const within = (share: number) => Math.max(0, Math.min(1, share));
