import { useId } from "react";

import { pinkedPath } from "../grid/chip";

interface EyeChipProps {
  fill: string;
  /** The second colour of an uneven piece. */
  blotch?: string | undefined;
  width: number;
  height: number;
}

/** A plain piece of cloth, or one that was dyed unevenly; without a weave, which would help or hinder. */
export function EyeChip({ fill, blotch, width, height }: EyeChipProps) {
  const id = useId();
  const path = pinkedPath(width, height);
  return (
    <svg
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      style={{ maxWidth: "100%", height: "auto" }}
      aria-hidden>
      <g style={{ clipPath: `path("${path}")` }}>
        <rect width={width} height={height} fill={fill} />
        {blotch && (
          <>
            <defs>
              <radialGradient id={id}>
                <stop offset="0.35" stopColor={blotch} />
                <stop offset="1" stopColor={blotch} stopOpacity="0" />
              </radialGradient>
            </defs>
            <ellipse cx={width * 0.36} cy={height * 0.44} rx={width * 0.36} ry={height * 0.42} fill={`url(#${id})`} />
            <ellipse cx={width * 0.8} cy={height * 0.72} rx={width * 0.22} ry={height * 0.3} fill={`url(#${id})`} />
          </>
        )}
      </g>
    </svg>
  );
}
