-- Studies from packages and spreadsheets: how a study came to be where it was not planned here, and
-- which devices of another file signed its entries.
ALTER TABLE study ADD COLUMN origin TEXT CHECK (origin IS NULL OR json_valid(origin));
CREATE TABLE brought_signature (
  written TEXT NOT NULL,
  row_id INTEGER NOT NULL,
  device TEXT NOT NULL,
  PRIMARY KEY (written, row_id)
) STRICT;
CREATE TRIGGER brought_signature_is_never_changed BEFORE UPDATE ON brought_signature
BEGIN SELECT RAISE(ABORT, 'signatures are never overwritten'); END;
CREATE TRIGGER brought_signature_is_never_deleted BEFORE DELETE ON brought_signature
BEGIN SELECT RAISE(ABORT, 'signatures are never deleted'); END;
-- Packages that were taken in: when, from which file, and which studies were new or had grown.
CREATE TABLE taken_in (
  id INTEGER PRIMARY KEY,
  at TEXT NOT NULL,
  document TEXT NOT NULL CHECK (json_valid(document))
) STRICT;
CREATE TRIGGER taken_in_is_never_changed BEFORE UPDATE ON taken_in
BEGIN SELECT RAISE(ABORT, 'what was taken in is never overwritten'); END;
CREATE TRIGGER taken_in_is_never_deleted BEFORE DELETE ON taken_in
BEGIN SELECT RAISE(ABORT, 'what was taken in is never deleted'); END;
-- Asked for by every look at a study's sheets, and by the noise that is learnt from all readings.
CREATE INDEX sheet_by_study ON sheet (study_id);
CREATE INDEX reading_kept_dark ON reading (id) WHERE piece = 'dark' AND zone = '';
CREATE INDEX place_repeats ON place (study_id) WHERE replicate > 1;
CREATE INDEX guest_by_swatch ON guest (swatch_id);

-- Who tried to come in, and what was done about codes and devices. The oldest lines are let go.
CREATE TABLE access_event (
  id INTEGER PRIMARY KEY,
  at TEXT NOT NULL,
  what TEXT NOT NULL CHECK (what IN ('wrong code', 'came in', 'new code', 'code taken back',
    'device put out', 'left')),
  come_from TEXT NOT NULL,
  words TEXT NOT NULL
) STRICT;
