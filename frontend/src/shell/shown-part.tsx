import Button from "@mui/material/Button";
import { useState } from "react";
import type { ReactNode } from "react";

/** Of a long list the first so many, and the button that shows as many more. */
export function useShownPart<T>(all: readonly T[], atOnce: number): [readonly T[], ReactNode] {
  const [wanted, setWanted] = useState(atOnce);
  const left = all.length - wanted;
  const more =
    left > 0 ? (
      <Button variant="outlined" onClick={() => setWanted(wanted + atOnce)} sx={{ mt: 1, minHeight: 48 }}>
        Show {Math.min(left, atOnce)} more of {left}
      </Button>
    ) : null;
  return [all.slice(0, wanted), more];
}
