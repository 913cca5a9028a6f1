"""A fresh database, the API on it, and photographs from the simulated camera."""

import time
from collections.abc import Iterator
from datetime import date, datetime, timedelta
from functools import cache
from pathlib import Path
from random import Random
from tempfile import TemporaryDirectory

import pytest
from hypothesis import settings
from starlette.testclient import TestClient
from tests.forks import Forks

from zesty_grid.api.application import create_application
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF
from zesty_grid.store.database import Database
from zesty_grid.store.shelf import stock_shelf

ADDRESS = "http://127.0.0.1:8750"
# The same examples each time: what failed once fails again, and nothing fails by the clock.
settings.register_profile("steady", derandomize=True, deadline=None)
settings.load_profile("steady")


@pytest.fixture(autouse=True)
def sheets_have_the_same_names(monkeypatch: pytest.MonkeyPatch) -> None:
    """The first sheet of each test has the same code, and so on, so that their photographs are the same."""
    monkeypatch.setattr("zesty_grid.api.read.secrets", Random(0))


@cache
def stocked_file() -> bytes:
    """A file without studies, with the Shelf that comes with the application; copied for each test."""
    with TemporaryDirectory() as folder:
        made = Database(Path(folder) / "grid.db")
        with made.transaction() as connection:
            stock_shelf(connection, STARTING_SHELF)
        with made.connection() as connection:
            connection.execute("PRAGMA wal_checkpoint(TRUNCATE)")
        return made.path.read_bytes()


@pytest.fixture
def database(tmp_path: Path) -> Database:
    """An empty file with the Shelf that comes with the application."""
    path = tmp_path / "grid.db"
    path.write_bytes(stocked_file())
    return Database(path)


@pytest.fixture(scope="session")
def forks(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Forks]:
    running = Forks(tmp_path_factory.mktemp("forks"))
    yield running
    running.close()


@pytest.fixture
def client(database: Database) -> TestClient:
    return TestClient(create_application(database), base_url=ADDRESS)


@pytest.fixture
def ends_on_the_same_day() -> None:
    """For what counts the days up to today: the last two minutes of a day are waited out."""
    left = datetime.combine(date.today() + timedelta(1), datetime.min.time()) - datetime.now()
    if left < timedelta(minutes=2):
        time.sleep(left.total_seconds() + 1)
