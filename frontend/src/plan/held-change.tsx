import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";

import { inMyUnits } from "../settings/quantities";
import { ProblemNote } from "../shell/said";
import type { PlanDraft } from "./plan-draft";
import type { Held } from "./plan-queue";

const APART = "apart";

/** Why the last change is not saved yet, and what can be done about it. */
export function HeldChange({ draft }: { draft: PlanDraft }) {
  const { held } = draft;
  if (held === null) return null;
  if (held.why === "looks") return <LookFirst held={held} draft={draft} />;
  return (
    <Box
      role="alertdialog"
      aria-label={held.why === "elsewhere" ? "Changed elsewhere" : "Not saved yet"}
      sx={{ border: 2, p: 1.5, my: 1.5 }}>
      {held.why === "elsewhere" ? (
        <>
          <strong>This study was changed in another tab or on another device.</strong>
          <p>What you changed is not saved yet, and nothing is overwritten.</p>
        </>
      ) : (
        <>
          <ProblemNote error={held.error} />
          <p>Your change is kept on this device, also over a reload, and is tried again by itself.</p>
        </>
      )}
      <Button variant="contained" onClick={held.why === "elsewhere" ? draft.putOnto : draft.again} sx={{ mr: 1 }}>
        {held.why === "elsewhere" ? "Put my change onto it" : "Save it now"}
      </Button>
      <Button variant="outlined" onClick={draft.letGo}>
        {held.why === "elsewhere" ? "Show the newer version" : "Let my change go"}
      </Button>
    </Box>
  );
}

/** What a change does to what was begun, before it is saved. */
function LookFirst({ held, draft }: { held: Extract<Held, { why: "looks" }>; draft: PlanDraft }) {
  const open = held.asks.some((ask) => !held.answers[ask.factor]);
  return (
    <Dialog open onClose={draft.letGo} fullWidth maxWidth="sm" aria-labelledby="look-first">
      <DialogTitle id="look-first">What this change does</DialogTitle>
      <DialogContent>
        {held.asks.map((ask) => (
          <Box key={ask.factor} sx={{ mb: 2 }}>
            <Box sx={{ mb: 1 }}>
              {ask.swatches === 1 ? "1 swatch was" : `${ask.swatches} swatches were`} begun before{" "}
              {ask.name.toLowerCase()} was crossed. Which level {ask.swatches === 1 ? "does it" : "do they"} have?
            </Box>
            <TextField
              select
              label={`${ask.name} of what was begun`}
              value={held.answers[ask.factor] ?? ""}
              onChange={(event) => draft.answer(ask.factor, event.target.value)}>
              {ask.levels.map((level) => (
                <MenuItem key={level.key} value={level.key}>
                  {inMyUnits(level.label)}
                  {level.key === ask.proposed ? " (as if it were not there)" : ""}
                </MenuItem>
              ))}
              <MenuItem value={APART}>None of these: they stay apart</MenuItem>
            </TextField>
          </Box>
        ))}
        <Box component="ul" sx={{ m: 0, pl: 2.5, "& li": { mb: 0.75 } }}>
          {held.effect.words.map((words) => (
            <li key={words}>{inMyUnits(words)}</li>
          ))}
        </Box>
      </DialogContent>
      <DialogActions>
        <Button onClick={draft.letGo}>Leave it as it was</Button>
        <Button variant="contained" disabled={open} onClick={draft.confirm}>
          Save the change
        </Button>
      </DialogActions>
    </Dialog>
  );
}
