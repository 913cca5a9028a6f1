"""One SQLite file: connections, and migrations applied in order."""

import os
import re
import sqlite3
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime
from importlib import resources
from pathlib import Path

from zesty_grid.core.refusal import Refusal
from zesty_grid.store.file_in_use import FileInUse, FileReplaced

# What `schema.sql` was when it first landed. Files of the versions before were never released.
FIRST_VERSION = 12
SCHEMA = resources.files("zesty_grid.store").joinpath("schema.sql")


class OnlyReading(Refusal):
    """Something was to be written to a file that is open for reading only."""

    def __init__(self, reason: str) -> None:
        super().__init__("only-reading", "Nothing can be saved now.", reason)


class FileConnection(sqlite3.Connection):
    """A connection to the data file itself, not to a copy of it."""


class Database:
    """The file with all that must not be lost. Each request opens its own connection.

    `only_reading` says why nothing may be written; empty where all is well. With `in_use` each
    connection first looks whether the file is still the one that was opened.
    """

    def __init__(self, path: Path, only_reading: str = "") -> None:
        self.path = path
        self.only_reading = only_reading
        self.in_use: FileInUse | None = None
        self.was_replaced = False
        self._changing_all = threading.Event()
        if only_reading:
            return
        path.parent.mkdir(parents=True, exist_ok=True)
        with self._own_connection() as connection:
            connection.execute("PRAGMA journal_mode = WAL")
            migrate(connection)

    @contextmanager
    def connection(self) -> Iterator[sqlite3.Connection]:
        """For reading only, and all of one moment, whoever writes meanwhile. Raises FileReplaced."""
        with self._own_connection() as connection:
            connection.execute("PRAGMA query_only = ON")
            connection.execute("BEGIN")
            yield connection

    @contextmanager
    def _own_connection(self) -> Iterator[sqlite3.Connection]:
        self._must_be_the_same()
        connection = self._opened()
        connection.row_factory = sqlite3.Row
        try:
            connection.execute("PRAGMA foreign_keys = ON")
            connection.execute("PRAGMA synchronous = FULL")
            if self.in_use is not None:
                connection.execute("PRAGMA wal_autocheckpoint = 0")  # `fold_long_log` does it
            yield connection
        finally:
            connection.close()

    @contextmanager
    def transaction(self, only_look: bool = False) -> Iterator[sqlite3.Connection]:
        """All or nothing: committed at the end, rolled back on any error; with `only_look` rolled
        back in any case. Raises OnlyReading."""
        if self.only_reading:
            raise OnlyReading(self.only_reading)
        with self._own_connection() as connection:
            connection.execute("BEGIN IMMEDIATE")
            try:
                yield connection
                connection.execute("ROLLBACK" if only_look else "COMMIT")
                if self.in_use is not None:
                    self.in_use.fold_long_log()
            except BaseException:
                if connection.in_transaction:  # a full disk has rolled back already
                    connection.execute("ROLLBACK")
                raise

    @contextmanager
    def changing_all(self) -> Iterator[sqlite3.Connection]:
        """For putting another content into the whole file; its mark is put back at the end."""
        if self.only_reading:
            raise OnlyReading(self.only_reading)
        with self._own_connection() as connection:
            self._changing_all.set()
            try:
                yield connection
                if self.in_use is not None:
                    self.in_use.mark_again(connection)
            finally:
                self._changing_all.clear()

    def _opened(self) -> FileConnection:
        if not self.only_reading:
            return sqlite3.connect(self.path, timeout=20, isolation_level=None, factory=FileConnection)
        return open_to_read(self.path)

    def _must_be_the_same(self) -> None:
        if self.was_replaced:
            raise FileReplaced
        if self.in_use is None or self._changing_all.is_set() or not self.in_use.is_replaced():
            return
        self.was_replaced = True
        self.in_use.keep_aside()
        raise FileReplaced


def open_to_read(path: Path) -> FileConnection:
    """Also a file in a folder in which nothing may be written (SQLite, “immutable”)."""
    way = "mode=ro" if os.access(path.parent, os.W_OK) else "immutable=1"
    uri = f"{path.absolute().as_uri()}?{way}"
    return sqlite3.connect(uri, uri=True, timeout=20, isolation_level=None, factory=FileConnection)


def now() -> str:
    """The present moment, UTC, as stored."""
    return datetime.now(UTC).isoformat(timespec="seconds")


def stamp(moment: datetime) -> str:
    """A moment as stored: UTC, in milliseconds, so that moments sort as text."""
    return moment.astimezone(UTC).isoformat(timespec="milliseconds")


def written_columns(connection: sqlite3.Connection, table: str) -> list[str]:
    """The columns of a table that are written; those that only say what a document holds are not
    among them."""
    return [row[1] for row in connection.execute(f"PRAGMA table_info({table})")]


def migrate(connection: sqlite3.Connection) -> None:
    """Makes the tables of an empty file, or applies the numbered migrations that this one has not
    had, each in a transaction.

    Foreign keys rest meanwhile, as a table that others refer to may be built anew; they are
    checked before any migration is kept.
    """
    newest = newest_applied(connection)
    connection.execute("PRAGMA foreign_keys = OFF")
    if newest == 0:
        _apply(connection, newest_version(), "schema", SCHEMA.read_text())
    else:
        for number, name, sql in migrations():
            if number > newest:
                _apply(connection, number, name, sql)
    connection.execute("PRAGMA foreign_keys = ON")


def _apply(connection: sqlite3.Connection, number: int, name: str, sql: str) -> None:
    try:
        connection.executescript(
            f"BEGIN IMMEDIATE;\n{sql}\nINSERT INTO migration VALUES ({number}, '{name}', '{now()}');"
        )
        if connection.execute("PRAGMA foreign_key_check").fetchone():
            raise sqlite3.IntegrityError(f"migration {number} would break a reference")
    except BaseException:
        if connection.in_transaction:
            connection.execute("ROLLBACK")
        raise
    connection.execute("COMMIT")


def newest_applied(connection: sqlite3.Connection) -> int:
    """The version of a file's tables; 0 where it has none yet."""
    if not connection.execute("SELECT 1 FROM sqlite_schema WHERE name = 'migration'").fetchone():
        return 0
    return int(connection.execute("SELECT max(number) FROM migration").fetchone()[0] or 0)


def newest_version() -> int:
    """The version that this application writes."""
    return max([FIRST_VERSION, *(number for number, _, _ in migrations())])


def migrations() -> list[tuple[int, str, str]]:
    """Number, name and SQL of every migration since the first version, in order."""
    found = []
    for file in resources.files("zesty_grid.store").joinpath("migrations").iterdir():
        match = re.fullmatch(r"(\d{3})_([a-z0-9_]+)\.sql", file.name)
        if match:
            found.append((int(match[1]), match[2], file.read_text()))
    return sorted(found)
