import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useState } from "react";

import { useLogging } from "../dye/outbox";
import { momentWords } from "../shell/dates";
import { Folded } from "../shell/folded";
import { Awaited } from "../shell/said";
import { AddNote } from "./add-note";
import { NotePicture, WaitingPicture } from "./note-picture";
import { useNotes } from "./notes";
import type { About, ShownNote } from "./about";

interface NotesPartProps {
  study: number;
  about: About;
  /** What the notes are of, in words. */
  of: string;
}

/** The notes and pictures of one thing, and one more. */
export function NotesPart({ study, about, of }: NotesPartProps) {
  const notes = useNotes(study, about);
  const log = useLogging(study);
  const [adding, setAdding] = useState(false);
  const takeBack = (note: ShownNote) =>
    log({ kind: "struck", replaces: note.entry ?? null, vessel: about.vessel ?? "" });
  return (
    <Box role="group" aria-label={`Notes and pictures of ${of}`}>
      <Awaited query={notes}>
        {(all) => (
          <Folded of={all} at={5}>
            {(note) => (
              <Box
                key={note.key}
                component="article"
                sx={{ display: "flex", gap: 1.5, py: 0.75, borderTop: 1, borderColor: "divider", fontSize: 14 }}>
                {note.picture ? (
                  <WaitingPicture picture={note.picture} of={of} />
                ) : (
                  note.photo && <NotePicture study={study} photo={note.photo} of={of} />
                )}
                <Box sx={{ minWidth: 0, flex: 1 }}>
                  <Box sx={{ whiteSpace: "pre-line", overflowWrap: "anywhere" }}>{note.words}</Box>
                  <Box sx={{ fontSize: 12, color: "text.secondary" }}>
                    {[
                      momentWords(note.at),
                      note.who,
                      note.waits && `${note.picture ? "with its picture, " : ""}waits to be sent`,
                    ]
                      .filter(Boolean)
                      .join(" · ")}
                  </Box>
                  {note.entry !== undefined && (
                    <Button
                      size="small"
                      className="not-printed"
                      sx={{ p: 0, minHeight: 28 }}
                      onClick={() => takeBack(note)}>
                      take this note back
                    </Button>
                  )}
                </Box>
              </Box>
            )}
          </Folded>
        )}
      </Awaited>
      <Button
        className="not-printed"
        variant="outlined"
        size="small"
        aria-expanded={adding}
        onClick={() => setAdding(!adding)}
        sx={{ mt: 0.5 }}>
        {adding ? "No note" : "Add a note or a picture"}
      </Button>
      {adding && <AddNote study={study} about={about} onKept={() => setAdding(false)} />}
    </Box>
  );
}
