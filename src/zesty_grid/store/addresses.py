"""Whether there is anything at an address."""

import sqlite3
from collections.abc import Mapping

from zesty_grid.store.plan import NotFound

# What a number in an address counts, and the table whose row it is.
ROWS = {
    "study_id": "study",
    "trial_id": "trial",
    "photo_id": "photo",
    "reading_id": "reading",
    "table_id": "laid_table",
}
MOST_DIGITS = 18


def must_be_there(connection: sqlite3.Connection, numbers: Mapping[str, object]) -> None:
    """Raises NotFound for a number of no row; what is off the list is there still."""
    for name, table in ROWS.items():
        number = str(numbers.get(name, ""))
        if not number.isdecimal() or len(number) > MOST_DIGITS:
            continue
        if not connection.execute(f"SELECT 1 FROM {table} WHERE id = ?", (int(number),)).fetchone():
            raise NotFound(table.removeprefix("laid_"))
