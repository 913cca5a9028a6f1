-- Trials of other kinds, the white neighbours of a wash, what is noted of a trial while it runs,
-- light loggers' files, and named places of light on the Shelf.
DROP TRIGGER reading_is_never_changed;
DROP TRIGGER reading_is_never_deleted;
CREATE TABLE reading_of_more_pieces (
  id INTEGER PRIMARY KEY,
  swatch_id INTEGER NOT NULL REFERENCES swatch (id),
  piece TEXT NOT NULL CHECK (piece IN ('whole', 'dark', 'light', 'wash', 'treated', 'neighbour')),
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
INSERT INTO reading_of_more_pieces SELECT id, swatch_id, piece, trial_id, stage, measurement_id,
  sheet_cell, instrument_sample_id, lab_l, lab_a, lab_b, uncertainty_de00, levelness_de00, flags,
  taken_on, accepted_at, run_id, said_run, shown_at, hex, colour_words, evenness_de00, chart_de00,
  damp, backing, layers, note, zone, share, warnings FROM reading;
DROP TABLE reading;
ALTER TABLE reading_of_more_pieces RENAME TO reading;
CREATE INDEX reading_by_swatch ON reading (swatch_id);
CREATE INDEX reading_by_trial ON reading (trial_id) WHERE trial_id IS NOT NULL;
CREATE TRIGGER reading_is_never_changed BEFORE UPDATE OF id, swatch_id, piece, trial_id, stage,
  measurement_id, sheet_cell, instrument_sample_id, lab_l, lab_a, lab_b, uncertainty_de00,
  levelness_de00, flags, taken_on, accepted_at, said_run, shown_at, hex, colour_words,
  evenness_de00, chart_de00, damp, backing, layers, note, zone, share, warnings ON reading
BEGIN SELECT RAISE(ABORT, 'readings are never overwritten'); END;
CREATE TRIGGER reading_is_never_deleted BEFORE DELETE ON reading
BEGIN SELECT RAISE(ABORT, 'readings are never deleted'); END;

CREATE TABLE trial_entry (
  id INTEGER PRIMARY KEY,
  trial_id INTEGER NOT NULL REFERENCES trial (id),
  document TEXT NOT NULL CHECK (json_valid(document)),
  at TEXT NOT NULL
) STRICT;
CREATE INDEX trial_entry_by_trial ON trial_entry (trial_id);
CREATE TRIGGER trial_entry_is_never_changed BEFORE UPDATE ON trial_entry
BEGIN SELECT RAISE(ABORT, 'entries of a trial are never overwritten'); END;
CREATE TRIGGER trial_entry_is_never_deleted BEFORE DELETE ON trial_entry
BEGIN SELECT RAISE(ABORT, 'entries of a trial are never deleted'); END;

CREATE TABLE light_log (
  id INTEGER PRIMARY KEY,
  trial_id INTEGER NOT NULL REFERENCES trial (id),
  filename TEXT NOT NULL,
  sha256 TEXT NOT NULL,
  column_name TEXT NOT NULL,
  watts INTEGER NOT NULL,
  samples TEXT NOT NULL CHECK (json_valid(samples)),
  kept_at TEXT NOT NULL,
  UNIQUE (trial_id, sha256)
) STRICT;

-- What follows from readings and entries.
ALTER TABLE trial_stage ADD COLUMN due_on TEXT;
ALTER TABLE trial_stage ADD COLUMN left_out INTEGER NOT NULL DEFAULT 0;
DROP TABLE fade_point;
CREATE TABLE fade_point (
  trial_id INTEGER NOT NULL REFERENCES trial (id),
  swatch_id INTEGER NOT NULL REFERENCES swatch (id),
  stage INTEGER NOT NULL,
  zone TEXT NOT NULL,
  document TEXT NOT NULL CHECK (json_valid(document)),
  PRIMARY KEY (trial_id, swatch_id, stage, zone)
) STRICT;
CREATE TABLE stain_point (
  trial_id INTEGER NOT NULL REFERENCES trial (id),
  swatch_id INTEGER NOT NULL REFERENCES swatch (id),
  stage INTEGER NOT NULL,
  neighbour TEXT NOT NULL,
  document TEXT NOT NULL CHECK (json_valid(document)),
  PRIMARY KEY (trial_id, swatch_id, stage, neighbour)
) STRICT;

CREATE TABLE shelf_item_with_places (
  kind TEXT NOT NULL CHECK (kind IN ('fibre', 'mordant_route', 'dye_lot', 'substance', 'vessel',
    'heat_place', 'scale', 'water', 'chart', 'cloth', 'light_place')),
  key TEXT NOT NULL,
  position INTEGER NOT NULL,
  document TEXT NOT NULL CHECK (json_valid(document)),
  PRIMARY KEY (kind, key)
) STRICT;
INSERT INTO shelf_item_with_places (kind, key, position, document)
  SELECT kind, key, position, document FROM shelf_item;
DROP TABLE shelf_item;
ALTER TABLE shelf_item_with_places RENAME TO shelf_item;
