"""Studies as a package in open formats, for a colleague, another program, or ten years from now."""

from collections.abc import Iterable
from datetime import UTC, datetime
from pathlib import Path
from tempfile import NamedTemporaryFile
from typing import Annotated, BinaryIO

from fastapi import APIRouter, Query, UploadFile
from fastapi.responses import FileResponse
from starlette.background import BackgroundTask

from zesty_grid.api.shared import Store
from zesty_grid.core.record.taken_in import TakenIn
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF
from zesty_grid.formats.package.read_in import opened_package
from zesty_grid.formats.package.written import package_files, write_folder, write_zip
from zesty_grid.store.database import Database, now
from zesty_grid.store.packages.packing import packed_files, packed_rows, studies_named
from zesty_grid.store.packages.taking_in import list_taken, take_in
from zesty_grid.store.shelf import stock_shelf

router = APIRouter(prefix="/api", tags=["packages"])
Studies = Annotated[
    str,
    Query(
        max_length=4000, pattern=r"^(\d{1,15}(,\d{1,15})*)?$", description="numbers of studies, with commas; empty: all"
    ),
]


@router.get("/package.zip", response_class=FileResponse)
def package(store: Store, studies: Studies = "") -> FileResponse:
    """A Data Package: tables as CSV with their meaning, photographs, calibrations."""
    with NamedTemporaryFile(suffix=".zip", delete=False) as file:
        target = Path(file.name)
    try:
        write_package(store, [one for one in studies.split(",") if one], target)
    except BaseException:
        target.unlink()
        raise
    return FileResponse(
        target,
        media_type="application/zip",
        filename="zesty-grid-studies.zip",
        background=BackgroundTask(target.unlink),
    )


@router.get("/packages")
def list_taken_in(store: Store) -> list[TakenIn]:
    """Packages that were taken in, the newest first."""
    with store.connection() as connection:
        return list_taken(connection)


@router.post("/packages")
def take_package_in(
    file: UploadFile,
    store: Store,
    look: Annotated[bool, Query(description="say what would happen, and change nothing")] = False,
) -> TakenIn:
    """Takes all studies of a package (a zip) in, or nothing. Studies that are here already go on
    where the package has more; nothing is doubled."""
    return take_package(store, file.file, file.filename or "", only_look=look)


def write_package(store: Database, studies: Iterable[str], target: Path) -> list[int]:
    """Into a folder, or a file where the name ends in .zip; answers the numbers of the studies."""
    with store.connection() as connection:
        ids = studies_named(connection, studies)
        rows, factors = packed_rows(connection, ids)
        files = package_files(rows, factors, packed_files(connection, ids), now())
        if target.suffix == ".zip":
            write_zip(target, files)
        else:
            write_folder(target, files)
    return ids


def take_package(store: Database, source: Path | BinaryIO, filename: str, only_look: bool = False) -> TakenIn:
    """All studies of a package, or nothing. `only_look`: says what would happen, and changes
    nothing."""
    with opened_package(source) as read, store.transaction(only_look) as connection:
        stock_shelf(connection, STARTING_SHELF)
        return take_in(connection, read, filename, STARTING_SHELF, datetime.now(UTC))
