import Box from "@mui/material/Box";
import Button from "@mui/material/Button";

import type { StudyView } from "../api/client";
import { Chip } from "../grid/chip";
import type { Colours } from "../read/colours";
import { hueOf } from "../read/colours";

interface EmptyTableProps {
  study: StudyView;
  colours: Colours;
  onLay: (keys: string[]) => void;
}

const EXAMPLE = 8;

/** Nothing is laid yet: how to, and some colours of the study to begin with. */
export function EmptyTable({ study, colours, onLay }: EmptyTableProps) {
  const some = spreadByHue(study, colours);
  return (
    <Box sx={{ p: 3, maxWidth: 700 }}>
      <Box sx={{ mb: 2 }}>
        Nothing is laid yet. Select swatches in the grid and press “Lay the selected”, or find any swatch, stage,
        control or cloth of any study by its code, recipe or colour in the panel.
      </Box>
      {some.length > 1 && (
        <>
          <Box aria-hidden sx={{ display: "flex", flexWrap: "wrap", gap: 1, mb: 1.5 }}>
            {some.map((one) => (
              <Chip key={one.key} fills={[one.hex]} width={60} height={46} />
            ))}
          </Box>
          <Button variant="contained" sx={{ minHeight: 48 }} onClick={() => onLay(some.map((one) => one.key))}>
            Lay these {some.length}, from hue to hue
          </Button>
        </>
      )}
    </Box>
  );
}

/** Colours from all around the study, so that the first table shows something. */
function spreadByHue(study: StudyView, colours: Colours): { key: string; hex: string }[] {
  const read = study.swatches.flatMap(({ code }) => {
    const colour = colours.newest(code);
    return colour ? [{ key: `${code}@${colour.run}`, hex: colour.hex, hue: hueOf(colour.lab) }] : [];
  });
  read.sort((one, other) => one.hue - other.hue);
  const step = Math.max(1, read.length / EXAMPLE);
  return Array.from({ length: Math.min(EXAMPLE, read.length) }, (_, i) => read[Math.floor(i * step)]).flatMap(
    (one) => one ?? [],
  );
}
