"""At the photo table, in the browser: photos of several kinds at once, corrected and accepted."""

from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from playwright.sync_api import Locator, Page, expect
from tests import patient_http as http
from tests.cloth_spectra import NM, dyed
from tests.photographs import photograph
from tests.small_study import small_plan

from zesty_grid.core.read.sheet_layout import Sheet
from zesty_grid.standins.camera import Shot
from zesty_grid.standins.cloth import Cloth, Motif
from zesty_grid.standins.scene import Scene, Shade

SHOT = Shot(width_px=2000, height_px=1500)
SUFFIXES = {"JPEG": "jpg", "HEIC": "heic", "AVIF": "avif", "WEBP": "webp", "PNG": "png", "TIFF16": "tif", "DNG": "dng"}
WHITE = 0.85 - 0.1 * np.exp(-(NM - 380) / 90)
RED = 0.05 + 0.7 / (1 + np.exp(-(NM - 600) / 12))
BLUE = 0.08 + 0.35 * np.exp(-(((NM - 470) / 45) ** 2))


@pytest.fixture
def study(address: str) -> str:
    made = http.post(f"{address}/api/studies", json=small_plan())
    assert made.status_code == 201
    return f"{address}/api/studies/{made.json()['id']}"


@pytest.fixture
def sheet(study: str) -> dict:
    return http.post(f"{study}/sheets", json={}).json()[0]


def cloths_of(sheet: dict, seed: int = 7) -> list[Cloth]:
    rng = np.random.default_rng(seed)
    return [Cloth(a["cell"], dyed(rng), 0.82) for a in sheet["assignments"]]


def taken(folder: Path, sheet: dict, cloths: list[Cloth], name: str, kind: str = "JPEG", **more):
    scene = Scene(Sheet.model_validate(sheet["sheet"]), tuple(cloths), **more)
    file = folder / f"{name}.{SUFFIXES[kind]}"
    file.write_bytes(photograph(scene, replace(SHOT, seed=len(name)), kind))
    return file


def read_lens(page: Page) -> Locator:
    page.goto("/#/study/1/read")
    return page.get_by_role("complementary")


def look(page: Page, read: Locator, name: str = "") -> Locator:
    read.get_by_role("button", name="Look", exact=True).first.click()
    dialog = page.get_by_role("dialog")
    expect(dialog.get_by_role("img", name="Photo of sheet")).to_be_visible()
    return dialog


def with_a_print(sheet: dict) -> list[Cloth]:
    printed = Cloth("A1", WHITE, 0.9, motifs=(Motif("half", RED, 0.4), Motif("corner", BLUE, 0.25)))
    return [printed, *cloths_of(sheet)[1:]]


def test_ten_photos_of_several_kinds_dropped_at_once(page: Page, address: str, study: str, sheet: dict, tmp_path: Path):
    other = http.post(f"{address}/api/studies", json=small_plan(name="The other one")).json()["id"]
    others_sheet = http.post(f"{address}/api/studies/{other}/sheets", json={}).json()[0]
    good = cloths_of(sheet)
    files = [taken(tmp_path, sheet, good, f"kind {kind}", kind) for kind in SUFFIXES]
    files.append(taken(tmp_path, sheet, with_a_print(sheet), "a print"))
    files.append(taken(tmp_path, others_sheet, cloths_of(others_sheet), "of another study"))
    broken = tmp_path / "broken.heic"
    broken.write_bytes(files[1].read_bytes()[:5000])
    files.append(broken)
    read = read_lens(page)
    page.get_by_label("Photos").set_input_files(files)
    expect(read.get_by_text("3. Look and accept: 8 waiting")).to_be_visible(timeout=120_000)
    expect(read.get_by_text("This is not a photo that can be read.")).to_be_visible()
    expect(read.get_by_role("button", name="It waits in The other one")).to_be_visible()

    # All that is clear goes in one press; the print, which has three colours, waits and says why.
    read.get_by_role("button", name="Accept all that have nothing to ask").click()
    expect(read.get_by_text("7 photos were accepted.")).to_be_visible()
    expect(read.get_by_text("a print.jpg waits: ")).to_be_visible()
    expect(read.get_by_text("3. Look and accept: 1 waiting")).to_be_visible()
    readings = http.get(f"{study}/readings").json()
    assert len(readings) == 7 * len(sheet["assignments"])


def test_three_zones_of_a_print_are_named_and_accepted(page: Page, study: str, sheet: dict, tmp_path: Path):
    read = read_lens(page)
    page.get_by_label("Photos").set_input_files(taken(tmp_path, sheet, with_a_print(sheet), "a print"))
    dialog = look(page, read)
    pieces = dialog.get_by_role("list", name="Pieces in the photo")
    expect(pieces.get_by_text("The piece has more than one colour.")).to_be_visible()
    dialog.get_by_role("button", name="Look closer at A1").click()
    for zone, name in (("1", "ground"), ("2", "leaf"), ("3", "line")):
        dialog.get_by_label(f"Name of zone {zone}").fill(name)
    expect(dialog.get_by_role("img", name="Cell A1: What was used")).to_be_visible()
    dialog.get_by_role("button", name="Levelness").click()
    expect(dialog.get_by_role("img", name="Cell A1: Levelness")).to_be_visible()
    dialog.get_by_role("button", name="All pieces").click()
    # One piece is left out, the other seventeen readings are taken: fourteen pieces, three zones.
    last = sheet["assignments"][-1]["swatch"]
    dialog.get_by_role("checkbox", name=f"Accept {last}").click()
    count = len(sheet["assignments"]) - 1 + 3
    dialog.get_by_role("button", name=f"Accept {count} readings").click()
    expect(dialog).to_be_hidden()
    readings = http.get(f"{study}/readings").json()
    assert {one["zone"] for one in readings} == {"", "ground", "leaf", "line"}
    assert last not in {one["swatch"] for one in readings}


def photo_of(study: str) -> dict:
    """The newest photo of a study, with all that was measured in it."""
    number = http.get(f"{study}/photos").json()[0]["id"]
    return http.get(f"{study.partition('/api/')[0]}/api/photos/{number}").json()


def test_an_outline_is_corrected_with_keys_and_mouse(page: Page, study: str, sheet: dict, tmp_path: Path):
    read = read_lens(page)
    page.get_by_label("Photos").set_input_files(taken(tmp_path, sheet, cloths_of(sheet), "plain"))
    dialog = look(page, read)
    dialog.get_by_role("button", name="Look closer at A2").click()
    dialog.get_by_role("button", name="Draw by hand").click()
    outlines = dialog.get_by_role("group", name="Outlines in cell A2")
    first = outlines.get_by_role("button", name="Point 1", exact=True)
    before = float(first.get_attribute("cx"))
    first.focus()
    page.keyboard.press("Shift+ArrowRight")
    assert float(first.get_attribute("cx")) == before + 12
    # Drag another point with the mouse.
    second = outlines.get_by_role("button", name="Point 2", exact=True)
    box = second.bounding_box()
    start = (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    at = float(second.get_attribute("cy"))
    page.mouse.move(*start)
    page.mouse.down()
    page.mouse.move(start[0], start[1] - 20)
    page.mouse.up()
    assert float(second.get_attribute("cy")) != at
    # And leave a corner out, point by point.
    outlines.get_by_role("button", name="Leave a part out").click()
    frame = dialog.get_by_test_id("outlines").bounding_box()
    for across, down in ((0.3, 0.3), (0.5, 0.3), (0.5, 0.5)):
        page.mouse.click(frame["x"] + across * frame["width"], frame["y"] + down * frame["height"])
    outlines.get_by_role("button", name="Close the outline").click()
    outlines.get_by_label("Name of part 1").fill("the even part")
    outlines.get_by_role("button", name="Measure these").click()
    expect(dialog.get_by_role("group", name="Cell A2", exact=True)).to_be_visible()
    kept = photo_of(study)["measurement"]["by_hand"]
    assert [one["cell"] for one in kept] == ["A2"]
    assert len(kept[0]["areas"]) == 1
    assert len(kept[0]["left_out"]) == 1
    dialog.get_by_role("button", name="As it was found").click()
    dialog.get_by_role("button", name="Nothing lies here").click()
    expect(dialog.get_by_text("Nothing lies here, or it looks like the page.")).to_be_visible()


def test_a_shadow_is_said_on_its_cell_and_a_photo_is_set_aside(page: Page, study: str, sheet: dict, tmp_path: Path):
    x, y, w, h = Sheet.model_validate(sheet["sheet"]).cells[3].rect_mm
    shade = Shade((x - 3, y - 3, w + 6, h + 6), 0.25)
    read = read_lens(page)
    page.get_by_label("Photos").set_input_files(taken(tmp_path, sheet, cloths_of(sheet), "shade", shades=(shade,)))
    dialog = look(page, read)
    row = dialog.get_by_role("listitem").filter(has_text="A4")
    expect(row.get_by_text("The light differs here")).to_be_visible()
    dialog.get_by_role("button", name="Set the photo aside").click()
    expect(dialog.get_by_role("button", name="Bring the photo back")).to_be_visible()
    dialog.get_by_role("button", name="Close", exact=True).click()
    expect(read.get_by_text("No photo waits to be accepted.")).to_be_visible()
    read.get_by_text("1 photo set aside").click()
    expect(read.get_by_text("shade.jpg · sheet")).to_be_visible()


def test_photos_are_read_again_and_the_person_chooses_which_count(page: Page, study: str, sheet: dict, tmp_path: Path):
    read = read_lens(page)
    page.get_by_label("Photos").set_input_files(taken(tmp_path, sheet, cloths_of(sheet), "plain"))
    look(page, read).get_by_role("button", name="Accept").click()
    read.get_by_text("1 accepted photo").click()
    read.get_by_role("button", name="Read it again").click()
    expect(read.get_by_text("3. Look and accept: 1 waiting")).to_be_visible()
    dialog = look(page, read)
    dialog.get_by_role("checkbox", name="This sheet at this moment was read before").click()
    dialog.get_by_role("button", name="Accept").click()
    expect(dialog).to_be_hidden()
    first = sheet["assignments"][0]["swatch"]
    counts = [o["counts"] for o in http.get(f"{study}/readings").json() if o["swatch"] == first]
    assert counts == [True, False]
