import { useTheme } from "@mui/material/styles";

const TOOTH = 4;

const outlines = new Map<string, string>();

/** The outline of cloth cut with pinking shears. */
function pinkedPath(width: number, height: number): string {
  const key = `${width} ${height}`;
  const there = outlines.get(key) ?? cutOutline(width, height);
  outlines.set(key, there);
  return there;
}

function cutOutline(width: number, height: number): string {
  const depth = TOOTH / 2;
  const across = Math.round((width - 2 * depth) / TOOTH);
  const down = Math.round((height - 2 * depth) / TOOTH);
  const stepX = (width - 2 * depth) / across;
  const stepY = (height - 2 * depth) / down;
  const points: string[] = [];
  for (let i = 0; i < across; i++) points.push(`${depth + i * stepX},${depth}`, `${depth + (i + 0.5) * stepX},0`);
  for (let i = 0; i < down; i++)
    points.push(`${width - depth},${depth + i * stepY}`, `${width},${depth + (i + 0.5) * stepY}`);
  for (let i = across; i > 0; i--)
    points.push(`${depth + i * stepX},${height - depth}`, `${depth + (i - 0.5) * stepX},${height}`);
  for (let i = down; i > 0; i--)
    points.push(`${depth},${depth + i * stepY}`, `0,${depth + (i - 0.5) * stepY}`);
  return `M${points.join("L")}Z`;
}

interface ChipProps {
  /** Measured colours side by side: kept dark, exposed, washed. None: not read yet. */
  fills: readonly string[];
  leftOut?: boolean;
  /** Foretold, not read: drawn with a dashed edge, so that it is never taken for cloth. */
  ghost?: boolean;
  width?: number;
  height?: number;
}

/** A swatch as a chip of cloth; unread ones are plain unbleached cloth, never a made-up colour. */
export function Chip({ fills, leftOut = false, ghost = false, width = 36, height = 28 }: ChipProps) {
  const dark = useTheme().palette.mode === "dark";
  const path = pinkedPath(width, height);
  const line = dark ? "#9a9a9a" : "#8a8a8a";
  if (leftOut) {
    return (
      <svg width={width} height={height} aria-hidden>
        <path d={path} fill="none" stroke={line} strokeDasharray="2 3" />
      </svg>
    );
  }
  const [only] = fills;
  if (only && fills.length === 1 && !ghost)
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
            <rect key={i} x={(i * width) / fills.length} width={width / fills.length + 0.5} height={height} fill={fill} />
          ))}
        </g>
      )}
      {ghost && (
        <rect x={1} y={1} width={width - 2} height={height - 2} fill="none" stroke={dark ? "#ffffff" : "#000000"} strokeWidth={1.5} strokeDasharray="3 3" />
      )}
    </svg>
  );
}

const weaveOf = (dark: boolean) => (dark ? "weave-dark" : "weave-light");

/** The weave of unbleached cloth, once for all chips of the page. */
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
      </defs>
    </svg>
  );
}
