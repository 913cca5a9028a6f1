"""A photo that holds a chart and no sheet: areas drawn on it are measured and kept."""

from dataclasses import replace

import numpy as np
import pytest
from tests.api.test_photos import accepted, readings_of
from tests.cloth_spectra import dyed, true_lab
from tests.photographs import photograph
from tests.small_study import small_plan

from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.measure import calibrate
from zesty_grid.core.read.sheet_layout import lay_out_sheet
from zesty_grid.formats.photo import open_photo
from zesty_grid.standins.camera import Shot
from zesty_grid.standins.cloth import Cloth
from zesty_grid.standins.scene import Scene

SHEET = lay_out_sheet("BARE", 6)
SHOT = Shot(width_px=2400, height_px=1800, light_slope=0.05, falloff=0.05, exposure=0.7)
CLOTHS = tuple(Cloth(one.cell, dyed(np.random.default_rng(seed)), 0.9) for seed, one in enumerate(SHEET.cells))


def bare(kind: str = "JPEG") -> tuple[bytes, dict[str, list]]:
    """The same things without their sheet on a table, and where each cloth lies in the photo."""
    on_paper = calibrate(open_photo(photograph(Scene(SHEET, CLOTHS), SHOT)), SHEET).photo.page
    scene = Scene(SHEET, CLOTHS, paper_present=False)
    where = {}
    for cell in SHEET.cells:
        x, y, w, h = cell.rect_mm
        inner = [
            (x + 0.25 * w, y + 0.25 * h),
            (x + 0.75 * w, y + 0.25 * h),
            (x + 0.75 * w, y + 0.75 * h),
            (x + 0.25 * w, y + 0.75 * h),
        ]
        where[cell.cell] = on_paper.to_photo(np.array(inner)).tolist()
    return photograph(scene, SHOT, kind), where


@pytest.fixture
def study(client) -> int:
    return client.post("/api/studies", json=small_plan()).json()["id"]


@pytest.fixture(scope="module")
def taken() -> tuple[bytes, dict[str, list]]:
    return bare()


def kept(client, study: int, data: bytes, **query):
    return client.post(f"/api/studies/{study}/photos/without-sheet", params=query, files={"photo": ("table.jpg", data)})


def drawn(client, photo: dict, cell: str, outline: list, **more):
    said = {"cell": cell, "areas": [{"outline_px": outline}], **more}
    return client.post(f"/api/photos/{photo['id']}/measure", json={"cells": [said]})


def test_areas_are_drawn_measured_and_kept_for_a_swatch_and_a_cloth(client, study, taken):
    data, where = taken
    refused = client.post("/api/photos", files={"photo": ("table.jpg", data)})
    assert refused.json()["type"].endswith("no-sheet")
    photo = kept(client, study, data).json()
    assert photo["measurement"]["cells"] == []
    for number, cloth in enumerate(CLOTHS, 1):
        photo = drawn(client, photo, str(number), where[cloth.cell]).json()
    found = {cell["cell"]: cell for cell in photo["measurement"]["cells"]}
    apart = [float(delta_e_2000(np.array(found[str(i)]["lab"]), true_lab(cloth))) for i, cloth in enumerate(CLOTHS, 1)]
    sure = [one["uncertainty_de00"] for one in found.values()]
    assert np.mean(apart) < 2.5
    assert all(a < 3 * u for a, u in zip(apart, sure, strict=True))
    assert all("light not seen" in one["flags"] for one in found.values())
    swatch = client.get(f"/api/studies/{study}").json()["swatches"][0]["code"]
    client.post("/api/shelf", json={"kind": "cloth", "key": "old", "name": "Old red"})
    lies = [{"cell": "1", "swatch": swatch}, {"cell": "2", "cloth": "old"}]
    assert accepted(client, photo, cells=["1"], lies=lies).json() == {"readings": 2}
    (reading,) = readings_of(client, study, swatch)
    assert reading["lab"] == pytest.approx(found["1"]["lab"])
    assert client.get("/api/cloths/old").json()["mean"]["lab"] == found["2"]["lab"]


def test_further_from_the_chart_the_light_is_less_sure(client, study, taken):
    data, where = taken
    photo = kept(client, study, data).json()
    near = where["A1"]
    far = [[x + 1200, y + 200] for x, y in near]
    first = drawn(client, photo, "1", near).json()["measurement"]["cells"][0]
    second = drawn(client, photo, "1", far).json()["measurement"]["cells"][0]
    ratio = [one["parts"]["light_de00"] / (one["lab"][0] + 16) for one in (first, second)]
    assert ratio[1] > ratio[0]


def test_it_is_no_page_of_the_study(client, study, taken):
    before = client.post(f"/api/studies/{study}/sheets", json={}).json()
    kept(client, study, taken[0])
    assert client.get(f"/api/studies/{study}/sheets").json() == before


def test_what_cannot_be_measured_is_refused_and_nothing_is_lost(client, study, taken):
    data, where = taken
    photo = kept(client, study, data).json()
    tiny = [[100, 100], [103, 100], [103, 103]]
    assert drawn(client, photo, "1", tiny).json()["type"].endswith("area-too-small")
    outside = [[9000, 9000], [9100, 9000], [9100, 9100]]
    assert drawn(client, photo, "1", outside).json()["type"].endswith("area-too-small")
    nowhere = [[1e300, 1], [2, 2], [3, 3]]
    assert drawn(client, photo, "1", nowhere).status_code == 422
    assert drawn(client, photo, "99", where["A1"]).json()["type"].endswith("no-such-cell")
    assert client.get(f"/api/photos/{photo['id']}/cells/1.png").status_code == 404
    blank = photograph(replace(Scene(SHEET), paper_present=False, chart_present=False), SHOT)
    assert kept(client, study, blank).json()["type"].endswith("chart-missing")
    assert kept(client, study, data, chart="nobody").status_code == 404
