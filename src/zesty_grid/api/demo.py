"""How far the demo is that is made while the application already runs."""

from fastapi import APIRouter, Request

from zesty_grid.core.frozen import Frozen

router = APIRouter(prefix="/api", tags=["today"])


class DemoBeingMade(Frozen):
    """`photos` of `of_photos` are read; both 0 where no demo is being made, or not yet that far."""

    being_made: bool = False
    photos: int = 0
    of_photos: int = 0


@router.get("/demo")
def demo_being_made(request: Request) -> DemoBeingMade:
    found: DemoBeingMade = request.app.state.demo
    return found
