"""Who tried to come in, and what was done about codes and devices."""

import sqlite3
from datetime import datetime
from typing import NamedTuple

from zesty_grid.core.record.access import AccessWhat
from zesty_grid.store.database import now

MOST_KEPT = 1000


class AccessEvent(NamedTuple):
    """`come_from` is an address; `words` name the device or the kind of code."""

    at: datetime
    what: AccessWhat
    come_from: str
    words: str


def note_access(connection: sqlite3.Connection, what: AccessWhat, come_from: str, words: str) -> None:
    """Never holds a code; wrong ones are not written down."""
    made = connection.execute(
        "INSERT INTO access_event (at, what, come_from, words) VALUES (?, ?, ?, ?)",
        (now(), what, come_from[:60], words[:60]),
    )
    connection.execute("DELETE FROM access_event WHERE id <= ?", ((made.lastrowid or 0) - MOST_KEPT,))


def access_events(connection: sqlite3.Connection, most: int) -> list[AccessEvent]:
    """The newest first."""
    rows = connection.execute("SELECT at, what, come_from, words FROM access_event ORDER BY id DESC LIMIT ?", (most,))
    return [AccessEvent(datetime.fromisoformat(row["at"]), row["what"], row["come_from"], row["words"]) for row in rows]
