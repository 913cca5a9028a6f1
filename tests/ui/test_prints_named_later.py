"""A print that was read and accepted without names: it stays in sight, and is named later."""

import re
from dataclasses import replace
from pathlib import Path

from playwright.sync_api import Page, expect
from tests import patient_http as http
from tests.photographs import photograph
from tests.ui.test_ways_of_working import PRINT, SHOT, SOURCES, made, printed

from zesty_grid.core.read.sheet_layout import Sheet
from zesty_grid.standins.scene import Scene


def photo_of(sheet: dict, folder: Path, seed: int) -> Path:
    scene = Scene(Sheet.model_validate(sheet["sheet"]), tuple(printed(sheet)))
    path = folder / f"prints-{seed}.jpg"
    path.write_bytes(photograph(scene, replace(SHOT, seed=seed)))
    return path


def look(page: Page, photo: Path):
    page.goto("/#/study/1/read")
    page.get_by_label("Photos").set_input_files(photo)
    read = page.get_by_role("complementary")
    read.get_by_role("button", name="Look", exact=True).first.click(timeout=120_000)
    return page.get_by_role("dialog")


def test_a_print_accepted_without_names_is_seen_and_named_later(page: Page, address: str, tmp_path: Path):
    for name in SOURCES:
        lot = {"kind": "dye_lot", "key": name.lower(), "name": name, "state": "fresh"}
        http.post(f"{address}/api/shelf", json=lot)
    study = made(address, PRINT)
    (sheet,) = http.post(f"{study}/sheets", json={}).json()
    dialog = look(page, photo_of(sheet, tmp_path, 5))
    # Two zones of each of two cloths, and no mean of them.
    dialog.get_by_role("button", name="Accept 4 readings").click()
    expect(dialog).to_be_hidden()
    first, second = (one["swatch"] for one in sheet["assignments"])
    for name in SOURCES:
        cell = page.get_by_role("gridcell", name=re.compile(f"{first}, zone {name}"))
        expect(cell).to_have_attribute("aria-label", re.compile(r"zones not named yet.*L\* \d"))
    page.goto("/#/study/1/compare")
    expect(page.get_by_text("4 zones are read and not named yet.").first).to_be_visible()

    page.goto("/#/study/1/read")
    page.get_by_role("gridcell", name=re.compile(f"{first}, zone")).first.click()
    own = page.get_by_role("group", name=f"Readings of {first}")
    for zone, name in (("zone 1", "Tansy"), ("zone 2", "Dock, halo")):
        own.get_by_label(f"Name of {zone}").fill(name)
        own.get_by_role("button", name="Name it").and_(own.locator(":enabled")).click()
        expect(own.get_by_label(f"Name of {zone}")).to_be_hidden()
    cell = page.get_by_role("gridcell", name=re.compile(f"{first}, zone Dock"))
    expect(cell).to_have_attribute("aria-label", re.compile(r"zone Dock, (?!zones not named).*L\* \d"))
    said = {one["zone"] for one in http.get(f"{study}/readings").json() if one["swatch"] == first}
    assert said == {"Tansy", "Dock, halo"}
    # The same cloth in the next photo has its names proposed; the other has none yet.
    dialog = look(page, photo_of(sheet, tmp_path, 6))
    dialog.get_by_role("button", name=f"Look closer at {sheet['assignments'][0]['cell']}").click()
    expect(dialog.get_by_label("Name of zone 1")).to_have_value("Tansy")
    expect(dialog.get_by_label("Name of zone 2")).to_have_value("Dock, halo")
    assert second not in {one["swatch"] for one in http.get(f"{study}/readings").json() if one["zone"] == "Tansy"}
