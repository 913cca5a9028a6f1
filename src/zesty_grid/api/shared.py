"""What the routers have in common: the database, row numbers, and long answers."""

from functools import cache
from typing import Annotated, Any

from fastapi import Depends, Path, Query, Request
from fastapi.responses import Response
from pydantic import TypeAdapter

from zesty_grid.core.row_number import RowNumber
from zesty_grid.store.addresses import ROWS, must_be_there
from zesty_grid.store.database import Database


def database_of(request: Request) -> Database:
    found: Database = request.app.state.database
    return found


@cache
def _adapter(kind: Any) -> TypeAdapter[Any]:
    return TypeAdapter(kind)


def as_json(kind: Any, answer: object) -> Response:
    """Written once by Pydantic: a long answer is not walked through a second time."""
    return Response(_adapter(kind).dump_json(answer), media_type="application/json")


Store = Annotated[Database, Depends(database_of)]


def address_leads_somewhere(request: Request, store: Store) -> None:
    """Answers 404 for what is not there, before what was sent is looked at."""
    if request.path_params.keys() & ROWS.keys():
        with store.connection() as connection:
            must_be_there(connection, request.path_params)


RowId = Annotated[RowNumber, Path()]
Codes = Annotated[
    str,
    Query(
        max_length=4000,
        pattern=r"^([A-Z0-9]{2,12}(,[A-Z0-9]{2,12})*)?$",
        description="codes of swatches, with commas; empty: all",
    ),
]


def codes_in(codes: str) -> list[str]:
    return [code for code in codes.split(",") if code]
