import Box from "@mui/material/Box";
import Button from "@mui/material/Button";

import { answered, api } from "../api/client";
import type { Schema } from "../api/client";
import { useChange } from "../api/hooks";
import { momentWords } from "../shell/dates";
import { forgetAnswers } from "../shell/offline";
import { Awaited, ProblemNote } from "../shell/said";
import { BackupsPart } from "./backups-part";
import { DoorsPart } from "./doors-part";
import { useAccess, useFileState } from "./queries";
import { sizeWords } from "./size-words";

/** The data file and its backups, and who may come in. */
export function SafekeepingView() {
  const access = useAccess();
  const guest = access.data?.kind === "guest";
  const file = useFileState(!guest);
  return (
    <Box sx={{ p: { xs: 2, md: 4 }, maxWidth: 820, overflow: "auto" }}>
      <h1>Safekeeping</h1>
      {guest ? (
        <p>As a guest you can look at every study. The file and its backups are for those who work on it.</p>
      ) : (
        <Awaited query={file}>
          {(state) => (
            <>
              <FilePart file={state} />
              <BackupsPart file={state} />
              <DoorsPart />
            </>
          )}
        </Awaited>
      )}
      {access.data?.kind && <LeavePart device={access.data.device} />}
    </Box>
  );
}

function FilePart({ file }: { file: Schema["FileState"] }) {
  const check = useChange(() => answered(api.POST("/api/safekeeping/check")), "safekeeping");
  const newest = file.backups[0];
  const notes = [file.only_reading, ...file.warnings].filter(Boolean);
  return (
    <section aria-label="The data file">
      <p>
        All your studies, readings and photographs are in one file of {sizeWords(file.size_bytes)}:{" "}
        <Box component="span" sx={{ overflowWrap: "anywhere" }}>
          {file.file}
        </Box>
        . {newest ? `The last backup was made on ${momentWords(newest.made_at)}.` : "There is no backup of it yet."}
      </p>
      {notes.map((words) => (
        <Box key={words} sx={{ borderLeft: 6, borderColor: "text.primary", pl: 1.5, my: 1 }}>
          {words}
        </Box>
      ))}
      <Button variant="outlined" disabled={check.isPending} onClick={() => check.mutate(undefined)}>
        {check.isPending ? "Looking at every page and photograph" : "Check the whole file"}
      </Button>
      <ProblemNote error={check.error} />
      {check.data && (
        <Box role="status" sx={{ my: 1 }}>
          {check.data.faults.length === 0
            ? `Checked ${momentWords(check.data.checked_at)}: every page, reference and photograph is as it was stored.`
            : check.data.faults.map((fault) => <div key={fault}>{fault}</div>)}
        </Box>
      )}
    </section>
  );
}

function LeavePart({ device }: { device: string }) {
  const leave = useChange(() => forgetAnswers().then(() => answered(api.DELETE("/api/access"))), "everything");
  return (
    <p>
      This device came in as “{device}”.{" "}
      <Button onClick={() => leave.mutate(undefined)} disabled={leave.isPending}>
        Let it forget the code
      </Button>
    </p>
  );
}
