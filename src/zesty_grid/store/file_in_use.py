"""One server to a data file, and a mark in it by which a file that is not its own is noticed.

SQLite replays whatever write-ahead log lies beside a file, also one of another file. While a server
runs, the file carries a random mark (`PRAGMA user_version`, bytes 60 to 63 of its first page:
SQLite file format, 1.3) that the server also writes beside it. A file without the mark, with
another or at another place on the disk was put there by somebody else.

Between two foldings of the log the file itself stays as it is, byte by byte, and at each folding it
gets another mark: so a copy of the running file is noticed when it comes back, unless it still is
the same.
"""

import json
import os
import secrets
import sqlite3
import threading
import time
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path

from filelock import FileLock, Timeout

from zesty_grid.core.refusal import Refusal

MARK_AT, WAY_OF_WRITING_AT = 60, 18
MARK_TRIES, MARK_PAUSE_S = 100, 0.1
KEEPS_NO_LOG = b"\x01\x01"
# As long as SQLite lets a log grow by itself (1000 pages).
LONG_LOG_BYTES = 4 * 1024 * 1024
# A write waits so long for readers before it leaves the folding to the next.
A_MOMENT_MS, AT_THE_END_MS = 250, 5000


class FileReplaced(Refusal):
    """Another file lies where the data file was."""

    def __init__(self) -> None:
        super().__init__(
            "file-replaced",
            "The data file was replaced while the application ran.",
            "Nothing more is written, so that the two are not mixed. Stop the application and "
            "start it again to use the file that is there now; what was entered before is kept "
            "beside it, under a name with “set aside”.",
        )


@dataclass(frozen=True)
class Beside:
    """The files that belong to a data file."""

    path: Path

    @property
    def log(self) -> Path:
        return self._named("-wal")

    @property
    def log_index(self) -> Path:
        return self._named("-shm")

    @property
    def mark(self) -> Path:
        return self._named(".in-use")

    @property
    def lock(self) -> Path:
        return self._named(".lock")

    def set_aside(self, what: str) -> Path:
        """A name of its own, by the moment."""
        moment = datetime.now(UTC).strftime("%Y-%m-%d %H%M%S")
        free = self._named(f" {what} set aside {moment}")
        while free.exists():
            free = free.with_name(f"{free.name}-{secrets.token_hex(2)}")
        return free

    def _named(self, ending: str) -> Path:
        return self.path.with_name(self.path.name + ending)


class FileInUse:
    """Holds a data file for one server from its start to its end."""

    def __init__(self, path: Path, address: str = "") -> None:
        """Raises Refusal when another server holds it."""
        self.path = path
        self._beside = Beside(path)
        self._lock = FileLock(self._beside.lock)
        self._address = address
        self._mark = 0
        self._next_mark = 0  # while the log is being folded in
        self._folding = threading.Lock()
        self._anchor: sqlite3.Connection | None = None
        self._look = -1
        try:
            path.parent.mkdir(parents=True, exist_ok=True)
            if not os.access(path.parent, os.W_OK):
                self.notices: list[str] = []  # only to be read: nothing to hold
                return
            self._lock.acquire(timeout=0)
        except Timeout as error:
            raise Refusal(
                "file-in-use",
                f"Zesty Grid already runs with {path}{_at(self._beside)}.",
                "Open that address, or stop it first; two servers must not share one file.",
            ) from error
        except OSError as error:
            raise Refusal(
                "no-folder",
                f"No file can be made at {path}: {error.strerror or error}.",
                "Name a file in a folder of your own with --data.",
            ) from error
        self.notices = settle_log(path)

    def begin(self) -> None:
        """Marks the file; from now on `is_replaced` tells whether it still is the same one."""
        self._mark = _new_mark()
        # Never closed while the program runs: with any descriptor of a file that is closed, all
        # locks of this process on it are gone (POSIX), also those of SQLite.
        if self._look < 0:
            self._look = os.open(self.path, os.O_RDONLY)
        # Kept open: else the log is folded into the file with each request that ends.
        self._anchor = sqlite3.connect(self.path, check_same_thread=False, isolation_level=None)
        self._note(self._mark)
        self.mark_again(self._anchor)
        self._anchor.execute(f"PRAGMA busy_timeout = {A_MOMENT_MS}")
        self._lies_at = _place(self.path)

    def mark_again(self, connection: sqlite3.Connection) -> None:
        """Also after all that is in the file has come from elsewhere.

        Raises Refusal where somebody who reads keeps the mark out of the file itself.
        """
        connection.execute(f"PRAGMA user_version = {self._mark}")
        for _ in range(MARK_TRIES):
            connection.execute("PRAGMA wal_checkpoint(TRUNCATE)").fetchall()
            if self._mark_there() == self._mark:
                return
            time.sleep(MARK_PAUSE_S)
        raise Refusal(
            "file-held",
            f"Another program reads {self.path} without end.",
            "Close the program that has it open (a backup, a file synchroniser), and try again.",
        )

    def fold_long_log(self) -> None:
        """After a write: folds the log in where it has grown long, under a new mark. Somebody who
        reads, or another write, may be in the way: then the next write tries again."""
        if self._anchor is None or not self._folding.acquire(blocking=False):
            return
        try:
            if _size(self._beside.log) < LONG_LOG_BYTES:
                return
            if not self._next_mark:
                # Both are ours until it is done: the power may fail at any moment.
                coming = _new_mark()
                self._note(self._mark, coming)
                self._next_mark = coming
            self._anchor.execute(f"PRAGMA user_version = {self._next_mark}")
            self._anchor.execute("PRAGMA wal_checkpoint(TRUNCATE)").fetchall()
            if self._mark_there() == self._next_mark:
                self._mark, self._next_mark = self._next_mark, 0
                self._note(self._mark)
        except (sqlite3.Error, OSError):
            pass  # what was written is safe in the log
        finally:
            self._folding.release()

    def _note(self, *marks: int) -> None:
        """On the disk before anything that rests on it."""
        whole = self._beside.mark.with_name(f"{self._beside.mark.name}.new")
        with whole.open("w") as file:
            json.dump({"marks": marks, "address": self._address}, file)
            file.flush()
            os.fsync(file.fileno())
        whole.replace(self._beside.mark)
        _settle_folder(self.path.parent)

    def is_replaced(self) -> bool:
        try:
            if _place(self.path) != self._lies_at:
                return True
            if self._mark_there() in (self._mark, self._next_mark or self._mark):
                return False
            with self._folding:  # the mark may just have changed
                return self._mark_there() not in (self._mark, self._next_mark or self._mark)
        except OSError:
            return True

    def _mark_there(self) -> int:
        return int.from_bytes(os.pread(self._look, 4, MARK_AT), "big")

    def keep_aside(self) -> list[Path]:
        """Saves what was there before the file was replaced, as far as it can be had."""
        kept = []
        if self._beside.log.exists() and self._beside.log.stat().st_size:
            kept.append(self._beside.set_aside("log"))
            kept[-1].write_bytes(self._beside.log.read_bytes())
        try:
            moved_away = _place(self.path) != self._lies_at
        except OSError:
            moved_away = True
        if self._anchor is not None and moved_away:
            # The old file lives on as long as somebody holds it open.
            kept.append(self._beside.set_aside("data"))
            with sqlite3.connect(kept[-1]) as copy:
                self._anchor.backup(copy)
                copy.execute("PRAGMA user_version = 0")
            copy.close()
        return kept

    def end(self) -> None:
        """The log is folded in and the mark taken away: the file is whole on its own."""
        if self._anchor is not None:
            self._anchor.execute(f"PRAGMA busy_timeout = {AT_THE_END_MS}")
            self._anchor.execute("PRAGMA user_version = 0")
            self._anchor.execute("PRAGMA wal_checkpoint(TRUNCATE)").fetchall()
            self._anchor.close()
            self._beside.mark.unlink(missing_ok=True)
        self._lock.release()


def mark_of(path: Path) -> int:
    """The mark in the file itself, whatever its log says; 0 where nobody has it in use. Only for a
    file that this process has not open: see `FileInUse.begin`."""
    with path.open("rb") as file:
        file.seek(MARK_AT)
        return int.from_bytes(file.read(4), "big")


def settle_log(path: Path) -> list[str]:
    """Sets a log aside that is not of this file; says so, and when a log is missing."""
    beside = Beside(path)
    if not path.is_file() or path.stat().st_size == 0:
        return []
    mark = mark_of(path)
    has_log = beside.log.exists() and beside.log.stat().st_size > 0
    noted = _noted(beside)
    if has_log and (_keeps_no_log(path) or (noted and mark not in noted)):
        aside = beside.set_aside("log")
        beside.log.rename(aside)
        beside.log_index.unlink(missing_ok=True)
        beside.mark.unlink(missing_ok=True)
        return [
            f"{path.name} was replaced by another file. The log of the one before did not belong "
            f"to it and was set aside as “{aside.name}”."
        ]
    missing = mark != 0 and not beside.log.exists()
    beside.mark.unlink(missing_ok=True)
    if missing:
        return [
            f"{path.name} was copied or moved while the application had it open, without the file "
            f"“{beside.log.name}” that belongs to it: what was entered last may be missing. "
            "Compare it with the newest backup."
        ]
    return []


def _keeps_no_log(path: Path) -> bool:
    """Whether the file is written without a log, as backups are."""
    with path.open("rb") as file:
        file.seek(WAY_OF_WRITING_AT)
        return file.read(2) == KEEPS_NO_LOG


def _noted(beside: Beside) -> set[int]:
    """The marks that the file may carry; empty where nothing is known."""
    try:
        said = json.loads(beside.mark.read_text())
        # Of earlier versions one mark.
        return {int(one) for one in said.get("marks", [said.get("mark")])}
    except (OSError, ValueError, KeyError, TypeError, AttributeError):
        return set()


def _new_mark() -> int:
    return secrets.randbelow(2**31 - 1) + 1


def _settle_folder(folder: Path) -> None:
    """A new name is on the disk once its folder is (POSIX; elsewhere a folder cannot be opened)."""
    if os.name != "posix":
        return
    opened = os.open(folder, os.O_RDONLY)
    try:
        os.fsync(opened)
    finally:
        os.close(opened)


def _size(path: Path) -> int:
    try:
        return path.stat().st_size
    except OSError:
        return 0


def _at(beside: Beside) -> str:
    try:
        address = str(json.loads(beside.mark.read_text())["address"])
    except (OSError, ValueError, KeyError, TypeError):
        return ""
    return f" at {address}" if address else ""


def _place(path: Path) -> tuple[int, int]:
    found = os.stat(path)
    return found.st_dev, found.st_ino
