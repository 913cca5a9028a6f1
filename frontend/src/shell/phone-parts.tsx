import Box from "@mui/material/Box";

import type { Lens } from "./place";

export type PhonePart = "grid" | "panel";

const PANEL_WORDS: Record<Lens, string> = {
  plan: "What is crossed",
  weigh: "Amounts",
  dye: "The step",
  read: "Photos and colours",
  fade: "Trials",
  compare: "Differences",
};

interface PhonePartsProps {
  lens: Lens;
  part: PhonePart;
  /** Something else than the grid stands in its place. */
  other: boolean;
  onChoose: (part: PhonePart) => void;
}

/** On a phone the grid and the panel have the screen to themselves, one at a time. */
export function PhoneParts({ lens, part, other, onChoose }: PhonePartsProps) {
  const parts: [PhonePart, string][] = [
    ["grid", other ? "View" : "Grid"],
    ["panel", PANEL_WORDS[lens]],
  ];
  return (
    <Box
      role="group"
      aria-label="What is shown"
      className="not-printed"
      sx={{ display: { xs: "flex", md: "none" }, flex: "none", borderBottom: 1, borderColor: "divider" }}>
      {parts.map(([key, words]) => (
        <Box
          key={key}
          component="button"
          type="button"
          aria-pressed={part === key}
          onClick={() => onChoose(key)}
          sx={{
            flex: 1,
            minHeight: 48,
            border: 0,
            borderBottom: 3,
            borderColor: part === key ? "text.primary" : "transparent",
            bgcolor: "transparent",
            color: "inherit",
            font: "inherit",
            fontWeight: part === key ? 700 : 400,
            cursor: "pointer",
          }}>
          {words}
        </Box>
      ))}
    </Box>
  );
}
