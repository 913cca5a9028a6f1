"""Backups made by themselves: in a folder beside the data file, checked, and thinned with time."""

import shutil
import sqlite3
import threading
from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from pathlib import Path

from zesty_grid.core.record.backups_kept import kept_backups
from zesty_grid.core.refusal import Refusal
from zesty_grid.store.backup_names import NAME, Backup, backup_name, backups_in
from zesty_grid.store.database import Database
from zesty_grid.store.opening import refusal_for
from zesty_grid.store.safekeeping import backup, check

EVERY = timedelta(hours=24)
LOOK_EVERY_S = 600.0
ROOM_TO_LEAVE = 1.2


@dataclass
class Backups:
    """The backups of one data file. `fault` says why the last one could not be made; `look` finds
    what is wrong with a copy."""

    database: Database
    folder: Path
    fault: str = ""
    look: Callable[[Path], list[str]] = check
    _making: threading.Lock = field(default_factory=threading.Lock)

    def all(self) -> list[Backup]:
        """Newest first."""
        return backups_in(self.folder)

    def file_of(self, name: str) -> Path:
        """Raises Refusal for a name that is no backup of this folder."""
        if not NAME.fullmatch(name) or not (self.folder / name).is_file():
            raise Refusal("no-backup", f"There is no backup “{name}”.", "Choose one of the list.")
        return self.folder / name

    def make(self, why: str = "", even_faulty: bool = False) -> Backup:
        """Copies the file, checks the copy, and thins out older ones. Raises Refusal when it
        cannot be made; a copy that turns out damaged is named so and not counted as a backup, but
        is answered where `even_faulty` is enough."""
        with self._making:
            try:
                made = self._copy(why, even_faulty)
                self.fault = ""
            except Refusal as refusal:
                self.fault = f"{refusal.reason} {refusal.cure}"
                raise
            self._thin()
            return made

    def make_if_due(self) -> None:
        """The daily one; also at the start, where the last is a day old or there is none."""
        newest = next(iter(self.all()), None)
        if newest is not None and datetime.now(UTC) - newest.made_at < EVERY:
            return
        try:
            self.make()
        except Refusal:
            return  # kept in `fault`, which every screen shows

    def keep_making(self) -> None:
        """In a thread of its own, as long as the program runs."""
        threading.Thread(target=self._stay, daemon=True).start()

    def _stay(self) -> None:
        pause = threading.Event()
        while True:
            self.make_if_due()
            pause.wait(LOOK_EVERY_S)

    def _copy(self, why: str, even_faulty: bool) -> Backup:
        moment = datetime.now(UTC)
        while (self.folder / backup_name(moment, why)).exists():
            moment += timedelta(seconds=1)
        target = self.folder / backup_name(moment, why)
        try:
            self.folder.mkdir(parents=True, exist_ok=True)
            needed = self.database.path.stat().st_size
            free = shutil.disk_usage(self.folder).free
            if free < ROOM_TO_LEAVE * needed:
                raise Refusal(
                    "no-room",
                    f"There is no room for a backup in {self.folder}: "
                    f"{needed // 2**20 + 1} MiB are needed, {free // 2**20} MiB are free.",
                    "Make room, or choose another folder with --backups.",
                )
            backup(self.database.path, target)
        except OSError as error:
            raise Refusal(
                "no-backup-made",
                f"No backup can be written to {self.folder}: {error.strerror or error}.",
                "Choose another folder with --backups.",
            ) from error
        except sqlite3.Error as error:
            raise refusal_for(error, self.database.path) from error
        faults = self.look(target)
        if faults:
            target = target.rename(target.with_name(f"{target.name}.faulty"))
        if faults and not even_faulty:
            raise Refusal(
                "faulty-backup",
                f"The backup that was made has faults: {faults[0]}.",
                "Look at the data file itself with “zesty-grid check”.",
            )
        return Backup(target.name, moment.replace(microsecond=0), target.stat().st_size, why)

    def _thin(self) -> None:
        """Those with a reason of their own (before a restore, before a new version) go by the same
        rule, and by nothing else."""
        every = self.all()
        kept = set(kept_backups([one.made_at for one in every], datetime.now(UTC)))
        for one in every:
            if one.made_at not in kept:
                (self.folder / one.name).unlink(missing_ok=True)
