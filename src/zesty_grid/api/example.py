"""A worked example, made when it is asked for."""

from collections.abc import Callable
from typing import Any

from fastapi import APIRouter, Request

from zesty_grid.api.answers import ExampleMade
from zesty_grid.api.contract import PROBLEM, REF
from zesty_grid.api.shared import Store
from zesty_grid.store.database import Database
from zesty_grid.store.plan import NotFound

router = APIRouter(prefix="/api", tags=["plan"])

MakeExample = Callable[[Database], int]


NONE_HERE: dict[int | str, dict[str, Any]] = {
    404: {"description": "There is none here.", "content": {PROBLEM: {"schema": REF}}}
}


@router.post("/example", status_code=201, responses=NONE_HERE)
def make_example(store: Store, request: Request) -> ExampleMade:
    """Puts a small made-up study, from plan to fading, beside one's own; once in a file."""
    make: MakeExample | None = request.app.state.make_example
    if make is None:
        raise NotFound("worked example")
    return ExampleMade(study=make(store))
