import Box from "@mui/material/Box";
import Button from "@mui/material/Button";

import { answered, api } from "../api/client";
import { useChange } from "../api/hooks";
import { ProblemNote } from "../shell/said";

/** Accepts at once all waiting photos that ask nothing, and says what the others ask. */
export function AcceptClear({ study, waiting }: { study: number; waiting: number }) {
  const accept = useChange(
    () => answered(api.POST("/api/studies/{study_id}/photos/accept-clear", { params: { path: { study_id: study } } })),
    { study },
  );
  const done = accept.data;
  return (
    <Box sx={{ mb: 1 }} aria-live="polite">
      {waiting > 1 && (
        <Button variant="contained" disabled={accept.isPending} onClick={() => accept.mutate(undefined)}>
          Accept all that have nothing to ask
        </Button>
      )}
      <ProblemNote error={accept.error} />
      {done && (
        <Box sx={{ fontSize: 13, mt: 0.5 }}>
          {done.accepted.length === 1 ? "1 photo was accepted." : `${done.accepted.length} photos were accepted.`}
          {done.left.map((one) => (
            <div key={one.photo}>
              {one.filename} waits: {one.asks[0]}
              {one.asks.length > 1 && ` And ${one.asks.length - 1} more.`}
            </div>
          ))}
        </Box>
      )}
    </Box>
  );
}
