"""Instrument files through the API, cloths and charts of the Shelf, and what lies in which cell."""

from dataclasses import replace

import numpy as np
import pytest
from tests.api.test_photos import SHOT, accepted, dropped, laid_on, measured, plain, readings_of
from tests.cloth_spectra import NM, dyed, true_lab
from tests.photographs import photograph
from tests.small_study import small_plan

from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.sheet_layout import Sheet
from zesty_grid.demo.station_chart import station_chart, station_spectra
from zesty_grid.standins.cloth import Cloth
from zesty_grid.standins.scene import Scene
from zesty_grid.standins.spectrophotometer import Spectrophotometer

GREEN = 0.30 + 0.28 * np.exp(-(((NM - 515) / 60) ** 2))


@pytest.fixture
def study(client) -> int:
    return client.post("/api/studies", json=small_plan()).json()["id"]


@pytest.fixture
def page(client, study) -> dict:
    return client.post(f"/api/studies/{study}/sheets", json={}).json()[0]


@pytest.fixture
def tile(client) -> str:
    item = {"kind": "cloth", "key": "tile", "name": "Tile", "is_tile": True}
    assert client.post("/api/shelf", json=item).status_code == 201
    return "tile"


def kept(client, study: int, content: str, **more):
    body = {"content": content, "instrument": "Spectro", "measured_on": "2026-09-24", "early": True}
    return client.post(f"/api/studies/{study}/instruments", json=body | more)


def codes_of(page: dict) -> list[str]:
    return [one["swatch"] for one in page["assignments"]]


def test_readings_of_an_instrument_stand_before_those_of_a_photo(client, study, page):
    cloths = plain(page)
    photo = dropped(client, study, laid_on(page, cloths))
    cells = [one["cell"] for one in page["assignments"]]
    assert accepted(client, photo, cells=cells).status_code == 201
    spectra = {a["swatch"]: cloth.reflectance for a, cloth in zip(page["assignments"], cloths, strict=True)}
    answer = kept(client, study, Spectrophotometer().export(spectra))
    assert answer.json() == {"readings": len(cells)}
    code = codes_of(page)[0]
    by_photo, by_instrument = readings_of(client, study, code)
    assert (by_photo["instrument"], by_instrument["instrument"]) == ("", "Spectro")
    assert by_instrument["photo"] is None
    states = client.get(f"/api/studies/{study}/colours").json()["swatches"]
    (colour,) = next(one for one in states if one["swatch"] == code)["colours"]
    assert colour["lab"] == pytest.approx(by_instrument["lab"])
    view = client.get(f"/api/studies/{study}/instruments").json()
    (agreement,) = view["agreements"]
    assert len(agreement["pairs"]) == len(cells)
    assert agreement["camera"] == "Simulated camera A"
    assert agreement["mean_de00"] < 2
    assert len(view["files"][0]["samples"]) == len(cells)
    record = client.get(f"/api/studies/{study}/swatches/{code}").json()
    assert [one["instrument"] for one in record["readings"]] == ["", "Spectro"]


def test_a_camera_is_taught_and_its_next_photo_is_read_by_it(client, study):
    pages = client.post(f"/api/studies/{study}/sheets", json={}).json()[:2]
    shot = {"camera": "B", "light": "daylight D65"}
    for seed, page in enumerate(pages):
        cloths = plain(page, seed=30 + seed)
        photo = dropped(client, study, laid_on(page, cloths, seed=seed, **shot))
        assert photo["measurement"]["calibration"]["taught"] is None
        cells = [one["cell"] for one in page["assignments"]]
        assert accepted(client, photo, cells=cells).status_code == 201
        spectra = {a["swatch"]: cloth.reflectance for a, cloth in zip(page["assignments"], cloths, strict=True)}
        assert kept(client, study, Spectrophotometer(seed=seed).export(spectra)).status_code == 201
    (agreement,) = client.get(f"/api/studies/{study}/instruments").json()["agreements"]
    teaching = agreement["teaching"]
    assert teaching["is_worth_it"]
    assert not teaching["in_use"]
    body = {"camera": agreement["camera"], "capture": agreement["capture"], "in_use": True}
    url = f"/api/studies/{study}/instruments/teach"
    assert client.post(url, json=body).json()["agreements"][0]["teaching"]["in_use"]
    again = dropped(client, study, laid_on(pages[0], plain(pages[0], seed=30), seed=7, **shot))
    said = again["measurement"]["calibration"]["taught"]
    assert said["after_de00"] == pytest.approx(teaching["after_de00"])
    other = dropped(client, study, laid_on(pages[0], plain(pages[0], seed=30), seed=8, camera="A"))
    assert other["measurement"]["calibration"]["taught"] is None
    client.post(url, json=body | {"in_use": False})
    plainly = dropped(client, study, laid_on(pages[0], plain(pages[0]), seed=9, **shot))
    assert plainly["measurement"]["calibration"]["taught"] is None


def test_too_few_swatches_teach_no_camera(client, study, page):
    photo = dropped(client, study, laid_on(page, plain(page)))
    accepted(client, photo, cells=["A1"])
    kept(client, study, Spectrophotometer().export({codes_of(page)[0]: GREEN}))
    (agreement,) = client.get(f"/api/studies/{study}/instruments").json()["agreements"]
    assert agreement["teaching"] is None
    body = {"camera": agreement["camera"], "capture": agreement["capture"], "in_use": True}
    answer = client.post(f"/api/studies/{study}/instruments/teach", json=body)
    assert answer.json()["type"].endswith("not-worth-it")


def test_the_same_file_again_makes_no_second_readings(client, study, page):
    text = Spectrophotometer().export({codes_of(page)[0]: GREEN})
    assert kept(client, study, text).status_code == 201
    again = kept(client, study, text)
    assert (again.status_code, again.json()["type"].split(":")[-1]) == (422, "already-kept")


def test_values_for_d65_are_kept_and_make_no_reading(client, study, page):
    code = codes_of(page)[0]
    text = Spectrophotometer().export({code: GREEN}, "D65", "10", with_spectra=False)
    assert kept(client, study, text).json() == {"readings": 0}
    assert readings_of(client, study, code) == []
    (file,) = client.get(f"/api/studies/{study}/instruments").json()["files"]
    assert file["samples"][0]["given_under"] == "D65/10°"


def test_a_file_is_looked_at_before_it_is_kept(client, study, page):
    code = codes_of(page)[0]
    body = {"content": f"name,L,a,b\n{code},50,20,10\nother,40,1,1\n", "instrument": "x", "measured_on": "2026-09-24"}
    url = f"/api/studies/{study}/instruments/look"
    asked = client.post(url, json=body)
    assert asked.json()["type"].endswith("which-light")
    said = body | {"said": {"illuminant": "D50", "observer": "2"}}
    samples = client.post(url, json=said).json()["samples"]
    assert [one["swatch"] for one in samples] == [code, None]
    assert client.get(f"/api/studies/{study}/instruments").json()["files"] == []


@pytest.mark.parametrize(
    ("change", "kind"),
    [
        ({"measured_on": "2030-01-01"}, "in-the-future"),
        ({"content": "nothing here"}, "no-colours"),
        ({"named": [{"name": "JJJJ", "swatch": "ZZZZ"}]}, "no-such-swatch"),
        ({"named": [{"name": "JJJJ", "cloth": "nobody"}]}, "not-found"),
        ({"trial": 99, "stage": 0}, "not-found"),
    ],
)
def test_what_cannot_be_kept_is_said_and_nothing_is_kept(client, study, page, change, kind):
    text = Spectrophotometer(places=1).export({"JJJJ": GREEN})
    answer = kept(client, study, **({"content": text} | change))
    assert answer.status_code in (404, 422)
    assert answer.json()["type"].endswith(kind)
    assert client.get(f"/api/studies/{study}/instruments").json()["files"] == []


def test_a_piece_of_a_trial_asks_for_its_stage(client, study, page):
    text = Spectrophotometer(places=1).export({f"{codes_of(page)[0]} exposed": GREEN})
    assert kept(client, study, text).json()["type"].endswith("trial-needed")
    trial = client.post(
        f"/api/studies/{study}/trials",
        json={
            "kind": "light",
            "name": "Window",
            "swatches": codes_of(page)[:1],
            "stages": [{"label": "a week", "days": 7, "dose_lxh": 1e5}],
        },
    ).json()
    number = trial["id"] if isinstance(trial, dict) else trial[-1]["id"]
    assert kept(client, study, text, trial=number, stage=0).json() == {"readings": 1}
    (reading,) = readings_of(client, study, codes_of(page)[0])
    assert (reading["piece"], reading["stage"]) == ("light", 0)


def test_a_tile_in_a_free_cell_is_read_with_the_others_and_known_next_time(client, study, tile):
    page = client.post(f"/api/studies/{study}/sheets", json={"free_cells": 1}).json()[0]
    free = next(
        one["cell"] for one in page["sheet"]["cells"] if one["cell"] not in {a["cell"] for a in page["assignments"]}
    )
    with_tile = [*plain(page), Cloth(free, GREEN, 0.8)]
    photo = dropped(client, study, laid_on(page, with_tile))
    assert photo["cloths"] == []
    lies = [{"cell": free, "cloth": tile}]
    assert accepted(client, photo, cells=["A1"], lies=lies).json() == {"readings": 2}
    view = client.get(f"/api/cloths/{tile}").json()
    assert delta_e_2000(np.array(view["mean"]["lab"]), true_lab(Cloth("A1", GREEN))) < 2
    assert view["readings"][0]["photo"] == photo["id"]
    again = dropped(client, study, laid_on(page, with_tile, seed=8))
    assert again["cloths"] == [{"cell": free, "swatch": None, "cloth": tile}]
    gone = client.delete(f"/api/shelf/cloth/{tile}")
    assert gone.json()["type"].endswith("in-use")


def test_a_colour_is_typed_in_and_wrong_ones_are_refused(client, tile):
    url = f"/api/cloths/{tile}/readings"
    view = client.post(url, json={"lightness": 60, "a": 10, "b": -5}).json()
    assert view["readings"][0]["source"] == "typed"
    assert client.post(url, json={"lightness": 160, "a": 10, "b": -5}).status_code == 422
    assert client.post("/api/cloths/none/readings", json={"lightness": 60, "a": 1, "b": 1}).status_code == 404


def test_two_swatches_in_each_other_s_cell_are_said_to_be_there(client, study, page):
    photo = dropped(client, study, laid_on(page, plain(page)))
    first, second = codes_of(page)[:2]
    lies = [{"cell": "A1", "swatch": second}, {"cell": "A2", "swatch": first}]
    twice = accepted(client, photo, cells=["A1", "A2"], lies=lies[:1])
    assert twice.json()["type"].endswith("swatch-twice")
    assert accepted(client, photo, cells=["A1", "A2"], lies=lies).status_code == 201
    (reading,) = readings_of(client, study, first)
    assert reading["lab"] == pytest.approx(measured(photo, "A2")["lab"])
    strange = [{"cell": "A3", "swatch": "ZZZZ"}]
    other = dropped(client, study, laid_on(page, plain(page), seed=9))
    answer = accepted(client, other, cells=["A3"], lies=strange)
    assert answer.json()["type"].endswith("unknown-swatch")


def test_sheets_are_printed_for_a_chart_of_the_shelf_and_read_by_it(client, study):
    look = client.post("/api/charts/look", json={"name": "Forty", "content": station_chart().model_dump_json()}).json()
    assert len(look["hexes"]) == 40
    item = {"kind": "chart", "key": "forty", "name": "Forty", "chart": look["chart"]}
    assert client.post("/api/shelf", json=item).status_code == 201
    page = client.post(f"/api/studies/{study}/sheets", json={"chart": "forty"}).json()[0]
    assert page["sheet"]["chart"]["columns"] == 8
    rng = np.random.default_rng(2)
    cloths = tuple(Cloth(a["cell"], dyed(rng), 0.8) for a in page["assignments"])
    scene = Scene(Sheet.model_validate(page["sheet"]), cloths, chart_spectra=station_spectra())
    photo = dropped(client, study, photograph(scene, replace(SHOT, seed=3)))
    for cloth in cloths:
        found = measured(photo, cloth.cell)["lab"]
        assert delta_e_2000(np.array(found), true_lab(cloth)) < 3
    nobody = client.post(f"/api/studies/{study}/sheets", json={"chart": "nobody"})
    assert nobody.status_code == 404


def test_a_grey_scale_is_told_what_it_cannot_do(client):
    rows = "\n".join(["name,L,a,b", *(f"g{i},{95 - 3.5 * i},0,0" for i in range(20))])
    answer = client.post("/api/charts/look", json={"name": "Greys", "content": rows, "columns": 10})
    assert answer.status_code == 422
    assert "nothing of how the camera sees colours" in answer.json()["title"]


@pytest.mark.parametrize("lab", [[50, 900, 0], [50, 0, -1e300], [-20, 0, 0]])
def test_a_chart_with_values_that_no_paint_has_is_refused(client, lab):
    chart = station_chart().model_dump(mode="json")
    chart["patches"][3]["lab"] = lab
    item = {"kind": "chart", "key": "odd", "name": "Odd", "chart": chart}
    assert client.post("/api/shelf", json=item).status_code == 422
    assert client.get("/api/shelf").json()["charts"] == []


def test_a_chart_from_a_table_has_the_measures_that_were_taken_of_it(client):
    spectra = Spectrophotometer(places=1, noise=0, uneven=0, zero=0).export(
        {one.name: spectrum for one, spectrum in zip(station_chart().patches, station_spectra(), strict=True)},
        "D65",
        "10",
    )
    text = {"name": "Card", "content": spectra}
    as_fits = client.post("/api/charts/look", json=text).json()["chart"]
    assert (as_fits["rows"], as_fits["columns"]) == (5, 8)
    # The file's own values are for D65 and 10°; its spectra give those for D50 and 2°.
    labs = [patch["lab"] for patch in as_fits["patches"]]
    assert np.abs(np.array(labs) - station_chart().lab).max() < 0.3
    measured_mm = text | {"pitch_mm": 11.5, "patch_mm": 9}
    chart = client.post("/api/charts/look", json=measured_mm).json()["chart"]
    assert (chart["pitch_mm"], chart["patch_mm"]) == ([11.5, 11.5], [9, 9])
    too_large = client.post("/api/charts/look", json=text | {"pitch_mm": 60})
    assert "fit on a sheet" in too_large.json()["title"]
