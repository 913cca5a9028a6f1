-- The record stands in tables of its own: swatches by identity, baths as they stood when they were
-- begun, and what follows from the log, so that what runs and what is due are questions by index.
-- What an older file holds is brought over by `store/bring_over.py` in the same transaction.

ALTER TABLE study ADD COLUMN name TEXT NOT NULL DEFAULT '';
ALTER TABLE study ADD COLUMN question TEXT NOT NULL DEFAULT '';
-- The list of studies is read from here: a study's own row holds its whole plan.
ALTER TABLE study ADD COLUMN planned_swatches INTEGER NOT NULL DEFAULT 0;
ALTER TABLE study ADD COLUMN read_swatches INTEGER NOT NULL DEFAULT 0;
CREATE INDEX study_on_list ON study (id, name, question, planned_swatches, read_swatches)
  WHERE deleted_at IS NULL;

-- Every saved version of a plan, and every level that a study ever had.
CREATE TABLE plan_version (
  study_id INTEGER NOT NULL REFERENCES study (id),
  revision INTEGER NOT NULL,
  plan TEXT NOT NULL CHECK (json_valid(plan)),
  words TEXT NOT NULL,
  saved_at TEXT NOT NULL,
  PRIMARY KEY (study_id, revision)
) STRICT;
CREATE TRIGGER plan_version_is_never_changed BEFORE UPDATE ON plan_version
BEGIN SELECT RAISE(ABORT, 'versions of a plan are never overwritten'); END;
CREATE TRIGGER plan_version_is_never_deleted BEFORE DELETE ON plan_version
BEGIN SELECT RAISE(ABORT, 'versions of a plan are never deleted'); END;
CREATE TABLE study_level (
  study_id INTEGER NOT NULL REFERENCES study (id),
  kind TEXT NOT NULL,
  key TEXT NOT NULL,
  document TEXT NOT NULL CHECK (json_valid(document)),
  PRIMARY KEY (study_id, kind, key)
) STRICT;

-- A swatch is a thing; `study_id` is the study that gave it its code. Derived from the record:
-- whether it is in work, when it is ready, and whether its last state was read.
CREATE TABLE swatch_thing (
  id INTEGER PRIMARY KEY,
  study_id INTEGER NOT NULL REFERENCES study (id),
  serial INTEGER NOT NULL UNIQUE,
  code TEXT NOT NULL UNIQUE,
  tie TEXT NOT NULL,
  fibre TEXT NOT NULL,
  mass_g REAL NOT NULL,
  pieces TEXT NOT NULL CHECK (json_valid(pieces)),
  parent_id INTEGER REFERENCES swatch (id),
  settled INTEGER NOT NULL DEFAULT 0,
  in_work INTEGER NOT NULL DEFAULT 0,
  ready_at TEXT,
  last_run_id INTEGER REFERENCES run (id),
  state_is_read INTEGER NOT NULL DEFAULT 0
) STRICT;
CREATE INDEX swatch_by_study ON swatch_thing (study_id);
CREATE INDEX swatch_by_parent ON swatch_thing (parent_id) WHERE parent_id IS NOT NULL;
CREATE INDEX swatch_in_work ON swatch_thing (tie, study_id) WHERE in_work = 1;
CREATE INDEX swatch_to_read ON swatch_thing (ready_at, study_id)
  WHERE in_work = 0 AND state_is_read = 0 AND ready_at IS NOT NULL;

-- Where a swatch stands in a study's grid: in the one that gave its code, and in those it goes on to.
CREATE TABLE place (
  study_id INTEGER NOT NULL REFERENCES study (id),
  swatch_id INTEGER NOT NULL REFERENCES swatch (id),
  levels TEXT NOT NULL CHECK (json_valid(levels)),
  control TEXT,
  larger TEXT,
  replicate INTEGER NOT NULL CHECK (replicate >= 1),
  planned INTEGER NOT NULL,
  begun INTEGER NOT NULL DEFAULT 0,
  is_read INTEGER NOT NULL DEFAULT 0,
  stray INTEGER NOT NULL DEFAULT 0,
  true_levels TEXT CHECK (true_levels IS NULL OR json_valid(true_levels)),
  PRIMARY KEY (study_id, swatch_id)
) STRICT;
CREATE INDEX place_by_swatch ON place (swatch_id);
CREATE INDEX place_strays ON place (study_id) WHERE stray = 1;
-- Each study counts its planned places, and those of them that are read.
CREATE TRIGGER place_is_counted AFTER INSERT ON place BEGIN
  UPDATE study SET planned_swatches = planned_swatches + NEW.planned,
    read_swatches = read_swatches + (NEW.planned AND NEW.is_read) WHERE id = NEW.study_id;
END;
CREATE TRIGGER place_is_counted_anew AFTER UPDATE OF planned, is_read ON place
WHEN OLD.planned <> NEW.planned OR OLD.is_read <> NEW.is_read BEGIN
  UPDATE study SET planned_swatches = planned_swatches - OLD.planned + NEW.planned,
    read_swatches = read_swatches - (OLD.planned AND OLD.is_read) + (NEW.planned AND NEW.is_read)
    WHERE id = NEW.study_id;
END;
CREATE TRIGGER place_is_counted_no_more AFTER DELETE ON place BEGIN
  UPDATE study SET planned_swatches = planned_swatches - OLD.planned,
    read_swatches = read_swatches - (OLD.planned AND OLD.is_read) WHERE id = OLD.study_id;
END;

-- Swatches of other studies that take part in a study's further treatments, without a place in its
-- grid. `study_swatch` has everybody who has to do with a study.
CREATE TABLE guest (
  study_id INTEGER NOT NULL REFERENCES study (id),
  swatch_id INTEGER NOT NULL REFERENCES swatch (id),
  PRIMARY KEY (study_id, swatch_id)
) STRICT;
CREATE VIEW study_swatch AS
SELECT study_id, swatch_id FROM place UNION ALL SELECT study_id, swatch_id FROM guest;

-- A bath that has begun, as it stood then. The document is never changed; what is derived from the
-- log stands beside it. A bath of which all was taken back is void, and may begin anew.
CREATE TABLE run (
  id INTEGER PRIMARY KEY,
  study_id INTEGER NOT NULL REFERENCES study (id),
  name TEXT NOT NULL,
  bath TEXT NOT NULL,
  stage TEXT NOT NULL,
  revision INTEGER NOT NULL,
  document TEXT NOT NULL CHECK (json_valid(document)),
  kept_at TEXT NOT NULL,
  void INTEGER NOT NULL DEFAULT 0,
  begun_at TEXT,
  ended_at TEXT,
  finished_at TEXT,
  ready_at TEXT
) STRICT;
CREATE UNIQUE INDEX run_by_name ON run (study_id, name) WHERE void = 0;
CREATE INDEX run_open ON run (study_id) WHERE void = 0 AND finished_at IS NULL;
CREATE TRIGGER run_is_never_rewritten
BEFORE UPDATE OF study_id, name, bath, stage, revision, document, kept_at ON run
BEGIN SELECT RAISE(ABORT, 'a bath that has begun is never rewritten'); END;
CREATE TRIGGER run_is_never_deleted BEFORE DELETE ON run
BEGIN SELECT RAISE(ABORT, 'a bath that has begun is never deleted'); END;
-- Who belongs in it; `held`: it counts as theirs, as they are in it or still expected.
CREATE TABLE run_member (
  run_id INTEGER NOT NULL REFERENCES run (id),
  swatch_id INTEGER NOT NULL REFERENCES swatch (id),
  held INTEGER NOT NULL DEFAULT 1,
  PRIMARY KEY (run_id, swatch_id)
) STRICT;
CREATE INDEX run_member_by_swatch ON run_member (swatch_id);
CREATE TABLE run_step (
  run_id INTEGER NOT NULL REFERENCES run (id),
  key TEXT NOT NULL,
  title TEXT NOT NULL,
  begun_at TEXT,
  due_at TEXT,
  done_at TEXT,
  stir_every_min INTEGER,
  iron_watch INTEGER NOT NULL,
  PRIMARY KEY (run_id, key)
) STRICT;
CREATE INDEX run_step_running ON run_step (run_id) WHERE begun_at IS NOT NULL AND done_at IS NULL;
-- Who was really in it, from when until when.
CREATE TABLE passage (
  run_id INTEGER NOT NULL REFERENCES run (id),
  swatch_id INTEGER NOT NULL REFERENCES swatch (id),
  in_at TEXT NOT NULL,
  out_at TEXT,
  ended INTEGER NOT NULL,
  known TEXT NOT NULL,
  stray INTEGER NOT NULL,
  seconds REAL,
  PRIMARY KEY (run_id, swatch_id)
) STRICT;
CREATE INDEX passage_by_swatch ON passage (swatch_id);
CREATE TABLE mark (
  entry_id INTEGER NOT NULL REFERENCES bench_entry (id),
  swatch_id INTEGER NOT NULL REFERENCES swatch (id),
  study_id INTEGER NOT NULL REFERENCES study (id),
  vessel TEXT NOT NULL,
  step TEXT NOT NULL,
  at TEXT NOT NULL,
  deviation TEXT NOT NULL,
  note TEXT NOT NULL,
  cure TEXT,
  through TEXT NOT NULL,
  PRIMARY KEY (entry_id, swatch_id)
) STRICT;
CREATE INDEX mark_by_swatch ON mark (swatch_id);
CREATE INDEX mark_by_study ON mark (study_id);

-- Vessels that have not begun: the names that they go by. Names once given in a study with a record
-- are kept, also when the vessel is not needed for the time being.
CREATE TABLE planned_vessel (
  study_id INTEGER NOT NULL REFERENCES study (id),
  name TEXT NOT NULL,
  bath TEXT NOT NULL,
  key TEXT NOT NULL,
  swatches TEXT NOT NULL CHECK (json_valid(swatches)),
  planned INTEGER NOT NULL,
  PRIMARY KEY (study_id, name)
) STRICT;
CREATE INDEX planned_vessel_open ON planned_vessel (study_id) WHERE planned = 1;

-- The log goes by the names of vessels, and says when an entry was written down.
CREATE TABLE bench_entry_named (
  id INTEGER PRIMARY KEY,
  study_id INTEGER NOT NULL REFERENCES study (id),
  key TEXT NOT NULL UNIQUE,
  vessel TEXT NOT NULL,
  step TEXT NOT NULL,
  kind TEXT NOT NULL,
  at TEXT NOT NULL,
  entered_at TEXT NOT NULL,
  received_at TEXT NOT NULL,
  who TEXT NOT NULL DEFAULT '',
  replaces INTEGER UNIQUE REFERENCES bench_entry (id),
  document TEXT NOT NULL CHECK (json_valid(document))
) STRICT;
CREATE TABLE probe_reading_named (
  id INTEGER PRIMARY KEY,
  study_id INTEGER NOT NULL REFERENCES study (id),
  vessel TEXT NOT NULL,
  probe TEXT NOT NULL,
  at TEXT NOT NULL,
  temperature_c REAL,
  ph REAL
) STRICT;

-- Photos of one camera in one light saw the chart alike, and share their error.
CREATE TABLE capture (
  id INTEGER PRIMARY KEY,
  camera TEXT NOT NULL,
  response TEXT NOT NULL CHECK (json_valid(response))
) STRICT;
ALTER TABLE photo ADD COLUMN taken_at TEXT;
ALTER TABLE photo ADD COLUMN camera TEXT NOT NULL DEFAULT '';
ALTER TABLE photo ADD COLUMN capture_id INTEGER REFERENCES capture (id);
ALTER TABLE photo ADD COLUMN waiting INTEGER NOT NULL DEFAULT 0;
CREATE INDEX photo_waiting ON photo (study_id) WHERE waiting = 1;

-- A reading shows one state: after a bath, or as the piece came where there is none. `run_id` is
-- derived: what was said (`said_run`, 0 as it came), else the last bath that had ended at `shown_at`.
DROP TRIGGER reading_is_never_changed;
ALTER TABLE reading ADD COLUMN run_id INTEGER REFERENCES run (id);
ALTER TABLE reading ADD COLUMN said_run INTEGER;
ALTER TABLE reading ADD COLUMN shown_at TEXT NOT NULL DEFAULT '';
ALTER TABLE reading ADD COLUMN hex TEXT NOT NULL DEFAULT '';
ALTER TABLE reading ADD COLUMN colour_words TEXT NOT NULL DEFAULT '';
ALTER TABLE reading ADD COLUMN evenness_de00 REAL NOT NULL DEFAULT 0;
ALTER TABLE reading ADD COLUMN chart_de00 REAL NOT NULL DEFAULT 0;
ALTER TABLE reading ADD COLUMN damp INTEGER NOT NULL DEFAULT 0;
ALTER TABLE reading ADD COLUMN backing TEXT NOT NULL DEFAULT '';
ALTER TABLE reading ADD COLUMN layers INTEGER;
ALTER TABLE reading ADD COLUMN note TEXT NOT NULL DEFAULT '';
CREATE TABLE reading_choice (
  id INTEGER PRIMARY KEY,
  reading_id INTEGER NOT NULL REFERENCES reading (id),
  counts INTEGER NOT NULL,
  run INTEGER,
  who TEXT NOT NULL,
  note TEXT NOT NULL,
  at TEXT NOT NULL
) STRICT;
CREATE INDEX reading_choice_by_reading ON reading_choice (reading_id);
CREATE TRIGGER reading_choice_is_never_changed BEFORE UPDATE ON reading_choice
BEGIN SELECT RAISE(ABORT, 'what was said of a reading is never overwritten'); END;
CREATE TRIGGER reading_choice_is_never_deleted BEFORE DELETE ON reading_choice
BEGIN SELECT RAISE(ABORT, 'what was said of a reading is never deleted'); END;
CREATE TABLE state_colour (
  swatch_id INTEGER NOT NULL REFERENCES swatch (id),
  run_id INTEGER NOT NULL,
  document TEXT NOT NULL CHECK (json_valid(document)),
  PRIMARY KEY (swatch_id, run_id)
) STRICT;

-- A trial exposes its swatches in the state in which they were when it began.
CREATE TABLE trial_swatch (
  trial_id INTEGER NOT NULL REFERENCES trial (id),
  swatch_id INTEGER NOT NULL REFERENCES swatch (id),
  run_id INTEGER NOT NULL,
  PRIMARY KEY (trial_id, swatch_id)
) STRICT;
CREATE TABLE trial_stage (
  trial_id INTEGER NOT NULL REFERENCES trial (id),
  stage INTEGER NOT NULL,
  label TEXT NOT NULL,
  is_read INTEGER NOT NULL DEFAULT 0,
  PRIMARY KEY (trial_id, stage)
) STRICT;
CREATE INDEX trial_stage_due ON trial_stage (trial_id) WHERE is_read = 0;
CREATE INDEX trial_by_study ON trial (study_id);
CREATE TABLE fade_point (
  trial_id INTEGER NOT NULL REFERENCES trial (id),
  swatch_id INTEGER NOT NULL REFERENCES swatch (id),
  stage INTEGER NOT NULL,
  document TEXT NOT NULL CHECK (json_valid(document)),
  PRIMARY KEY (trial_id, swatch_id, stage)
) STRICT;
