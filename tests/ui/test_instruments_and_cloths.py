"""At the desk, in the browser: an instrument's file, a chart and a tile of one's own, photos taken
with the device, and areas drawn where there is no sheet."""

import re
from dataclasses import replace
from pathlib import Path

import numpy as np
from playwright.sync_api import Page, expect
from tests import patient_http as http
from tests.api.test_areas import bare
from tests.cloth_spectra import NM
from tests.photographs import photograph
from tests.ui.test_photo_session import SHOT, cloths_of, look, read_lens, sheet, study, taken

from zesty_grid.core.read.sheet_layout import Sheet
from zesty_grid.demo.station_chart import station_chart, station_spectra
from zesty_grid.standins.cloth import Cloth
from zesty_grid.standins.scene import Scene, Shade
from zesty_grid.standins.spectrophotometer import Spectrophotometer

__all__ = ["sheet", "study"]
GREEN = 0.30 + 0.28 * np.exp(-(((NM - 515) / 60) ** 2))


def test_an_instrument_s_file_is_pasted_looked_at_and_kept(page: Page, study: str, sheet: dict):
    codes = [one["swatch"] for one in sheet["assignments"]]
    spectra = {code: GREEN * (0.4 + 0.05 * i) for i, code in enumerate(codes[:4])}
    text = Spectrophotometer().export(spectra | {"bought skein": GREEN})
    read = read_lens(page)
    read.get_by_role("button", name="Bring in a file").click()
    dialog = page.get_by_role("dialog")
    # Values without their light have to be asked about before they can be told apart.
    dialog.get_by_label("Text of the file").fill(f"name,L,a,b\n{codes[0]},50,20,10\n")
    dialog.get_by_role("button", name="Look at it").click()
    expect(dialog.get_by_text("does not say for which light")).to_be_visible()
    dialog.get_by_label("Values are for").click()
    page.get_by_role("option", name="D65").click()
    dialog.get_by_role("button", name="Look at it").click()
    expect(dialog.get_by_text("stand apart from colours for D50")).to_be_visible()
    dialog.get_by_role("button", name="Cancel").click()

    read.get_by_role("button", name="Bring in a file").click()
    dialog.get_by_label("Text of the file").fill(text)
    dialog.get_by_label("Instrument", exact=True).fill("Borrowed one")
    dialog.get_by_role("button", name="Look at it").click()
    samples = dialog.get_by_role("list", name="Samples").get_by_role("listitem")
    expect(samples).to_have_count(5)
    expect(samples.nth(0).get_by_label("It is")).to_have_value(begins_with(codes[0]))
    expect(samples.nth(4).get_by_label("It is")).to_have_value("")
    # The last sample is chosen by its code, from the keyboard.
    samples.nth(4).get_by_label("It is").fill(codes[5])
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Enter")
    dialog.get_by_role("button", name="Keep 5 readings").click()
    expect(dialog).to_be_hidden()
    expect(read.get_by_text("5 samples")).to_be_visible()
    readings = http.get(f"{study}/readings").json()
    assert {one["swatch"] for one in readings} == {*codes[:4], codes[5]}
    page.get_by_role("gridcell").filter(has_text=codes[0]).click()
    expect(read.get_by_text("· by Borrowed one")).to_be_visible()


def begins_with(code: str) -> re.Pattern[str]:

    return re.compile(f"^{code} ")


def test_a_tile_goes_on_the_shelf_and_into_a_free_cell(page: Page, study: str, tmp_path: Path):
    page.goto("/#/shelf")
    page.get_by_role("button", name="Reference cloths and tiles").or_(
        page.get_by_role("tab", name="Reference cloths and tiles")
    ).click()
    page.get_by_role("button", name="New reference cloth").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Name").fill("Green tile")
    dialog.get_by_label("A control tile").check()
    dialog.get_by_role("button", name="Put the reference cloth on the Shelf").click()
    expect(page.get_by_role("button", name="Green tile")).to_be_visible()

    read = read_lens(page)
    read.get_by_label("Leave a cell of each page").check()
    read.get_by_role("button", name="Lay out sheets for").click()
    expect(read.get_by_role("link", name="Whole swatches page 1")).to_be_visible()
    laid = http.get(f"{study}/sheets").json()[0]
    free = laid["sheet"]["cells"][-1]["cell"]
    assert free not in {one["cell"] for one in laid["assignments"]}
    cloths = [*cloths_of(laid), Cloth(free, GREEN, 0.82)]
    page.get_by_label("Photos").set_input_files(taken(tmp_path, laid, cloths, "with a tile"))
    expect(read.get_by_text("1 waiting")).to_be_visible()
    dialog = look(page, read)
    dialog.get_by_role("button", name=f"Look closer at {free}").click()
    dialog.get_by_label("What lies here").fill("Green")
    page.get_by_role("option", name="Green tile").click()
    dialog.get_by_role("button", name="All pieces").click()
    expect(dialog.get_by_role("checkbox", name="Accept Green tile")).to_be_checked()
    dialog.get_by_role("button", name=f"Accept {len(cloths)} readings").click()
    dialog.get_by_role("button", name="They are dry: accept them early").or_(
        read.get_by_text("No photo waits")
    ).first.wait_for()
    page.goto("/#/shelf")
    page.get_by_label("Find on the Shelf").fill("Green tile")
    page.get_by_role("button", name="Green tile").click()
    expect(page.get_by_role("dialog").get_by_text("1 reading")).to_be_visible()


def test_two_in_each_other_s_cell_are_put_right_with_one_press(page: Page, study: str, sheet: dict, tmp_path: Path):
    good = cloths_of(sheet)
    read = read_lens(page)
    page.get_by_label("Photos").set_input_files(taken(tmp_path, sheet, good, "first"))
    expect(read.get_by_text("1 waiting")).to_be_visible()
    look(page, read).get_by_role("button", name="readings").click()
    expect(read.get_by_text("No photo waits")).to_be_visible()
    swapped = [
        replace(good[0], reflectance=good[1].reflectance),
        replace(good[1], reflectance=good[0].reflectance),
        *good[2:],
    ]
    page.get_by_label("Photos").set_input_files(taken(tmp_path, sheet, swapped, "the second"))
    expect(read.get_by_text("1 waiting")).to_be_visible()
    dialog = look(page, read)
    first, second = (one["swatch"] for one in sheet["assignments"][:2])
    dialog.get_by_role("button", name=f"Yes: {second} here, {first} in A2").click()
    expect(dialog.get_by_text("Said so.")).to_have_count(2)
    expect(dialog.get_by_text(f"said instead of {first}")).to_be_visible()
    dialog.get_by_role("button", name="readings").click()
    expect(read.get_by_text("No photo waits")).to_be_visible()
    labs = [one["lab"] for one in http.get(f"{study}/readings").json() if one["swatch"] == first]
    assert np.abs(np.array(labs[0]) - np.array(labs[1])).max() < 3


def test_a_shot_says_at_once_what_is_wrong_and_where(page: Page, study: str, sheet: dict, tmp_path: Path):
    page.set_viewport_size({"width": 390, "height": 800})
    page.goto("/#/study/1/read/take")
    dialog = page.get_by_role("dialog", name="Take photos")
    expect(dialog.get_by_text("Without a photo yet: page 1")).to_be_visible()
    x, y, w, h = sheet["sheet"]["cells"][1]["rect_mm"]
    shade = Shade((x - 6, y - 6, w + 12, h + 12), 0.3)
    camera = dialog.locator("input[aria-label=Camera]")
    camera.set_input_files(taken(tmp_path, sheet, cloths_of(sheet), "shadow", shades=(shade,)))
    note = dialog.get_by_role("note").filter(has_text="A2")
    expect(note.get_by_text("The light differs here")).to_be_visible()
    camera.set_input_files(taken(tmp_path, sheet, cloths_of(sheet), "hidden", hidden_marker=2))
    expect(dialog.get_by_role("alert")).to_contain_text("marker is covered or outside")
    expect(dialog.get_by_role("button", name="Take it again")).to_be_visible()
    camera.set_input_files(taken(tmp_path, sheet, cloths_of(sheet), "good one"))
    expect(dialog.get_by_text("pieces read")).to_be_visible()
    dialog.get_by_role("button", name="Done").click()
    expect(page.get_by_text("3. Look and accept: 2 waiting")).to_be_visible()


def test_a_chart_of_ones_own_goes_on_the_shelf_and_its_sheet_is_read(page: Page, study: str, tmp_path: Path):
    page.goto("/#/shelf")
    page.get_by_role("button", name="Charts").or_(page.get_by_role("tab", name="Charts")).click()
    page.get_by_role("button", name="New chart").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Name").fill("Painted card")
    file = tmp_path / "card.json"
    file.write_text(station_chart().model_dump_json())
    dialog.get_by_label("Chart file").set_input_files(file)
    expect(dialog.get_by_role("img", name="5 rows of 8 patches")).to_be_visible()
    expect(dialog.get_by_text("for the tone curve")).to_be_visible()
    dialog.get_by_role("button", name="Put the chart on the Shelf").click()
    expect(page.get_by_role("button", name="Painted card")).to_be_visible()
    read = read_lens(page)
    read.get_by_label("Chart", exact=True).click()
    page.get_by_role("option", name="Painted card").click()
    read.get_by_role("button", name="Lay out sheets for").click()
    expect(read.get_by_role("link", name="Whole swatches page 1")).to_be_visible()
    laid = http.get(f"{study}/sheets").json()[0]
    scene = Scene(Sheet.model_validate(laid["sheet"]), tuple(cloths_of(laid)), chart_spectra=station_spectra())
    photo = tmp_path / "own.jpg"
    photo.write_bytes(photograph(scene, replace(SHOT, seed=2)))
    page.get_by_label("Photos").set_input_files(photo)
    expect(read.get_by_text("1 waiting")).to_be_visible()


def test_areas_are_drawn_on_a_photo_that_has_no_sheet(page: Page, study: str, tmp_path: Path):
    data, where = bare()
    file = tmp_path / "table.jpg"
    file.write_bytes(data)
    read = read_lens(page)
    page.get_by_label("Photos").set_input_files(file)
    read.get_by_role("button", name="It holds a chart: draw the areas by hand").click()
    expect(read.get_by_text("1 waiting")).to_be_visible()
    read.get_by_role("button", name="Look", exact=True).first.click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_role("button", name="Draw an area").click()
    picture = page.get_by_test_id("outlines")
    box = picture.bounding_box()
    assert box is not None
    for x, y in where["A3"]:
        page.mouse.click(box["x"] + x / 2400 * box["width"], box["y"] + y / 1800 * box["height"])
    dialog.get_by_role("button", name="Close the outline").click()
    dialog.get_by_role("button", name="Measure these").click()
    expect(dialog.get_by_text("No paper here tells of the light")).to_be_visible()
    dialog.get_by_label("What lies here").click()
    page.get_by_role("option").first.click()
    dialog.get_by_role("button", name="Accept 1 reading").click()
    expect(dialog).to_be_hidden()
    assert len(http.get(f"{study}/readings").json()) == 1
