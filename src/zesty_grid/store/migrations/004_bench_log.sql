-- A fuller bench log: who, when it happened and when it arrived, corrections, and kinds by name.
CREATE TABLE bench_entry_fuller (
  id INTEGER PRIMARY KEY,
  study_id INTEGER NOT NULL REFERENCES study (id),
  key TEXT NOT NULL UNIQUE,
  vessel TEXT NOT NULL,
  step TEXT NOT NULL,
  kind TEXT NOT NULL,
  at TEXT NOT NULL,
  received_at TEXT NOT NULL,
  who TEXT NOT NULL DEFAULT '',
  replaces INTEGER UNIQUE REFERENCES bench_entry (id),
  document TEXT NOT NULL CHECK (json_valid(document))
) STRICT;
INSERT INTO bench_entry_fuller (id, study_id, key, vessel, step, kind, at, received_at, document)
  SELECT id, study_id, 'first-log-' || id, vessel, step, kind, at, at,
    json_object('temperature_c', temperature_c, 'ph', ph, 'note', note)
  FROM bench_entry;
DROP TABLE bench_entry;
ALTER TABLE bench_entry_fuller RENAME TO bench_entry;
CREATE INDEX bench_entry_by_study ON bench_entry (study_id, vessel, step);
CREATE TRIGGER bench_entry_is_never_changed BEFORE UPDATE ON bench_entry
BEGIN SELECT RAISE(ABORT, 'bench entries are never overwritten'); END;
CREATE TRIGGER bench_entry_is_never_deleted BEFORE DELETE ON bench_entry
BEGIN SELECT RAISE(ABORT, 'bench entries are never deleted'); END;

-- How a study is worked; the newest row counts. Studies dyed before this were not asked to scour.
CREATE TABLE protocol (
  id INTEGER PRIMARY KEY,
  study_id INTEGER NOT NULL REFERENCES study (id),
  document TEXT NOT NULL CHECK (json_valid(document)),
  changed_at TEXT NOT NULL
) STRICT;
INSERT INTO protocol (study_id, document, changed_at)
  SELECT study_id, '{"scour": false}', max(at) FROM bench_entry GROUP BY study_id;

-- The day plan; the newest row counts, older ones stay as they were.
CREATE TABLE schedule (
  id INTEGER PRIMARY KEY,
  study_id INTEGER NOT NULL REFERENCES study (id),
  document TEXT NOT NULL CHECK (json_valid(document)),
  made_at TEXT NOT NULL
) STRICT;

-- The day on which the camera took a photo, where it says so.
ALTER TABLE photo ADD COLUMN taken_on TEXT;

CREATE TABLE probe_reading (
  id INTEGER PRIMARY KEY,
  study_id INTEGER NOT NULL REFERENCES study (id),
  vessel TEXT NOT NULL,
  step TEXT NOT NULL,
  probe TEXT NOT NULL,
  at TEXT NOT NULL,
  temperature_c REAL,
  ph REAL
) STRICT;
CREATE INDEX probe_reading_by_vessel ON probe_reading (study_id, vessel, at);
CREATE TRIGGER probe_reading_is_never_changed BEFORE UPDATE ON probe_reading
BEGIN SELECT RAISE(ABORT, 'readings are never overwritten'); END;
CREATE TRIGGER probe_reading_is_never_deleted BEFORE DELETE ON probe_reading
BEGIN SELECT RAISE(ABORT, 'readings are never deleted'); END;
