CREATE TABLE shelf_item_now (
  kind TEXT NOT NULL CHECK (kind IN ('fibre', 'mordant_route', 'dye_lot', 'substance', 'vessel',
    'heat_place', 'scale', 'water', 'chart', 'cloth', 'light_place', 'ph_strip')),
  key TEXT NOT NULL,
  position INTEGER NOT NULL,
  document TEXT NOT NULL CHECK (json_valid(document)),
  name TEXT GENERATED ALWAYS AS (document ->> '$.name'),
  PRIMARY KEY (kind, key)
) STRICT;
INSERT INTO shelf_item_now (kind, key, position, document) SELECT kind, key, position, document FROM shelf_item;
DROP TABLE shelf_item;
ALTER TABLE shelf_item_now RENAME TO shelf_item;
CREATE TRIGGER shelf_item_insert_changes_the_shelf AFTER INSERT ON shelf_item BEGIN
  INSERT INTO change_token VALUES (0, random()) ON CONFLICT DO UPDATE SET token = excluded.token; END;
CREATE TRIGGER shelf_item_update_changes_the_shelf AFTER UPDATE ON shelf_item BEGIN
  INSERT INTO change_token VALUES (0, random()) ON CONFLICT DO UPDATE SET token = excluded.token; END;
CREATE TRIGGER shelf_item_delete_changes_the_shelf AFTER DELETE ON shelf_item BEGIN
  INSERT INTO change_token VALUES (0, random()) ON CONFLICT DO UPDATE SET token = excluded.token; END;
