"""Studies as a package in open formats, for a colleague, another program, or ten years from now."""

from collections.abc import Iterable
from pathlib import Path
from tempfile import NamedTemporaryFile
from typing import Annotated

from fastapi import APIRouter, Query
from fastapi.responses import FileResponse
from starlette.background import BackgroundTask

from zesty_grid.api.shared import Store
from zesty_grid.formats.package.written import package_files, write_folder, write_zip
from zesty_grid.store.database import Database, now
from zesty_grid.store.packing import packed_files, packed_rows, studies_named

router = APIRouter(prefix="/api", tags=["packages"])
Studies = Annotated[
    str, Query(max_length=4000, pattern=r"^(\d{1,15}(,\d{1,15})*)?$",
               description="numbers of studies, with commas; empty: all"),
]  # fmt: skip


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
        target, media_type="application/zip", filename="zesty-grid-studies.zip",
        background=BackgroundTask(target.unlink),
    )  # fmt: skip


def write_package(store: Database, studies: Iterable[str], target: Path) -> list[int]:
    """Into a folder, or a file where the name ends in .zip; answers the numbers of the studies."""
    with store.connection() as connection:
        connection.execute("BEGIN")  # one moment for all tables
        ids = studies_named(connection, studies)
        rows, factors = packed_rows(connection, ids)
        files = package_files(rows, factors, packed_files(connection, ids), now())
        if target.suffix == ".zip":
            write_zip(target, files)
        else:
            write_folder(target, files)
    return ids
