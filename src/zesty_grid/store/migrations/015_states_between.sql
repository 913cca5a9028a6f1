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
DROP INDEX reading_after_run;
ALTER TABLE reading DROP COLUMN after_run;
ALTER TABLE reading ADD COLUMN after_run INTEGER
  GENERATED ALWAYS AS (iif(state < 0, -state / 200, nullif(state, 0))) VIRTUAL REFERENCES run (id);
CREATE INDEX reading_after_run ON reading (after_run);
DROP INDEX state_colour_after_run;
ALTER TABLE state_colour DROP COLUMN after_run;
ALTER TABLE state_colour ADD COLUMN after_run INTEGER
  GENERATED ALWAYS AS (iif(state < 0, -state / 200, nullif(state, 0))) VIRTUAL REFERENCES run (id);
CREATE INDEX state_colour_after_run ON state_colour (after_run);
DROP INDEX trial_swatch_after_run;
ALTER TABLE trial_swatch DROP COLUMN after_run;
ALTER TABLE trial_swatch ADD COLUMN after_run INTEGER
  GENERATED ALWAYS AS (iif(state < 0, -state / 200, nullif(state, 0))) VIRTUAL REFERENCES run (id);
CREATE INDEX trial_swatch_after_run ON trial_swatch (after_run);
