"""With the mouse: what is put in when, an extract drawn off twice, a print from plan to compare."""

import re
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest
from playwright.sync_api import Locator, Page, expect
from tests import patient_http as http
from tests.api.test_photos import RED, SHOT, STRAW
from tests.photographs import photograph
from tests.small_study import levels
from tests.ui.at_the_bench import bench_of, entries_of, now_step, open_bench, tick

from zesty_grid.core.read.sheet_layout import Sheet
from zesty_grid.standins.cloth import Cloth, Motif
from zesty_grid.standins.scene import Scene

PLAIN = {
    "name": "Reeds",
    "rows": ["fibre"],
    "columns": ["dye"],
    "swatch_mass_g": 20,
    "factors": [{"kind": "fibre", "levels": levels("wool")}, {"kind": "dye", "levels": levels("dried-flowers")}],
}


def made(address: str, plan: dict) -> str:
    study = http.post(f"{address}/api/studies", json=plan).json()["id"]
    return f"{address}/api/studies/{study}"


def plan_panel(page: Page) -> Locator:
    page.goto("/#/study/1/plan")
    return page.get_by_role("complementary")


def cross(page: Page, panel: Locator, factor: str) -> Locator:
    panel.get_by_label("Cross with another factor").click()
    page.get_by_role("option", name=factor, exact=True).click()
    group = panel.get_by_role("group", name=factor, exact=True)
    expect(group).to_be_visible()
    return group


def test_vinegar_is_put_in_after_45_minutes_in_one_arm(page: Page, address: str):
    study = made(address, PLAIN)
    panel = plan_panel(page)
    group = cross(page, panel, "Put in")
    group.get_by_label("Add a level of Put in").click()
    page.get_by_role("option", name="Something …").click()
    form = panel.get_by_role("group", name="What is put in")
    form.get_by_label("Put in").click()
    page.get_by_role("option", name="Vinegar", exact=True).click()
    form.get_by_label("How much").fill("2")
    form.get_by_label("In", exact=True).click()
    page.get_by_role("option", name="tbsp", exact=True).click()
    form.get_by_label("When").click()
    page.get_by_role("option", name="with the pieces in").click()
    expect(form.get_by_label("After")).to_have_value("45 min")
    form.get_by_role("button", name="Add as a level").click()
    expect(panel.get_by_text("2 swatches, 2 vessels · saved")).to_be_visible()
    head = re.compile("^Vinegar 2 tbsp at 45 min$")
    expect(page.locator("[role$=header]").filter(has_text=head)).to_be_visible()

    sour = next(
        name for name, one in bench_of(study).items() if any(state["step"]["key"] == "add-1" for state in one["steps"])
    )
    tick(study, sour, "add-1")
    bench = open_bench(page, sour)
    step = now_step(bench)
    expect(step.get_by_role("heading", name="Put in the vinegar")).to_be_visible()
    expect(step.get_by_text("45 min after the pieces")).to_be_visible()
    step.get_by_role("button", name="Put in as said").click()
    expect(now_step(bench).get_by_role("heading", name="Go on holding it")).to_be_visible()
    # The screen is ahead of the server: what is logged is on its way.
    while not (put := [one for one in entries_of(study) if one["kind"] == "addition"]):
        page.wait_for_timeout(100)
    (added,) = put
    assert added["addition"]["item"] == "vinegar"
    assert added["addition"]["grams"] == pytest.approx(30)


def test_an_extract_is_drawn_off_twice_and_a_vessel_is_chosen_by_hand(page: Page, address: str):
    study = made(address, PLAIN)
    panel = plan_panel(page)
    group = cross(page, panel, "Extraction")
    group.get_by_label("Add a level of Extraction").click()
    page.get_by_role("option", name="Another way …").click()
    form = panel.get_by_role("group", name="A way of extracting")
    form.get_by_label("Rounds", exact=True).fill("4")
    draws = form.get_by_label("Drawn off after rounds, as levels")
    draws.fill("2, 9")
    expect(form.get_by_text("Numbers of rounds, such as 2, 4.")).to_be_visible()
    draws.fill("2, 4")
    form.get_by_role("button", name="Add 2 levels").click()
    expect(panel.get_by_text("3 swatches, 3 vessels · saved")).to_be_visible()
    extracts = http.get(f"{study}/weigh").json()["weighing"]["extractions"]
    assert sorted(len(one["shares"]) for one in extracts) == [1, 2]

    panel.get_by_role("tab", name="Vessels").click()
    panel.get_by_role("button", name="Choose the vessel of D1").click()
    form = panel.get_by_role("group", name="Vessels of D1")
    form.get_by_label("Bath in all, L").fill("1,5")
    form.get_by_role("button", name="Keep").click()
    expect(panel.get_by_text("1.50 L, run as number")).to_be_visible()
    assert next(one for one in http.get(study).json()["vessels"] if one["name"] == "D1")["volume_ml"] == pytest.approx(
        1500
    )


SOURCES = ("Tansy", "Dock")
PRINT = {
    "name": "Hedge prints",
    "rows": ["fibre"],
    "columns": ["source"],
    "swatch_mass_g": 10,
    "factors": [
        {"kind": "fibre", "levels": levels("silk", "wool")},
        {"kind": "source", "levels": levels("tansy", "dock")},
    ],
}


def printed(page: dict) -> list[Cloth]:
    """Each cloth straw-coloured where the one plant lay, and red where the other did."""
    return [Cloth(one["cell"], STRAW, 0.9, motifs=(Motif("half", RED, 0.4),)) for one in page["assignments"]]


def test_a_print_from_plan_to_compare(page: Page, address: str, tmp_path: Path):
    for name in SOURCES:
        lot = {"kind": "dye_lot", "key": name.lower(), "name": name, "state": "fresh"}
        http.post(f"{address}/api/shelf", json=lot)
    steamer = {"kind": "vessel", "key": "steamer-20", "litres": 20, "form": "steamer"}
    http.post(f"{address}/api/shelf", json=steamer | {"name": "Steamer, 20 L"})
    study = made(address, PRINT)
    panel = plan_panel(page)
    # Four cells of the grid lie on two cloths, which are steamed once.
    expect(panel.get_by_text("2 swatches, 1 vessel · saved")).to_be_visible()
    expect(page.get_by_role("gridcell")).to_have_count(4)
    panel.get_by_label("Cloths on one another").click()
    page.get_by_role("option", name="2, face to face").click()
    panel.get_by_label("Wrapped in").click()
    page.get_by_role("option", name="plastic film").click()
    expect(panel.get_by_text("Plastic melts in steam")).to_be_visible()
    panel.get_by_label("Wrapped in").click()
    page.get_by_role("option", name="cloth", exact=True).click()
    expect(panel.get_by_text("Plastic melts in steam")).to_be_hidden()
    expect(panel.get_by_text("· saved")).to_be_visible()

    long_ago = datetime.now(UTC) - timedelta(days=5)
    tick(study, "S1", at=long_ago)
    tick(study, "D1", "lay", at=long_ago)
    bench = open_bench(page, "D1")
    step = now_step(bench)
    expect(step.get_by_role("heading", name="Lay what lies where")).to_be_visible()
    zone = step.locator('[data-zone="Tansy"]')
    box = zone.bounding_box()
    assert box
    page.mouse.move(box["x"] + 20, box["y"] + 20)
    page.mouse.down()
    page.mouse.move(box["x"] + 20, box["y"] + 60, steps=4)
    page.mouse.up()
    moved = zone.bounding_box()
    assert moved
    assert moved["y"] >= box["y"]
    step.get_by_role("button", name="Keep the map of").click()
    expect(step.get_by_text("Kept already:")).to_be_visible()
    while not (laid := [one for one in entries_of(study) if one["kind"] == "laid"]):
        page.wait_for_timeout(100)
    (entry,) = laid
    assert {one["zone"] for one in entry["zones"]} == set(SOURCES)
    tick(study, "D1", at=long_ago)

    (sheet,) = http.post(f"{study}/sheets", json={}).json()
    scene = Scene(Sheet.model_validate(sheet["sheet"]), tuple(printed(sheet)))
    photo = tmp_path / "prints.jpg"
    photo.write_bytes(photograph(scene, replace(SHOT, seed=5)))
    page.goto("/#/study/1/read")
    page.get_by_label("Photos").set_input_files(photo)
    read = page.get_by_role("complementary")
    read.get_by_role("button", name="Look", exact=True).first.click(timeout=120_000)
    dialog = page.get_by_role("dialog")
    for one in sheet["assignments"]:
        dialog.get_by_role("button", name=f"Look closer at {one['cell']}").click()
        # The map is there, and its zones are offered as names.
        expect(dialog.get_by_role("img", name="What lies where on")).to_be_visible()
        for number, name in (("1", "Tansy"), ("2", "Dock")):
            dialog.get_by_label(f"Name of zone {number}").fill(name[:2])
            page.get_by_role("option", name=name, exact=True).click()
        dialog.get_by_role("button", name="All pieces").click()
    dialog.get_by_role("button", name=re.compile("^Accept .* readings$")).click()
    expect(dialog).to_be_hidden()
    for code in {one["swatch"] for one in sheet["assignments"]}:
        for name in SOURCES:
            cell = page.get_by_role("gridcell", name=re.compile(f"{code}, zone {name}"))
            expect(cell).to_have_attribute("aria-label", re.compile(r"L\* \d"))
    page.goto("/#/study/1/compare")
    expect(page.get_by_role("gridcell", name=re.compile("ΔE00 [1-9]")).first).to_be_visible()


def test_zones_of_prints_are_cells_that_are_compared(client):
    """The same through the API: zones are read by name, and stand in their cells."""
    for name in SOURCES:
        client.post("/api/shelf", json={"kind": "dye_lot", "key": name.lower(), "name": name})
    study = client.post("/api/studies", json=PRINT).json()["id"]
    (sheet,) = client.post(f"/api/studies/{study}/sheets", json={}).json()
    scene = Scene(Sheet.model_validate(sheet["sheet"]), tuple(printed(sheet)))
    photo = client.post(
        f"/api/studies/{study}/photos", files={"photo": ("prints.jpg", photograph(scene, replace(SHOT, seed=5)))}
    ).json()
    zones = [
        {"cell": one["cell"], "zone": number, "name": name}
        for one in sheet["assignments"]
        for number, name in (("1", "tansy"), ("2", "Dock"))
    ]
    body = {"measurement_id": photo["measurement_id"], "taken_on": "2026-09-24", "early": True, "zones": zones}
    assert client.post(f"/api/photos/{photo['id']}/accept", json=body).status_code == 201
    colours = client.get(f"/api/studies/{study}/colours").json()["zones"]
    assert {(one["swatch"], one["zone"].lower()) for one in colours} == {
        (one["swatch"], name.lower()) for one in sheet["assignments"] for name in SOURCES
    }
    reference = {"mode": "factor", "factor": "source", "level": "tansy"}
    found = client.post(f"/api/studies/{study}/compare", json=reference).json()["differences"]
    assert {one["cell"] for one in found} == {"fibre=silk;source=dock", "fibre=wool;source=dock"}
    lab_of = {one["zone"].lower(): one["colour"]["lab"] for one in colours}
    assert lab_of["dock"][1] > lab_of["tansy"][1] + 10
    assert all(one["difference"]["de00"] > 10 and one["distinguishable"] for one in found)
