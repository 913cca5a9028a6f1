"""Every accepted reading of a print has a place; names are filled in, proposed, and said later."""

from dataclasses import replace

import pytest
from tests.api.test_photos import RED, SHOT, STRAW, accepted, dropped, laid_on
from tests.photographs import photograph
from tests.small_study import levels

from zesty_grid.core.read.sheet_layout import Sheet
from zesty_grid.standins.cloth import Cloth, Motif
from zesty_grid.standins.scene import Scene

ONE_PLANT = {
    "name": "Fern",
    "rows": ["fibre"],
    "columns": ["source"],
    "swatch_mass_g": 10,
    "factors": [{"kind": "fibre", "levels": levels("silk", "wool")}, {"kind": "source", "levels": levels("fern")}],
}


@pytest.fixture
def study(client) -> int:
    client.post("/api/shelf", json={"kind": "dye_lot", "key": "fern", "name": "Fern"})
    return client.post("/api/studies", json=ONE_PLANT).json()["id"]


@pytest.fixture
def page(client, study) -> dict:
    return client.post(f"/api/studies/{study}/sheets", json={}).json()[0]


def zones_of(client, study: int) -> dict[str, set[str]]:
    found: dict[str, set[str]] = {}
    for one in client.get(f"/api/studies/{study}/colours").json()["zones"]:
        found.setdefault(one["swatch"], set()).add(one["zone"])
    return found


def test_a_plain_cloth_of_one_plant_is_read_as_that_plant(client, study, page):
    photo = dropped(client, study, laid_on(page, [Cloth(one["cell"], STRAW) for one in page["assignments"]]))
    # The name that is possible is filled in.
    assert {(one["zone"], one["name"]) for one in photo["own_zones"]} == {("", "Fern")}
    assert accepted(client, photo, zones=photo["own_zones"]).json() == {"readings": 2}
    assert zones_of(client, study) == {one["swatch"]: {"Fern"} for one in page["assignments"]}
    reference = {"mode": "cell", "cell": "fibre=silk;source=fern"}
    found = client.post(f"/api/studies/{study}/compare", json=reference).json()["differences"]
    assert [one["cell"] for one in found] == ["fibre=wool;source=fern"]


def printed(page: dict, seed: int, share: float = 0.4) -> bytes:
    cloths = tuple(Cloth(one["cell"], STRAW, 0.9, motifs=(Motif("half", RED, share),)) for one in page["assignments"])
    return photograph(Scene(Sheet.model_validate(page["sheet"]), cloths), replace(SHOT, seed=seed))


def test_unnamed_zones_are_named_later_and_known_again(client, study, page):
    photo = dropped(client, study, printed(page, 5))
    assert {one["name"] for one in photo["own_zones"]} == {""}
    accepted(client, photo, zones=photo["own_zones"])
    first, second = (one["swatch"] for one in page["assignments"])
    assert zones_of(client, study) == {first: {"zone 1", "zone 2"}, second: {"zone 1", "zone 2"}}
    readings = [one for one in client.get(f"/api/studies/{study}/readings").json() if one["swatch"] == first]
    names = {"zone 1": "ground", "zone 2": "Fern, halo"}
    for one in readings:
        choice = {"counts": True, "zone": names[one["zone"]]}
        assert client.post(f"/api/readings/{one['id']}/choice", json=choice).json()["zone"] == choice["zone"]
    assert zones_of(client, study)[first] == {"ground", "Fern, halo"}
    # What a zone is called does not touch whether it counts.
    client.post(f"/api/readings/{readings[0]['id']}/choice", json={"counts": False})
    assert zones_of(client, study)[first] == {"Fern, halo"}
    # In the next photo the halo is the larger zone: it is known by its colour.
    again = dropped(client, study, printed(page, 8, share=0.6))
    proposed = {one["zone"]: one["name"] for one in again["own_zones"] if one["cell"] == page["assignments"][0]["cell"]}
    by_red = {one["zone"]: one["lab"][1] for one in again["measurement"]["cells"][0]["zones"]}
    assert proposed[max(by_red, key=by_red.__getitem__)] == "Fern, halo"
