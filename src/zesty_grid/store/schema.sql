-- The data file as it stands. A change from here on is a numbered migration beside this
-- file, and is made here too. STRICT tables; moments are text in UTC; what is measured names its unit.
-- Columns that are GENERATED say what a document holds, so that a path into it is written once.
-- `state` is the bath after which a piece is seen, by the number of its run; 0: as it came.

-- The file says whose it is (“Zest”), so that another program's database is never written to.
PRAGMA application_id = 1516598132;

CREATE TABLE migration (
  number INTEGER PRIMARY KEY,
  name TEXT NOT NULL,
  applied_at TEXT NOT NULL
) STRICT;


-- ---------------------------------------------------------------------------------- the Shelf

CREATE TABLE shelf_item (
  kind TEXT NOT NULL CHECK (kind IN ('fibre', 'mordant_route', 'dye_lot', 'substance', 'vessel',
    'heat_place', 'scale', 'water', 'chart', 'cloth', 'light_place', 'ph_strip')),
  key TEXT NOT NULL,
  position INTEGER NOT NULL,
  document TEXT NOT NULL CHECK (json_valid(document)),
  name TEXT GENERATED ALWAYS AS (document ->> '$.name'),
  PRIMARY KEY (kind, key)
) STRICT;


-- ----------------------------------------------------------------------------------- the plan

-- `uid` is a study's name wherever it is taken; `origin` says how it came to be where it was not
-- planned here; `kept_shelf` is the Shelf as it stood when its first step was logged.
CREATE TABLE study (
  id INTEGER PRIMARY KEY,
  uid TEXT NOT NULL DEFAULT '',
  revision INTEGER NOT NULL DEFAULT 1,
  name TEXT NOT NULL DEFAULT '',
  question TEXT NOT NULL DEFAULT '',
  plan TEXT NOT NULL CHECK (json_valid(plan)),
  kept_shelf TEXT CHECK (kept_shelf IS NULL OR json_valid(kept_shelf)),
  origin TEXT CHECK (origin IS NULL OR json_valid(origin)),
  planned_swatches INTEGER NOT NULL DEFAULT 0,
  read_swatches INTEGER NOT NULL DEFAULT 0,
  created_at TEXT NOT NULL,
  deleted_at TEXT,
  swatch_mass_g REAL GENERATED ALWAYS AS (plan ->> '$.swatch_mass_g'),
  liquor_ratio_ml_per_g REAL GENERATED ALWAYS AS (plan ->> '$.liquor_ratio_ml_per_g'),
  replicate_vessels TEXT GENERATED ALWAYS AS (plan ->> '$.replicate_vessels'),
  origin_kind TEXT GENERATED ALWAYS AS (origin ->> '$.kind'),
  origin_filename TEXT GENERATED ALWAYS AS (origin ->> '$.filename')
) STRICT;
CREATE UNIQUE INDEX study_by_uid ON study (uid);
-- The list of studies is read from here: a study's own row holds its whole plan.
CREATE INDEX study_on_list ON study (id, name, question, planned_swatches, read_swatches)
  WHERE deleted_at IS NULL;
CREATE TRIGGER study_is_named AFTER INSERT ON study WHEN NEW.uid = '' BEGIN
  UPDATE study SET uid = lower(hex(randomblob(12))) WHERE id = NEW.id;
END;

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
  label TEXT GENERATED ALWAYS AS (document ->> '$.label'),
  value REAL GENERATED ALWAYS AS (document ->> '$.value'),
  PRIMARY KEY (study_id, kind, key)
) STRICT;

-- Vessels that have not begun: the names that they go by. Names once given in a study with a record
-- are kept, also when the vessel is not needed for the time being.
CREATE TABLE planned_vessel (
  study_id INTEGER NOT NULL REFERENCES study (id),
  name TEXT NOT NULL,
  bath TEXT NOT NULL,
  key TEXT NOT NULL,
  swatches TEXT NOT NULL CHECK (json_valid(swatches)),
  planned INTEGER NOT NULL CHECK (planned IN (0, 1)),
  PRIMARY KEY (study_id, name)
) STRICT;
CREATE INDEX planned_vessel_open ON planned_vessel (study_id) WHERE planned = 1;

-- How a study is worked; the newest row counts.
CREATE TABLE protocol (
  id INTEGER PRIMARY KEY,
  study_id INTEGER NOT NULL REFERENCES study (id),
  document TEXT NOT NULL CHECK (json_valid(document)),
  changed_at TEXT NOT NULL
) STRICT;
CREATE INDEX protocol_by_study ON protocol (study_id);

-- The day plan; the newest row counts, older ones stay as they were.
CREATE TABLE schedule (
  id INTEGER PRIMARY KEY,
  study_id INTEGER NOT NULL REFERENCES study (id),
  document TEXT NOT NULL CHECK (json_valid(document)),
  made_at TEXT NOT NULL
) STRICT;
CREATE INDEX schedule_by_study ON schedule (study_id);


-- --------------------------------------------------------------------------------- the record

-- A swatch is a thing; `study_id` is the study that gave it its code. Derived from the record:
-- whether it is in work, when it is ready, its state, and whether that state was read.
CREATE TABLE swatch (
  id INTEGER PRIMARY KEY,
  study_id INTEGER NOT NULL REFERENCES study (id),
  serial INTEGER NOT NULL UNIQUE,
  code TEXT NOT NULL UNIQUE,
  tie TEXT NOT NULL,
  fibre TEXT NOT NULL,
  mass_g REAL NOT NULL,
  pieces TEXT NOT NULL CHECK (json_valid(pieces)),
  parent_id INTEGER REFERENCES swatch (id),
  settled INTEGER NOT NULL DEFAULT 0 CHECK (settled IN (0, 1)),
  in_work INTEGER NOT NULL DEFAULT 0 CHECK (in_work IN (0, 1)),
  ready_at TEXT,
  state INTEGER NOT NULL DEFAULT 0,
  after_run INTEGER GENERATED ALWAYS AS (nullif(state, 0)) REFERENCES run (id),
  state_is_read INTEGER NOT NULL DEFAULT 0 CHECK (state_is_read IN (0, 1))
) STRICT;
CREATE INDEX swatch_by_study ON swatch (study_id);
CREATE INDEX swatch_by_parent ON swatch (parent_id) WHERE parent_id IS NOT NULL;
CREATE INDEX swatch_after_run ON swatch (after_run) WHERE after_run IS NOT NULL;
CREATE INDEX swatch_in_work ON swatch (tie, study_id) WHERE in_work = 1;
CREATE INDEX swatch_to_read ON swatch (ready_at, study_id)
  WHERE in_work = 0 AND state_is_read = 0 AND ready_at IS NOT NULL;

-- Where a swatch stands in a study's grid: in the one that gave its code, and in those it goes on to.
CREATE TABLE place (
  study_id INTEGER NOT NULL REFERENCES study (id),
  swatch_id INTEGER NOT NULL REFERENCES swatch (id),
  levels TEXT NOT NULL CHECK (json_valid(levels)),
  control TEXT,
  larger TEXT,
  replicate INTEGER NOT NULL CHECK (replicate >= 1),
  planned INTEGER NOT NULL CHECK (planned IN (0, 1)),
  begun INTEGER NOT NULL DEFAULT 0 CHECK (begun IN (0, 1)),
  is_read INTEGER NOT NULL DEFAULT 0 CHECK (is_read IN (0, 1)),
  stray INTEGER NOT NULL DEFAULT 0 CHECK (stray IN (0, 1)),
  true_levels TEXT CHECK (true_levels IS NULL OR json_valid(true_levels)),
  PRIMARY KEY (study_id, swatch_id)
) STRICT;
CREATE INDEX place_by_swatch ON place (swatch_id);
CREATE INDEX place_strays ON place (study_id) WHERE stray = 1;
CREATE INDEX place_repeats ON place (study_id) WHERE replicate > 1;
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
CREATE INDEX guest_by_swatch ON guest (swatch_id);
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
  void INTEGER NOT NULL DEFAULT 0 CHECK (void IN (0, 1)),
  begun_at TEXT,
  ended_at TEXT,
  finished_at TEXT,
  ready_at TEXT,
  title TEXT GENERATED ALWAYS AS (document ->> '$.vessel.title'),
  bath_key TEXT GENERATED ALWAYS AS (document ->> '$.vessel.key'),
  treatment TEXT GENERATED ALWAYS AS (document ->> '$.vessel.treatment'),
  dip INTEGER GENERATED ALWAYS AS (document ->> '$.vessel.dip'),
  on_shelf TEXT GENERATED ALWAYS AS (document ->> '$.vessel.on_shelf'),
  on_shelf_name TEXT GENERATED ALWAYS AS (document ->> '$.vessel.on_shelf_name'),
  volume_ml REAL GENERATED ALWAYS AS (document ->> '$.vessel.volume_ml'),
  rests_h REAL GENERATED ALWAYS AS (document ->> '$.rests_h')
) STRICT;
CREATE INDEX run_by_study ON run (study_id);
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
  held INTEGER NOT NULL DEFAULT 1 CHECK (held IN (0, 1)),
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
  iron_watch INTEGER NOT NULL CHECK (iron_watch IN (0, 1)),
  PRIMARY KEY (run_id, key)
) STRICT;
CREATE INDEX run_step_running ON run_step (run_id) WHERE begun_at IS NOT NULL AND done_at IS NULL;

-- Who was really in it, from when until when.
CREATE TABLE passage (
  run_id INTEGER NOT NULL REFERENCES run (id),
  swatch_id INTEGER NOT NULL REFERENCES swatch (id),
  in_at TEXT NOT NULL,
  out_at TEXT,
  ended INTEGER NOT NULL CHECK (ended IN (0, 1)),
  known TEXT NOT NULL CHECK (known IN ('ticked', 'as planned')),
  stray INTEGER NOT NULL CHECK (stray IN (0, 1)),
  seconds REAL,
  PRIMARY KEY (run_id, swatch_id)
) STRICT;
CREATE INDEX passage_by_swatch ON passage (swatch_id);

-- Between two heatings of a bath, or out of it and in again: a state that can be read. In `state` it is
-- the negative of 200 times its run, 100 where its kind is `out`, and its number.
CREATE TABLE pause (
  run_id INTEGER NOT NULL REFERENCES run (id),
  swatch_id INTEGER NOT NULL REFERENCES swatch (id),
  kind TEXT NOT NULL CHECK (kind IN ('heating', 'out')),
  number INTEGER NOT NULL CHECK (number BETWEEN 1 AND 99),
  from_at TEXT NOT NULL,
  go_ended_at TEXT NOT NULL,
  PRIMARY KEY (run_id, swatch_id, kind, number)
) STRICT;
CREATE INDEX pause_by_swatch ON pause (swatch_id);

-- The log. It goes by the names of vessels, and says when an entry was written down.
CREATE TABLE bench_entry (
  id INTEGER PRIMARY KEY,
  study_id INTEGER NOT NULL REFERENCES study (id),
  key TEXT NOT NULL UNIQUE,
  vessel TEXT NOT NULL,
  step TEXT NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('begun', 'done', 'undone', 'timer', 'record', 'addition',
    'reheat', 'loaded', 'unloaded', 'looked', 'pulled', 'rinses', 'hand', 'laid', 'deviation',
    'cure', 'placed', 'probe', 'note', 'struck')),
  at TEXT NOT NULL,
  entered_at TEXT NOT NULL,
  received_at TEXT NOT NULL,
  who TEXT NOT NULL DEFAULT '',
  replaces INTEGER UNIQUE REFERENCES bench_entry (id),
  document TEXT NOT NULL CHECK (json_valid(document)),
  about INTEGER GENERATED ALWAYS AS (document ->> '$.about'),
  photo TEXT GENERATED ALWAYS AS (document ->> '$.photo'),
  probe TEXT GENERATED ALWAYS AS (document ->> '$.probe')
) STRICT;
CREATE INDEX bench_entry_by_study ON bench_entry (study_id, vessel, step);
CREATE TRIGGER bench_entry_is_never_changed BEFORE UPDATE ON bench_entry
BEGIN SELECT RAISE(ABORT, 'bench entries are never overwritten'); END;
CREATE TRIGGER bench_entry_is_never_deleted BEFORE DELETE ON bench_entry
BEGIN SELECT RAISE(ABORT, 'bench entries are never deleted'); END;

-- What went wrong, by swatch; derived from the log.
CREATE TABLE mark (
  entry_id INTEGER NOT NULL REFERENCES bench_entry (id),
  swatch_id INTEGER NOT NULL REFERENCES swatch (id),
  study_id INTEGER NOT NULL REFERENCES study (id),
  vessel TEXT NOT NULL,
  step TEXT NOT NULL,
  at TEXT NOT NULL,
  deviation TEXT NOT NULL CHECK (deviation IN ('boiled', 'ran dry', 'too long', 'spilled',
    'wrong swatch', 'forgot to stir', 'felted', 'foamed', 'iron spots', 'bled from a neighbour',
    'twisted', 'crowded', 'other')),
  note TEXT NOT NULL,
  cure TEXT CHECK (cure IN ('repeat', 'replace', 'leave out', 'keep with a mark')),
  through TEXT NOT NULL,
  PRIMARY KEY (entry_id, swatch_id)
) STRICT;
CREATE INDEX mark_by_swatch ON mark (swatch_id);
CREATE INDEX mark_by_study ON mark (study_id);

CREATE TABLE probe_reading (
  id INTEGER PRIMARY KEY,
  study_id INTEGER NOT NULL REFERENCES study (id),
  vessel TEXT NOT NULL,
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


-- ---------------------------------------------------------------------------------- the trials

CREATE TABLE trial (
  id INTEGER PRIMARY KEY,
  study_id INTEGER NOT NULL REFERENCES study (id),
  plan TEXT NOT NULL CHECK (json_valid(plan)),
  created_at TEXT NOT NULL,
  kind TEXT GENERATED ALWAYS AS (plan ->> '$.kind'),
  name TEXT GENERATED ALWAYS AS (plan ->> '$.name')
) STRICT;
CREATE INDEX trial_by_study ON trial (study_id);

-- A trial exposes its swatches in the state in which they were when it began.
CREATE TABLE trial_swatch (
  trial_id INTEGER NOT NULL REFERENCES trial (id),
  swatch_id INTEGER NOT NULL REFERENCES swatch (id),
  state INTEGER NOT NULL,
  after_run INTEGER GENERATED ALWAYS AS (iif(state < 0, -state / 200, nullif(state, 0))) VIRTUAL REFERENCES run (id),
  PRIMARY KEY (trial_id, swatch_id)
) STRICT;
CREATE INDEX trial_swatch_by_swatch ON trial_swatch (swatch_id);
CREATE INDEX trial_swatch_after_run ON trial_swatch (after_run);

CREATE TABLE trial_stage (
  trial_id INTEGER NOT NULL REFERENCES trial (id),
  stage INTEGER NOT NULL,
  label TEXT NOT NULL,
  is_read INTEGER NOT NULL DEFAULT 0 CHECK (is_read IN (0, 1)),
  due_on TEXT,
  left_out INTEGER NOT NULL DEFAULT 0 CHECK (left_out IN (0, 1)),
  PRIMARY KEY (trial_id, stage)
) STRICT;
CREATE INDEX trial_stage_due ON trial_stage (trial_id) WHERE is_read = 0;

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

-- A light logger's file; `watts`: its column is in W/m².
CREATE TABLE light_log (
  id INTEGER PRIMARY KEY,
  trial_id INTEGER NOT NULL REFERENCES trial (id),
  filename TEXT NOT NULL,
  sha256 TEXT NOT NULL,
  column_name TEXT NOT NULL,
  watts INTEGER NOT NULL CHECK (watts IN (0, 1)),
  samples TEXT NOT NULL CHECK (json_valid(samples)),
  kept_at TEXT NOT NULL,
  first_at TEXT GENERATED ALWAYS AS (samples ->> '$[0].at'),
  last_at TEXT GENERATED ALWAYS AS (samples ->> '$[#-1].at'),
  UNIQUE (trial_id, sha256)
) STRICT;

-- What follows from readings and entries.
CREATE TABLE fade_point (
  trial_id INTEGER NOT NULL REFERENCES trial (id),
  swatch_id INTEGER NOT NULL REFERENCES swatch (id),
  stage INTEGER NOT NULL,
  zone TEXT NOT NULL,
  document TEXT NOT NULL CHECK (json_valid(document)),
  de00 REAL GENERATED ALWAYS AS (document ->> '$.de00'),
  PRIMARY KEY (trial_id, swatch_id, stage, zone)
) STRICT;
CREATE INDEX fade_point_by_swatch ON fade_point (swatch_id);

CREATE TABLE stain_point (
  trial_id INTEGER NOT NULL REFERENCES trial (id),
  swatch_id INTEGER NOT NULL REFERENCES swatch (id),
  stage INTEGER NOT NULL,
  neighbour TEXT NOT NULL,
  document TEXT NOT NULL CHECK (json_valid(document)),
  PRIMARY KEY (trial_id, swatch_id, stage, neighbour)
) STRICT;
CREATE INDEX stain_point_by_swatch ON stain_point (swatch_id);


-- ------------------------------------------------------------------------ photographs, readings

CREATE TABLE sheet (
  id TEXT PRIMARY KEY,
  study_id INTEGER NOT NULL REFERENCES study (id),
  trial_id INTEGER REFERENCES trial (id),
  page INTEGER NOT NULL,
  layout TEXT NOT NULL CHECK (json_valid(layout)),
  assignments TEXT NOT NULL CHECK (json_valid(assignments)),
  created_at TEXT NOT NULL,
  kind TEXT GENERATED ALWAYS AS (layout ->> '$.kind'),
  chart_name TEXT GENERATED ALWAYS AS (layout ->> '$.chart.name')
) STRICT;
CREATE INDEX sheet_by_study ON sheet (study_id);
CREATE INDEX sheet_by_trial ON sheet (trial_id) WHERE trial_id IS NOT NULL;

-- Photos of one camera in one light saw the chart alike, and share their error.
CREATE TABLE capture (
  id INTEGER PRIMARY KEY,
  camera TEXT NOT NULL,
  response TEXT NOT NULL CHECK (json_valid(response))
) STRICT;

-- What a camera was taught in one light, by swatches that an instrument measured too.
CREATE TABLE camera_profile (
  id INTEGER PRIMARY KEY,
  camera TEXT NOT NULL,
  capture_id INTEGER NOT NULL REFERENCES capture (id),
  document TEXT NOT NULL CHECK (json_valid(document)),
  made_at TEXT NOT NULL,
  in_use INTEGER NOT NULL DEFAULT 1 CHECK (in_use IN (0, 1))
) STRICT;
CREATE INDEX camera_profile_by_capture ON camera_profile (capture_id);

CREATE TABLE photo_file (
  sha256 TEXT PRIMARY KEY,
  bytes BLOB NOT NULL
) STRICT;

-- `taken_on`: the day on which the camera took it, where it says so. A photo that is `waiting` was
-- not accepted yet; one that is `discarded` was set aside, and can be brought back.
CREATE TABLE photo (
  id INTEGER PRIMARY KEY,
  study_id INTEGER NOT NULL REFERENCES study (id),
  sheet_id TEXT NOT NULL REFERENCES sheet (id),
  sha256 TEXT NOT NULL REFERENCES photo_file (sha256),
  filename TEXT NOT NULL,
  uploaded_at TEXT NOT NULL,
  taken_on TEXT,
  taken_at TEXT,
  camera TEXT NOT NULL DEFAULT '',
  capture_id INTEGER REFERENCES capture (id),
  waiting INTEGER NOT NULL DEFAULT 0 CHECK (waiting IN (0, 1)),
  discarded INTEGER NOT NULL DEFAULT 0 CHECK (discarded IN (0, 1)),
  UNIQUE (study_id, sha256)
) STRICT;
CREATE INDEX photo_by_sheet ON photo (sheet_id);
CREATE INDEX photo_by_file ON photo (sha256);
CREATE INDEX photo_by_capture ON photo (capture_id) WHERE capture_id IS NOT NULL;
CREATE INDEX photo_waiting ON photo (study_id) WHERE waiting = 1;

CREATE TABLE measurement (
  id INTEGER PRIMARY KEY,
  photo_id INTEGER NOT NULL REFERENCES photo (id),
  document TEXT NOT NULL CHECK (json_valid(document)),
  measured_at TEXT NOT NULL,
  camera TEXT GENERATED ALWAYS AS (document ->> '$.calibration.camera'),
  response TEXT GENERATED ALWAYS AS (document -> '$.calibration.response'),
  patch_light TEXT GENERATED ALWAYS AS (document -> '$.calibration.patch_light')
) STRICT;
CREATE INDEX measurement_by_photo ON measurement (photo_id);

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
  document TEXT NOT NULL CHECK (json_valid(document)),
  wavelengths_nm TEXT GENERATED ALWAYS AS (document -> '$.wavelengths_nm'),
  reflectance TEXT GENERATED ALWAYS AS (document -> '$.reflectance')
) STRICT;
CREATE INDEX instrument_sample_by_file ON instrument_sample (file_id);
CREATE INDEX instrument_sample_by_swatch ON instrument_sample (swatch_id);
CREATE TRIGGER instrument_sample_is_never_changed BEFORE UPDATE ON instrument_sample
BEGIN SELECT RAISE(ABORT, 'readings are never overwritten'); END;
CREATE TRIGGER instrument_sample_is_never_deleted BEFORE DELETE ON instrument_sample
BEGIN SELECT RAISE(ABORT, 'readings are never deleted'); END;

-- A reading shows one state. `state` is derived: what was said (`said_state`), else the last bath
-- that had ended at `shown_at`. All else is said once.
CREATE TABLE reading (
  id INTEGER PRIMARY KEY,
  swatch_id INTEGER NOT NULL REFERENCES swatch (id),
  piece TEXT NOT NULL CHECK (piece IN ('whole', 'dark', 'light', 'wash', 'treated', 'neighbour')),
  zone TEXT NOT NULL DEFAULT '',
  trial_id INTEGER REFERENCES trial (id),
  stage INTEGER,
  measurement_id INTEGER REFERENCES measurement (id),
  sheet_cell TEXT NOT NULL,
  instrument_sample_id INTEGER UNIQUE REFERENCES instrument_sample (id),
  lab_l REAL NOT NULL,
  lab_a REAL NOT NULL,
  lab_b REAL NOT NULL,
  hex TEXT NOT NULL DEFAULT '',
  colour_words TEXT NOT NULL DEFAULT '',
  uncertainty_de00 REAL NOT NULL,
  levelness_de00 REAL NOT NULL,
  evenness_de00 REAL NOT NULL DEFAULT 0,
  chart_de00 REAL NOT NULL DEFAULT 0,
  flags TEXT NOT NULL CHECK (json_valid(flags)),
  warnings TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(warnings)),
  damp INTEGER NOT NULL DEFAULT 0 CHECK (damp IN (0, 1)),
  backing TEXT NOT NULL DEFAULT '' CHECK (backing IN ('', 'white', 'black', 'grey',
    'more of the same')),
  layers INTEGER,
  share REAL,
  note TEXT NOT NULL DEFAULT '',
  taken_on TEXT NOT NULL,
  accepted_at TEXT NOT NULL,
  shown_at TEXT NOT NULL DEFAULT '',
  said_state INTEGER,
  state INTEGER NOT NULL DEFAULT 0,
  after_run INTEGER GENERATED ALWAYS AS (iif(state < 0, -state / 200, nullif(state, 0))) VIRTUAL REFERENCES run (id),
  zone_named TEXT,
  zone_now TEXT GENERATED ALWAYS AS (coalesce(zone_named, zone)) VIRTUAL,
  CHECK ((trial_id IS NULL) = (stage IS NULL)),
  CHECK ((measurement_id IS NULL) <> (instrument_sample_id IS NULL)),
  UNIQUE (measurement_id, sheet_cell)
) STRICT;
CREATE INDEX reading_by_swatch ON reading (swatch_id);
CREATE INDEX reading_by_trial ON reading (trial_id) WHERE trial_id IS NOT NULL;
CREATE INDEX reading_after_run ON reading (after_run);
CREATE INDEX reading_kept_dark ON reading (id) WHERE piece = 'dark' AND zone = '';
CREATE TRIGGER reading_is_never_changed BEFORE UPDATE OF id, swatch_id, piece, trial_id, stage,
  measurement_id, sheet_cell, instrument_sample_id, lab_l, lab_a, lab_b, uncertainty_de00,
  levelness_de00, flags, taken_on, accepted_at, said_state, shown_at, hex, colour_words,
  evenness_de00, chart_de00, damp, backing, layers, note, zone, share, warnings ON reading
BEGIN SELECT RAISE(ABORT, 'readings are never overwritten'); END;
CREATE TRIGGER reading_is_never_deleted BEFORE DELETE ON reading
BEGIN SELECT RAISE(ABORT, 'readings are never deleted'); END;

-- What was said of a reading since: whether it counts, and which state it shows.
CREATE TABLE reading_choice (
  id INTEGER PRIMARY KEY,
  reading_id INTEGER NOT NULL REFERENCES reading (id),
  counts INTEGER NOT NULL CHECK (counts IN (0, 1)),
  said_state INTEGER,
  who TEXT NOT NULL,
  note TEXT NOT NULL,
  at TEXT NOT NULL,
  zone_name TEXT
) STRICT;
CREATE INDEX reading_choice_by_reading ON reading_choice (reading_id);
CREATE TRIGGER reading_choice_is_never_changed BEFORE UPDATE ON reading_choice
BEGIN SELECT RAISE(ABORT, 'what was said of a reading is never overwritten'); END;
CREATE TRIGGER reading_choice_is_never_deleted BEFORE DELETE ON reading_choice
BEGIN SELECT RAISE(ABORT, 'what was said of a reading is never deleted'); END;

-- The colour of a swatch in each of its states; derived from its readings.
CREATE TABLE state_colour (
  swatch_id INTEGER NOT NULL REFERENCES swatch (id),
  state INTEGER NOT NULL,
  after_run INTEGER GENERATED ALWAYS AS (iif(state < 0, -state / 200, nullif(state, 0))) VIRTUAL REFERENCES run (id),
  document TEXT NOT NULL CHECK (json_valid(document)),
  lab_l REAL GENERATED ALWAYS AS (document ->> '$.lab[0]') STORED,
  lab_a REAL GENERATED ALWAYS AS (document ->> '$.lab[1]') STORED,
  lab_b REAL GENERATED ALWAYS AS (document ->> '$.lab[2]') STORED,
  uncertainty_de00 REAL GENERATED ALWAYS AS (document ->> '$.uncertainty_de00') STORED,
  hex TEXT GENERATED ALWAYS AS (document ->> '$.hex') STORED,
  colour_words TEXT GENERATED ALWAYS AS (document ->> '$.colour_words') STORED,
  taken_on TEXT GENERATED ALWAYS AS (document ->> '$.taken_on') STORED,
  PRIMARY KEY (swatch_id, state)
) STRICT;
CREATE INDEX state_colour_after_run ON state_colour (after_run);

-- Textiles that were never in a grid have a place on the Shelf, and readings of their own.
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
CREATE TRIGGER cloth_reading_is_never_changed BEFORE UPDATE ON cloth_reading
BEGIN SELECT RAISE(ABORT, 'readings are never overwritten'); END;
CREATE TRIGGER cloth_reading_is_never_deleted BEFORE DELETE ON cloth_reading
BEGIN SELECT RAISE(ABORT, 'readings are never deleted'); END;

-- Swatches laid side by side, kept under a name.
CREATE TABLE laid_table (
  id INTEGER PRIMARY KEY,
  document TEXT NOT NULL CHECK (json_valid(document)),
  kept_at TEXT NOT NULL,
  changed_at TEXT NOT NULL,
  deleted_at TEXT
) STRICT;


-- ----------------------------------------------------------- who comes in, and what was brought

-- Codes that let devices in when the application is open to a network. Only a hash is kept.
CREATE TABLE access_code (
  id INTEGER PRIMARY KEY,
  kind TEXT NOT NULL CHECK (kind IN ('full', 'guest')),
  hash TEXT NOT NULL,
  made_at TEXT NOT NULL,
  revoked_at TEXT
) STRICT;
CREATE UNIQUE INDEX access_code_in_force ON access_code (kind) WHERE revoked_at IS NULL;

-- A device that came in with a code; of the secret in its cookie only a hash is kept.
CREATE TABLE device (
  id INTEGER PRIMARY KEY,
  code_id INTEGER NOT NULL REFERENCES access_code (id),
  secret_hash TEXT NOT NULL UNIQUE,
  name TEXT NOT NULL,
  came_in_at TEXT NOT NULL,
  seen_at TEXT NOT NULL,
  revoked_at TEXT
) STRICT;
CREATE INDEX device_by_code ON device (code_id);

-- Who tried to come in, and what was done about codes and devices. The oldest lines are let go.
CREATE TABLE access_event (
  id INTEGER PRIMARY KEY,
  at TEXT NOT NULL,
  what TEXT NOT NULL CHECK (what IN ('wrong code', 'came in', 'new code', 'code taken back',
    'device put out', 'left')),
  come_from TEXT NOT NULL,
  words TEXT NOT NULL
) STRICT;

-- Which device wrote what, by the table and the row. Without a line: the computer itself.
CREATE TABLE signature (
  written TEXT NOT NULL,
  row_id INTEGER NOT NULL,
  device_id INTEGER NOT NULL REFERENCES device (id),
  PRIMARY KEY (written, row_id)
) STRICT;
CREATE INDEX signature_by_device ON signature (device_id);
CREATE TRIGGER signature_is_never_changed BEFORE UPDATE ON signature
BEGIN SELECT RAISE(ABORT, 'signatures are never overwritten'); END;
CREATE TRIGGER signature_is_never_deleted BEFORE DELETE ON signature
BEGIN SELECT RAISE(ABORT, 'signatures are never deleted'); END;

-- Packages that were taken in: when, from which file, and which studies were new or had grown; and
-- which devices of another file signed the entries that came with them.
CREATE TABLE taken_in (
  id INTEGER PRIMARY KEY,
  at TEXT NOT NULL,
  document TEXT NOT NULL CHECK (json_valid(document))
) STRICT;
CREATE TRIGGER taken_in_is_never_changed BEFORE UPDATE ON taken_in
BEGIN SELECT RAISE(ABORT, 'what was taken in is never overwritten'); END;
CREATE TRIGGER taken_in_is_never_deleted BEFORE DELETE ON taken_in
BEGIN SELECT RAISE(ABORT, 'what was taken in is never deleted'); END;

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


-- ------------------------------------------------------------------ what was worked out, and kept

-- A study's token, and that of the Shelf (0), is another one after every write that changes what is shown of
-- it: what was worked out goes by these tokens. What follows from the log changes with the log.
CREATE TABLE change_token (
  study_id INTEGER PRIMARY KEY,
  token INTEGER NOT NULL
) STRICT;
CREATE TRIGGER plan_version_insert_changes_its_study AFTER INSERT ON plan_version BEGIN
  INSERT INTO change_token VALUES (NEW.study_id, random())
    ON CONFLICT DO UPDATE SET token = excluded.token; END;
CREATE TRIGGER study_level_insert_changes_its_study AFTER INSERT ON study_level BEGIN
  INSERT INTO change_token VALUES (NEW.study_id, random())
    ON CONFLICT DO UPDATE SET token = excluded.token; END;
CREATE TRIGGER protocol_insert_changes_its_study AFTER INSERT ON protocol BEGIN
  INSERT INTO change_token VALUES (NEW.study_id, random())
    ON CONFLICT DO UPDATE SET token = excluded.token; END;
CREATE TRIGGER schedule_insert_changes_its_study AFTER INSERT ON schedule BEGIN
  INSERT INTO change_token VALUES (NEW.study_id, random())
    ON CONFLICT DO UPDATE SET token = excluded.token; END;
CREATE TRIGGER guest_insert_changes_its_study AFTER INSERT ON guest BEGIN
  INSERT INTO change_token VALUES (NEW.study_id, random())
    ON CONFLICT DO UPDATE SET token = excluded.token; END;
CREATE TRIGGER bench_entry_insert_changes_its_study AFTER INSERT ON bench_entry BEGIN
  INSERT INTO change_token VALUES (NEW.study_id, random())
    ON CONFLICT DO UPDATE SET token = excluded.token; END;
CREATE TRIGGER trial_insert_changes_its_study AFTER INSERT ON trial BEGIN
  INSERT INTO change_token VALUES (NEW.study_id, random())
    ON CONFLICT DO UPDATE SET token = excluded.token; END;
CREATE TRIGGER sheet_insert_changes_its_study AFTER INSERT ON sheet BEGIN
  INSERT INTO change_token VALUES (NEW.study_id, random())
    ON CONFLICT DO UPDATE SET token = excluded.token; END;
CREATE TRIGGER photo_insert_changes_its_study AFTER INSERT ON photo BEGIN
  INSERT INTO change_token VALUES (NEW.study_id, random())
    ON CONFLICT DO UPDATE SET token = excluded.token; END;
CREATE TRIGGER photo_update_changes_its_study AFTER UPDATE ON photo BEGIN
  INSERT INTO change_token VALUES (NEW.study_id, random())
    ON CONFLICT DO UPDATE SET token = excluded.token; END;
CREATE TRIGGER instrument_file_insert_changes_its_study AFTER INSERT ON instrument_file BEGIN
  INSERT INTO change_token VALUES (NEW.study_id, random())
    ON CONFLICT DO UPDATE SET token = excluded.token; END;
CREATE TRIGGER study_update_changes_it AFTER UPDATE OF plan, kept_shelf, name, deleted_at ON study BEGIN
  INSERT INTO change_token VALUES (NEW.id, random()) ON CONFLICT DO UPDATE SET token = excluded.token; END;
CREATE TRIGGER trial_entry_changes_its_study AFTER INSERT ON trial_entry BEGIN
  INSERT INTO change_token SELECT study_id, random() FROM trial WHERE id = NEW.trial_id
    ON CONFLICT DO UPDATE SET token = excluded.token; END;
CREATE TRIGGER light_log_changes_its_study AFTER INSERT ON light_log BEGIN
  INSERT INTO change_token SELECT study_id, random() FROM trial WHERE id = NEW.trial_id
    ON CONFLICT DO UPDATE SET token = excluded.token; END;
CREATE TRIGGER measurement_changes_its_study AFTER INSERT ON measurement BEGIN
  INSERT INTO change_token SELECT study_id, random() FROM photo WHERE id = NEW.photo_id
    ON CONFLICT DO UPDATE SET token = excluded.token; END;
CREATE TRIGGER reading_changes_its_studies AFTER INSERT ON reading BEGIN
  INSERT INTO change_token SELECT study_id, random() FROM study_swatch WHERE swatch_id = NEW.swatch_id
    ON CONFLICT DO UPDATE SET token = excluded.token; END;
CREATE TRIGGER instrument_sample_changes_its_studies AFTER INSERT ON instrument_sample BEGIN
  INSERT INTO change_token SELECT study_id, random() FROM study_swatch WHERE swatch_id = NEW.swatch_id
    ON CONFLICT DO UPDATE SET token = excluded.token; END;
CREATE TRIGGER reading_choice_changes_its_studies AFTER INSERT ON reading_choice BEGIN
  INSERT INTO change_token SELECT study_id, random() FROM study_swatch
    WHERE swatch_id = (SELECT swatch_id FROM reading WHERE id = NEW.reading_id)
    ON CONFLICT DO UPDATE SET token = excluded.token; END;
CREATE TRIGGER shelf_item_insert_changes_the_shelf AFTER INSERT ON shelf_item BEGIN
  INSERT INTO change_token VALUES (0, random()) ON CONFLICT DO UPDATE SET token = excluded.token; END;
CREATE TRIGGER shelf_item_update_changes_the_shelf AFTER UPDATE ON shelf_item BEGIN
  INSERT INTO change_token VALUES (0, random()) ON CONFLICT DO UPDATE SET token = excluded.token; END;
CREATE TRIGGER shelf_item_delete_changes_the_shelf AFTER DELETE ON shelf_item BEGIN
  INSERT INTO change_token VALUES (0, random()) ON CONFLICT DO UPDATE SET token = excluded.token; END;
CREATE TRIGGER cloth_reading_changes_the_shelf AFTER INSERT ON cloth_reading BEGIN
  INSERT INTO change_token VALUES (0, random()) ON CONFLICT DO UPDATE SET token = excluded.token; END;
