"""The application as it is started from a terminal."""

import re
import shutil
import ssl
import subprocess
import sys
import time
from pathlib import Path

import httpx2
import pytest
from tests.forks import Fork, Forks
from tests.seeded_readings import add_readings, new_study
from tests.small_study import small_plan
from tests.ui.conftest import free_port

from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF
from zesty_grid.store.access import code_that_fits
from zesty_grid.store.database import Database
from zesty_grid.store.safekeeping import check
from zesty_grid.store.shelf import stock_shelf

# No clock: a busy machine answers later, and that is no fault.
http = httpx2.Client(timeout=None)


def until_it_answers(port: int) -> None:
    for _ in range(3000):
        try:
            http.get(f"http://127.0.0.1:{port}/api/studies")
            return
        except httpx2.TransportError:
            time.sleep(0.02)
    raise AssertionError("the server did not start")


def start(forks: Forks, data: Path, port: int) -> Fork:
    server = forks.run("serve", "--data", data, "--port", port)
    until_it_answers(port)
    return server


@pytest.fixture
def running(tmp_path, forks):
    port = free_port()
    server = start(forks, tmp_path / "own" / "grid.db", port)
    yield server, f"http://127.0.0.1:{port}", tmp_path / "own" / "grid.db", port
    server.kill()


def test_the_start_page_and_all_that_it_loads_come_from_here(tmp_path):
    """Started as a person starts it."""
    port = free_port()
    address = f"http://127.0.0.1:{port}"
    command = [sys.executable, "-m", "zesty_grid.cli", "serve", "--data", str(tmp_path / "grid.db")]
    with subprocess.Popen([*command, "--port", str(port)]) as server:
        until_it_answers(port)
        look_at_what_comes_from(address)
        server.terminate()
    assert server.returncode == 0


def look_at_what_comes_from(address: str) -> None:
    page = http.get(address)
    assert page.headers["cache-control"] == "no-cache"
    assert "default-src 'self'" in page.headers["content-security-policy"]
    assert "https://" not in page.text
    assets = [part.split('"')[0] for part in page.text.split('="')[1:] if part.startswith("/assets")]
    assert assets
    for asset in assets:
        answer = http.get(address + asset)
        assert answer.status_code == 200
        assert answer.headers["x-content-type-options"] == "nosniff"
    assert http.get(f"{address}/assets/../../cli.py").status_code == 404
    assert http.get(f"{address}/api/openapi.json").json()["info"]["title"] == "Zesty Grid"


def test_what_was_acknowledged_is_there_after_the_power_goes(running, forks):
    server, address, data, port = running
    study = http.post(f"{address}/api/studies", json=small_plan()).json()["id"]
    vessel = http.get(f"{address}/api/studies/{study}/dye").json()["vessels"][0]["vessel"]["name"]
    for n in range(5):
        entry = {"vessel": vessel, "step": "fill", "kind": "record", "note": f"note {n}"}
        answer = http.post(f"{address}/api/studies/{study}/dye/entries", json=entry)
        assert answer.status_code == 201
    server.kill()
    assert check(data) == []
    again = start(forks, data, port)
    try:
        entries = http.get(f"{address}/api/studies/{study}/dye").json()["entries"]
        assert [entry["note"] for entry in entries] == [f"note {n}" for n in range(5)]
    finally:
        again.kill()


def test_ended_in_order_the_file_is_whole_on_its_own_and_a_backup_lies_beside(running):
    server, address, data, _ = running
    http.post(f"{address}/api/studies", json=small_plan(name="Kept"))
    assert server.end() == 0
    beside = {file.name for file in data.parent.iterdir()} - {"grid.db.lock"}
    assert beside == {"grid.db", "grid backups"}
    (made,) = (data.parent / "grid backups").iterdir()
    assert check(made) == []


def test_a_second_server_on_the_file_is_refused_in_words(running, forks):
    _, address, data, port = running
    second = forks.run("serve", "--data", data, "--port", free_port())
    assert second.wait() == 2
    said = second.complained.read_text()
    assert f"already runs with {data} at http://127.0.0.1:{port}" in said
    assert "Traceback" not in said
    assert http.get(f"{address}/api/studies").status_code == 200


def test_a_backup_copied_over_the_running_file_is_noticed_and_then_used(running, forks):
    server, address, data, port = running
    http.post(f"{address}/api/studies", json=small_plan(name="First"))
    made = http.post(f"{address}/api/safekeeping/backups").json()["name"]
    http.post(f"{address}/api/studies", json=small_plan(name="Second"))
    shutil.copyfile(data.parent / "grid backups" / made, data)
    for answer in (
        http.get(f"{address}/api/studies"),
        http.post(f"{address}/api/studies", json=small_plan(name="Third")),
    ):
        assert answer.status_code == 503
        assert "was replaced while the application ran" in answer.json()["title"]
    server.end()
    again = start(forks, data, port)
    try:
        assert [s["name"] for s in http.get(f"{address}/api/studies").json()] == ["First"]
        (warning,) = http.get(f"{address}/api/safekeeping").json()["warnings"]
        assert "set aside" in warning
        assert list(data.parent.glob("*set aside*"))
    finally:
        again.kill()


@pytest.mark.parametrize(
    ("content", "words"),
    [(b"Dear colleague, these are my readings.", "is not a data file of Zesty Grid"), (None, "is a folder")],
)
def test_what_cannot_be_opened_is_said_without_a_traceback(tmp_path, forks, content, words):
    data = tmp_path / "grid.db"
    data.mkdir() if content is None else data.write_bytes(content)
    for verb in (["serve"], ["backup", str(tmp_path / "copy.db")], ["access"]):
        asked = forks.run(*verb, "--data", data)
        assert asked.wait() == 2
        said = asked.complained.read_text()
        assert "Traceback" not in said
        assert words in said or "There is no data file" in said


def test_a_damaged_file_is_served_to_be_read(tmp_path, forks):
    data = tmp_path / "grid.db"
    database = Database(data)
    with database.transaction() as connection:
        stock_shelf(connection, STARTING_SHELF)
    study, codes = new_study(database, small_plan(name="Readable"))
    add_readings(database, study, [(next(iter(codes.values())), "whole", (60.0, 5.0, 20.0))])
    with database.connection() as connection:
        connection.execute("PRAGMA wal_checkpoint(TRUNCATE)")
        page, size = connection.execute(
            "SELECT rootpage, (SELECT page_size FROM pragma_page_size) FROM sqlite_schema WHERE name = 'measurement'"
        ).fetchone()
    with data.open("r+b") as file:
        file.seek((page - 1) * size)
        file.write(b"\xa5" * size)
    port = free_port()
    server, address = start(forks, data, port), f"http://127.0.0.1:{port}"
    try:
        assert [s["name"] for s in http.get(f"{address}/api/studies").json()] == ["Readable"]
        assert http.get(f"{address}/api/studies/{study}").status_code == 200
        refused = http.post(f"{address}/api/studies", json=small_plan())
        assert refused.status_code == 503
        assert "rescue" in refused.json()["detail"]
        assert "damaged" in http.get(f"{address}/api/safekeeping").json()["only_reading"]
    finally:
        server.kill()


def test_open_to_a_network_it_asks_for_the_code_that_it_showed(tmp_path, forks):
    port = free_port()
    server = forks.run("serve", "--data", tmp_path / "g.db", "--port", port, "--host", "0.0.0.0", "--tls")
    while "On a phone:" not in (said := server.said.read_text() if server.said.exists() else ""):
        time.sleep(0.02)
    code = re.search(r"Access code: (\S+)", said)[1]
    opened = re.search(r"On a phone: (\S+)/#/enter/(\S+)", said)
    assert opened[2] == code
    trusted = ssl.create_default_context(cafile=str(tmp_path / "g certificate" / "authority.pem"))
    client = httpx2.Client(timeout=None, verify=trusted, base_url=f"https://localhost:{port}")
    try:
        while True:
            try:
                assert client.get("/api/studies").status_code == 401
                break
            except httpx2.TransportError:
                time.sleep(0.1)
        own = {"Origin": f"https://localhost:{port}"}
        entered = client.post("/api/access", json={"code": code}, headers=own)
        assert entered.status_code == 204
        assert client.get("/api/studies").json() == []
        assert "server" not in client.get("/").headers
        certificate = client.get("/api/access/certificate").content
        assert certificate == (tmp_path / "g certificate" / "authority.pem").read_bytes()
    finally:
        server.end()
    # The code is shown once; at the next start it is still in force.
    with Database(tmp_path / "g.db").connection() as connection:
        assert code_that_fits(connection, code) is not None
