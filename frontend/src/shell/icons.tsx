import type { ReactNode } from "react";

/** Signs of the trade, drawn as with a thread: one line, round ends. */
function Sign({ children, size = 22 }: { children: ReactNode; size?: number | undefined }) {
  return (
    <svg
      width={size}
      height={size}
      viewBox="0 0 24 24"
      fill="none"
      stroke="currentColor"
      strokeWidth={1.8}
      strokeLinecap="round"
      strokeLinejoin="round"
      aria-hidden
      style={{ flex: "none" }}>
      {children}
    </svg>
  );
}

interface SignProps {
  size?: number;
}

/** Warp and weft, over and under. */
export const Crossing = ({ size }: SignProps) => (
  <Sign size={size}>
    <path d="M8 3v4M8 10v11M16 3v11M16 17v4M3 8.5h11M17 8.5h4M3 15.5h4M10 15.5h11" />
  </Sign>
);

/** A pan that hangs from a beam. */
export const Pan = ({ size }: SignProps) => (
  <Sign size={size}>
    <path d="M4 5h16M12 3v4M12 7l-6 9M12 7l6 9M4 16h16c-.6 3-3.800 4.500-8 4.500S4.600 19 4 16z" />
  </Sign>
);

/** A dye pot that steams. */
export const Pot = ({ size }: SignProps) => (
  <Sign size={size}>
    <path d="M4 11h16M5.500 11v6.500A3.500 3.500 0 0 0 9 21h6a3.500 3.500 0 0 0 3.500-3.500V11M3 13.500h2.500M18.500 13.500H21M9 8c-1.300-1.400 1.300-2.600 0-4.500M15 8c-1.300-1.400 1.300-2.600 0-4.500" />
  </Sign>
);

/** A pinked piece under a corner marker. */
export const Seen = ({ size }: SignProps) => (
  <Sign size={size}>
    <path d="M3 7V3h4M17 3h4v4M21 17v4h-4M7 21H3v-4" />
    <path d="M7.500 7.500l1.500-1 1.500 1 1.500-1 1.500 1 1.500-1 1.500 1v9l-1.500 1-1.500-1-1.500 1-1.500-1-1.500 1-1.500-1z" />
  </Sign>
);

/** A sun over cloth of which half is covered. */
export const Sun = ({ size }: SignProps) => (
  <Sign size={size}>
    <circle cx="12" cy="8" r="3.200" />
    <path d="M12 1.800v1M5.800 8h-1M19.200 8h-1M7.600 3.600l.7.700M16.400 3.600l-.7.700M4 14.500h16v6H4zM12 14.500v6" />
    <path d="M14.500 18.500l3-3M17 19.500l2-2" strokeWidth={1.2} />
  </Sign>
);

/** Two pieces side by side, one over the other. */
export const Beside = ({ size }: SignProps) => (
  <Sign size={size}>
    <path d="M4 4h10v10H4z" />
    <path d="M14 10h6v10H10v-6" strokeDasharray="2.500 2" />
  </Sign>
);

/** A knot in a tie: what is due. */
export const Knot = ({ size }: SignProps) => (
  <Sign size={size}>
    <path d="M2.500 12c4 0 5-5 9-5s4 6 .5 6.500S8 8 12 6.500M21.500 12c-4 0-5 5-9 5s-4.500-4-2.500-6" />
  </Sign>
);

/** A jar with a lid. */
export const Jar = ({ size }: SignProps) => (
  <Sign size={size}>
    <path d="M7 3h10v3H7zM8 6c0 2-2.500 2.500-2.500 5v8A2 2 0 0 0 7.500 21h9a2 2 0 0 0 2-2v-8c0-2.500-2.500-3-2.500-5M5.500 13h13" />
  </Sign>
);

/** A chest. */
export const Chest = ({ size }: SignProps) => (
  <Sign size={size}>
    <path d="M3.500 10V8.500A3.500 3.500 0 0 1 7 5h10a3.500 3.500 0 0 1 3.500 3.500V10zM3.500 10v9h17v-9M10.500 10v3.500h3V10" />
  </Sign>
);

/** A drop. */
export const Drop = ({ size }: SignProps) => (
  <Sign size={size}>
    <path d="M12 3c3.500 4.500 6 7.500 6 11a6 6 0 0 1-12 0c0-3.500 2.500-6.500 6-11zM9 14.500a3 3 0 0 0 3 3" />
  </Sign>
);
