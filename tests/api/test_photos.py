"""What can be done with a photo once it is there: correct it, accept it by zones, set it aside."""

import io
from dataclasses import replace

import numpy as np
import pytest
from PIL import Image
from tests.cloth_spectra import NM, dyed, true_lab
from tests.photographs import photograph
from tests.seeded_readings import add_readings, new_study
from tests.small_study import small_plan

from zesty_grid.api import cloth_pictures
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.readings import Photo
from zesty_grid.core.read.sheet_layout import Sheet
from zesty_grid.standins.camera import Shot
from zesty_grid.standins.cloth import Cloth, Motif
from zesty_grid.standins.scene import ChartFault, Scene

SHOT = Shot(width_px=2400, height_px=1800)
RED = 0.05 + 0.7 / (1 + np.exp(-(NM - 600) / 14))
STRAW = 0.7 - 0.45 * np.exp(-(((NM - 430) / 55) ** 2))


@pytest.fixture
def study(client) -> int:
    return client.post("/api/studies", json=small_plan()).json()["id"]


@pytest.fixture
def page(client, study) -> dict:
    return client.post(f"/api/studies/{study}/sheets", json={}).json()[0]


def laid_on(page: dict, cloths: list[Cloth], **shot) -> bytes:
    scene = Scene(Sheet.model_validate(page["sheet"]), tuple(cloths))
    return photograph(scene, replace(SHOT, **shot))


def plain(page: dict, seed: int = 4) -> list[Cloth]:
    rng = np.random.default_rng(seed)
    return [Cloth(a["cell"], dyed(rng), 0.8) for a in page["assignments"]]


def dropped(client, study: int, data: bytes) -> dict:
    answer = client.post(f"/api/studies/{study}/photos", files={"photo": ("sheet.jpg", data)})
    assert answer.status_code == 201, answer.text
    return answer.json()


def accepted(client, photo: dict, **wanted):
    body = {"measurement_id": photo["measurement_id"], "taken_on": "2026-09-24", "early": True}
    return client.post(f"/api/photos/{photo['id']}/accept", json=body | wanted)


def measured(photo: dict, cell: str) -> dict:
    return next(one for one in photo["measurement"]["cells"] if one["cell"] == cell)


def readings_of(client, study: int, code: str) -> list[dict]:
    found = client.get(f"/api/studies/{study}/readings").json()
    return [one for one in found if one["swatch"] == code]


def with_two_colours(page: dict, cell: str = "A1") -> list[Cloth]:
    two = Cloth(cell, STRAW, 0.9, motifs=(Motif("half", RED, 0.4),))
    return [two if cloth.cell == cell else cloth for cloth in plain(page)]


def test_zones_become_readings_with_their_names_and_shares(client, study, page):
    photo = dropped(client, study, laid_on(page, with_two_colours(page)))
    zones = measured(photo, "A1")["zones"]
    assert [zone["share"] for zone in zones] == pytest.approx([0.6, 0.4], abs=0.05)
    named = [{"cell": "A1", "zone": "1", "name": "ground"}, {"cell": "A1", "zone": "2", "name": "leaf"}]
    assert accepted(client, photo, cells=["A1", "A2"], zones=named).json() == {"readings": 4}
    code = page["assignments"][0]["swatch"]
    found = {one["zone"]: one for one in readings_of(client, study, code)}
    assert set(found) == {"", "ground", "leaf"}
    assert found["leaf"]["share"] == pytest.approx(0.4, abs=0.05)
    for name, reflectance in (("ground", STRAW), ("leaf", RED)):
        truth = true_lab(Cloth("A1", reflectance))
        assert delta_e_2000(truth, np.array(found[name]["lab"])) < 2.5
    # The mean of its zones is no colour of anything: it is kept, and never shown as the piece's.
    colours = client.get(f"/api/studies/{study}/colours").json()
    assert next(one for one in colours["swatches"] if one["swatch"] == code)["colours"] == []
    assert {one["zone"] for one in colours["zones"] if one["swatch"] == code} == {"ground", "leaf"}


def test_all_that_lies_in_a_cell_may_be_one_place_of_a_larger_piece(client, study, page):
    photo = dropped(client, study, laid_on(page, plain(page)))
    place = [{"cell": "A1", "zone": "", "name": "collar"}]
    assert accepted(client, photo, cells=["A2"], zones=place).json() == {"readings": 2}
    code = page["assignments"][0]["swatch"]
    (reading,) = readings_of(client, study, code)
    assert (reading["zone"], reading["lab"]) == ("collar", measured(photo, "A1")["lab"])
    unnamed = accepted(client, photo, zones=[{"cell": "A1", "zone": ""}])
    assert unnamed.status_code == 422


def test_a_zone_that_was_not_found_cannot_be_accepted(client, study, page):
    photo = dropped(client, study, laid_on(page, plain(page)))
    answer = accepted(client, photo, zones=[{"cell": "A1", "zone": "2"}])
    assert answer.status_code == 422
    assert "no measured zone 2" in answer.text
    assert accepted(client, photo).status_code == 422


def test_a_half_covered_piece_goes_to_its_trial_as_dark_and_exposed(client, study, page):
    code = page["assignments"][0]["swatch"]
    trial = {
        "name": "Sill",
        "kind": "light",
        "swatches": [code],
        "stages": [{"label": "1 day", "days": 1, "dose_lxh": 1e5}, {"label": "2 days", "days": 2, "dose_lxh": 2e5}],
    }
    made = client.post(f"/api/studies/{study}/trials", json=trial)
    assert made.status_code == 201, made.text
    trial_id = made.json()["id"]
    sheets = client.post(f"/api/studies/{study}/sheets", json={"trial": trial_id}).json()
    own = next(one for one in sheets if one["trial"] == trial_id)
    cell = own["assignments"][0]["cell"]
    half = Cloth(cell, STRAW, 0.9, motifs=(Motif("half", 0.3 + 0.6 * STRAW, 0.5),))
    photo = dropped(client, study, laid_on(own, [half]))
    zones = measured(photo, cell)["zones"]
    assert len(zones) == 2
    assert photo["due_stage"] == 0
    dark, light = sorted(zones, key=lambda zone: zone["lab"][0])
    answer = accepted(
        client,
        photo,
        stage=1,
        zones=[
            {"cell": cell, "zone": dark["zone"], "piece": "dark"},
            {"cell": cell, "zone": light["zone"], "piece": "light"},
        ],
    )
    assert answer.status_code == 201, answer.text
    pieces = {one["piece"]: one for one in readings_of(client, study, code)}
    assert set(pieces) == {"dark", "light"}
    assert all(one["zone"] == "" and one["stage"] == 1 for one in pieces.values())


def test_what_is_drawn_by_hand_is_what_is_measured(client, study, page):
    photo = dropped(client, study, laid_on(page, with_two_colours(page)))
    outline = np.array(measured(photo, "A1")["outline_px"])
    left, right = outline[:, 0].min(), outline[:, 0].max()
    top, foot = outline[:, 1].min() + 25, outline[:, 1].max() - 25

    def strip(start: float, end: float) -> list[list[float]]:
        x0, x1 = left + start * (right - left), left + end * (right - left)
        return [[x0, top], [x1, top], [x1, foot], [x0, foot]]

    said = {
        "cell": "A1",
        "areas": [{"name": "ground", "outline_px": strip(0.1, 0.5)}, {"name": "stripe", "outline_px": strip(0.7, 0.9)}],
    }
    again = client.post(f"/api/photos/{photo['id']}/measure", json={"cells": [said]}).json()
    zones = {zone["name"]: zone for zone in measured(again, "A1")["zones"]}
    assert set(zones) == {"ground", "stripe"}
    for name, reflectance in (("ground", STRAW), ("stripe", RED)):
        truth = true_lab(Cloth("A1", reflectance))
        assert delta_e_2000(truth, np.array(zones[name]["lab"])) < 2.5
    without = {"cell": "A1", "left_out": [strip(0.5, 1.1)]}
    again = client.post(f"/api/photos/{photo['id']}/measure", json={"cells": [without]}).json()
    cell = measured(again, "A1")
    assert cell["zones"] == []
    assert delta_e_2000(true_lab(Cloth("A1", STRAW)), np.array(cell["lab"])) < 2.5


@pytest.mark.parametrize(
    ("said", "words"),
    [
        ({"cell": "Z9"}, "no cell Z9"),
        ({"cell": "A1", "areas": [{"outline_px": [[0, 0], [1, 0], [1, 1]]}]}, "too small"),
        ({"cell": "A1", "areas": [{"outline_px": [[0, 0], [1, 0]]}]}, "at least 3"),
        ({"cell": "A1", "zone_count": 99}, "6"),
        ({"cell": "A1", "left_out": [[[-9e4, -9e4], [9e4, -9e4], [9e4, 9e4], [-9e4, 9e4]]]}, "left out"),
    ],
)
def test_drawings_that_cannot_be_measured_are_refused_in_words(client, study, page, said, words):
    photo = dropped(client, study, laid_on(page, plain(page)))
    answer = client.post(f"/api/photos/{photo['id']}/measure", json={"cells": [said]})
    assert answer.status_code == 422
    assert words in answer.text
    assert client.get(f"/api/photos/{photo['id']}").json()["measurement_id"] == photo["measurement_id"]


def test_a_cell_said_to_be_empty_is_empty(client, study, page):
    photo = dropped(client, study, laid_on(page, plain(page)))
    body = {"cells": [{"cell": "A2", "empty": True}]}
    again = client.post(f"/api/photos/{photo['id']}/measure", json=body).json()
    assert measured(again, "A2")["status"] == "empty"
    assert measured(again, "A1")["status"] == "measured"


def test_the_same_photo_accepted_twice_counts_once(client, study, page):
    data = laid_on(page, plain(page))
    first = dropped(client, study, data)
    accepted(client, first, cells=["A1"])
    second = dropped(client, study, data)
    assert second["id"] == first["id"]
    assert second["read_before"]
    accepted(client, second, cells=["A1"])
    code = page["assignments"][0]["swatch"]
    assert [one["counts"] for one in readings_of(client, study, code)] == [True, False]
    third = dropped(client, study, data)
    accepted(client, third, cells=["A1"], instead=True)
    assert [one["counts"] for one in readings_of(client, study, code)] == [False, False, True]


def test_a_photo_is_set_aside_and_brought_back(client, study, page):
    photo = dropped(client, study, laid_on(page, plain(page)))
    url = f"/api/photos/{photo['id']}/discard"
    assert client.post(url, json={"discarded": True}).json()["discarded"]
    clear = client.post(f"/api/studies/{study}/photos/accept-clear").json()
    assert clear == {"accepted": [], "left": []}
    assert not client.post(url, json={"discarded": False}).json()["discarded"]
    assert accepted(client, photo, cells=["A1"]).status_code == 201


def test_all_that_has_nothing_to_ask_is_accepted_at_once(client, study, page):
    good = dropped(client, study, laid_on(page, plain(page)))
    asking = dropped(client, study, laid_on(page, with_two_colours(page), seed=9))
    clear = client.post(f"/api/studies/{study}/photos/accept-clear").json()
    assert clear["accepted"] == [good["id"]]
    assert [one["photo"] for one in clear["left"]] == [asking["id"]]
    assert any("more than one colour" in words for words in clear["left"][0]["asks"])
    assert len(client.get(f"/api/studies/{study}/readings").json()) == len(page["assignments"])


def test_two_swatches_in_each_others_cell_are_asked_about(client, study, page):
    cloths = plain(page, seed=12)
    first = dropped(client, study, laid_on(page, cloths))
    accepted(client, first, cells=[a["cell"] for a in page["assignments"]])
    assert client.get(f"/api/photos/{first['id']}/questions").json() == []
    apart = [
        (i, j)
        for i in range(len(cloths))
        for j in range(i)
        if delta_e_2000(true_lab(cloths[i]), true_lab(cloths[j])) > 20
    ]
    one, other = apart[0]
    swapped = list(cloths)
    swapped[one] = replace(cloths[one], reflectance=cloths[other].reflectance)
    swapped[other] = replace(cloths[other], reflectance=cloths[one].reflectance)
    photo = dropped(client, study, laid_on(page, swapped, seed=5))
    asked = client.get(f"/api/photos/{photo['id']}/questions").json()
    codes = {a["cell"]: a["swatch"] for a in page["assignments"]}
    pair = {codes[cloths[one].cell], codes[cloths[other].cell]}
    assert {question["swatch"] for question in asked} == pair
    assert {question["looks_like"] for question in asked} == pair
    assert "swapped?" in asked[0]["words"]


def test_a_photo_finds_its_study_by_its_code(client, study, page):
    other = client.post("/api/studies", json=small_plan()).json()["id"]
    data = laid_on(page, plain(page))
    refused = client.post(f"/api/studies/{other}/photos", files={"photo": ("a.jpg", data)})
    assert refused.status_code == 422
    found = client.post("/api/photos", files={"photo": ("a.jpg", data)}).json()
    assert found["study"] == study


def test_the_pixels_behind_a_number_can_be_looked_at(client, study, page):
    photo = dropped(client, study, laid_on(page, with_two_colours(page)))
    url = f"/api/photos/{photo['id']}/cells"
    pictures = {}
    for shown in ("photo", "use", "levelness"):
        answer = client.get(f"{url}/A1.png?shown={shown}")
        assert answer.headers["content-type"] == "image/png"
        pictures[shown] = np.asarray(Image.open(io.BytesIO(answer.content)).convert("RGB"))
    assert pictures["photo"].shape == pictures["use"].shape
    middle = tuple(side // 2 for side in pictures["photo"].shape[:2])
    corner = (4, 4)
    assert (pictures["use"][corner] < 0.5 * pictures["photo"][corner]).all()
    assert np.ptp(pictures["levelness"][middle]) == 0
    assert client.get(f"{url}/Q7.png").status_code == 404


def test_what_was_doubtful_in_a_photo_stays_with_its_readings(client, study, page):
    sheet = Sheet.model_validate(page["sheet"])
    scene = Scene(sheet, tuple(plain(page)), chart_fault=ChartFault(sheen=0.06))
    photo = dropped(client, study, photograph(scene, SHOT))
    accepted(client, photo, cells=["A1"])
    reading = client.get(f"/api/studies/{study}/readings").json()[0]
    assert any("sheen on the chart" in words for words in reading["warnings"])


def test_photos_of_one_sheet_under_two_lamps_are_read_together(client, study, page):
    cloths = plain(page, seed=31)
    window = dropped(client, study, laid_on(page, cloths, light="daylight D65"))
    lamp = dropped(client, study, laid_on(page, cloths, light="LED", seed=2))
    url = f"/api/photos/{window['id']}/measure"
    joined = client.post(url, json={"join": [lamp["id"]]}).json()
    assert [one["light"] for one in joined["measurement"]["photos"]] == [1, 2]
    assert all(c["agreement_de00"] < 4 for c in joined["measurement"]["cells"] if c["lab"])
    photos = {one["id"]: one for one in client.get(f"/api/studies/{study}/photos").json()}
    assert photos[lamp["id"]]["discarded"]
    assert accepted(client, joined, cells=["A1"]).status_code == 201


def test_photos_of_different_sheets_are_not_read_together(client, study, page):
    other = client.post(f"/api/studies/{study}/sheets", json={}).json()[1]
    one = dropped(client, study, laid_on(page, plain(page)))
    two = dropped(client, study, laid_on(other, plain(other)))
    answer = client.post(f"/api/photos/{one['id']}/measure", json={"join": [two["id"]]})
    assert answer.status_code == 422
    assert "different sheets" in answer.text
    assert not client.get(f"/api/studies/{study}/photos").json()[0]["discarded"]


@pytest.mark.parametrize(("kind", "paper", "cells"), [("hanks", "Letter", 6), ("large", "A4", 1), ("window", "A4", 1)])
def test_sheets_of_other_kinds_are_laid_out_and_printed(client, study, kind, paper, cells):
    body = {"kind": kind, "paper": paper, "cells_per_page": 12}
    pages = client.post(f"/api/studies/{study}/sheets", json=body).json()
    assert all(page["sheet"]["kind"] == kind for page in pages)
    assert {len(page["sheet"]["cells"]) for page in pages} == {cells}
    assert len(pages) == -(-18 // cells)
    assert client.get(f"/api/sheets/{pages[0]['sheet']['id']}.pdf").content.startswith(b"%PDF")


def test_a_sheet_with_no_cells_is_refused(client, study):
    answer = client.post(f"/api/studies/{study}/sheets", json={"cells_per_page": 0})
    assert answer.status_code == 422
    answer = client.post(f"/api/studies/{study}/sheets", json={"kind": "poster"})
    assert answer.status_code == 422


def test_the_cloth_of_a_reading_is_a_picture_in_its_colour(client, study, page):
    photo = dropped(client, study, laid_on(page, plain(page)))
    accepted(client, photo, cells=["A1", "A2"])
    shown = client.get(f"/api/studies/{study}/colours").json()
    code = page["assignments"][0]["swatch"]
    picture = next(one for one in shown["pictures"] if one["swatch"] == code)
    answer = client.get(f"/api/readings/{picture['reading']}/cloth.webp")
    assert answer.headers["content-type"] == "image/webp"
    assert "immutable" in answer.headers["cache-control"]
    cloth = np.asarray(Image.open(io.BytesIO(answer.content)).convert("RGB"), dtype=float)
    colour = next(one for one in shown["swatches"] if one["swatch"] == code)["colours"][0]
    wanted = [int(colour["hex"][i : i + 2], 16) for i in (1, 3, 5)]
    assert cloth.mean(axis=(0, 1)) == pytest.approx(wanted, abs=3)
    assert cloth.std() > 0.5


def test_a_reading_that_no_photo_can_show_has_no_picture(client, database):
    study, codes = new_study(database, small_plan())
    code = next(iter(codes.values()))
    add_readings(database, study, [(code, "whole", (70.0, 10.0, 60.0))])
    (picture,) = client.get(f"/api/studies/{study}/colours").json()["pictures"]
    # Its photo was never one.
    assert client.get(f"/api/readings/{picture['reading']}/cloth.webp").status_code == 204
    assert client.get("/api/readings/999/cloth.webp").status_code == 404


def test_cloth_is_kept_for_as_many_photos_as_there_is_room_for(client, study, page, monkeypatch):
    data = laid_on(page, plain(page))
    photo = Photo.model_validate(dropped(client, study, data))
    taken_apart = []

    def count(photo, data):
        taken_apart.append(photo.measurement_id)
        return {"A1": np.zeros((10, 10, 3), dtype=np.float16)}

    monkeypatch.setattr(cloth_pictures, "cloth_by_cell", count)
    # Each takes 600 bytes: two fit, the one that was not looked at for longest goes.
    cloths = cloth_pictures.ClothOfPhotos(most_bytes=1300)
    for number in (1, 2, 1, 3, 1, 2):
        cloths.of(photo.model_copy(update={"measurement_id": number}), data)
    assert taken_apart == [1, 2, 3, 2]


def test_what_seems_to_show_through_keeps_its_colour_as_seen_and_can_be_said_to_be_opaque(client, study, page):
    thin = [replace(cloth, see_through=0.3, weave=0.02) if cloth.cell == "A1" else cloth for cloth in plain(page)]
    photo = dropped(client, study, laid_on(page, thin))
    cell = measured(photo, "A1")
    assert "see-through" in cell["flags"]
    assert delta_e_2000(np.array(cell["as_seen_lab"]), np.array(cell["lab"])) > 1
    body = {"cells": [{"cell": "A1", "opaque": True}]}
    again = measured(client.post(f"/api/photos/{photo['id']}/measure", json=body).json(), "A1")
    assert "see-through" not in again["flags"]
    assert delta_e_2000(np.array(cell["as_seen_lab"]), np.array(again["lab"])) < 0.5


def test_photos_of_different_days_are_not_read_together(client, study, page):
    first = dropped(client, study, laid_on(page, plain(page)))
    second = dropped(client, study, laid_on(page, plain(page), seed=3))
    with client.app.state.database.transaction() as connection:
        for photo, day in ((first, "2026-09-24"), (second, "2026-10-01")):
            connection.execute("UPDATE photo SET taken_on = ? WHERE id = ?", (day, photo["id"]))
    answer = client.post(f"/api/photos/{first['id']}/measure", json={"join": [second["id"]]})
    assert answer.status_code == 422
    assert "as it lay there at one time" in answer.json()["detail"]
