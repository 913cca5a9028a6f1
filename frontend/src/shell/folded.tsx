import Button from "@mui/material/Button";
import { useState } from "react";
import type { ReactNode } from "react";

interface FoldedProps<T> {
  of: readonly T[];
  /** How many are shown before all are asked for. */
  at: number;
  children: (one: T) => ReactNode;
}

/** The first of many; the rest on demand, as thousands of lines take long to draw. */
export function Folded<T>({ of, at, children }: FoldedProps<T>) {
  const [all, setAll] = useState(false);
  return (
    <>
      {(all ? of : of.slice(0, at)).map(children)}
      {!all && of.length > at && (
        <Button size="small" onClick={() => setAll(true)}>
          Show all {of.length}
        </Button>
      )}
    </>
  );
}
