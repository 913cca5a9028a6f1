ALTER TABLE reading_choice ADD COLUMN zone_name TEXT;
ALTER TABLE reading ADD COLUMN zone_named TEXT;
ALTER TABLE reading ADD COLUMN zone_now TEXT GENERATED ALWAYS AS (coalesce(zone_named, zone)) VIRTUAL;
