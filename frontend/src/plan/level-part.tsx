import Box from "@mui/material/Box";
import Button from "@mui/material/Button";

import type { FactorKind, Level, StudyView } from "../api/client";
import type { Selection } from "../grid/selection";
import { NotesPart } from "../notes/notes-part";
import { inMyUnits } from "../settings/quantities";
import { counted } from "../shell/counted";

interface LevelNameProps {
  label: string;
  notes: number;
  open: boolean;
  onOpen: () => void;
}

/** The name of a level, which opens what is known of it. */
export function LevelName({ label: stored, notes, open, onOpen }: LevelNameProps) {
  const label = inMyUnits(stored);
  return (
    <Button
      size="small"
      color="inherit"
      aria-expanded={open}
      onClick={onOpen}
      aria-label={`${label}: ${notes === 0 ? "no notes" : counted(notes, "note")}`}
      sx={{ minHeight: 40, fontWeight: open ? 700 : 400, fontSize: 15, px: 1 }}>
      {label}
      {notes > 0 && (
        <Box
          component="span"
          aria-hidden
          sx={{ ml: 0.75, fontSize: 11, fontWeight: 700, borderBottom: 2, lineHeight: 1.2 }}>
          {notes}
        </Box>
      )}
    </Button>
  );
}

interface LevelPartProps {
  study: StudyView;
  kind: FactorKind;
  level: Level;
  selection: Selection;
  onClose: () => void;
}

/** The swatches of a level, and what was noted of it. */
export function LevelPart({ study, kind, level, selection, onClose }: LevelPartProps) {
  const cells = study.grid.cells.filter((cell) => cell.levels[kind] === level.key && cell.swatches.length > 0);
  const swatches = new Set(cells.flatMap((cell) => cell.swatches));
  return (
    <Box role="group" aria-label={`Level ${level.label}`} sx={{ borderLeft: 4, pl: 1.5, my: 1 }}>
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, alignItems: "center" }}>
        <strong>{inMyUnits(level.label)}</strong>
        <Button
          size="small"
          disabled={cells.length === 0}
          onClick={() => selection.replace(cells.map((cell) => cell.key))}>
          {swatches.size === 0 ? "no swatches" : `select its ${counted(swatches.size, "swatch")}`}
        </Button>
        <Box sx={{ flex: 1 }} />
        <Button size="small" onClick={onClose}>
          close
        </Button>
      </Box>
      <NotesPart study={study.id} about={{ levels: { [kind]: level.key } }} of={level.label} />
    </Box>
  );
}
