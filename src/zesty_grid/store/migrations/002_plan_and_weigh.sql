-- The Shelf holds more kinds of things, and a cell may have more than one swatch.
CREATE TABLE shelf_item_wider (
  kind TEXT NOT NULL CHECK (kind IN ('fibre', 'mordant_route', 'dye_lot', 'substance', 'vessel',
    'heat_place', 'scale', 'water')),
  key TEXT NOT NULL,
  position INTEGER NOT NULL,
  document TEXT NOT NULL CHECK (json_valid(document)),
  PRIMARY KEY (kind, key)
) STRICT;
INSERT INTO shelf_item_wider (kind, key, position, document)
  SELECT kind, key, position, document FROM shelf_item;
DROP TABLE shelf_item;
ALTER TABLE shelf_item_wider RENAME TO shelf_item;

CREATE TABLE swatch_of_many (
  id INTEGER PRIMARY KEY,
  study_id INTEGER NOT NULL REFERENCES study (id),
  cell TEXT NOT NULL,
  replicate INTEGER NOT NULL DEFAULT 1 CHECK (replicate >= 1),
  serial INTEGER NOT NULL UNIQUE,
  code TEXT NOT NULL UNIQUE,
  UNIQUE (study_id, cell, replicate)
) STRICT;
INSERT INTO swatch_of_many (id, study_id, cell, serial, code)
  SELECT id, study_id, cell, serial, code FROM swatch;
DROP TABLE swatch;
ALTER TABLE swatch_of_many RENAME TO swatch;
