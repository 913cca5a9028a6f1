import Box from "@mui/material/Box";
import Button from "@mui/material/Button";

import type { StudyView, TrialView } from "../api/client";
import { isNamed } from "../read/colours";
import type { Colours } from "../read/colours";
import type { Lens } from "./place";

interface Missing {
  words: string;
  lens: Lens;
  button: string;
}

interface WhatIsMissingProps {
  study: StudyView;
  lens: Lens;
  colours: Colours;
  /** The colours are on their way: nothing is said yet. */
  awaited: boolean;
  trials: readonly TrialView[] | undefined;
  onGo: (lens: Lens) => void;
}

/** What a lens cannot do without and does not have yet, in a line, with the way to it. */
export function WhatIsMissing({ study, lens, colours, awaited, trials, onGo }: WhatIsMissingProps) {
  const missing = awaited ? null : missingFor(study, lens, colours, trials);
  if (!missing) return null;
  return (
    <Box
      role="note"
      className="not-printed"
      sx={{
        display: "flex",
        flexWrap: "wrap",
        alignItems: "center",
        gap: 1,
        px: 1.5,
        py: 0.5,
        borderBottom: 1,
        borderColor: "divider",
        bgcolor: "background.paper",
        flex: "none",
      }}>
      <Box sx={{ flex: "1 1 240px" }}>{missing.words}</Box>
      {missing.lens !== lens && (
        <Button variant="contained" onClick={() => onGo(missing.lens)}>
          {missing.button}
        </Button>
      )}
    </Box>
  );
}

function missingFor(
  study: StudyView,
  lens: Lens,
  colours: Colours,
  trials: readonly TrialView[] | undefined,
): Missing | null {
  const planned = study.swatches.filter((one) => one.planned).length;
  const zones = study.swatches.flatMap((one) => colours.zonesOf(one.code));
  const named = zones.filter((one) => isNamed(one.zone)).length;
  const read = named + study.swatches.filter((one) => colours.newest(one.code) !== undefined).length;
  const dyed = study.begun.length;
  if (lens === "plan") return null;
  if (study.swatches.length === 0)
    return {
      words: "Nothing is crossed yet, so there is nothing to look at here.",
      lens: "plan",
      button: "Say what to cross",
    };
  if (lens === "read" && read === 0 && dyed === 0)
    return {
      words: `None of the ${planned} swatches has been in a bath yet. Undyed cloth can be read before it is dyed.`,
      lens: "dye",
      button: "Go to the bench",
    };
  if (lens === "fade" && trials?.length === 0)
    return read === 0
      ? {
          words: "Fading is read against a piece that is kept dark: no swatch is read yet.",
          lens: "read",
          button: "Read the swatches",
        }
      : {
          words:
            "No trial has begun. Select the swatches that are to hang in the light or be washed, then start one in the panel.",
          lens: "fade",
          button: "",
        };
  if (lens === "compare" && read < 2 && zones.length > named)
    return {
      words: `${zones.length} zones are read and not named yet: select the cloths and name them.`,
      lens: "read",
      button: "Name the zones",
    };
  if (lens === "compare" && read < 2)
    return {
      words: `Two colours are needed to compare: ${read === 0 ? "none is" : "one is"} read yet.`,
      lens: "read",
      button: "Read the swatches",
    };
  return null;
}
