"""The whole path through the API: plan, weigh, tick, photograph, accept, fade, compare."""

import numpy as np
import pytest
from tests.cloth_spectra import dyed, true_lab
from tests.small_study import small_plan

from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.sheet_layout import Sheet
from zesty_grid.standins.camera import Shot, photograph
from zesty_grid.standins.scene import Cloth, Scene

SHOT = Shot(width_px=2400, height_px=1800)


def photo_of(page, reflectances) -> tuple[bytes, list[Cloth]]:
    """A photo of a page as the API describes it, one reflectance for each assigned piece."""
    cloths = [
        Cloth(a["cell"], r, 0.8) for a, r in zip(page["assignments"], reflectances, strict=True)
    ]
    return photograph(Scene(Sheet.model_validate(page["sheet"]), tuple(cloths)), SHOT), cloths


def upload(client, study, data, name="page.jpg"):
    return client.post(f"/api/studies/{study}/photos", files={"photo": (name, data)})


@pytest.fixture
def study(client) -> int:
    return client.post("/api/studies", json=small_plan()).json()["id"]


def test_from_plan_to_comparison(client, study):
    view = client.get(f"/api/studies/{study}").json()
    assert len(view["codes"]) == 18
    assert len(client.get(f"/api/studies/{study}/weigh").json()["vessels"]) == 4

    bench = client.get(f"/api/studies/{study}/dye").json()["vessels"][0]
    entry = {"vessel": bench["vessel"]["key"], "step": "wet-out", "kind": "done"}
    after = client.post(f"/api/studies/{study}/dye/entries", json=entry).json()
    assert after["vessels"][0]["steps"][0]["done_at"]

    pages = client.post(f"/api/studies/{study}/sheets", json={}).json()
    assert [len(page["assignments"]) for page in pages] == [12, 6]
    rng = np.random.default_rng(2)
    for page in pages:
        data, cloths = photo_of(page, [dyed(rng) for _ in page["assignments"]])
        photo = upload(client, study, data).json()
        assert photo["sheet"]["sheet"]["id"] == page["sheet"]["id"]
        measured = {c["cell"]: c for c in photo["measurement"]["cells"]}
        for cloth in cloths:
            assert delta_e_2000(true_lab(cloth), np.array(measured[cloth.cell]["lab"])) < 5
        wanted = {
            "measurement_id": photo["measurement_id"], "taken_on": "2026-09-24",
            "cells": [a["cell"] for a in page["assignments"]],
        }  # fmt: skip
        path = f"/api/photos/{photo['id']}/accept"
        assert client.post(path, json=wanted).status_code == 201
        again = client.post(path, json=wanted)
        assert again.status_code == 409
        assert "already been accepted" in again.json()["title"]

    readings = client.get(f"/api/studies/{study}/readings").json()
    assert len(readings) == 18
    reference = {"mode": "factor", "factor": "iron", "level": "iron-0"}
    differences = client.post(f"/api/studies/{study}/compare", json=reference).json()
    assert len(differences) == 8


def test_a_light_trial_from_paper_to_rating(client, study):
    codes = sorted(client.get(f"/api/studies/{study}").json()["codes"].values())[:3]
    plan = {
        "kind": "light", "name": "Sill", "swatches": codes,
        "stages": [{"label": "1 day", "days": 1, "dose_lxh": 1e5}],
    }  # fmt: skip
    trial = client.post(f"/api/studies/{study}/trials", json=plan).json()["id"]
    page = client.post(f"/api/studies/{study}/sheets", json={"trial": trial}).json()[0]
    assert [a["piece"] for a in page["assignments"]] == ["dark", "light"] * 3
    rng = np.random.default_rng(3)
    dark = dyed(rng)
    # The first swatch does not fade at all, the others turn into something else.
    data, _ = photo_of(page, [dark, dark, dark, dyed(rng), dark, dyed(rng)])
    photo = upload(client, study, data).json()
    wanted = {
        "measurement_id": photo["measurement_id"], "taken_on": "2026-10-01",
        "cells": [a["cell"] for a in page["assignments"]],
    }  # fmt: skip
    path = f"/api/photos/{photo['id']}/accept"
    assert client.post(path, json=wanted).status_code == 422  # which stage?
    assert client.post(path, json=wanted | {"stage": 7}).status_code == 422
    assert client.post(path, json=wanted | {"stage": 0}).status_code == 201
    points = client.get(f"/api/studies/{study}/trials").json()[0]["points"]
    by_swatch = {point["swatch"]: point for point in points}
    assert by_swatch[codes[0]]["rating"] in ("5", "4-5")
    assert by_swatch[codes[0]]["difference"]["de00"] < 2 * by_swatch[codes[0]]["uncertainty_de00"]
    assert all(point["dose"] == 1e5 and point["dark_from_same_stage"] for point in points)


def test_sheets_print_and_new_swatches_get_new_pages(client, study):
    pages = client.post(f"/api/studies/{study}/sheets", json={}).json()
    assert client.post(f"/api/studies/{study}/sheets", json={}).json() == pages
    sheet = pages[0]["sheet"]["id"]
    assert client.get(f"/api/sheets/{sheet}.pdf").content.startswith(b"%PDF")
    assert client.get(f"/api/sheets/{sheet}.png").content.startswith(b"\x89PNG")
    assert client.get("/api/sheets/NOPE.pdf").status_code == 404


def test_a_photo_of_another_studys_sheet_is_refused_by_name(client, study):
    other = client.post("/api/studies", json=small_plan(name="Other")).json()["id"]
    page = client.post(f"/api/studies/{other}/sheets", json={}).json()[1]
    data, _ = photo_of(page, [dyed(np.random.default_rng(4)) for _ in page["assignments"]])
    answer = upload(client, study, data)
    assert answer.status_code == 422
    assert "belongs to another study" in answer.json()["title"]
    photo = upload(client, other, data).json()
    image = client.get(f"/api/photos/{photo['id']}/image?width=600")
    assert image.headers["content-type"] == "image/jpeg"


def test_today_says_what_is_due_and_deleting_can_be_undone(client, study):
    words = [task["words"] for task in client.get("/api/today").json()]
    assert words == ["vessels are not finished", "swatches have no reading yet"]
    assert client.delete(f"/api/studies/{study}").status_code == 204
    assert client.get("/api/studies").json() == []
    assert client.get("/api/today").json() == []
    assert client.post(f"/api/studies/{study}/restore").status_code == 204
    assert [s["id"] for s in client.get("/api/studies").json()] == [study]


def test_what_is_put_on_the_shelf_can_be_crossed(client):
    lot = {"key": "marsh-tea", "name": "Marsh tea", "state": "fresh", "strength_percent_wof": 300}
    shelf = client.post("/api/shelf/dye-lots", json=lot).json()
    assert "marsh-tea" in {one["key"] for one in shelf["dye_lots"]}
    assert client.post("/api/shelf/dye-lots", json=lot).status_code == 409
    fibre = {"key": "nettle", "name": "Nettle", "fibre_class": "cellulose"}
    assert client.post("/api/shelf/fibres", json=fibre).status_code == 201
    refused = client.post("/api/shelf/dye-lots", json=lot | {"key": "x", "name": "Tin salt"})
    assert refused.status_code == 422
    assert "brittle" in refused.json()["title"]
