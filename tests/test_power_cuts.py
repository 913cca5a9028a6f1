"""The power goes a hundred times during logging: what was acknowledged is there."""

import subprocess
import sys
import threading
import time
from pathlib import Path

import httpx2 as http
import pytest
from tests.depth import depth
from tests.forks import Forks
from tests.small_study import small_plan
from tests.ui.conftest import free_port

from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF
from zesty_grid.store.database import Database, newest_applied, newest_version
from zesty_grid.store.dye import list_entries
from zesty_grid.store.keeping import create_study
from zesty_grid.store.plan import list_study_ids
from zesty_grid.store.safekeeping import check
from zesty_grid.store.shelf import stock_shelf

CUTS = depth(10, 100)


def log_until_it_dies(address: str, study: int, vessel: str, cut: int, kept: list[str]) -> None:
    """Sends one entry after the other; remembers those that were acknowledged."""
    client = http.Client(verify=False, timeout=None)
    n = 0
    while True:
        key = f"cut-{cut:03}-entry-{n:05}"
        entry = {"vessel": vessel, "step": "hold", "kind": "record", "ph": 4.5, "key": key}
        try:
            answer = client.post(f"{address}/api/studies/{study}/dye/entries", json=entry)
        except http.TransportError:
            client.close()
            return
        if answer.status_code == 201:
            kept.append(key)
        n += 1


class Servers:
    """The server on one file, killed without warning and started again."""

    def __init__(self, forks: Forks, data: Path, port: int) -> None:
        self.address = f"http://127.0.0.1:{port}"
        self.client = http.Client(verify=False, timeout=None)
        self._start = lambda: forks.run(data, port, what="bare")
        self.start()

    def start(self) -> None:
        self.running = self._start()
        while True:
            try:
                self.client.get(f"{self.address}/api/studies")
                return
            except http.TransportError:
                time.sleep(0.02)

    def kill(self) -> None:
        self.running.kill()


@pytest.fixture
def servers(tmp_path, forks):
    running = Servers(forks, tmp_path / "grid.db", free_port())
    yield running
    running.kill()


def test_nothing_acknowledged_is_lost_and_timers_go_on_over_a_hundred_cuts(tmp_path, servers):
    data, address = tmp_path / "grid.db", servers.address
    study = servers.client.post(f"{address}/api/studies", json=small_plan()).json()["id"]
    vessel = "D1"
    begun = {"vessel": vessel, "step": "hold", "kind": "begun", "minutes": 600}
    servers.client.post(f"{address}/api/studies/{study}/dye/entries", json=begun)
    timer = servers.client.get(f"{address}/api/today/bench").json()["timers"]
    assert len(timer) == 1
    kept: list[str] = []
    for cut in range(CUTS):
        before = len(kept)
        logging = threading.Thread(target=log_until_it_dies, args=(address, study, vessel, cut, kept))
        logging.start()
        # Cut after a few entries, at whatever moment of the next one that happens to be.
        while len(kept) < before + 1 + cut % 5:
            time.sleep(0.001)
        servers.kill()
        logging.join()
        assert check(data) == []
        servers.start()
        assert servers.client.get(f"{address}/api/today/bench").json()["timers"] == timer
    with Database(data).connection() as connection:
        stored = [entry.key for entry in list_entries(connection, study)]
    assert set(kept) <= set(stored)
    assert len(set(stored)) == len(stored)
    assert len(kept) >= CUTS


def cut_off(tmp_path: Path, script: str) -> None:
    """Runs a program that ends as if the power had gone: nothing is closed, nothing tidied."""
    ended = subprocess.run(
        [sys.executable, "-c", script, str(tmp_path / "grid.db")],
        cwd=Path(__file__).parent.parent,
        capture_output=True,
        text=True,
    )
    assert ended.returncode == 9, ended.stderr


def test_power_lost_in_a_migration_leaves_the_file_as_it_was(tmp_path):
    data = tmp_path / "grid.db"
    with Database(data).transaction() as connection:
        stock_shelf(connection, STARTING_SHELF)
        create_study(connection, StudyPlan.model_validate(small_plan()))
    cut_off(
        tmp_path,
        """
import os, sys
from pathlib import Path
from zesty_grid.store import database
from zesty_grid.store.opening import open_data
sql = "ALTER TABLE study ADD COLUMN to_come TEXT; UPDATE study SET name = 'changed';"
number = database.newest_version() + 1
database.migrations = lambda: [(number, "to_come", sql)]
class CutOff(database.FileConnection):
    def executescript(self, script):
        super().executescript(script)
        os._exit(9)
database.FileConnection = CutOff
open_data(Path(sys.argv[1]), Path(sys.argv[1]).with_name("kept"))
""",
    )
    assert len(list((tmp_path / "kept").iterdir())) == 1
    with Database(data).connection() as connection:
        assert newest_applied(connection) == newest_version()
        assert [row["name"] for row in connection.execute("SELECT name FROM study")] == ["Small"]
    assert check(data) == []


def test_power_lost_in_an_upload_leaves_nothing_of_it(tmp_path):
    cut_off(
        tmp_path,
        """
import io, os, sys
from pathlib import Path
from PIL import Image
from starlette.testclient import TestClient
from tests.small_study import small_plan
from zesty_grid.api import dye
from zesty_grid.api.application import create_application
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF
from zesty_grid.store.database import Database, newest_applied, newest_version
client = TestClient(create_application(Database(Path(sys.argv[1]))), base_url="http://127.0.0.1")
study = client.post("/api/studies", json=small_plan()).json()["id"]
whole = dye.add_photo
dye.add_photo = lambda *given: (whole(*given), os._exit(9))
picture = io.BytesIO()
Image.new("RGB", (64, 48), "white").save(picture, "JPEG")
client.post(f"/api/studies/{study}/dye/photos", files={"file": picture.getvalue()})
""",
    )
    database = Database(tmp_path / "grid.db")
    with database.connection() as connection:
        assert len(list_study_ids(connection)) == 1
        assert connection.execute("SELECT count(*) FROM photo_file").fetchone()[0] == 0
    assert check(database.path) == []
