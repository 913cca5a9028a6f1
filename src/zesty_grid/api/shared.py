"""What the routers have in common: the database, and row numbers."""

from typing import Annotated

from fastapi import Depends, Path, Request

from zesty_grid.store.database import Database


def database_of(request: Request) -> Database:
    found: Database = request.app.state.database
    return found


Store = Annotated[Database, Depends(database_of)]
# Larger numbers than SQLite or a browser can hold are no row of ours.
RowId = Annotated[int, Path(ge=1, le=2**53)]
