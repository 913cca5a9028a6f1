-- The Shelf as it stood when the first step of a study was logged: its recipes no longer move.
ALTER TABLE study ADD COLUMN kept_shelf TEXT CHECK (kept_shelf IS NULL OR json_valid(kept_shelf));
