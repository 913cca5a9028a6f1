"""How safe the data are: the state of the file, its backups, restoring, and a check in full."""

from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta

from fastapi import APIRouter, Request
from fastapi.responses import FileResponse
from pydantic import BaseModel

from zesty_grid.core.record.clock import clock_warning
from zesty_grid.store.backup_names import Backup
from zesty_grid.store.backups import Backups
from zesty_grid.store.database import Database
from zesty_grid.store.due import newest_moment
from zesty_grid.store.restoring import restore_into

router = APIRouter(prefix="/api/safekeeping", tags=["safekeeping"])
OLD_AFTER, FIRST_WITHIN = timedelta(days=2), timedelta(minutes=15)


@dataclass
class Safekeeping:
    """`notices`: what was found when the file was opened. `is_making`: backups come by
    themselves, `since` then."""

    backups: Backups
    notices: list[str] = field(default_factory=list)
    is_making: bool = False
    since: datetime = field(default_factory=lambda: datetime.now(UTC))

    @property
    def database(self) -> Database:
        return self.backups.database


class BackupLine(BaseModel):
    name: str
    made_at: datetime
    size_bytes: int
    why: str


class FileState(BaseModel):
    """`only_reading` says why nothing can be written, empty where it can; `warnings` are what the
    person should do something about."""

    file: str
    size_bytes: int
    only_reading: str
    warnings: tuple[str, ...]
    folder: str
    by_itself: bool
    backups: tuple[BackupLine, ...]


class Restored(BaseModel):
    """`kept`: the name of the backup that holds what was there before."""

    kept: str


class Checked(BaseModel):
    """Empty `faults`: all is well."""

    faults: tuple[str, ...]
    checked_at: datetime


@router.get("")
def file_state(request: Request) -> FileState:
    keeping = _of(request)
    database, backups = keeping.database, keeping.backups.all()
    return FileState(
        file=str(database.path),
        size_bytes=database.path.stat().st_size,
        only_reading=database.only_reading,
        warnings=tuple(_warnings(keeping, backups)),
        folder=str(keeping.backups.folder),
        by_itself=keeping.is_making,
        backups=tuple(BackupLine.model_validate(vars(one)) for one in backups),
    )


@router.post("/backups", status_code=201)
def make_backup(request: Request) -> BackupLine:
    """One more, now; checked before it counts."""
    return BackupLine.model_validate(vars(_of(request).backups.make()))


@router.get("/backups/{name}", response_class=FileResponse)
def fetch_backup(request: Request, name: str) -> FileResponse:
    """The whole file, to be kept elsewhere."""
    found = _of(request).backups.file_of(name)
    return FileResponse(found, media_type="application/vnd.sqlite3", filename=name)


@router.post("/backups/{name}/restore")
def restore_backup(request: Request, name: str) -> Restored:
    """The backup takes the place of what is there; that becomes one more backup first."""
    backups = _of(request).backups
    return Restored(kept=restore_into(backups, backups.file_of(name)).name)


@router.post("/check")
def check_file(request: Request) -> Checked:
    """All of it: every page, every reference, every photograph, and tables against the log."""
    keeping = _of(request)
    faults = keeping.backups.look(keeping.database.path)
    return Checked(faults=tuple(faults), checked_at=datetime.now(UTC))


def _of(request: Request) -> Safekeeping:
    found: Safekeeping = request.app.state.safekeeping
    return found


def _warnings(keeping: Safekeeping, backups: list[Backup]) -> list[str]:
    said = list(keeping.notices)
    with keeping.database.connection() as connection:
        newest = newest_moment(connection)
    now = datetime.now(UTC)
    said += [words for words in (clock_warning(newest, now),) if words]
    if keeping.backups.fault:
        said.append(f"The last backup could not be made. {keeping.backups.fault}")
    elif not keeping.is_making:
        return said
    elif not backups:
        if now - keeping.since > FIRST_WITHIN:
            said.append("There is no backup yet.")
    elif now - backups[0].made_at > OLD_AFTER:
        days = (now - backups[0].made_at).days
        said.append(f"The last backup is {days} days old.")
    return said
