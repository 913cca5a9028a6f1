"""Sends what the OpenAPI document allows, and what it does not; holds the answers against it."""

import json
import shutil
from collections.abc import Iterator
from functools import cache
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any

import schemathesis
from fastapi import FastAPI
from hypothesis import HealthCheck, Phase, given, settings
from hypothesis.errors import Unsatisfiable
from schemathesis import GenerationMode
from schemathesis.core.errors import InvalidSchema
from schemathesis.openapi.checks import RejectedPositiveData
from tests.seeded_readings import add_readings, new_study, new_trial
from tests.small_study import small_plan

from zesty_grid.api.application import create_application
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF
from zesty_grid.store.database import Database
from zesty_grid.store.shelf import stock_shelf

ROOT = Path(__file__).parents[1]
HERE = frozenset({"testserver"})


def seeded_file(path: Path) -> Path:
    """Three studies, of which one is read and on trial."""
    database = Database(path)
    with database.transaction() as connection:
        stock_shelf(connection, STARTING_SHELF)
    for name in ("One", "Two", "Three"):
        study, codes = new_study(database, small_plan(name=name))
    swatches = list(codes.values())[:6]
    add_readings(database, study, [(code, "whole", (60.0, 5.0, 20.0)) for code in swatches])
    new_trial(
        database,
        study,
        {
            "kind": "light",
            "name": "Window",
            "swatches": swatches,
            "stages": [{"label": f"{n} days", "days": n, "dose_lxh": n * 1e5} for n in (1, 2)],
        },
    )
    with database.connection() as connection:
        connection.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    return path


def application_on(path: Path) -> FastAPI:
    application = create_application(Database(path), HERE)
    application.openapi_schema = document()
    return application


@cache
def document() -> dict[str, Any]:
    """The description of the API, as JSON: as `make setup` wrote it down last, where the code is still the same."""
    written, made = ROOT / "frontend" / "openapi.json", ROOT / ".stamps" / "api-types"
    newest = max(source.stat().st_mtime for source in (ROOT / "src").rglob("*.py"))
    if written.exists() and made.exists() and made.stat().st_mtime > newest:
        return json.loads(written.read_text())
    with TemporaryDirectory() as folder:
        return create_application(Database(Path(folder) / "grid.db"), HERE).openapi()


def start_anew(application: FastAPI, seeded: Path, folder: Path) -> None:
    """The same file for each operation, whatever the one before has made of it."""
    folder.mkdir()
    shutil.copyfile(seeded, folder / "grid.db")
    application.state.database = Database(folder / "grid.db")


def operations_of(application: FastAPI) -> dict[str, schemathesis.APIOperation]:
    schema = schemathesis.openapi.from_asgi("/api/openapi.json", application, timeout=600)
    return {found.ok().label: found.ok() for found in schema.get_all_operations()}


def complaints(operation: schemathesis.APIOperation, examples: int, steady: bool = True) -> Iterator[str]:
    """What is answered otherwise than the document says: crashes, statuses, content types, bodies,
    and requests that the document allows and the answer calls invalid."""
    for mode in (GenerationMode.POSITIVE, GenerationMode.NEGATIVE):
        try:
            yield from _asked(operation, mode, examples, steady)
        except Unsatisfiable:
            continue  # nothing can be wrong with a request that takes nothing


def _asked(operation: schemathesis.APIOperation, mode: GenerationMode, examples: int, steady: bool) -> list[str]:
    found: list[str] = []

    @settings(
        max_examples=examples,
        deadline=None,
        database=None,
        derandomize=steady,
        suppress_health_check=list(HealthCheck),
        phases=[Phase.generate],
    )
    @given(case=operation.as_strategy(generation_mode=mode))
    def ask(case: schemathesis.Case) -> None:
        try:
            answer = case.call()
        except Exception as error:  # a crash comes through, so that a long run goes on
            found.append(f"crash: {error!r}\n{case.as_curl_command()}")
            return
        try:
            case.validate_response(answer)
        except InvalidSchema:
            # The tester trips over its own rewriting of tuples now and then, in long runs only.
            if steady:
                raise
        except BaseExceptionGroup as group:
            for said in group.exceptions:
                if not _refused_for_its_sense(said, answer):
                    found.append(f"{answer.status_code}: {said}\n{case.as_curl_command()}")

    ask()
    return found


def _refused_for_its_sense(said: BaseException, answer: schemathesis.Response) -> bool:
    """A schema cannot say that two dates come in the wrong order, or that a code is nobody's."""
    if not isinstance(said, RejectedPositiveData):
        return False
    return str(answer.json().get("type", "")) != "urn:zesty-grid:problem:invalid"
