"""A worked example, made when it is asked for."""

from collections.abc import Callable

from fastapi import APIRouter, Request

from zesty_grid.api.answers import ExampleMade
from zesty_grid.api.shared import Store
from zesty_grid.core.refusal import Refusal
from zesty_grid.store.database import Database

router = APIRouter(prefix="/api", tags=["plan"])

MakeExample = Callable[[Database], int]


@router.post("/example", status_code=201)
def make_example(store: Store, request: Request) -> ExampleMade:
    """Puts a small made-up study, from plan to fading, beside one's own; once in a file."""
    make: MakeExample | None = request.app.state.make_example
    if make is None:
        raise Refusal("no-example", "There is no worked example here.", "Plan a study of your own.")
    return ExampleMade(study=make(store))
