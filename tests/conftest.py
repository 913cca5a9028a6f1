"""A fresh database, the API on it, and photographs from the simulated camera."""

from pathlib import Path

import pytest
from hypothesis import settings
from starlette.testclient import TestClient

from zesty_grid.api.application import create_application
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF
from zesty_grid.store.database import Database
from zesty_grid.store.shelf import stock_shelf

ADDRESS = "http://127.0.0.1:8750"
# The same examples each time: what failed once fails again, and nothing fails by the clock.
settings.register_profile("steady", derandomize=True, deadline=None)
settings.load_profile("steady")


@pytest.fixture
def database(tmp_path: Path) -> Database:
    """An empty file with the Shelf that comes with the application."""
    made = Database(tmp_path / "grid.db")
    with made.transaction() as connection:
        stock_shelf(connection, STARTING_SHELF)
    return made


@pytest.fixture
def client(database: Database) -> TestClient:
    return TestClient(create_application(database), base_url=ADDRESS)
