"""Puts the routers, the guard and the built screens together."""

from collections.abc import Callable
from copy import copy
from functools import cache
from pathlib import Path

from fastapi import Depends, FastAPI
from fastapi.responses import FileResponse
from fastapi.staticfiles import StaticFiles
from starlette.datastructures import State
from starlette.middleware.base import BaseHTTPMiddleware

from zesty_grid import __version__
from zesty_grid.api import (
    access,
    bench_log,
    between,
    cloth_pictures,
    cloths,
    compare,
    day_plans,
    demo,
    dye,
    entering,
    example,
    eye,
    fade,
    find,
    going_on,
    instruments,
    lasting,
    packages,
    ph_strips,
    plan,
    probes,
    read,
    safekeeping,
    shelf,
    swatches,
    tables,
    telling_others,
    today,
    weigh,
)
from zesty_grid.api.access import Doorkeeper
from zesty_grid.api.cloth_pictures import ClothOfPhotos
from zesty_grid.api.compressing import CompressAway
from zesty_grid.api.contract import describe_problems
from zesty_grid.api.example import MakeExample
from zesty_grid.api.guard import BodyLimit, guard_for
from zesty_grid.api.planning_jobs import PlanningJobs
from zesty_grid.api.probe_hub import ProbeHub
from zesty_grid.api.problems import install_problem_handlers
from zesty_grid.api.safekeeping import Safekeeping
from zesty_grid.api.shared import address_leads_somewhere
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF
from zesty_grid.store.backup_names import default_folder
from zesty_grid.store.backups import Backups
from zesty_grid.store.database import Database
from zesty_grid.store.shelf import stock_shelf

WEB = Path(__file__).parent.parent / "web"
OWN_HOSTS = frozenset({"127.0.0.1", "localhost", "::1"})


def create_application(
    database: Database,
    hosts: frozenset[str] = OWN_HOSTS,
    doorkeeper: Doorkeeper | None = None,
    keeping: Safekeeping | None = None,
    make_example: MakeExample | None = None,
) -> FastAPI:
    """`doorkeeper`: asks every device for a code; without one, whoever reaches it may come in."""
    app = copy(_routes())
    app.state, app.user_middleware = State(), []
    app.state.database = database
    app.state.planning = PlanningJobs()
    app.state.make_example = make_example
    app.state.demo = demo.DemoBeingMade()
    app.state.cloths = ClothOfPhotos()
    app.state.probes = ProbeHub(database)
    app.state.doorkeeper = doorkeeper
    app.state.safekeeping = keeping or Safekeeping(Backups(database, default_folder(database.path)))
    if not database.only_reading:
        with database.transaction() as connection:
            stock_shelf(connection, STARTING_SHELF)
    app.add_middleware(CompressAway)
    app.add_middleware(BodyLimit)
    app.add_middleware(BaseHTTPMiddleware, dispatch=guard_for(hosts, doorkeeper))
    return app


@cache
def _routes() -> FastAPI:
    """What is the same for every data file; its hundreds of models are built once in a process."""
    app = FastAPI(
        title="Zesty Grid", version=__version__, openapi_url="/api/openapi.json", docs_url=None, redoc_url=None
    )
    install_problem_handlers(app)
    there = [Depends(address_leads_somewhere)]
    for module in (
        access,
        safekeeping,
        going_on,
        plan,
        shelf,
        weigh,
        dye,
        bench_log,
        day_plans,
        probes,
        ph_strips,
        read,
        instruments,
        cloths,
        cloth_pictures,
        swatches,
        fade,
        lasting,
        compare,
        tables,
        find,
        between,
        telling_others,
        packages,
        entering,
        demo,
        example,
        eye,
        today,
    ):
        app.include_router(module.router, dependencies=there)
    app.include_router(plan.questions_router)
    app.include_router(weigh.ph_router)
    app.include_router(fade.light_router)
    describe_problems(app)
    if WEB.is_dir():
        app.mount("/assets", StaticFiles(directory=WEB / "assets"))

        @app.get("/", include_in_schema=False)
        def start_page() -> FileResponse:
            return FileResponse(WEB / "index.html", headers={"Cache-Control": "no-cache"})

        # The worker that opens the screens without a network has to stand at the root.
        for path in WEB.iterdir():
            if path.is_file():
                app.add_api_route(f"/{path.name}", _answering_with(path), include_in_schema=False)

    return app


def _answering_with(path: Path) -> Callable[[], FileResponse]:
    def file() -> FileResponse:
        return FileResponse(path, headers={"Cache-Control": "no-cache"})

    return file
