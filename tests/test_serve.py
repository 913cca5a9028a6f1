"""The application as it is started from a terminal."""

import os
import signal
import subprocess
import sys
import time
from pathlib import Path

import httpx2
import pytest
from tests.small_study import small_plan
from tests.ui.conftest import free_port

from zesty_grid.store.safekeeping import check

# No clock: a busy machine answers later, and that is no fault.
http = httpx2.Client(timeout=None)


def start(data: Path, port: int) -> subprocess.Popen:
    command = [sys.executable, "-m", "zesty_grid.cli", "serve"]
    server = subprocess.Popen([*command, "--data", str(data), "--port", str(port)])
    for _ in range(600):
        try:
            http.get(f"http://127.0.0.1:{port}/api/studies")
            return server
        except httpx2.TransportError:
            time.sleep(0.1)
    server.kill()
    raise AssertionError("the server did not start")


@pytest.fixture
def running(tmp_path):
    port = free_port()
    server = start(tmp_path / "own" / "grid.db", port)
    yield server, f"http://127.0.0.1:{port}", tmp_path / "own" / "grid.db", port
    server.kill()
    server.wait()


def test_the_start_page_and_all_that_it_loads_come_from_here(running):
    _, address, _, _ = running
    page = http.get(address)
    assert page.headers["cache-control"] == "no-cache"
    assert "default-src 'self'" in page.headers["content-security-policy"]
    assert "https://" not in page.text
    assets = [
        part.split('"')[0] for part in page.text.split('="')[1:] if part.startswith("/assets")
    ]
    assert assets
    for asset in assets:
        answer = http.get(address + asset)
        assert answer.status_code == 200
        assert answer.headers["x-content-type-options"] == "nosniff"
    assert http.get(f"{address}/assets/../../cli.py").status_code == 404
    assert http.get(f"{address}/api/openapi.json").json()["info"]["title"] == "Zesty Grid"


def test_what_was_acknowledged_is_there_after_the_power_goes(running):
    server, address, data, port = running
    study = http.post(f"{address}/api/studies", json=small_plan()).json()["id"]
    vessel = http.get(f"{address}/api/studies/{study}/dye").json()["vessels"][0]["vessel"]["name"]
    for n in range(5):
        entry = {"vessel": vessel, "step": "fill", "kind": "record", "note": f"note {n}"}
        answer = http.post(f"{address}/api/studies/{study}/dye/entries", json=entry)
        assert answer.status_code == 201
    os.kill(server.pid, signal.SIGKILL)
    server.wait()
    assert check(data) == []
    again = start(data, port)
    try:
        entries = http.get(f"{address}/api/studies/{study}/dye").json()["entries"]
        assert [entry["note"] for entry in entries] == [f"note {n}" for n in range(5)]
    finally:
        again.kill()
        again.wait()
