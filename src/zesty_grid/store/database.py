"""One SQLite file: connections, and migrations applied in order."""

import re
import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime
from importlib import resources
from pathlib import Path


class Database:
    """The file with all that must not be lost. Each request opens its own connection."""

    def __init__(self, path: Path) -> None:
        self.path = path
        path.parent.mkdir(parents=True, exist_ok=True)
        with self.connection() as connection:
            connection.execute("PRAGMA journal_mode = WAL")
            migrate(connection)

    @contextmanager
    def connection(self) -> Iterator[sqlite3.Connection]:
        """For reading; writes go through `transaction`."""
        connection = sqlite3.connect(self.path, timeout=20, isolation_level=None)
        connection.row_factory = sqlite3.Row
        try:
            connection.execute("PRAGMA foreign_keys = ON")
            connection.execute("PRAGMA synchronous = FULL")
            yield connection
        finally:
            connection.close()

    @contextmanager
    def transaction(self) -> Iterator[sqlite3.Connection]:
        """All or nothing: committed at the end, rolled back on any error."""
        with self.connection() as connection:
            connection.execute("BEGIN IMMEDIATE")
            try:
                yield connection
            except BaseException:
                connection.execute("ROLLBACK")
                raise
            connection.execute("COMMIT")


def now() -> str:
    """The present moment, UTC, as stored."""
    return datetime.now(UTC).isoformat(timespec="seconds")


def migrate(connection: sqlite3.Connection) -> None:
    """Applies the numbered migrations that this file has not had, each in a transaction."""
    connection.execute(
        "CREATE TABLE IF NOT EXISTS migration (number INTEGER PRIMARY KEY, name TEXT NOT NULL, "
        "applied_at TEXT NOT NULL) STRICT"
    )
    applied = {row[0] for row in connection.execute("SELECT number FROM migration")}
    for number, name, sql in _migrations():
        if number in applied:
            continue
        stamp = now()
        connection.executescript(
            f"BEGIN IMMEDIATE;\n{sql}\nINSERT INTO migration VALUES "
            f"({number}, '{name}', '{stamp}');\nCOMMIT;"
        )


def _migrations() -> list[tuple[int, str, str]]:
    found = []
    for file in resources.files("zesty_grid.store").joinpath("migrations").iterdir():
        match = re.fullmatch(r"(\d{3})_([a-z0-9_]+)\.sql", file.name)
        if match:
            found.append((int(match[1]), match[2], file.read_text()))
    return sorted(found)
