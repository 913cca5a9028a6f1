"""Tables that people kept before: a study of earlier swatches, things for the Shelf."""

from datetime import UTC, datetime
from typing import Annotated

from fastapi import APIRouter, File, UploadFile
from pydantic import BaseModel

from zesty_grid.api.shared import Store
from zesty_grid.core.entered.columns import ColumnRole, EnteredTable, guessed_roles
from zesty_grid.core.entered.shelf_from_table import FIELDS, ListKind, TableShelf, guessed_fields, shelf_from_table
from zesty_grid.core.entered.study_from_table import EarlierSwatch, TableStudy, study_from_table
from zesty_grid.core.refusal import Fault
from zesty_grid.core.shelf.shelf import ShelfItem
from zesty_grid.formats.table_file import MOST_BYTES, read_table_file
from zesty_grid.store.entering import enter_list, enter_study
from zesty_grid.store.shelf import items_of, load_shelf

router = APIRouter(prefix="/api/entered", tags=["entered"])
SHOWN = 12


class ColumnsLook(BaseModel):
    """A file's cells, what its columns seem to be in a study, and in lists for the Shelf."""

    table: EnteredTable
    roles: tuple[ColumnRole, ...]
    fields: dict[ListKind, tuple[str, ...]]
    allowed: dict[ListKind, tuple[str, ...]]


class TableStudyLook(BaseModel):
    """`lines`: the first swatches as they would be. `new_items`: what the Shelf would get.
    `asked`: fibres of which must be said what they are made of."""

    swatches: int
    coloured: int
    lines: tuple[EarlierSwatch, ...]
    new_items: tuple[ShelfItem, ...]
    asked: tuple[str, ...]
    faults: tuple[Fault, ...]


class TableShelfLook(BaseModel):
    """`there`: names that stand on the Shelf already, and are left as they are."""

    items: tuple[ShelfItem, ...]
    there: tuple[str, ...]
    asked: tuple[str, ...]
    faults: tuple[Fault, ...]


class EnteredStudy(BaseModel):
    id: int


class EnteredOnShelf(BaseModel):
    added: int


@router.post("/look")
def look_at_table(file: Annotated[UploadFile, File()]) -> ColumnsLook:
    """The cells of a spreadsheet (XLSX) or text table (CSV, TSV); nothing is kept."""
    table = read_table_file(file.file.read(MOST_BYTES + 1), file.filename or "")
    kinds: tuple[ListKind, ...] = ("fibre", "dye_lot", "vessel")
    return ColumnsLook(
        table=table,
        roles=guessed_roles(table),
        fields={kind: guessed_fields(table, kind) for kind in kinds},
        allowed=dict(FIELDS),
    )


@router.post("/study/look")
def look_at_study(wanted: TableStudy, store: Store) -> TableStudyLook:
    """What a table would be as a study, with all its faults; nothing is kept."""
    with store.connection() as connection:
        found = study_from_table(wanted, load_shelf(connection))
    return TableStudyLook(
        swatches=len(found.swatches),
        coloured=sum(one.lab is not None for one in found.swatches),
        lines=tuple(found.swatches[:SHOWN]),
        new_items=tuple(found.new_items),
        asked=tuple(found.asked),
        faults=tuple(found.faults),
    )


@router.post("/study", status_code=201)
def enter_table(wanted: TableStudy, store: Store) -> EnteredStudy:
    """A study whose record says that it was entered later; all of it, or nothing."""
    with store.transaction() as connection:
        return EnteredStudy(id=enter_study(connection, wanted, datetime.now(UTC)))


@router.post("/shelf/look")
def look_at_list(wanted: TableShelf, store: Store) -> TableShelfLook:
    """What a list would bring to the Shelf; nothing is kept."""
    with store.connection() as connection:
        found = shelf_from_table(wanted, items_of(connection, wanted.kind))
    return TableShelfLook(
        items=tuple(found.items), there=tuple(found.there), asked=tuple(found.asked), faults=tuple(found.faults)
    )


@router.post("/shelf", status_code=201)
def enter_for_shelf(wanted: TableShelf, store: Store) -> EnteredOnShelf:
    """Adds what is new to the Shelf; all of it, or nothing."""
    with store.transaction() as connection:
        return EnteredOnShelf(added=enter_list(connection, wanted))
