import Box from "@mui/material/Box";
import LinearProgress from "@mui/material/LinearProgress";
import type { ReactNode } from "react";

import type { Schema, StudyView, TrialView } from "../api/client";
import { useLastingAhead } from "../api/hooks";
import { Awaited } from "../shell/said";
import type { FadeState } from "./fade-state";

// What is there at a glance needs no bar.
const A_LONG_WAIT = 100;

interface AwaitedLastingProps {
  study: StudyView;
  trial: TrialView;
  state: FadeState;
  children: (lasting: Schema["LastingView"]) => ReactNode;
}

/** What lasts, once it is worked out; until then how far the work is. */
export function AwaitedLasting({ study, trial, state, children }: AwaitedLastingProps) {
  const ahead = useLastingAhead(study.id, trial.id).data;
  if (state.lasting.data === undefined && !state.lasting.error && ahead && ahead.of > A_LONG_WAIT) {
    const share = Math.round((100 * ahead.done) / ahead.of);
    return (
      <Box role="status" sx={{ p: 3, maxWidth: 480 }}>
        Every swatch’s way of fading is being worked out: {share} % of {ahead.of / 2} swatches.
        <LinearProgress
          variant="determinate"
          color="secondary"
          value={share}
          aria-label="Worked out"
          sx={{ mt: 1, height: 8 }}
        />
      </Box>
    );
  }
  return <Awaited query={state.lasting}>{children}</Awaited>;
}
