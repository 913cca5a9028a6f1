import Box from "@mui/material/Box";

import type { Lens } from "../shell/place";
import { Word } from "./word";

/** The words of the trade and of the tool that a panel is full of, in the order in which one meets them. */
const WORDS: Record<Lens, readonly string[]> = {
  plan: ["factor", "level", "control", "wof", "liquor", "repeat", "bridge", "route", "tell"],
  weigh: ["wof", "liquor", "stock", "scour", "tie", "afterbath", "buffer"],
  dye: ["vessel", "bath", "run", "tie", "stock", "exhaust"],
  read: ["sheet", "chart", "reading", "lab", "doubt", "levelness", "zone", "state"],
  fade: ["trial", "stage", "dose", "greyscale", "bluewool", "doubt"],
  compare: ["reference", "effect", "tell", "doubt", "chroma", "hue", "state"],
};

/** One line below a panel; each word explains itself. */
export function WordsHere({ lens }: { lens: Lens }) {
  return (
    <Box
      component="nav"
      aria-label="Words explained"
      sx={{ pt: 2, fontSize: 13, color: "text.secondary", lineHeight: 2 }}>
      Words here:{" "}
      {WORDS[lens].map((key, i) => (
        <span key={key}>
          {i > 0 && " · "}
          <Word of={key} />
        </span>
      ))}
    </Box>
  );
}
