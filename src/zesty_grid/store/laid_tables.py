"""Tables of swatches laid side by side, kept under a name."""

import sqlite3

from zesty_grid.core.compare.laid_table import LaidTable
from zesty_grid.store.database import now
from zesty_grid.store.plan import NotFound


def list_tables(connection: sqlite3.Connection) -> list[tuple[int, LaidTable]]:
    """The newest first."""
    rows = connection.execute(
        "SELECT id, document FROM laid_table WHERE deleted_at IS NULL ORDER BY changed_at DESC, id DESC"
    )
    return [(row["id"], LaidTable.model_validate_json(row["document"])) for row in rows]


def load_table(connection: sqlite3.Connection, table: int) -> LaidTable:
    row = connection.execute("SELECT document FROM laid_table WHERE id = ? AND deleted_at IS NULL", (table,)).fetchone()
    if row is None:
        raise NotFound("table")
    return LaidTable.model_validate_json(row["document"])


def add_table(connection: sqlite3.Connection, table: LaidTable) -> int:
    moment = now()
    cursor = connection.execute(
        "INSERT INTO laid_table (document, kept_at, changed_at) VALUES (?, ?, ?)",
        (table.model_dump_json(), moment, moment),
    )
    return int(cursor.lastrowid or 0)


def change_table(connection: sqlite3.Connection, number: int, table: LaidTable) -> None:
    load_table(connection, number)
    connection.execute(
        "UPDATE laid_table SET document = ?, changed_at = ? WHERE id = ?", (table.model_dump_json(), now(), number)
    )


def set_deleted(connection: sqlite3.Connection, number: int, deleted: bool) -> None:
    """Taken away, or put back."""
    cursor = connection.execute(
        "UPDATE laid_table SET deleted_at = ? WHERE id = ?", (now() if deleted else None, number)
    )
    if cursor.rowcount == 0:
        raise NotFound("table")
