import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import { useState } from "react";

import { answered, api } from "../api/client";
import type { Schema } from "../api/client";
import { useChange } from "../api/hooks";
import { momentWords } from "../shell/dates";
import { ProblemNote } from "../shell/said";
import { sizeWords } from "./size-words";

type Backup = Schema["BackupLine"];
type FileState = Schema["FileState"];

/** Every backup there is, with the way back to each. */
export function BackupsPart({ file }: { file: FileState }) {
  const [chosen, setChosen] = useState<Backup | null>(null);
  const make = useChange(() => answered(api.POST("/api/safekeeping/backups")), "safekeeping");
  return (
    <Box component="section" aria-labelledby="backups" sx={{ my: 3 }}>
      <h2 id="backups">Backups</h2>
      <p>
        {file.by_itself
          ? "Made at the start and once a day, each checked after it was written. All of the last two days are kept, then one a day for two weeks, one a week for two months, one a month for two years, and one a year."
          : "The application was started without backups of its own. Make one here, or start it without “--backups none”."}
      </p>
      <Box sx={{ overflowWrap: "anywhere", color: "text.secondary", fontSize: 14, mb: 1 }}>In {file.folder}</Box>
      <Button
        variant="contained"
        disabled={make.isPending}
        onClick={() => make.mutate(undefined)}
        sx={{ minHeight: 48 }}>
        {make.isPending ? "Copying and checking" : "Make a backup now"}
      </Button>
      <ProblemNote error={make.error} />
      {file.backups.length === 0 ? (
        <p>There is no backup yet.</p>
      ) : (
        <Box component="ul" aria-label="Backups" sx={{ listStyle: "none", p: 0 }}>
          {file.backups.map((one) => (
            <Box
              component="li"
              key={one.name}
              sx={{
                display: "flex",
                flexWrap: "wrap",
                alignItems: "center",
                gap: 1,
                py: 0.5,
                borderBottom: 1,
                borderColor: "divider",
              }}>
              <Box sx={{ flex: "1 1 220px" }}>
                {momentWords(one.made_at)}
                <Box sx={{ color: "text.secondary", fontSize: 13 }}>
                  {sizeWords(one.size_bytes)}
                  {one.why && ` · ${one.why}`}
                </Box>
              </Box>
              <Button href={`/api/safekeeping/backups/${encodeURIComponent(one.name)}`} download>
                Copy elsewhere
              </Button>
              <Button variant="outlined" disabled={file.only_reading !== ""} onClick={() => setChosen(one)}>
                Restore
              </Button>
            </Box>
          ))}
        </Box>
      )}
      {chosen && <RestoreDialog backup={chosen} onClose={() => setChosen(null)} />}
    </Box>
  );
}

function RestoreDialog({ backup, onClose }: { backup: Backup; onClose: () => void }) {
  const restore = useChange(
    () => answered(api.POST("/api/safekeeping/backups/{name}/restore", { params: { path: { name: backup.name } } })),
    "everything",
  );
  return (
    <Dialog open onClose={onClose} aria-labelledby="restore-title">
      <DialogTitle id="restore-title">Go back to {momentWords(backup.made_at)}?</DialogTitle>
      <DialogContent>
        {restore.isSuccess ? (
          <p>It is restored. What was there before is kept as “{restore.data.kept}”, in the list of backups.</p>
        ) : (
          <p>
            All studies, readings and photographs become as they were then, on every device. What is there now is kept
            first, as one more backup: you can go back to it in the same way.
          </p>
        )}
        <ProblemNote error={restore.error} />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{restore.isSuccess ? "Close" : "Leave it as it is"}</Button>
        {!restore.isSuccess && (
          <Button variant="contained" disabled={restore.isPending} onClick={() => restore.mutate(undefined)}>
            {restore.isPending ? "Keeping and restoring" : "Restore it"}
          </Button>
        )}
      </DialogActions>
    </Dialog>
  );
}
