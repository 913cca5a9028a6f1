"""Opens a data file, or says in words why it cannot be opened as it should."""

import os
import sqlite3
from datetime import UTC, datetime
from pathlib import Path

from zesty_grid.core.refusal import Refusal
from zesty_grid.store.backup_names import BEFORE_NEW_VERSION, backup_name
from zesty_grid.store.database import FIRST_VERSION, Database, newest_applied, newest_version, open_to_read
from zesty_grid.store.safekeeping import backup
from zesty_grid.store.worked_again import work_out_again

SQLITE_START = b"SQLite format 3\0"


def open_data(path: Path, backups: Path | None = None) -> Database:
    """The file, brought up to date; only for reading where it may not be written or is damaged.
    A file of an older version is first copied to the folder `backups`.

    Raises Refusal for what is no data file, is of a newer version, or is held by another program.
    """
    must_be_ours(path)
    if not path.exists():
        return _new(path)
    reason = _why_only_reading(path)
    if reason:
        return Database(path, only_reading=reason)
    try:
        older = 0 < _versions(path)[0] < newest_version()
        if backups is not None:
            _keep_before_new_version(path, backups)
        database = Database(path)
        if older:
            # A migration brings the tables; what follows from the record is worked out by today's rules.
            with database.transaction() as connection:
                work_out_again(connection)
        return database
    except sqlite3.Error as error:
        if is_damage(error):
            return Database(path, only_reading=DAMAGED)
        raise refusal_for(error, path) from error


DAMAGED = (
    "A part of the data file is damaged. What can be read is shown, and nothing is written. "
    "Restore the newest backup, or save all that is readable into a new file with "
    "“zesty-grid rescue”."
)


def is_damage(error: sqlite3.Error) -> bool:
    """Whether an error means that the file itself is not sound."""
    name = getattr(error, "sqlite_errorname", "") or ""
    return name.startswith(("SQLITE_CORRUPT", "SQLITE_NOTADB"))


def refusal_for(error: sqlite3.Error, path: Path | None = None) -> Refusal:
    """What an error of SQLite means to the person; an error that means nothing to them is raised
    as it is."""
    name = getattr(error, "sqlite_errorname", "") or ""
    file = str(path) if path else "The data file"
    if name.startswith("SQLITE_FULL"):
        return Refusal(
            "disk-full",
            "The disk is full: this was not saved.",
            "Make room on the disk and save again; what you entered is still on the screen.",
        )
    if name.startswith(("SQLITE_BUSY", "SQLITE_LOCKED")):
        return Refusal(
            "file-held",
            f"{file} is held by another program: this was not saved.",
            "Close the program that has it open (a backup, a file synchroniser), and try again.",
        )
    if name.startswith(("SQLITE_READONLY", "SQLITE_CANTOPEN", "SQLITE_PERM")):
        return Refusal(
            "only-reading",
            f"{file} may not be written.",
            "Give yourself the right to write the file and its folder, and start again.",
        )
    if is_damage(error):
        return Refusal("file-damaged", "A part of the data file is damaged.", DAMAGED)
    if name.startswith("SQLITE_IOERR"):
        return Refusal(
            "disk-error",
            "The disk does not answer as it should: this was not saved.",
            "Try again; if it goes on, copy the data file to another disk and start it there.",
        )
    raise error


def must_be_ours(path: Path) -> None:
    if path.is_dir():
        raise Refusal("no-data-file", f"{path} is a folder.", "Name a file in it with --data.")
    if not path.exists() or path.stat().st_size == 0:
        return
    try:
        with path.open("rb") as file:
            start = file.read(16)
    except OSError as error:
        raise Refusal(
            "may-not-be-read", f"{path} may not be read.", "Give yourself the right to read it, and start again."
        ) from error
    if start != SQLITE_START:
        raise Refusal(
            "no-data-file",
            f"{path} is not a data file of Zesty Grid, or its start is destroyed.",
            "Name the right file with --data, or restore a backup with “zesty-grid restore”.",
        )
    try:
        newest, foreign = _versions(path)
    except sqlite3.Error as error:
        if is_damage(error):
            return
        raise refusal_for(error, path) from error
    if foreign:
        raise Refusal(
            "no-data-file",
            f"{path} is a database of another program.",
            "Name another file with --data; nothing in this one was changed.",
        )
    if 0 < newest < FIRST_VERSION:
        raise Refusal(
            "older-file",
            f"{path} was written by a version that was never released.",
            "Name another file with --data; nothing in this one was changed.",
        )
    if newest > newest_version():
        raise Refusal(
            "newer-file",
            f"{path} was written by a newer Zesty Grid than this one.",
            "Start it with the newer version; nothing in the file was changed.",
        )


def _versions(path: Path) -> tuple[int, bool]:
    """The version of the file's tables (0: none yet), and whether they are not ours."""
    connection = open_to_read(path)
    try:
        tables = {row[0] for row in connection.execute("SELECT name FROM sqlite_schema WHERE type = 'table'")}
        if "migration" not in tables:
            return 0, bool(tables)
        newest = newest_applied(connection)
        return newest, "study" not in tables and newest > 0
    finally:
        connection.close()


def _why_only_reading(path: Path) -> str:
    if not (os.access(path, os.W_OK) and os.access(path.parent, os.W_OK)):
        return (
            "The data file or its folder may only be read. Everything is shown, and nothing is "
            "written. Give yourself the right to write both, and start again."
        )
    connection = open_to_read(path)
    try:
        found = connection.execute("PRAGMA quick_check(1)").fetchone()
        return "" if found[0] == "ok" else DAMAGED
    except sqlite3.Error as error:
        if is_damage(error):
            return DAMAGED
        raise refusal_for(error, path) from error
    finally:
        connection.close()


def _keep_before_new_version(path: Path, backups: Path) -> None:
    if path.stat().st_size == 0 or not 0 < _versions(path)[0] < newest_version():
        return
    try:
        backup(path, backups / backup_name(datetime.now(UTC), BEFORE_NEW_VERSION))
    except OSError as error:
        raise Refusal(
            "no-backup-made",
            f"The file is of an older version, and no copy of it can be written "
            f"to {backups} before it is brought up to date: {error.strerror or error}.",
            "Choose another folder with --backups; nothing in the file was changed.",
        ) from error


def _new(path: Path) -> Database:
    try:
        return Database(path)
    except OSError as error:
        raise Refusal(
            "no-folder",
            f"No file can be made at {path}: {error.strerror or error}.",
            "Name a file in a folder of your own with --data.",
        ) from error
    except sqlite3.Error as error:
        raise refusal_for(error, path) from error
