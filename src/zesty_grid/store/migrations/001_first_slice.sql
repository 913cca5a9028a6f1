CREATE TABLE study (
  id INTEGER PRIMARY KEY,
  revision INTEGER NOT NULL DEFAULT 1,
  plan TEXT NOT NULL CHECK (json_valid(plan)),
  created_at TEXT NOT NULL,
  deleted_at TEXT
) STRICT;

CREATE TABLE shelf_item (
  kind TEXT NOT NULL CHECK (kind IN ('fibre', 'mordant_route', 'dye_lot')),
  key TEXT NOT NULL,
  position INTEGER NOT NULL,
  document TEXT NOT NULL CHECK (json_valid(document)),
  PRIMARY KEY (kind, key)
) STRICT;

CREATE TABLE swatch (
  id INTEGER PRIMARY KEY,
  study_id INTEGER NOT NULL REFERENCES study (id),
  cell TEXT NOT NULL,
  serial INTEGER NOT NULL UNIQUE,
  code TEXT NOT NULL UNIQUE,
  UNIQUE (study_id, cell)
) STRICT;

CREATE TABLE bench_entry (
  id INTEGER PRIMARY KEY,
  study_id INTEGER NOT NULL REFERENCES study (id),
  vessel TEXT NOT NULL,
  step TEXT NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('done', 'undone', 'record')),
  at TEXT NOT NULL,
  temperature_c REAL,
  ph REAL,
  note TEXT NOT NULL DEFAULT ''
) STRICT;
CREATE INDEX bench_entry_by_study ON bench_entry (study_id, vessel, step);

CREATE TABLE trial (
  id INTEGER PRIMARY KEY,
  study_id INTEGER NOT NULL REFERENCES study (id),
  plan TEXT NOT NULL CHECK (json_valid(plan)),
  created_at TEXT NOT NULL
) STRICT;

CREATE TABLE sheet (
  id TEXT PRIMARY KEY,
  study_id INTEGER NOT NULL REFERENCES study (id),
  trial_id INTEGER REFERENCES trial (id),
  page INTEGER NOT NULL,
  layout TEXT NOT NULL CHECK (json_valid(layout)),
  assignments TEXT NOT NULL CHECK (json_valid(assignments)),
  created_at TEXT NOT NULL
) STRICT;

CREATE TABLE photo_file (
  sha256 TEXT PRIMARY KEY,
  bytes BLOB NOT NULL
) STRICT;

CREATE TABLE photo (
  id INTEGER PRIMARY KEY,
  study_id INTEGER NOT NULL REFERENCES study (id),
  sheet_id TEXT NOT NULL REFERENCES sheet (id),
  sha256 TEXT NOT NULL REFERENCES photo_file (sha256),
  filename TEXT NOT NULL,
  uploaded_at TEXT NOT NULL,
  UNIQUE (study_id, sha256)
) STRICT;

CREATE TABLE measurement (
  id INTEGER PRIMARY KEY,
  photo_id INTEGER NOT NULL REFERENCES photo (id),
  document TEXT NOT NULL CHECK (json_valid(document)),
  measured_at TEXT NOT NULL
) STRICT;

CREATE TABLE reading (
  id INTEGER PRIMARY KEY,
  swatch_id INTEGER NOT NULL REFERENCES swatch (id),
  piece TEXT NOT NULL CHECK (piece IN ('whole', 'dark', 'light', 'wash')),
  trial_id INTEGER REFERENCES trial (id),
  stage INTEGER,
  measurement_id INTEGER NOT NULL REFERENCES measurement (id),
  sheet_cell TEXT NOT NULL,
  lab_l REAL NOT NULL,
  lab_a REAL NOT NULL,
  lab_b REAL NOT NULL,
  uncertainty_de00 REAL NOT NULL,
  levelness_de00 REAL NOT NULL,
  flags TEXT NOT NULL CHECK (json_valid(flags)),
  taken_on TEXT NOT NULL,
  accepted_at TEXT NOT NULL,
  CHECK ((trial_id IS NULL) = (stage IS NULL)),
  UNIQUE (measurement_id, sheet_cell)
) STRICT;
CREATE INDEX reading_by_swatch ON reading (swatch_id);

CREATE TRIGGER reading_is_never_changed BEFORE UPDATE ON reading
BEGIN SELECT RAISE(ABORT, 'readings are never overwritten'); END;
CREATE TRIGGER reading_is_never_deleted BEFORE DELETE ON reading
BEGIN SELECT RAISE(ABORT, 'readings are never deleted'); END;
CREATE TRIGGER bench_entry_is_never_changed BEFORE UPDATE ON bench_entry
BEGIN SELECT RAISE(ABORT, 'bench entries are never overwritten'); END;
CREATE TRIGGER bench_entry_is_never_deleted BEFORE DELETE ON bench_entry
BEGIN SELECT RAISE(ABORT, 'bench entries are never deleted'); END;
