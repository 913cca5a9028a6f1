-- The file says whose it is (“Zest”), so that another program's database is never written to.
PRAGMA application_id = 1516598132;

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

-- Which device wrote what, by the table and the row. Without a line: the computer itself.
CREATE TABLE signature (
  written TEXT NOT NULL,
  row_id INTEGER NOT NULL,
  device_id INTEGER NOT NULL REFERENCES device (id),
  PRIMARY KEY (written, row_id)
) STRICT;
CREATE TRIGGER signature_is_never_changed BEFORE UPDATE ON signature
BEGIN SELECT RAISE(ABORT, 'signatures are never overwritten'); END;
CREATE TRIGGER signature_is_never_deleted BEFORE DELETE ON signature
BEGIN SELECT RAISE(ABORT, 'signatures are never deleted'); END;

-- A name of its own for every study, wherever it is taken: a package says which one it holds.
ALTER TABLE study ADD COLUMN uid TEXT NOT NULL DEFAULT '';
UPDATE study SET uid = lower(hex(randomblob(12)));
CREATE UNIQUE INDEX study_by_uid ON study (uid);
CREATE TRIGGER study_is_named AFTER INSERT ON study WHEN NEW.uid = '' BEGIN
  UPDATE study SET uid = lower(hex(randomblob(12))) WHERE id = NEW.id;
END;
