"""Backup while the application runs, and a check that nothing in the file has been damaged."""

import hashlib
import os
import sqlite3
from pathlib import Path

from zesty_grid.store.database import newest_applied, newest_version, open_to_read
from zesty_grid.store.worked_again import differences_from_log


def backup(path: Path, target: Path) -> None:
    """Copies the whole file, photographs included, while others may write to it.

    Written beside the target and then moved over it, so that a backup is whole or not there.
    """
    target.parent.mkdir(parents=True, exist_ok=True)
    unfinished = target.with_name(target.name + ".unfinished")
    unfinished.unlink(missing_ok=True)
    try:
        source, copy = open_to_read(path), sqlite3.connect(unfinished, isolation_level=None)
        try:
            source.backup(copy)
            copy.execute("PRAGMA journal_mode = DELETE")
            copy.execute("PRAGMA user_version = 0")  # nobody has it in use
        finally:
            copy.close()
            source.close()
        with unfinished.open("rb") as written:
            os.fsync(written.fileno())
        unfinished.replace(target)
    except BaseException:
        unfinished.unlink(missing_ok=True)
        raise


def check(path: Path, quick: bool = False) -> list[str]:
    """What is wrong with a file: integrity, foreign keys, photo hashes, and tables that say
    otherwise than the log that they follow from. Empty when all is well. `quick`: its pages only.
    """
    try:
        connection = open_to_read(path)
    except sqlite3.Error as error:
        return [f"cannot be opened: {error}"]
    try:
        if quick:
            found = connection.execute("PRAGMA quick_check").fetchall()
            return [f"integrity: {row[0]}" for row in found if row[0] != "ok"]
        faults = [f"integrity: {row[0]}" for row in connection.execute("PRAGMA integrity_check") if row[0] != "ok"]
        faults += [
            f"foreign key: row {row[1]} of {row[0]} points to a missing {row[2]}"
            for row in connection.execute("PRAGMA foreign_key_check")
        ]
        for digest, data in connection.execute("SELECT sha256, bytes FROM photo_file"):
            if hashlib.sha256(data).hexdigest() != digest:
                faults.append(f"photo {digest[:12]} is not what was stored")
        # A file of an older version has no such tables until it is opened.
        if faults or newest_applied(connection) < newest_version():
            return faults
        return differences_from_log(connection)
    except sqlite3.Error as error:
        return [f"not a Zesty Grid file, or damaged: {error}"]
    finally:
        connection.close()
