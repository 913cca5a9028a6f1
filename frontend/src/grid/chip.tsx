import { useTheme } from "@mui/material/styles";

import { useClothPicture } from "./cloth-pictures";

const TOOTH = 4;
const LARGE_TOOTH = 7;
/** Smaller ones show no weave: it would be finer than the screen. */
const WOVEN_FROM = 64;

const outlines = new Map<string, string>();

/** The outline of cloth cut with pinking shears. */
export function pinkedPath(width: number, height: number): string {
  const key = `${width} ${height}`;
  const there = outlines.get(key) ?? cutOutline(width, height);
  outlines.set(key, there);
  return there;
}

function cutOutline(width: number, height: number): string {
  const tooth = width < 110 ? TOOTH : LARGE_TOOTH;
  const depth = tooth / 2;
  const across = Math.max(1, Math.round((width - 2 * depth) / tooth));
  const down = Math.max(1, Math.round((height - 2 * depth) / tooth));
  const stepX = (width - 2 * depth) / across;
  const stepY = (height - 2 * depth) / down;
  const points: string[] = [];
  for (let i = 0; i < across; i++) points.push(`${depth + i * stepX},${depth}`, `${depth + (i + 0.5) * stepX},0`);
  for (let i = 0; i < down; i++)
    points.push(`${width - depth},${depth + i * stepY}`, `${width},${depth + (i + 0.5) * stepY}`);
  for (let i = across; i > 0; i--)
    points.push(`${depth + i * stepX},${height - depth}`, `${depth + (i - 0.5) * stepX},${height}`);
  for (let i = down; i > 0; i--) points.push(`${depth},${depth + i * stepY}`, `0,${depth + (i - 0.5) * stepY}`);
  return `M${points.join("L")}Z`;
}

interface ChipProps {
  /** Measured colours side by side: kept dark, exposed, washed. None: not read yet. */
  fills: readonly string[];
  /** The readings whose photos show the cloth of each colour. */
  pictures?: readonly (number | undefined)[] | undefined;
  leftOut?: boolean;
  /** Foretold, not read: drawn with a dashed edge, so that it is never taken for cloth. */
  ghost?: boolean;
  width?: number;
  height?: number;
}

/** A swatch as a chip of cloth; unread ones are plain unbleached cloth, never a made-up colour. */
export function Chip({ fills, pictures, leftOut = false, ghost = false, width = 36, height = 28 }: ChipProps) {
  const dark = useTheme().palette.mode === "dark";
  const path = pinkedPath(width, height);
  const line = dark ? "#9a9a9a" : "#8a8a8a";
  const woven = width >= WOVEN_FROM && !ghost;
  if (leftOut) {
    return (
      <svg width={width} height={height} aria-hidden>
        <path d={path} fill="none" stroke={line} strokeOpacity={0.55} strokeDasharray="1 4" />
      </svg>
    );
  }
  const [only] = fills;
  if (only && fills.length === 1 && !ghost && !woven)
    return (
      <svg width={width} height={height} aria-hidden>
        <path d={path} fill={only} />
      </svg>
    );
  return (
    <svg width={width} height={height} aria-hidden>
      {fills.length === 0 ? (
        <path d={path} fill={`url(#${weaveOf(dark)})`} />
      ) : (
        <g style={{ clipPath: `path("${path}")` }}>
          {fills.map((fill, i) => (
            <Cloth
              key={i}
              fill={fill}
              reading={woven ? pictures?.[i] : undefined}
              woven={woven}
              x={(i * width) / fills.length}
              width={width / fills.length + 0.5}
              height={height}
            />
          ))}
        </g>
      )}
      {ghost && (
        <rect
          x={1}
          y={1}
          width={width - 2}
          height={height - 2}
          fill="none"
          stroke={dark ? "#ffffff" : "#000000"}
          strokeWidth={1.5}
          strokeDasharray="3 3"
        />
      )}
    </svg>
  );
}

interface ClothProps {
  fill: string;
  reading: number | undefined;
  woven: boolean;
  x: number;
  width: number;
  height: number;
}

/** The cloth itself where a photo shows it; else its colour with a weave that leaves its mean as it is. */
function Cloth({ fill, reading, woven, x, width, height }: ClothProps) {
  const picture = useClothPicture(reading);
  return (
    <>
      <rect x={x} width={width} height={height} fill={fill} />
      {picture ? (
        <image href={picture} x={x} width={width} height={height} preserveAspectRatio="xMidYMid slice" />
      ) : (
        woven && picture === "" && <rect x={x} width={width} height={height} fill="url(#threads)" />
      )}
    </>
  );
}

const weaveOf = (dark: boolean) => (dark ? "weave-dark" : "weave-light");

/** The weave of unbleached cloth, and of cloth that no photo shows, once for all chips of the page. */
export function Weaves() {
  return (
    <svg width={0} height={0} aria-hidden style={{ position: "absolute" }}>
      <defs>
        {[true, false].map((dark) => (
          <pattern key={weaveOf(dark)} id={weaveOf(dark)} width="4" height="4" patternUnits="userSpaceOnUse">
            <rect width="4" height="4" fill={dark ? "#6b6b6b" : "#dadada"} />
            <path d="M0 2h4M2 0v4" stroke={dark ? "#7c7c7c" : "#c6c6c6"} strokeWidth="1" />
          </pattern>
        ))}
        <pattern id="threads" width="4" height="4" patternUnits="userSpaceOnUse">
          <path d="M0 0h2v2h-2zM2 2h2v2h-2z" fill="#ffffff" fillOpacity="0.05" />
          <path d="M2 0h2v2h-2zM0 2h2v2h-2z" fill="#000000" fillOpacity="0.05" />
        </pattern>
      </defs>
    </svg>
  );
}
