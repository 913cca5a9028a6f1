"""Puts the routers, the guard and the built screens together."""

from pathlib import Path

from fastapi import FastAPI
from fastapi.responses import FileResponse
from fastapi.staticfiles import StaticFiles
from starlette.middleware.base import BaseHTTPMiddleware

from zesty_grid import __version__
from zesty_grid.api import (
    bench_log,
    between,
    cloths,
    compare,
    day_plans,
    dye,
    fade,
    find,
    going_on,
    instruments,
    lasting,
    plan,
    probes,
    read,
    shelf,
    swatches,
    tables,
    telling_others,
    today,
    weigh,
)
from zesty_grid.api.guard import guard_for
from zesty_grid.api.planning_jobs import PlanningJobs
from zesty_grid.api.probe_hub import ProbeHub
from zesty_grid.api.problems import install_problem_handlers
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF
from zesty_grid.store.database import Database
from zesty_grid.store.shelf import stock_shelf

WEB = Path(__file__).parent.parent / "web"
OWN_HOSTS = frozenset({"127.0.0.1", "localhost", "::1"})


def create_application(database: Database, hosts: frozenset[str] = OWN_HOSTS) -> FastAPI:
    app = FastAPI(
        title="Zesty Grid", version=__version__, openapi_url="/api/openapi.json",
        docs_url=None, redoc_url=None,
    )  # fmt: skip
    app.state.database = database
    app.state.planning = PlanningJobs()
    app.state.probes = ProbeHub(database)
    with database.transaction() as connection:
        stock_shelf(connection, STARTING_SHELF)
    install_problem_handlers(app)
    app.add_middleware(BaseHTTPMiddleware, dispatch=guard_for(hosts))
    for module in (
        going_on,
        plan,
        shelf,
        weigh,
        dye,
        bench_log,
        day_plans,
        probes,
        read,
        instruments,
        cloths,
        swatches,
        fade,
        lasting,
        compare,
        tables,
        find,
        between,
        telling_others,
        today,
    ):
        app.include_router(module.router)
    app.include_router(plan.questions_router)
    app.include_router(weigh.ph_router)
    app.include_router(fade.light_router)
    if WEB.is_dir():
        app.mount("/assets", StaticFiles(directory=WEB / "assets"))

        @app.get("/", include_in_schema=False)
        def start_page() -> FileResponse:
            return FileResponse(WEB / "index.html", headers={"Cache-Control": "no-cache"})

    return app
