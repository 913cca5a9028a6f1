import Box from "@mui/material/Box";

import { dayWords } from "../shell/dates";
import { keptEye } from "./eye-queries";

/** Where one rates by eye: how well that eye sees, as it was found last, or where that is found. */
export function EyeNote() {
  const kept = keptEye();
  return (
    <Box sx={{ fontSize: 12, color: "text.secondary", my: 0.5 }}>
      {kept ? `Your eye on ${dayWords(kept.on)}: ${kept.result.words.slice(0, 2).join(" ")} ` : "Rating by eye? "}
      <a href="#/trainer" style={{ color: "inherit" }}>
        {kept ? "Train it again" : "Five minutes tell how small a difference you see"}
      </a>
    </Box>
  );
}
