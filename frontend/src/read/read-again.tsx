import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import LinearProgress from "@mui/material/LinearProgress";
import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";

import { answered, api } from "../api/client";
import type { Schema } from "../api/client";
import { askAnew } from "../api/what-changed";
import { ProblemNote } from "../shell/said";

/** Reads kept photos once more, by what the program knows today; the new measurements wait to be looked at. */
export function ReadAgain({ study, photos }: { study: number; photos: readonly Schema["PhotoLine"][] }) {
  const [done, setDone] = useState<number | null>(null);
  const [problem, setProblem] = useState<unknown>(null);
  const stopped = useRef(false);
  const queries = useQueryClient();
  const run = async () => {
    stopped.current = false;
    setProblem(null);
    for (const [i, photo] of photos.entries()) {
      if (stopped.current) break;
      setDone(i);
      try {
        await answered(
          api.POST("/api/photos/{photo_id}/measure", {
            params: { path: { photo_id: photo.id } },
            body: { cells: [], join: [] },
          }),
        );
      } catch (error) {
        setProblem(error);
        break;
      }
    }
    setDone(null);
    await askAnew(queries, [{ study }]);
  };
  return (
    <Box sx={{ mt: 1 }} aria-live="polite">
      {done === null ? (
        <Button size="small" onClick={() => void run()}>
          Read {photos.length === 1 ? "it" : `all ${photos.length}`} again
        </Button>
      ) : (
        <>
          <LinearProgress
            color="secondary"
            variant="determinate"
            value={(100 * done) / photos.length}
            aria-label="Photos read again"
          />
          <Button size="small" onClick={() => (stopped.current = true)}>
            Stop
          </Button>
        </>
      )}
      <Box sx={{ fontSize: 12 }}>Their readings stay; the new ones wait beside them until you accept them.</Box>
      <ProblemNote error={problem} />
    </Box>
  );
}
