"""Puts a backup in the place of the data file; what was there is kept aside."""

import sqlite3
from pathlib import Path

from zesty_grid.core.refusal import Refusal
from zesty_grid.store.backup_names import BEFORE_RESTORE, default_folder
from zesty_grid.store.backups import Backups
from zesty_grid.store.database import Database, migrate
from zesty_grid.store.file_in_use import Beside, FileInUse
from zesty_grid.store.opening import must_be_ours, open_data, refusal_for
from zesty_grid.store.safekeeping import check


def restore_into(backups: Backups, source: Path) -> Path:
    """While the application runs: in one transaction over all that is there.

    Answers where the present data were kept. Raises Refusal, with nothing changed, for a source
    that is no sound data file, or where the present data cannot be kept.
    """
    must_be_sound(source)
    database = backups.database
    kept = backups.make(BEFORE_RESTORE, even_faulty=True)
    try:
        with database.changing_all() as connection:
            _copy_over(source, connection)
    except sqlite3.Error as error:
        raise refusal_for(error, database.path) from error
    return backups.folder / kept.name


def restore_file(path: Path, source: Path) -> Path | None:
    """While no application runs, whatever is left at `path`: the files there are set aside, and the
    backup is copied into their place. Answers where; None where there was nothing.

    Raises Refusal where a server holds the file, and for a source that is no sound data file.
    """
    must_be_sound(source)
    path.parent.mkdir(parents=True, exist_ok=True)
    holding = FileInUse(path)
    try:
        kept = _set_aside(path)
        beginning = path.with_name(f"{path.name}.unfinished")
        beginning.unlink(missing_ok=True)
        with sqlite3.connect(source) as read, sqlite3.connect(beginning) as written:
            read.backup(written)
        read.close()
        written.close()
        beginning.replace(path)
        Database(path)
        return kept
    finally:
        holding.end()


def must_be_sound(source: Path) -> None:
    if not source.is_file():
        raise Refusal("no-such-file", f"There is no file {source}.", "Name a backup.")
    must_be_ours(source)
    faults = check(source)
    if faults:
        raise Refusal(
            "faulty-backup",
            f"{source.name} has faults itself: {faults[0]}.",
            "Restore an older backup, or save what is readable with “zesty-grid rescue”.",
        )


def _copy_over(source: Path, live: sqlite3.Connection) -> None:
    read = sqlite3.connect(f"{source.absolute().as_uri()}?mode=ro", uri=True)
    try:
        read.backup(live)
    finally:
        read.close()
    migrate(live)


def _set_aside(path: Path) -> Path | None:
    """A sound file becomes one more backup; of a damaged one all its files are kept as they are."""
    if not path.is_file():
        return None
    try:
        database = open_data(path)
        if not database.only_reading:
            backups = Backups(database, default_folder(path))
            return backups.folder / backups.make(BEFORE_RESTORE).name
    except (Refusal, sqlite3.Error):
        pass
    beside = Beside(path)
    aside = beside.set_aside("data")
    for file, ending in ((beside.log, "-wal"), (beside.log_index, "-shm")):
        if file.exists():
            file.rename(aside.with_name(f"{aside.name}{ending}"))
    path.rename(aside)
    return aside
