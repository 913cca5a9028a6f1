import Box from "@mui/material/Box";
import Popover from "@mui/material/Popover";
import { useId, useState } from "react";
import type { ReactNode } from "react";

import { termOf } from "./glossary";

interface WordProps {
  /** Its key in the glossary. */
  of: string;
  children?: ReactNode;
}

/** A word that explains itself on touch, click or the key Enter. */
export function Word({ of, children }: WordProps) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const id = useId();
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
        sx={{ display: "inline", minWidth: "0 !important", minHeight: "0 !important", p: 0, border: 0, bgcolor: "transparent", color: "inherit", font: "inherit", textAlign: "inherit", textDecoration: "underline dotted", textUnderlineOffset: 3, cursor: "help" }}
      >
        {children ?? term.word}
      </Box>
      <Popover open={anchor !== null} anchorEl={anchor} onClose={() => setAnchor(null)} anchorOrigin={{ vertical: "bottom", horizontal: "left" }} slotProps={{ paper: { role: "dialog", "aria-labelledby": id, sx: { p: 1.5, maxWidth: 340, fontSize: 14, border: 1, borderColor: "divider" } } }}>
        <strong id={id}>{term.word}</strong>
        <div>{term.short}</div>
        {term.more && <Box sx={{ mt: 0.5 }}>{term.more}</Box>}
        <Box sx={{ mt: 1 }}>
          <a href="#/words" style={{ color: "inherit" }}>
            All words
          </a>
        </Box>
      </Popover>
    </>
  );
}
