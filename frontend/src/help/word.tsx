import Box from "@mui/material/Box";
import { Suspense, lazy, useState } from "react";
import type { ReactNode } from "react";

import { termOf } from "./glossary";

const WordExplained = lazy(() => import("./word-explained").then((module) => ({ default: module.WordExplained })));

interface WordProps {
  /** Its key in the glossary. */
  of: string;
  children?: ReactNode;
}

/** A word that explains itself on touch, click or the key Enter. */
export function Word({ of, children }: WordProps) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const term = termOf(of);
  if (!term) return <>{children}</>;
  return (
    <>
      <Box
        component="button"
        type="button"
        aria-haspopup="dialog"
        aria-expanded={anchor !== null}
        title={term.short}
        onClick={(event) => {
          event.preventDefault();
          event.stopPropagation();
          setAnchor(event.currentTarget);
        }}
        sx={{
          display: "inline",
          minWidth: "0 !important",
          minHeight: "0 !important",
          p: 0,
          border: 0,
          bgcolor: "transparent",
          color: "inherit",
          font: "inherit",
          textAlign: "inherit",
          textDecoration: "underline dotted",
          textUnderlineOffset: 3,
          cursor: "help",
        }}>
        {children ?? term.word}
      </Box>
      {anchor && (
        <Suspense fallback={null}>
          <WordExplained term={term} anchor={anchor} onClose={() => setAnchor(null)} />
        </Suspense>
      )}
    </>
  );
}
