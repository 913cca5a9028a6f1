-- A reading may be of one zone of a piece, and keeps what was said of its photo. A photo can be set
-- aside and brought back.
ALTER TABLE photo ADD COLUMN discarded INTEGER NOT NULL DEFAULT 0;
DROP TRIGGER reading_is_never_changed;
ALTER TABLE reading ADD COLUMN zone TEXT NOT NULL DEFAULT '';
ALTER TABLE reading ADD COLUMN share REAL;
ALTER TABLE reading ADD COLUMN warnings TEXT NOT NULL DEFAULT '[]';
CREATE TRIGGER reading_is_never_changed BEFORE UPDATE OF id, swatch_id, piece, trial_id, stage,
  measurement_id, sheet_cell, lab_l, lab_a, lab_b, uncertainty_de00, levelness_de00, flags, taken_on,
  accepted_at, said_run, shown_at, hex, colour_words, evenness_de00, chart_de00, damp, backing, layers,
  note, zone, share, warnings ON reading
BEGIN SELECT RAISE(ABORT, 'readings are never overwritten'); END;
