"""A box of pH strips taught and used through the API, and what its reading says in the log."""

import pytest
from tests.small_study import small_plan
from tests.strip_photos import scale_photo, strip_photo

from zesty_grid.standins.ph_strips import FOUR_PADS

PHS = tuple(float(ph) for ph in range(1, 14))


def sent(photo: bytes) -> dict:
    return {"files": {"photo": ("strip.jpg", photo, "image/jpeg")}}


@pytest.fixture
def box(client) -> dict:
    photo, at = scale_photo(FOUR_PADS, PHS, seed=3)
    read = client.post("/api/ph-strips/scale", params={"ph": PHS, "pads": 4, "at": at}, **sent(photo))
    assert read.status_code == 200, read.text
    item = {"kind": "ph_strip", "key": "four", "name": "Four pads", "taught_on": "2026-12-02"}
    client.post("/api/shelf", json=item | {"steps": read.json()["steps"]})
    return client.get("/api/shelf").json()["ph_strips"][0]


def test_a_box_is_kept_with_its_colours_and_its_date(box):
    assert (box["taught_on"], len(box["steps"]), len(box["steps"][0]["pads"])) == ("2026-12-02", 13, 4)


def test_a_strip_gives_its_ph_with_a_range_and_where_its_pads_lie(client, box):
    photo = strip_photo(FOUR_PADS, 6.4, seed=5)
    read = client.post("/api/ph-strips/four/readings", **sent(photo)).json()
    assert read["range"]["low"] <= 6.4 <= read["range"]["high"]
    assert len(read["pads"]) == 4
    assert read["found"]


@pytest.mark.parametrize(
    ("path", "params", "code"),
    [
        ("four/readings", {"at": [0.5]}, "points-missing"),
        ("other/readings", {}, "not-found"),
        ("four/readings", {"chart": "none"}, "not-found"),
        ("scale", {"ph": [4, 4], "pads": 1, "at": [0.1, 0.1, 0.2, 0.2]}, "not-rising"),
        ("scale", {"ph": [4, 5], "pads": 2, "at": [0.1, 0.1, 0.2, 0.2]}, "points-missing"),
    ],
)
def test_what_cannot_be_read_is_refused_in_words(client, box, path, params, code):
    refused = client.post(f"/api/ph-strips/{path}", params=params, **sent(strip_photo(FOUR_PADS, 6.4, seed=5)))
    assert refused.status_code in (404, 422)
    assert refused.json()["type"].endswith(f":{code}")


def test_a_scale_that_falls_or_lacks_a_pad_is_not_kept(client, box):
    steps = box["steps"]
    for wrong in (steps[::-1], [*steps[:3], steps[3] | {"pads": steps[3]["pads"][:2]}]):
        refused = client.put("/api/shelf", json=box | {"steps": wrong})
        assert refused.status_code == 422
    assert client.get("/api/shelf").json()["ph_strips"] == [box]


def test_the_log_says_how_sure_a_strip_is_and_what_the_eye_read(client, box):
    study = f"/api/studies/{client.post('/api/studies', json=small_plan()).json()['id']}"
    vessel = client.get(f"{study}/dye").json()["vessels"][0]["vessel"]["name"]
    at = {"kind": "record", "vessel": vessel}
    strip = {"box": "four", "low": 6.1, "high": 6.6, "by_eye": 6}
    client.post(f"{study}/dye/entries", json=at | {"ph": 6.4, "strip": strip})
    client.post(f"{study}/dye/entries", json=at | {"ph": 7, "strip": {"box": "four", "by_eye": 7, "late": True}})
    said = [line["words"] for line in client.get(f"{study}/dye/log").json()]
    assert said[::-1] == [
        "pH 6.4, by strip, 6.1 to 6.6; by eye 6",
        "pH 7, by a strip that fits no point of its scale, read late; by eye 7",
    ]
