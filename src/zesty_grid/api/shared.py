"""What the routers have in common: the database, and a study with its plan worked out."""

import sqlite3
from dataclasses import dataclass
from typing import Annotated

from fastapi import Depends, Path, Request

from zesty_grid.core.plan.cells import Cell
from zesty_grid.core.plan.controls import all_cells
from zesty_grid.core.plan.vessels import Vessel, vessels_of
from zesty_grid.core.shelf.kept_recipes import with_kept
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.store.database import Database
from zesty_grid.store.plan import StoredStudy, load_study
from zesty_grid.store.shelf import load_shelf


def database_of(request: Request) -> Database:
    found: Database = request.app.state.database
    return found


Store = Annotated[Database, Depends(database_of)]
# Larger numbers than SQLite or a browser can hold are no row of ours.
RowId = Annotated[int, Path(ge=1, le=2**53)]


@dataclass(frozen=True)
class WorkedStudy:
    stored: StoredStudy
    shelf: Shelf
    cells: list[Cell]
    vessels: list[Vessel]


def worked_study(connection: sqlite3.Connection, study_id: int) -> WorkedStudy:
    stored = load_study(connection, study_id)
    shelf = shelf_of(connection, stored)
    return worked_plan(stored, shelf, all_cells(stored.plan, shelf))


def shelf_of(connection: sqlite3.Connection, stored: StoredStudy) -> Shelf:
    """The Shelf that a study draws on: once dyeing has begun, with the recipes of that day."""
    live = load_shelf(connection)
    return with_kept(live, stored.kept_shelf) if stored.kept_shelf else live


def worked_plan(stored: StoredStudy, shelf: Shelf, cells: list[Cell]) -> WorkedStudy:
    return WorkedStudy(stored, shelf, cells, vessels_of(stored.plan, cells, shelf))
