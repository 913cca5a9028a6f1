import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";

import type { Schema } from "../api/client";
import { useChange } from "../api/hooks";
import { counted } from "../shell/counted";
import { momentWords } from "../shell/dates";
import { Caution, ProblemNote } from "../shell/said";
import { sendPackage, useTakenLook } from "./queries";

type StudyTaken = Schema["StudyTaken"];

interface PackageLookProps {
  file: File;
  onAnother: () => void;
  onChoose: (study: number) => void;
  onClose: () => void;
}

/** What a package would bring, before anything is changed; then what it brought. */
export function PackageLook({ file, onAnother, onChoose, onClose }: PackageLookProps) {
  const look = useTakenLook(file);
  const take = useChange(() => sendPackage(file, false), "everything");
  const shown = take.data ?? look.data;
  const nothing = shown?.studies.every((one) => one.how === "here") && !shown.shelf_added?.length;
  return (
    <>
      <DialogContent>
        {look.isPending && (
          <Box role="status">
            Reading the package. With many photographs this takes a while; nothing is changed yet.
          </Box>
        )}
        <ProblemNote error={look.error} />
        <ProblemNote error={take.error} />
        {shown && (
          <>
            <p>
              {take.isSuccess ? "Taken in" : "What it would bring"}, from {shown.filename || "the package"}
              {shown.written_at && `, written on ${momentWords(shown.written_at)}`}:
            </p>
            <Box component="ul" aria-label="Studies in the package" sx={{ listStyle: "none", p: 0, m: 0 }}>
              {shown.studies.map((one) => (
                <Box
                  component="li"
                  key={one.study}
                  sx={{
                    py: 0.75,
                    borderBottom: 1,
                    borderColor: "divider",
                    display: "flex",
                    gap: 1,
                    alignItems: "center",
                  }}>
                  <Box sx={{ flex: 1 }}>
                    <strong>{one.name}</strong>
                    <div>{studyWords(one)}</div>
                    {one.mark && one.how !== "here" && (
                      <div>
                        Codes of its swatches are in use here already. They get a {one.mark} before them here; a label
                        without it is still understood at the pot and on photos.
                      </div>
                    )}
                  </Box>
                  {(take.isSuccess || one.how === "here") && <Button onClick={() => onChoose(one.study)}>Open</Button>}
                </Box>
              ))}
            </Box>
            {!!shown.shelf_added?.length && <p>New on the Shelf: {shown.shelf_added.join(", ")}.</p>}
            {!!shown.shelf_kept?.length && (
              <Caution>
                The Shelf here has other words or figures for {shown.shelf_kept.join(", ")}: yours stay. The studies of
                the package keep the recipes that they came with.
              </Caution>
            )}
            {nothing && !take.isSuccess && <p>All of it is here already. There is nothing to take in.</p>}
          </>
        )}
      </DialogContent>
      <DialogActions>
        {!take.isSuccess && <Button onClick={onAnother}>Another file</Button>}
        <Button onClick={onClose}>{take.isSuccess ? "Close" : "Leave it"}</Button>
        {look.data && !nothing && !take.isSuccess && (
          <Button variant="contained" disabled={take.isPending} onClick={() => take.mutate(undefined)}>
            {take.isPending ? "Taking it in" : "Take it in"}
          </Button>
        )}
      </DialogActions>
    </>
  );
}

function studyWords(one: StudyTaken): string {
  if (one.how === "here") return "Is here already, with all that the package has of it.";
  if (one.how === "new") return `New: ${counted(one.swatches, "swatch")}, ${counted(one.readings, "reading")}.`;
  const more = (["plan_versions", "entries", "readings", "trials"] as const)
    .map((table) => [one.added?.[table] ?? 0, MORE[table]] as const)
    .filter(([count]) => count > 0)
    .map(([count, word]) => counted(count, word));
  return `Goes on where this file stands: ${more.join(", ") || "smaller things"} more.`;
}

const MORE = { plan_versions: "saved plan", entries: "log line", readings: "reading", trials: "trial" };
