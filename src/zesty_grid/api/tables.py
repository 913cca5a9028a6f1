"""Swatches of any studies laid side by side."""

import sqlite3
from typing import Annotated

from fastapi import APIRouter, Query
from fastapi.responses import Response

from zesty_grid.api.answers import Created, KeptTable
from zesty_grid.api.shared import Codes, RowId, Store, as_json, codes_in
from zesty_grid.core.compare.coloured import Coloured
from zesty_grid.core.compare.laid_table import LaidTable, TableLook, neighbours
from zesty_grid.core.read.sheet_layout import Paper
from zesty_grid.formats.laid_table_pdf import laid_table_pdf
from zesty_grid.store import laid_tables
from zesty_grid.store.catalogue import coloured_by_key, every_cloth, search_study, seen_of

router = APIRouter(prefix="/api", tags=["tables"])


@router.get("/studies/{study_id}/coloured", response_model=list[Coloured])
def coloured_of_study(
    study_id: RowId,
    store: Store,
    codes: Codes = "",
    text: Annotated[str, Query(max_length=200)] = "",
    most: Annotated[int, Query(ge=1, le=100_000)] = 100_000,
) -> Response:
    """What has a colour in a study: states, controls, zones, stages of trials; all, or the first
    whose name, state, recipe or colour holds every word of a text."""
    with store.connection() as connection:
        found = search_study(connection, study_id, text, set(codes_in(codes)), most)
    return as_json(list[Coloured], found)


@router.get("/coloured-cloths")
def coloured_cloths(store: Store) -> list[Coloured]:
    """The reference cloths that were read."""
    with store.connection() as connection:
        return every_cloth(connection)


@router.post("/tables/look")
def look_at_table(table: LaidTable, store: Store) -> TableLook:
    """The pieces of a table with the differences of neighbours; nothing is kept."""
    with store.connection() as connection:
        return _look(connection, table)


@router.post("/tables/print", response_class=Response)
def print_table(table: LaidTable, store: Store, paper: Paper = "A4") -> Response:
    with store.connection() as connection:
        look = _look(connection, table)
    return Response(laid_table_pdf(table, look, paper), media_type="application/pdf")


@router.get("/tables")
def kept_tables(store: Store) -> list[KeptTable]:
    with store.connection() as connection:
        return [KeptTable(id=number, table=table) for number, table in laid_tables.list_tables(connection)]


@router.get("/tables/{table_id}")
def kept_table(table_id: RowId, store: Store) -> KeptTable:
    with store.connection() as connection:
        return KeptTable(id=table_id, table=laid_tables.load_table(connection, table_id))


@router.post("/tables", status_code=201)
def keep_table(table: LaidTable, store: Store) -> Created:
    with store.transaction() as connection:
        return Created(id=laid_tables.add_table(connection, table))


@router.put("/tables/{table_id}", status_code=204)
def change_table(table_id: RowId, table: LaidTable, store: Store) -> None:
    with store.transaction() as connection:
        laid_tables.change_table(connection, table_id, table)


@router.delete("/tables/{table_id}", status_code=204)
def take_table_away(table_id: RowId, store: Store) -> None:
    with store.transaction() as connection:
        laid_tables.set_deleted(connection, table_id, True)


@router.post("/tables/{table_id}/restore", status_code=204)
def put_table_back(table_id: RowId, store: Store) -> None:
    with store.transaction() as connection:
        laid_tables.set_deleted(connection, table_id, False)


def _look(connection: sqlite3.Connection, table: LaidTable) -> TableLook:
    found = coloured_by_key(connection, table.keys)
    pieces = [found[key] for key in table.keys if key in found]
    undyed = coloured_by_key(connection, [one.undyed for one in pieces if one.undyed])
    seen = seen_of(connection, found.values())
    return TableLook(
        pieces=tuple(pieces),
        undyed=tuple(undyed.values()),
        neighbours=tuple(neighbours([one.key for one in pieces], seen, table.pairs)),
        missing=tuple(key for key in table.keys if key not in found),
    )
