"""The whole path through the API: plan, weigh, tick, photograph, accept, fade, compare."""

import numpy as np
import pytest
from tests.cloth_spectra import dyed, true_lab
from tests.photographs import photograph
from tests.small_study import levels, small_plan

from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.sheet_layout import Sheet
from zesty_grid.standins.camera import Shot
from zesty_grid.standins.cloth import Cloth
from zesty_grid.standins.scene import Scene

SHOT = Shot(width_px=2400, height_px=1800)


def photo_of(page, reflectances) -> tuple[bytes, list[Cloth]]:
    """A photo of a page as the API describes it, one reflectance for each assigned piece."""
    cloths = [Cloth(a["cell"], r, 0.8) for a, r in zip(page["assignments"], reflectances, strict=True)]
    return photograph(Scene(Sheet.model_validate(page["sheet"]), tuple(cloths)), SHOT), cloths


def upload(client, study, data, name="page.jpg"):
    return client.post(f"/api/studies/{study}/photos", files={"photo": (name, data)})


def codes_of(client, study: int) -> set[str]:
    return {one["code"] for one in client.get(f"/api/studies/{study}").json()["swatches"]}


@pytest.fixture
def study(client) -> int:
    return client.post("/api/studies", json=small_plan()).json()["id"]


def test_from_plan_to_comparison(client, study):
    view = client.get(f"/api/studies/{study}").json()
    assert len(view["swatches"]) == 18
    weighed = client.get(f"/api/studies/{study}/weigh").json()
    assert len(weighed["weighing"]["vessels"]) == 4
    assert weighed["cut_list"]["swatches"] == 18

    bench = client.get(f"/api/studies/{study}/dye").json()["vessels"][0]
    entry = {"vessel": bench["vessel"]["name"], "step": "fill", "kind": "done"}
    assert client.post(f"/api/studies/{study}/dye/entries", json=entry).status_code == 201
    after = client.get(f"/api/studies/{study}/dye").json()
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
            "measurement_id": photo["measurement_id"],
            "taken_on": "2026-09-24",
            "cells": [a["cell"] for a in page["assignments"]],
        }
        path = f"/api/photos/{photo['id']}/accept"
        assert client.post(path, json=wanted).status_code == 201
        again = client.post(path, json=wanted)
        assert again.status_code == 409
        assert "already been accepted" in again.json()["title"]

    readings = client.get(f"/api/studies/{study}/readings").json()
    assert len(readings) == 18
    reference = {"mode": "factor", "factor": "iron", "level": "iron-0"}
    differences = client.post(f"/api/studies/{study}/compare", json=reference).json()
    assert len(differences["differences"]) == 8
    assert "the error of reading" in differences["error_words"]


def test_a_light_trial_from_paper_to_rating(client, study):
    codes = sorted(codes_of(client, study))[:3]
    plan = {
        "kind": "light",
        "name": "Sill",
        "swatches": codes,
        "stages": [{"label": "1 day", "days": 1, "dose_lxh": 1e5}],
    }
    trial = client.post(f"/api/studies/{study}/trials", json=plan).json()["id"]
    page = client.post(f"/api/studies/{study}/sheets", json={"trial": trial}).json()[0]
    assert [a["piece"] for a in page["assignments"]] == ["dark", "light"] * 3
    rng = np.random.default_rng(3)
    dark = dyed(rng)
    # The first swatch does not fade at all, the others turn into something else.
    data, _ = photo_of(page, [dark, dark, dark, dyed(rng), dark, dyed(rng)])
    photo = upload(client, study, data).json()
    wanted = {
        "measurement_id": photo["measurement_id"],
        "taken_on": "2026-10-02",
        "cells": [a["cell"] for a in page["assignments"]],
    }
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


def test_what_is_put_on_the_shelf_can_be_crossed_changed_and_retired(client):
    lot = {"kind": "dye_lot", "key": "marsh-tea", "name": "Marsh tea", "state": "fresh"}
    shelf = client.post("/api/shelf", json=lot).json()
    assert "marsh-tea" in {one["key"] for one in shelf["dye_lots"]}
    assert client.post("/api/shelf", json=lot).status_code == 409
    factors = small_plan()["factors"]
    factors[2] = {"kind": "dye", "levels": levels("marsh-tea")}
    assert client.post("/api/studies", json=small_plan(factors=factors)).status_code == 201

    used = client.delete("/api/shelf/dye_lot/marsh-tea")
    assert used.status_code == 409
    assert "Small" in used.json()["title"]
    retired = client.put("/api/shelf", json=lot | {"retired": True, "note": "Used up"}).json()
    assert next(one for one in retired["dye_lots"] if one["key"] == "marsh-tea")["retired"]
    spare = {"kind": "scale", "key": "old", "name": "Old scale", "resolution_g": 5}
    client.post("/api/shelf", json=spare)
    assert client.delete("/api/shelf/scale/old").status_code == 200
    assert client.delete("/api/shelf/scale/old").status_code == 404
    assert client.put("/api/shelf", json=spare).status_code == 404


@pytest.mark.parametrize(
    ("name", "reason"), [("Tin salt", "brittle"), ("Potassium dichromate", "cancer"), ("Sugar of lead", "body")]
)
def test_refused_materials_are_refused_with_the_reason(client, name, reason):
    bad = {"kind": "substance", "key": "x", "name": name, "role": "mordant"}
    answer = client.post("/api/shelf", json=bad)
    assert answer.status_code == 422
    assert reason in answer.json()["title"]
    bath = {"kind": "mordant", "substance": name, "dose_percent_wof": 2, "duration_min": 60}
    route = {"kind": "mordant_route", "key": "x", "name": "Old way", "suits": ["protein"], "baths": [bath]}
    assert client.post("/api/shelf", json=route).status_code == 422


def test_a_copy_starts_the_next_study_with_codes_of_its_own(client, study):
    made = client.post(f"/api/studies/{study}/copy").json()["id"]
    first, second = (client.get(f"/api/studies/{one}").json() for one in (study, made))
    assert second["plan"]["name"] == "Small, next"
    assert second["plan"]["factors"] == first["plan"]["factors"]
    assert not codes_of(client, study) & codes_of(client, made)


def test_from_a_question_to_a_budget(client):
    assert len(client.get("/api/questions").json()) >= 6
    plan = client.post("/api/questions/ph-and-iron", json={"answers": {"ph": ["4", "9"]}}).json()
    study = client.post("/api/studies", json=plan).json()["id"]
    view = client.get(f"/api/studies/{study}").json()
    swatches = len(view["swatches"])
    assert all(one["tie"] for one in view["swatches"])
    effects = client.get(f"/api/studies/{study}/telling").json()["effects"]
    assert {effect["factor"] for effect in effects} >= {"ph", "iron"}
    budget = {"swatches": swatches - 4, "vessels": 9, "seed": 3}
    thinned = client.post(f"/api/studies/{study}/budget", json=budget).json()
    assert thinned["cells"] * 2 + thinned["controls"] * 2 <= swatches - 4
    smaller = view["plan"] | {"left_out": thinned["left_out"]}
    saved = client.put(f"/api/studies/{study}", json={"revision": 1, "plan": smaller}).json()
    assert sum(c["included"] for c in saved["grid"]["cells"]) < len(view["grid"]["cells"])
    assert client.get(f"/api/studies/{study}/revision").json() == {"revision": 2}


def test_replicates_get_codes_and_a_mean_colour(client):
    study = client.post("/api/studies", json=small_plan(replicates=2)).json()["id"]
    assert len(codes_of(client, study)) == 36
    pages = client.post(f"/api/studies/{study}/sheets", json={}).json()
    assert sum(len(page["assignments"]) for page in pages) == 36


def test_ph_is_answered_and_two_readings_correct_it(client):
    question = {
        "volume_l": 2,
        "water": {"ph": 7.5, "alkalinity_mg_l_caco3": 120},
        "solutes": [],
        "target_ph": 9,
        "adjust_with": "soda_ash",
    }
    answer = client.post("/api/ph", json=question).json()
    assert answer["ph_after"] == pytest.approx(9, abs=0.01)
    readings = {"question": question, "ph_first": 5.5, "grams_given": 0.2, "ph_second": 6.2}
    following = client.post("/api/ph/next", json=readings).json()
    assert following["grams"] > answer["grams"]
    readings["ph_second"] = 5.0
    assert client.post("/api/ph/next", json=readings).status_code == 422


ITEMS = [
    {"kind": "fibre", "key": "n", "name": "Nettle", "fibre_class": "cellulose", "mass_g_m2": 150},
    {
        "kind": "mordant_route",
        "key": "n",
        "name": "Own",
        "suits": ["protein"],
        "school": "own",
        "baths": [{"kind": "mordant", "substance": "potassium alum", "dose_percent_wof": 8, "duration_min": 45}],
    },
    {
        "kind": "dye_lot",
        "key": "n",
        "name": "Creek tea",
        "place": "creek",
        "spoils_above_c": 70,
        "mixture": [{"lot": "dried-bark", "percent": 100}],
    },
    {"kind": "substance", "key": "n", "name": "Lemon juice", "role": "acid", "purity_percent": 6},
    {"kind": "vessel", "key": "n", "name": "Bucket", "litres": 12, "material": "plastic"},
    {"kind": "heat_place", "key": "n", "name": "Camp stove", "power_w": 2200},
    {"kind": "scale", "key": "n", "name": "Old scale", "resolution_g": 5},
    {"kind": "water", "key": "n", "name": "Well", "ph": 6.8, "alkalinity_mg_l_caco3": 60},
]
LISTS = {
    "fibre": "fibres",
    "mordant_route": "mordant_routes",
    "dye_lot": "dye_lots",
    "substance": "substances",
    "vessel": "vessels",
    "heat_place": "heat_places",
    "scale": "scales",
    "water": "waters",
}


@pytest.mark.parametrize("item", ITEMS, ids=lambda item: item["kind"])
def test_every_kind_is_added_changed_retired_and_taken_away(client, item):
    def there(shelf):
        return {one["key"]: one for one in shelf[LISTS[item["kind"]]]}

    added = there(client.post("/api/shelf", json=item).json())["n"]
    assert {field: added[field] for field in item if field != "baths"} == {
        field: value for field, value in item.items() if field != "baths"
    }
    changed = client.put("/api/shelf", json=item | {"note": "Moved", "retired": True}).json()
    assert (there(changed)["n"]["note"], there(changed)["n"]["retired"]) == ("Moved", True)
    assert "n" not in there(client.delete(f"/api/shelf/{item['kind']}/n").json())
    assert client.put("/api/shelf", json=item).status_code == 404


@pytest.mark.parametrize("item", ITEMS, ids=lambda item: item["kind"])
@pytest.mark.parametrize("spoiled", [{"name": ""}, {"key": "With blanks"}, {"colour": "green"}])
def test_items_that_cannot_be_are_refused_and_the_shelf_stays(client, item, spoiled):
    before = client.get("/api/shelf").json()
    answer = client.post("/api/shelf", json=item | spoiled)
    assert answer.status_code == 422
    assert answer.json()["errors"][0]["field"].endswith(next(iter(spoiled)))
    assert client.get("/api/shelf").json() == before


def test_what_another_choice_costs_is_what_it_then_takes(client):
    study = client.post("/api/studies", json=small_plan(replicates=2)).json()["id"]
    choices = {c["field"]: c for c in client.get(f"/api/studies/{study}/choices").json()}
    assert set(choices) == {"mordants_in_dye_bath", "replicate_vessels"}
    for revision, choice in enumerate(choices.values(), 1):
        plan = small_plan(replicates=2) | {choice["field"]: choice["other"]}
        saved = client.put(f"/api/studies/{study}", json={"revision": revision, "plan": plan})
        assert len(saved.json()["vessels"]) == choice["vessels_other"]


def test_bench_papers_are_one_document_in_three_formats(client, study):
    papers = client.get(f"/api/studies/{study}/weigh/bench.json").json()
    assert papers["format"] == "zesty-grid/bench"
    codes = codes_of(client, study)
    assert {swatch["code"] for swatch in papers["swatches"]} == codes
    table = client.get(f"/api/studies/{study}/weigh/swatches.csv")
    assert table.headers["content-type"] == "text/csv; charset=utf-8"
    assert all(code in table.text for code in codes)
    pdf = client.get(f"/api/studies/{study}/weigh/bench.pdf")
    assert pdf.headers["content-type"] == "application/pdf"
    assert client.get("/api/studies/99/weigh/bench.pdf").status_code == 404


def grams_of(client, study: int, vessel: str, role: str) -> float:
    weighed = client.get(f"/api/studies/{study}/weigh").json()["weighing"]["vessels"]
    own = next(one for one in weighed if one["vessel"] == vessel)
    return next(f["grams"] for f in own["figures"] if f["role"] == role)


def alum_of(client, study: int) -> float:
    return grams_of(client, study, "M1", "mordant")


def dye_of(client, study: int, vessel: str) -> float:
    return grams_of(client, study, vessel, "dye stuff")


def test_recipes_stay_as_they_were_when_dyeing_began(client, study):
    shelf = client.get("/api/shelf").json()
    route = next(r for r in shelf["mordant_routes"] if r["key"] == "alum-hot")
    assert alum_of(client, study) == pytest.approx(7.2)  # 15 % of 48 g
    route["baths"][0]["dose_percent_wof"] = 10
    client.put("/api/shelf", json=route)
    assert alum_of(client, study) == pytest.approx(4.8)  # nothing is dyed yet: it follows

    entry = {"vessel": "M1", "step": "wet-out", "kind": "done"}
    assert client.post(f"/api/studies/{study}/dye/entries", json=entry).status_code == 201
    route["baths"][0]["dose_percent_wof"] = 20
    client.put("/api/shelf", json=route)
    lot = next(d for d in shelf["dye_lots"] if d["key"] == "dried-flowers")
    client.put("/api/shelf", json=lot | {"amount_in_hand_g": 5, "strength_percent_wof": 999})
    assert alum_of(client, study) == pytest.approx(4.8)
    view = client.get(f"/api/studies/{study}").json()
    assert view["recipes_kept"]
    # What is in hand follows the Shelf of today, the strength does not.
    (short,) = [a for a in view["advice"] if a["code"].startswith("short")]
    assert "72 g are needed, 5 g are in hand" in short["text"]
    saved = client.put(f"/api/studies/{study}", json={"revision": 1, "plan": small_plan(name="N")})
    assert saved.json()["recipes_kept"]
    assert alum_of(client, study) == pytest.approx(4.8)
    # What has not begun takes the recipes of today when that is asked for; M1 has begun.
    assert dye_of(client, study, "D1") == pytest.approx(36)
    assert client.post(f"/api/studies/{study}/recipes").status_code == 200
    assert alum_of(client, study) == pytest.approx(4.8)
    assert dye_of(client, study, "D1") == pytest.approx(48 * 9.99)
    fresh = client.post("/api/studies", json=small_plan()).json()["id"]
    assert alum_of(client, fresh) == pytest.approx(9.6)


def test_a_few_swatches_get_a_page_of_their_own_whatever_lies_elsewhere(client, study):
    client.post(f"/api/studies/{study}/sheets", json={})
    few = sorted(codes_of(client, study))[2:5]
    pages = client.post(f"/api/studies/{study}/sheets", json={"swatches": few}).json()
    assert [len(page["assignments"]) for page in pages] == [12, 6, 3]
    assert [one["swatch"] for one in pages[-1]["assignments"]] == few
    stages = [{"label": "1 day", "days": 1, "dose_lxh": 1e5}]
    trial = {"kind": "light", "name": "Window", "swatches": few, "stages": stages}
    made = client.post(f"/api/studies/{study}/trials", json=trial).json()["id"]
    wanted = {"trial": made, "swatches": few[:1]}
    own = client.post(f"/api/studies/{study}/sheets", json=wanted).json()[-1]
    assert [(one["swatch"], one["piece"]) for one in own["assignments"]] == [(few[0], "dark"), (few[0], "light")]
    strange = client.post(f"/api/studies/{study}/sheets", json={"swatches": ["9999"]})
    assert strange.status_code == 422


def test_the_list_of_studies_comes_by_pages_and_by_words(client):
    for name in ("Weld", "Madder, first", "Madder, second", "100 % wool"):
        client.post("/api/studies", json=small_plan(name=name))

    def names(**asked):
        return [one["name"] for one in client.get("/api/studies", params=asked).json()]

    assert len(names()) == 4
    assert names(most=2) == ["Weld", "Madder, first"]
    assert names(most=2, after=2) == ["Madder, second", "100 % wool"]
    assert names(text="mADder") == ["Madder, first", "Madder, second"]
    assert names(text="%") == ["100 % wool"]  # no sign is more than itself
    assert names(text="does it work", most=1) == ["Weld"]  # the question counts too
