"""What follows from readings, and from a log that changed under them: states, colours, trials."""

import sqlite3
from collections.abc import Iterable
from datetime import datetime

from zesty_grid.core.record.states import state_shown
from zesty_grid.store.colours import project_colours
from zesty_grid.store.fade import project_trial
from zesty_grid.store.states import ended_baths


def follow_readings(connection: sqlite3.Connection, ids: Iterable[int], trial_alone: int | None = None) -> None:
    """States, colours and trials that rest on the readings of some swatches; of trials only the one
    whose pieces were read, where they were."""
    read = _that_were_read(connection, ids)
    _place_readings(connection, read)
    project_colours(connection, read)
    for trial in [trial_alone] if trial_alone else _trials_with(connection, read):
        project_trial(connection, trial)


def _place_readings(connection: sqlite3.Connection, ids: Iterable[int]) -> None:
    """Each reading in the state that it shows: of a trial the one of its beginning, else what was
    said of it, else by its moment; and by the name that its zone was given last."""
    every = list(ids)
    baths = ended_baths(connection, every)
    for swatch in every:
        rows = connection.execute(
            "SELECT reading.id, reading.state, reading.shown_at, reading.zone_named, swatch.code, "
            "(SELECT choice.zone_name FROM reading_choice AS choice WHERE reading_id = reading.id "
            "AND choice.zone_name IS NOT NULL ORDER BY choice.id DESC LIMIT 1) AS named, "
            "coalesce(trial_swatch.state, (SELECT choice.said_state FROM reading_choice AS choice "
            "WHERE reading_id = reading.id AND choice.said_state IS NOT NULL "
            "ORDER BY choice.id DESC LIMIT 1), reading.said_state) AS said "
            "FROM reading JOIN swatch ON swatch.id = reading.swatch_id "
            "LEFT JOIN trial_swatch ON trial_swatch.trial_id = reading.trial_id "
            "AND trial_swatch.swatch_id = reading.swatch_id WHERE reading.swatch_id = ?",
            (swatch,),
        ).fetchall()
        for row in rows:
            moment = datetime.fromisoformat(row["shown_at"])
            state = state_shown(row["said"], baths.get(row["code"], []), moment)
            if state != row["state"]:
                connection.execute("UPDATE reading SET state = ? WHERE id = ?", (state, row["id"]))
            if row["named"] != row["zone_named"]:
                connection.execute("UPDATE reading SET zone_named = ? WHERE id = ?", (row["named"], row["id"]))


def _that_were_read(connection: sqlite3.Connection, ids: Iterable[int]) -> list[int]:
    return [
        swatch
        for swatch in sorted(set(ids))
        if connection.execute("SELECT EXISTS (SELECT 1 FROM reading WHERE swatch_id = ?)", (swatch,)).fetchone()[0]
    ]


def _trials_with(connection: sqlite3.Connection, ids: Iterable[int]) -> list[int]:
    found: set[int] = set()
    for swatch in ids:
        rows = connection.execute("SELECT trial_id FROM trial_swatch WHERE swatch_id = ?", (swatch,))
        found |= {row["trial_id"] for row in rows}
    return sorted(found)
