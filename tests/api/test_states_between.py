"""One vessel heated on four days, a reading after each heating: four colours of one piece."""

from datetime import UTC, datetime, timedelta
from itertools import pairwise

import pytest
from starlette.testclient import TestClient
from tests.conftest import ADDRESS
from tests.seeded_readings import add_readings
from tests.small_study import levels

from zesty_grid.api.application import create_application
from zesty_grid.api.packages import take_package, write_package
from zesty_grid.store.database import Database
from zesty_grid.store.safekeeping import check

PLAN = {
    "name": "Stones over four days",
    "factors": [{"kind": "fibre", "levels": levels("wool")}, {"kind": "dye", "levels": levels("dried-bark")}],
    "rows": ["fibre"],
    "columns": ["dye"],
    "replicates": 2,
    "swatch_mass_g": 50,
    "controls": [],
}
BEGUN_AT = datetime.now(UTC).replace(microsecond=0) - timedelta(days=12)
# Paler by paler: what each day's heating brings.
SEEN = [(82.0, 4.0, 20.0), (74.0, 8.0, 28.0), (66.0, 12.0, 33.0), (60.0, 15.0, 36.0)]
LEAVES = ("cool", "lift")
NAMES = ["after the first heating", "after the second heating", "after the third heating", "as dyed"]


def log(client, study: str, **entry) -> dict:
    answer = client.post(f"{study}/dye/entries", json=entry)
    assert answer.status_code == 201, answer.text
    return answer.json()


@pytest.fixture
def heated(client, database) -> tuple[str, list[str], str]:
    """The study, its two skeins, and the pot; three heatings are logged, all four are read."""
    number = client.post("/api/studies", json=PLAN).json()["id"]
    study = f"/api/studies/{number}"
    vessels = client.get(f"{study}/dye").json()["vessels"]
    codes = [one["code"] for one in client.get(study).json()["swatches"]]
    for one in vessels:
        dye = one["vessel"]["bath"] == "dye"
        start = BEGUN_AT if dye else BEGUN_AT - timedelta(days=2)
        leaving = False
        for step, state in enumerate(one["steps"]):
            leaving = leaving or (dye and state["step"]["key"] in LEAVES)
            at = start + timedelta(days=3, hours=12) if leaving else start
            log(
                client,
                study,
                kind="done",
                vessel=one["vessel"]["name"],
                step=state["step"]["key"],
                at=(at + timedelta(minutes=step)).isoformat(),
            )
    pot = next(one["vessel"]["name"] for one in vessels if one["vessel"]["bath"] == "dye")
    for day in (1, 2, 3):
        at = BEGUN_AT + timedelta(days=day)
        log(client, study, kind="reheat", vessel=pot, temperature_c=85, minutes=60, at=at.isoformat())
    for day, lab in enumerate(SEEN):
        # Read some hours after each heating; the last when all has dried.
        at = BEGUN_AT + (timedelta(days=day, hours=8) if day < 3 else timedelta(days=9))
        add_readings(database, number, [(codes[0], "whole", lab)], accepted_at=at, early=True)
    return study, codes, pot


def states_of(client, study: str, code: str) -> list[tuple[str, list[float]]]:
    """Each state of a swatch in its order, by name, with its colour."""
    record = client.get(f"{study}/swatches/{code}").json()
    return [(one["label"], one["colour"]["lab"]) for one in record["states"] if one["colour"]]


def test_one_piece_has_four_colours_of_one_vessel(client, heated, database):
    study, codes, _ = heated
    assert [name for name, _ in states_of(client, study, codes[0])] == NAMES
    assert [tuple(lab) for _, lab in states_of(client, study, codes[0])] == SEEN
    assert check(database.path) == []


def test_each_state_is_known_to_grid_and_compare(client, heated):
    study, codes, _ = heated
    colours = client.get(f"{study}/colours").json()
    labels = {one["run"]: one["label"] for one in colours["names"]}
    own = next(one for one in colours["swatches"] if one["swatch"] == codes[0])
    read = [one["run"] for one in own["colours"]]
    assert [labels[run] for run in read] == NAMES
    # The other skein was in the same pot, and has the same states, unread.
    other = next(one for one in colours["swatches"] if one["swatch"] == codes[1])
    assert other["states"] == own["states"]
    kinds = {one["run"]: one["kind"] for one in colours["names"]}
    for run, lab in zip(read, SEEN, strict=True):
        answer = client.get(f"{study}/compare/effects", params={"state": kinds[run]})
        assert answer.status_code == 200, answer.text
        assert answer.json() is not None, lab
    assert len({kinds[run] for run in read}) == 4


def test_a_piece_is_compared_with_itself_in_a_state_between_and_before_the_whole_bath(client, heated, database):
    study, codes, pot = heated
    names = {one["label"]: one["run"] for one in client.get(f"{study}/colours").json()["names"]}

    def differences(**before) -> list[float]:
        found = client.post(f"{study}/compare", json={"mode": "before"} | before).json()["differences"]
        return [one["difference"]["dl"] for one in found]

    assert differences(state=names[NAMES[0]]) == pytest.approx([SEEN[3][0] - SEEN[0][0]])
    # It was never read before this bath: its first heating is no such state.
    assert differences(vessel=pot) == []
    scoured = (90.0, 1.0, 8.0)
    number = int(study.rpartition("/")[2])
    add_readings(
        database, number, [(codes[0], "whole", scoured)], accepted_at=BEGUN_AT - timedelta(hours=1), early=True
    )
    assert differences(vessel=pot) == pytest.approx([SEEN[3][0] - scoured[0]])


def test_what_each_heating_brought_stands_in_the_record(client, heated):
    study, codes, _ = heated
    states = client.get(f"{study}/swatches/{codes[0]}").json()["states"]
    seen = [one for one in states if one["colour"]]
    for before, after in pairwise(seen):
        lighter = after["colour"]["lab"][0] - before["colour"]["lab"][0]
        assert after["change"]["dl"] == pytest.approx(lighter, abs=1e-6)


def test_a_heating_that_is_struck_out_takes_its_state_back_and_loses_no_reading(client, heated):
    study, codes, _ = heated
    entries = client.get(f"{study}/dye").json()["entries"]
    second = [one for one in entries if one["kind"] == "reheat"][1]
    log(client, study, kind="struck", replaces=second["id"])
    found = states_of(client, study, codes[0])
    assert [name for name, _ in found] == ["after the first heating", "after the second heating", "as dyed"]
    assert len(client.get(f"{study}/readings").json()) == 4


def test_a_reading_is_said_to_show_a_state_between(client, heated):
    study, codes, _ = heated
    readings = client.get(f"{study}/readings").json()
    last = max(readings, key=lambda one: one["id"])
    names = {one["label"]: one["run"] for one in client.get(f"{study}/colours").json()["names"]}
    said = {"counts": True, "run": names[NAMES[2]]}
    answer = client.post(f"/api/readings/{last['id']}/choice", json=said)
    assert answer.status_code in (200, 201), answer.text
    assert [name for name, _ in states_of(client, study, codes[0])] == NAMES[:3]


def test_the_recipe_of_a_state_between_ends_there(client, heated):
    study, codes, _ = heated
    names = {one["label"]: one["run"] for one in client.get(f"{study}/colours").json()["names"]}

    def heated_again(state: str) -> int:
        recipe = client.get(f"/api/swatches/{codes[0]}/recipe", params={"run": names[state]}).json()
        return sum("Heat it again" in step["title"] for step in recipe["baths"][-1]["steps"])

    assert [heated_again(name) for name in NAMES] == [0, 1, 2, 3]


def test_a_package_takes_the_states_between_along(client, heated, database, tmp_path):
    study, codes, _ = heated
    names = {one["label"]: one["run"] for one in client.get(f"{study}/colours").json()["names"]}
    last = max(client.get(f"{study}/readings").json(), key=lambda one: one["id"])
    client.post(f"/api/readings/{last['id']}/choice", json={"counts": True, "run": names[NAMES[2]]})
    before = states_of(client, study, codes[0])
    write_package(database, [], tmp_path / "package")
    fresh = Database(tmp_path / "fresh.db")
    take_package(fresh, tmp_path / "package", "package")
    taken = TestClient(create_application(fresh), base_url=ADDRESS)
    assert states_of(taken, "/api/studies/1", codes[0]) == before
    assert check(fresh.path) == []
