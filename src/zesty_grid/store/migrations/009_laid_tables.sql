-- Swatches laid side by side, kept under a name.
CREATE TABLE laid_table (
  id INTEGER PRIMARY KEY,
  document TEXT NOT NULL CHECK (json_valid(document)),
  kept_at TEXT NOT NULL,
  changed_at TEXT NOT NULL,
  deleted_at TEXT
) STRICT;
