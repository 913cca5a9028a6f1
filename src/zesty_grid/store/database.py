"""One SQLite file: connections, and migrations applied in order."""

import re
import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime
from importlib import import_module, resources
from pathlib import Path

# Migrations that need more than SQL, and the module that does the rest. Loaded only then, as it
# works out plans, and so stands above this one.
BROUGHT_OVER_BY = {5: "zesty_grid.store.bring_over", 8: "zesty_grid.store.follow_again"}


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


def stamp(moment: datetime) -> str:
    """A moment as stored: UTC, in milliseconds, so that moments sort as text."""
    return moment.astimezone(UTC).isoformat(timespec="milliseconds")


def migrate(connection: sqlite3.Connection) -> None:
    """Applies the numbered migrations that this file has not had, each in a transaction.

    Foreign keys rest meanwhile, as a table that others refer to may be built anew; they are
    checked before any migration is kept. What SQL alone cannot bring over follows in the same
    transaction.
    """
    connection.execute(
        "CREATE TABLE IF NOT EXISTS migration (number INTEGER PRIMARY KEY, name TEXT NOT NULL, "
        "applied_at TEXT NOT NULL) STRICT"
    )
    applied = {row[0] for row in connection.execute("SELECT number FROM migration")}
    connection.execute("PRAGMA foreign_keys = OFF")
    for number, name, sql in migrations():
        if number in applied:
            continue
        stamp = now()
        try:
            connection.executescript(
                f"BEGIN IMMEDIATE;\n{sql}\nINSERT INTO migration VALUES "
                f"({number}, '{name}', '{stamp}');"
            )
            if number in BROUGHT_OVER_BY:
                import_module(BROUGHT_OVER_BY[number]).bring_over(connection)
            if connection.execute("PRAGMA foreign_key_check").fetchone():
                raise sqlite3.IntegrityError(f"migration {number} would break a reference")
        except BaseException:
            if connection.in_transaction:
                connection.execute("ROLLBACK")
            raise
        connection.execute("COMMIT")
    connection.execute("PRAGMA foreign_keys = ON")


def migrations() -> list[tuple[int, str, str]]:
    """Number, name and SQL of every migration, in order."""
    found = []
    for file in resources.files("zesty_grid.store").joinpath("migrations").iterdir():
        match = re.fullmatch(r"(\d{3})_([a-z0-9_]+)\.sql", file.name)
        if match:
            found.append((int(match[1]), match[2], file.read_text()))
    return sorted(found)
