import Box from "@mui/material/Box";
import LinearProgress from "@mui/material/LinearProgress";

import type { Schema } from "../api/client";

/** What an empty file opens with while the demo is being made. */
export function DemoBeingMade({ demo }: { demo: Schema["DemoBeingMade"] }) {
  const { photos = 0, of_photos = 0 } = demo;
  return (
    <Box role="status" sx={{ p: { xs: 2, sm: 4 }, maxWidth: 520 }}>
      <Box component="h2" sx={{ mt: 0, fontSize: 28, lineHeight: 1.15 }}>
        The demo is being dyed
      </Box>
      <Box sx={{ fontSize: 17, mb: 2 }}>
        Five made-up studies are planned, dyed, photographed and faded. It takes about a minute, once; this page shows
        them when they are there.
      </Box>
      <LinearProgress
        variant={of_photos ? "determinate" : "indeterminate"}
        value={of_photos ? (100 * photos) / of_photos : 0}
        aria-label="Made"
        sx={{ height: 10 }}
      />
      <Box sx={{ mt: 1 }}>{of_photos ? `${photos} of ${of_photos} photos are read` : "Planned and dyed"}</Box>
    </Box>
  );
}
