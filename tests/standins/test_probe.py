"""The simulated probes act as real ones would: lines of JSON over a socket, kept and watched."""

import json
import socket
import time
from datetime import UTC, datetime

import numpy as np
import pytest
from starlette.testclient import TestClient
from tests.conftest import ADDRESS
from tests.small_study import small_plan

from zesty_grid.api import probe_hub
from zesty_grid.api.application import create_application
from zesty_grid.api.probe_hub import ProbeHub
from zesty_grid.core.dye.probe_line import ProbeLine
from zesty_grid.standins.probe import STORIES, ProbeServer, Story, lines, start_probes


def story(name: str):
    return next(one for one in STORIES if one.name == name)


def test_each_line_is_one_reading_of_one_probe():
    said = list(lines(STORIES, 0, datetime.now(UTC), np.random.default_rng(1)))
    read = [ProbeLine.model_validate_json(line) for line in said]
    assert [one.probe for one in read] == [one.name for one in STORIES]
    assert "ph" not in json.loads(said[0])
    assert json.loads(said[1])["ph"] == pytest.approx(9.0, abs=0.1)


def test_the_stories_are_those_of_the_bench():
    warming, drifting = story("Probe A"), story("Probe B")
    boiling, hurried = story("Probe C"), story("Probe D")
    # Warmed by about a degree a minute, then held: common practice.
    assert warming.temperature_c(10) - warming.temperature_c(0) == pytest.approx(10)
    assert warming.temperature_c(120) == pytest.approx(82, abs=1)
    assert 7 < drifting.ph(60) < drifting.ph(0) == 9.0
    assert boiling.temperature_c(30) > 97
    assert hurried.temperature_c(0) - hurried.temperature_c(5) > 10


@pytest.fixture
def probes():
    left_alone = Story("Probe C", lambda _: 99.2, lambda _: None)
    server = ProbeServer((STORIES[0], left_alone), period_s=0.02)
    yield start_probes(server)
    server.shutdown()
    server.server_close()


def test_a_socket_gives_lines_to_whoever_connects(probes):
    with socket.create_connection(probes, timeout=20) as source:
        text = source.makefile("r").readline()
    assert ProbeLine.model_validate_json(text).probe == "Probe A"


def test_a_probe_in_a_bath_is_kept_drawn_and_said_to_boil(database, probes, monkeypatch):
    monkeypatch.setattr(probe_hub, "KEEP_EVERY_S", 0.0)
    monkeypatch.setattr(probe_hub, "LOOK_EVERY_S", 0.0)
    app = create_application(database)
    client = TestClient(app, base_url=ADDRESS)
    study = client.post("/api/studies", json=small_plan()).json()["id"]
    assert client.get("/api/probes").json() == []
    hang = {"kind": "probe", "vessel": "D1", "step": "hold", "probe": "Probe C"}
    client.post(f"/api/studies/{study}/dye/entries", json=hang)
    hub: ProbeHub = app.state.probes
    hub.listen(*probes)
    watch = f"/api/studies/{study}/dye/watch"
    while len(client.get(watch, params={"vessel": "D1"}).json()["readings"]) < 5:
        time.sleep(0.05)
    heard = {one["probe"]: one for one in client.get("/api/probes").json()}
    assert heard["Probe C"]["vessel"] == "D1"
    assert heard["Probe A"]["vessel"] is None
    # To hang a probe in a bath does not begin it.
    assert client.get(f"/api/studies/{study}").json()["begun"] == []
    said = client.get(watch, params={"vessel": "D1", "step": "hold"}).json()
    assert said["alarms"] == ["It boils (99 °C): off the heat."]
    out = {"kind": "probe", "vessel": "", "probe": "Probe C", "note": "out"}
    client.post(f"/api/studies/{study}/dye/entries", json=out)
    time.sleep(0.2)
    count = len(client.get(watch, params={"vessel": "D1"}).json()["readings"])
    time.sleep(0.3)
    assert len(client.get(watch, params={"vessel": "D1"}).json()["readings"]) == count


def test_what_is_no_line_is_passed_over(database):
    hub = ProbeHub(database)
    for text in (
        "",
        "hello",
        "{}",
        '{"probe": "X"}',
        '{"probe": "X", "temperature_c": 5000}',
        '{"probe": "X", "temperature_c": NaN}',
        "[" * 4000,
    ):
        hub.take(text)
    assert hub.newest() == []
    hub.take('{"probe": "X", "temperature_c": 21.5, "battery": 3}')
    assert hub.newest()[0].temperature_c == 21.5
