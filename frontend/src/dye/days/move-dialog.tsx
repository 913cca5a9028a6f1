import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import { answered, api } from "../../api/client";
import { useChange } from "../../api/hooks";
import { inMyUnits } from "../../settings/quantities";
import { momentWords } from "../../shell/dates";
import { ProblemNote } from "../../shell/said";
import type { PlannedWork } from "./day-plan";

interface MoveDialogProps {
  study: number;
  work: PlannedWork;
  onClose: () => void;
  onBench: () => void;
}

/** Moves a stretch of work, checked at once; or holds it there and lets the rest move. */
export function MoveDialog({ study, work, onClose, onBench }: MoveDialogProps) {
  const [when, setWhen] = useState(work.starts_at.slice(0, 16));
  const at = { params: { path: { study_id: study } } };
  const move = useChange(
    () =>
      answered(
        api.POST("/api/studies/{study_id}/dye/plan/move", {
          ...at,
          body: { task: work.task, starts_at: `${when}:00` },
        }),
      ),
    { study },
  );
  const hold = useChange(
    async (moment: string | null) => {
      await answered(
        api.POST("/api/studies/{study_id}/dye/plan/pin", { ...at, body: { task: work.task, starts_at: moment } }),
      );
      return answered(
        api.POST("/api/studies/{study_id}/dye/plan", { ...at, body: { seconds: 10, with_cures: false } }),
      );
    },
    { study },
  );
  const faults = move.data?.faults ?? [];
  const open = work.state === "planned";
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs">
      <DialogTitle>
        {work.vessel}: {inMyUnits(work.words || work.runs)}
      </DialogTitle>
      <DialogContent>
        <Box sx={{ display: "grid", gap: 1.5, pt: 1 }}>
          <Button variant="contained" sx={{ minHeight: 48 }} onClick={onBench}>
            Go to {work.vessel} at the bench
          </Button>
          {open && (
            <>
              <TextField
                type="datetime-local"
                label="Begin at"
                value={when}
                helperText={when ? momentWords(when) : " "}
                onChange={(event) => setWhen(event.target.value)}
                slotProps={{ inputLabel: { shrink: true } }}
              />
              <Button
                variant="outlined"
                color="secondary"
                sx={{ minHeight: 48 }}
                disabled={move.isPending}
                onClick={() => move.mutate(undefined, { onSuccess: (said) => said.begun && onClose() })}>
                Move it, all else stays
              </Button>
            </>
          )}
          {faults.map((fault) => (
            <Box key={fault} role="alert" sx={{ borderLeft: 6, borderColor: "error.main", pl: 1 }}>
              {inMyUnits(fault)}
            </Box>
          ))}
          {open && (
            <Button
              variant="outlined"
              color="secondary"
              sx={{ minHeight: 48 }}
              disabled={hold.isPending}
              onClick={() => hold.mutate(`${when}:00`, { onSuccess: onClose })}>
              Hold it there, plan the rest anew
            </Button>
          )}
          {work.pinned && (
            <Button sx={{ minHeight: 48 }} onClick={() => hold.mutate(null, { onSuccess: onClose })}>
              Let it go again
            </Button>
          )}
          <ProblemNote error={move.error ?? hold.error} />
        </Box>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </Dialog>
  );
}
