-- Readings may come from an instrument as well as from a photo. Charts and textiles that were never
-- in a grid have a place on the Shelf, and such textiles have readings of their own.
CREATE TABLE instrument_file (
  id INTEGER PRIMARY KEY,
  study_id INTEGER NOT NULL REFERENCES study (id),
  sha256 TEXT NOT NULL,
  filename TEXT NOT NULL,
  instrument TEXT NOT NULL,
  measured_on TEXT NOT NULL,
  content TEXT NOT NULL,
  kept_at TEXT NOT NULL,
  UNIQUE (study_id, sha256)
) STRICT;
CREATE TABLE instrument_sample (
  id INTEGER PRIMARY KEY,
  file_id INTEGER NOT NULL REFERENCES instrument_file (id),
  swatch_id INTEGER REFERENCES swatch (id),
  document TEXT NOT NULL CHECK (json_valid(document))
) STRICT;
CREATE INDEX instrument_sample_by_file ON instrument_sample (file_id);
CREATE INDEX instrument_sample_by_swatch ON instrument_sample (swatch_id);
CREATE TRIGGER instrument_sample_is_never_changed BEFORE UPDATE ON instrument_sample
BEGIN SELECT RAISE(ABORT, 'readings are never overwritten'); END;
CREATE TRIGGER instrument_sample_is_never_deleted BEFORE DELETE ON instrument_sample
BEGIN SELECT RAISE(ABORT, 'readings are never deleted'); END;

DROP TRIGGER reading_is_never_changed;
DROP TRIGGER reading_is_never_deleted;
CREATE TABLE reading_of_either (
  id INTEGER PRIMARY KEY,
  swatch_id INTEGER NOT NULL REFERENCES swatch (id),
  piece TEXT NOT NULL CHECK (piece IN ('whole', 'dark', 'light', 'wash')),
  trial_id INTEGER REFERENCES trial (id),
  stage INTEGER,
  measurement_id INTEGER REFERENCES measurement (id),
  sheet_cell TEXT NOT NULL,
  instrument_sample_id INTEGER UNIQUE REFERENCES instrument_sample (id),
  lab_l REAL NOT NULL,
  lab_a REAL NOT NULL,
  lab_b REAL NOT NULL,
  uncertainty_de00 REAL NOT NULL,
  levelness_de00 REAL NOT NULL,
  flags TEXT NOT NULL CHECK (json_valid(flags)),
  taken_on TEXT NOT NULL,
  accepted_at TEXT NOT NULL,
  run_id INTEGER REFERENCES run (id),
  said_run INTEGER,
  shown_at TEXT NOT NULL DEFAULT '',
  hex TEXT NOT NULL DEFAULT '',
  colour_words TEXT NOT NULL DEFAULT '',
  evenness_de00 REAL NOT NULL DEFAULT 0,
  chart_de00 REAL NOT NULL DEFAULT 0,
  damp INTEGER NOT NULL DEFAULT 0,
  backing TEXT NOT NULL DEFAULT '',
  layers INTEGER,
  note TEXT NOT NULL DEFAULT '',
  zone TEXT NOT NULL DEFAULT '',
  share REAL,
  warnings TEXT NOT NULL DEFAULT '[]',
  CHECK ((trial_id IS NULL) = (stage IS NULL)),
  CHECK ((measurement_id IS NULL) <> (instrument_sample_id IS NULL)),
  UNIQUE (measurement_id, sheet_cell)
) STRICT;
INSERT INTO reading_of_either (id, swatch_id, piece, trial_id, stage, measurement_id, sheet_cell,
  lab_l, lab_a, lab_b, uncertainty_de00, levelness_de00, flags, taken_on, accepted_at, run_id,
  said_run, shown_at, hex, colour_words, evenness_de00, chart_de00, damp, backing, layers, note,
  zone, share, warnings)
SELECT id, swatch_id, piece, trial_id, stage, measurement_id, sheet_cell,
  lab_l, lab_a, lab_b, uncertainty_de00, levelness_de00, flags, taken_on, accepted_at, run_id,
  said_run, shown_at, hex, colour_words, evenness_de00, chart_de00, damp, backing, layers, note,
  zone, share, warnings FROM reading;
DROP TABLE reading;
ALTER TABLE reading_of_either RENAME TO reading;
CREATE INDEX reading_by_swatch ON reading (swatch_id);
-- The state that it shows (`run_id`) is derived; all else is said once.
CREATE TRIGGER reading_is_never_changed BEFORE UPDATE OF id, swatch_id, piece, trial_id, stage,
  measurement_id, sheet_cell, instrument_sample_id, lab_l, lab_a, lab_b, uncertainty_de00,
  levelness_de00, flags, taken_on, accepted_at, said_run, shown_at, hex, colour_words,
  evenness_de00, chart_de00, damp, backing, layers, note, zone, share, warnings ON reading
BEGIN SELECT RAISE(ABORT, 'readings are never overwritten'); END;
CREATE TRIGGER reading_is_never_deleted BEFORE DELETE ON reading
BEGIN SELECT RAISE(ABORT, 'readings are never deleted'); END;

CREATE TABLE shelf_item_of_more_kinds (
  kind TEXT NOT NULL CHECK (kind IN ('fibre', 'mordant_route', 'dye_lot', 'substance', 'vessel',
    'heat_place', 'scale', 'water', 'chart', 'cloth')),
  key TEXT NOT NULL,
  position INTEGER NOT NULL,
  document TEXT NOT NULL CHECK (json_valid(document)),
  PRIMARY KEY (kind, key)
) STRICT;
INSERT INTO shelf_item_of_more_kinds (kind, key, position, document)
  SELECT kind, key, position, document FROM shelf_item;
DROP TABLE shelf_item;
ALTER TABLE shelf_item_of_more_kinds RENAME TO shelf_item;

CREATE TABLE cloth_reading (
  id INTEGER PRIMARY KEY,
  cloth TEXT NOT NULL,
  source TEXT NOT NULL CHECK (source IN ('photo', 'instrument', 'typed')),
  measurement_id INTEGER REFERENCES measurement (id),
  sheet_cell TEXT NOT NULL DEFAULT '',
  instrument_sample_id INTEGER UNIQUE REFERENCES instrument_sample (id),
  lab_l REAL NOT NULL,
  lab_a REAL NOT NULL,
  lab_b REAL NOT NULL,
  hex TEXT NOT NULL,
  colour_words TEXT NOT NULL,
  uncertainty_de00 REAL NOT NULL,
  flags TEXT NOT NULL CHECK (json_valid(flags)),
  note TEXT NOT NULL,
  taken_on TEXT NOT NULL,
  kept_at TEXT NOT NULL,
  CHECK ((source = 'photo') = (measurement_id IS NOT NULL)),
  CHECK ((source = 'instrument') = (instrument_sample_id IS NOT NULL))
) STRICT;
CREATE INDEX cloth_reading_by_cloth ON cloth_reading (cloth);
CREATE INDEX cloth_reading_by_measurement ON cloth_reading (measurement_id);
CREATE INDEX measurement_by_photo ON measurement (photo_id);
CREATE TRIGGER cloth_reading_is_never_changed BEFORE UPDATE ON cloth_reading
BEGIN SELECT RAISE(ABORT, 'readings are never overwritten'); END;
CREATE TRIGGER cloth_reading_is_never_deleted BEFORE DELETE ON cloth_reading
BEGIN SELECT RAISE(ABORT, 'readings are never deleted'); END;

-- What a camera was taught in one light, by swatches that an instrument measured too.
CREATE TABLE camera_profile (
  id INTEGER PRIMARY KEY,
  camera TEXT NOT NULL,
  capture_id INTEGER NOT NULL REFERENCES capture (id),
  document TEXT NOT NULL CHECK (json_valid(document)),
  made_at TEXT NOT NULL,
  in_use INTEGER NOT NULL DEFAULT 1
) STRICT;
