"""Works out again what follows from the readings of an older file, as it is worked out now."""

import sqlite3

from zesty_grid.store.fade import project_trial
from zesty_grid.store.following import follow_readings
from zesty_grid.store.swatches import project_begun


def bring_over(connection: sqlite3.Connection) -> None:
    ids = [row[0] for row in connection.execute("SELECT DISTINCT swatch_id FROM reading")]
    project_begun(connection, ids)
    follow_readings(connection, ids)
    for row in connection.execute("SELECT id FROM trial").fetchall():
        project_trial(connection, row["id"])
