"""Backup while the application runs, and a check that nothing in the file has been damaged."""

import hashlib
import sqlite3
from pathlib import Path

from zesty_grid.store.database import Database, migrations
from zesty_grid.store.worked_again import differences_from_log


def backup(database: Database, target: Path) -> None:
    """Copies the whole file, photographs included, while others may write to it.

    Written beside the target and then moved over it, so that a backup is whole or not there.
    """
    target.parent.mkdir(parents=True, exist_ok=True)
    unfinished = target.with_name(target.name + ".unfinished")
    unfinished.unlink(missing_ok=True)
    with database.connection() as source:
        copy = sqlite3.connect(unfinished)
        try:
            source.backup(copy)
            copy.execute("PRAGMA journal_mode = DELETE")
        finally:
            copy.close()
    unfinished.replace(target)


def check(path: Path) -> list[str]:
    """What is wrong with a file: integrity, foreign keys, photo hashes, and tables that say
    otherwise than the log that they follow from. Empty when all is well."""
    try:
        connection = sqlite3.connect(f"file:{path}?mode=ro", uri=True)
    except sqlite3.Error as error:
        return [f"cannot be opened: {error}"]
    try:
        faults = [
            f"integrity: {row[0]}"
            for row in connection.execute("PRAGMA integrity_check")
            if row[0] != "ok"
        ]
        faults += [
            f"foreign key: row {row[1]} of {row[0]} points to a missing {row[2]}"
            for row in connection.execute("PRAGMA foreign_key_check")
        ]
        for digest, data in connection.execute("SELECT sha256, bytes FROM photo_file"):
            if hashlib.sha256(data).hexdigest() != digest:
                faults.append(f"photo {digest[:12]} is not what was stored")
        # A file of an older version has no such tables until it is opened.
        newest = connection.execute("SELECT max(number) FROM migration").fetchone()[0]
        if faults or newest < migrations()[-1][0]:
            return faults
        return differences_from_log(connection)
    except sqlite3.Error as error:
        return [f"not a Zesty Grid file, or damaged: {error}"]
    finally:
        connection.close()
