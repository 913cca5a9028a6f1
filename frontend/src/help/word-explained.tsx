import Box from "@mui/material/Box";
import Popover from "@mui/material/Popover";
import { useId } from "react";

import type { Term } from "./glossary";

/** What a word means, below it. */
export function WordExplained({ term, anchor, onClose }: { term: Term; anchor: HTMLElement; onClose: () => void }) {
  const id = useId();
  return (
    <Popover
      open
      anchorEl={anchor}
      onClose={onClose}
      anchorOrigin={{ vertical: "bottom", horizontal: "left" }}
      slotProps={{
        paper: {
          role: "dialog",
          "aria-labelledby": id,
          sx: { p: 1.5, maxWidth: 340, fontSize: 14, border: 1, borderColor: "divider" },
        },
      }}>
      <strong id={id}>{term.word}</strong>
      <div>{term.short}</div>
      {term.more && <Box sx={{ mt: 0.5 }}>{term.more}</Box>}
      <Box sx={{ mt: 1 }}>
        <a href="#/words" style={{ color: "inherit" }}>
          All words
        </a>
      </Box>
    </Popover>
  );
}
