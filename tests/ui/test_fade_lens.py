"""The Fade lens: a trial from choosing the pieces to their life in a place."""

import re
from datetime import UTC, date, datetime, time, timedelta

import numpy as np
import pytest
from playwright.sync_api import Page, Route, expect
from tests.cloth_spectra import NM
from tests.photographs import photograph
from tests.seeded_readings import add_readings, new_study
from tests.small_study import small_plan

from zesty_grid.core.read.sheet_layout import Sheet
from zesty_grid.standins.camera import Shot
from zesty_grid.standins.cloth import Cloth
from zesty_grid.standins.scene import Scene
from zesty_grid.store.database import Database

DARK = (45.0, 40.0, 20.0)
RED = 0.05 + 0.7 / (1 + np.exp(-(NM - 600) / 14))


pytestmark = pytest.mark.usefixtures("ends_on_the_same_day")


def began() -> date:
    return date.today() - timedelta(11)


@pytest.fixture
def codes(database: Database) -> list[str]:
    _, codes = new_study(database, small_plan())
    return sorted(codes.values())


def begin(page: Page) -> None:
    """A trial of four proposed swatches that began eleven days ago, in a south window."""
    page.goto("/#/study/1/fade")
    panel = page.get_by_role("complementary")
    panel.get_by_role("button", name="Start a trial").click()
    panel.get_by_label("Name of the trial").fill("Kitchen sill")
    panel.get_by_label("Pieces").fill("4")
    panel.get_by_role("button", name="Propose those that tell most").click()
    expect(panel.get_by_text("4 pieces show")).to_be_visible()
    panel.get_by_label("Begins on").fill(began().isoformat())
    panel.get_by_label("Read after days").fill("1 2 4 8 16")
    panel.get_by_role("button", name="Start with 4 swatches").click()
    expect(panel.get_by_role("button", name="16 days (due)")).to_be_visible()


def hang_in_a_window(page: Page) -> None:
    panel = page.get_by_role("complementary")
    panel.get_by_role("button", name="Say where they hang").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_role("button", name="A window", exact=True).click()
    dialog.get_by_label("Town").fill("porto")
    page.get_by_role("option", name="Porto, Portugal").click()
    expect(dialog.get_by_label("Latitude")).to_have_value(re.compile(r"41\.1"))
    dialog.get_by_role("button", name="Work out the light of this window").click()
    expect(dialog.get_by_role("img", name=re.compile("Light of .* days"))).to_be_visible()
    dialog.get_by_role("button", name="Keep it as a place to live in").click()
    expect(dialog.get_by_role("button", name="It is a place on the Shelf")).to_be_visible()
    dialog.get_by_role("button", name="Keep", exact=True).click()
    expect(dialog).to_be_hidden()


def read_stages(database: Database, trial: int, chosen: list[str]) -> None:
    """The first four stages: two swatches that fade, one that hardly does, one not at all."""
    for stage, days in enumerate((1, 2, 4, 10)):
        part = 1 - 0.6**days
        laid = []
        for n, code in enumerate(chosen):
            change = (18 * part, 12 * part, 1.0 * part, 0.0)[n]
            exposed = (DARK[0] + change, DARK[1] - 0.9 * change, DARK[2])
            laid += [(code, "dark", DARK), (code, "light", exposed)]
        at = datetime.combine(began() + timedelta(days), time(12), tzinfo=UTC)
        add_readings(database, 1, laid, trial, stage, accepted_at=at)


def chosen_of(page: Page) -> list[str]:
    return page.request.get("/api/studies/1/trials").json()[0]["plan"]["swatches"]


def test_from_choosing_to_the_life_in_a_place(page: Page, codes, database):
    begin(page)
    # What is late stands in Today, with what to do about it.
    page.get_by_role("button", name="Today").or_(page.get_by_role("link", name="Today")).click()
    expect(page.get_by_text("“1 day” was due 10 days ago: read it now")).to_be_visible()
    page.goto("/#/study/1/fade")
    hang_in_a_window(page)
    chosen = chosen_of(page)
    read_stages(database, 1, chosen)
    page.reload()
    panel = page.get_by_role("complementary")
    # The stage of eight days was read on the tenth: its dose is what it really was.
    expect(panel.get_by_text("2 days late")).to_be_visible()
    expect(panel.get_by_text(re.compile(r"Mlx·h \(.*\), Window")).first).to_be_visible()

    page.get_by_role("tab", name="Strips").click()
    strips = page.get_by_role("list", name="Strips of stages").get_by_role("listitem")
    expect(strips).to_have_count(4)
    first, last = strips.first, strips.last
    expect(last).to_have_attribute("aria-label", re.compile(f"{chosen[0]}.*8 days: rating"))
    expect(first).to_have_attribute("aria-label", re.compile("no change that can be told"))
    strips.nth(0).focus()
    page.keyboard.press("ArrowDown")
    expect(strips.nth(1)).to_be_focused()

    page.get_by_role("tab", name="Curves").click()
    chart = page.get_by_role("img", name=re.compile("Change over light"))
    expect(chart).to_be_visible()
    expect(chart.locator("polygon")).to_have_count(4)
    page.get_by_label("Dose on a log scale").click()
    expect(chart.locator("circle")).to_have_count(16)
    page.get_by_label("By dye").click()
    expect(page.get_by_role("img", name=re.compile("Dried-flowers: 4 swatches"))).to_be_visible()
    row = page.get_by_role("row", name=chosen[0])
    expect(row).to_contain_text(re.compile(r"Mlx·h \("))

    page.get_by_role("tab", name="What lasts").click()
    order = page.get_by_role("region", name="Swatches in order of lasting")
    expect(order.get_by_text("lasts less, by").first).to_be_visible()
    expect(page.get_by_role("region", name="What factors do to lasting")).to_be_visible()
    rows = order.get_by_role("link")
    best_first = rows.all_inner_texts()
    page.get_by_role("button", name="From what lasts least").click()
    expect(rows.first).to_have_text(best_first[-1])
    assert rows.all_inner_texts() == best_first[::-1]
    expect(order.get_by_text("lasts better, by").first).to_be_visible()

    page.get_by_role("tab", name="Life").click()
    page.get_by_label("In", exact=True).click()
    page.get_by_role("option", name="Window", exact=True).click()
    slider = page.locator("main").get_by_role("slider").first
    slider.focus()
    page.keyboard.press("Home")
    expect(slider).to_have_attribute("aria-valuetext", "0 years")
    for _ in range(4):
        page.keyboard.press("ArrowRight")
    expect(slider).to_have_attribute("aria-valuetext", "1 year")
    expect(page.get_by_text(re.compile(r"After 1 year \(.*Mlx·h\)"))).to_be_visible()
    years = page.get_by_role("table").get_by_role("row", name=chosen[0])
    expect(years).to_contain_text(re.compile("days|months|years"))
    page.get_by_label("Beside").click()
    page.get_by_role("option", name="Museum case").click()
    expect(page.get_by_text("here | there")).to_be_visible()


def test_a_long_work_says_how_far_it_is(page: Page, codes, database):
    begin(page)
    page.goto("/#/study/1/fade")
    hang_in_a_window(page)
    chosen = chosen_of(page)
    read_stages(database, 1, chosen)
    held: list[Route] = []
    page.route("**/lasting/ahead?after=0", lambda one: one.fulfill(json={"done": 300, "of": 1000}))
    # The next question goes on where the first one ended.
    page.route("**/lasting/ahead?after=300", lambda one: held.append(one))
    page.reload()
    with page.expect_request("**/lasting/ahead?after=300"):
        page.get_by_role("tab", name="What lasts").click()
    expect(page.get_by_text("30 % of 500 swatches")).to_be_visible()
    bar = page.get_by_role("progressbar", name="Worked out")
    expect(bar).to_have_attribute("aria-valuenow", "30")
    held[0].fulfill(json={"done": 1000, "of": 1000})
    rows = page.get_by_role("region", name="Swatches in order of lasting").get_by_role("link")
    expect(rows).to_have_count(4)


def test_stages_are_left_out_and_added_by_hand(page: Page, codes):
    begin(page)
    panel = page.get_by_role("complementary")
    panel.get_by_role("button", name="Leave out").first.click()
    expect(panel.get_by_role("button", name="Take it back in")).to_be_visible()
    expect(panel.get_by_text("left out", exact=True)).to_be_visible()
    panel.get_by_role("button", name="Take it back in").click()
    panel.get_by_role("button", name="Add a stage").click()
    panel.get_by_label("After days").fill("32")
    panel.get_by_role("button", name="Add", exact=True).click()
    expect(panel.get_by_role("button", name="32 days (due)")).to_be_visible()
    panel.get_by_role("button", name="The cards were turned").click()
    expect(panel.get_by_text("1 time so far")).to_be_visible()
    page.reload()
    expect(panel.get_by_role("button", name="32 days (due)")).to_be_visible()


def test_a_loggers_file_is_understood_or_refused_in_words(page: Page, codes, tmp_path):
    begin(page)
    lines = [
        f"{datetime.combine(began(), time()) + timedelta(hours=h)},{400 if 6 < h % 24 < 20 else 0}"
        for h in range(24 * 11)
    ]
    good, bad = tmp_path / "log.csv", tmp_path / "bad.csv"
    good.write_text("when,lux\n" + "\n".join(lines))
    bad.write_text("a,b\n1,2\n")
    panel = page.get_by_role("complementary")
    panel.get_by_role("button", name="Say where they hang").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("A logger’s file").set_input_files(bad)
    expect(dialog.get_by_role("alert")).to_contain_text("No times and no light")
    dialog.get_by_label("A logger’s file").set_input_files(good)
    expect(dialog.get_by_text("264 samples from column “lux”")).to_be_visible()
    dialog.get_by_role("button", name="Keep", exact=True).click()
    expect(dialog).to_be_hidden()
    expect(panel.get_by_text("log.csv")).to_be_visible()
    # By hand: 400 lx for 13 hours a day, over the eleven days up to today.
    expect(panel.get_by_text("log.csv 57 klx·h")).to_be_visible()


def test_a_phone_shows_one_swatch_after_another(page: Page, codes, database):
    begin(page)
    read_stages(database, 1, chosen_of(page))
    page.set_viewport_size({"width": 360, "height": 740})
    page.goto("/#/study/1/fade/strips")
    page.reload()
    strips = page.get_by_role("list", name="Strips of stages").get_by_role("listitem")
    expect(strips).to_have_count(1)
    expect(page.get_by_text(re.compile("1 of 4"))).to_be_visible()
    before = strips.first.get_attribute("aria-label")
    page.get_by_role("button", name="Next", exact=True).click()
    expect(page.get_by_text(re.compile("2 of 4"))).to_be_visible()
    assert strips.first.get_attribute("aria-label") != before
    box = strips.first.bounding_box()
    assert box
    assert box["width"] <= 360
    assert page.evaluate("document.documentElement.scrollWidth") <= 360


def test_a_half_covered_piece_goes_from_its_sheet_to_its_strip_by_mouse(page: Page, codes, tmp_path):
    page.goto("/#/study/1/fade")
    page.get_by_role("gridcell").first.click()
    panel = page.get_by_role("complementary")
    panel.get_by_role("button", name="Start a trial").click()
    panel.get_by_label("Name of the trial").fill("Sill")
    panel.get_by_label("Mounted as").click()
    page.get_by_role("option", name="One piece, half covered").click()
    panel.get_by_label("Begins on").fill(began().isoformat())
    panel.get_by_label("Read after days").fill("2 9")
    panel.get_by_role("button", name="Start with 1 swatch").click()
    panel.get_by_role("button", name="Lay out its sheets").click()
    expect(panel.get_by_role("link", name="sheet, page 1")).to_be_visible()
    (laid,) = page.request.get("/api/studies/1/sheets").json()
    cell = laid["assignments"][0]["cell"]
    paler = 0.25 + 0.5 * RED
    cloth = Cloth(cell, RED, 0.85, bands=(RED, paler))
    photo = tmp_path / "half.jpg"
    scene = Scene(Sheet.model_validate(laid["sheet"]), (cloth,))
    photo.write_bytes(photograph(scene, Shot(width_px=2400, height_px=1800)))
    page.goto("/#/study/1/read")
    page.get_by_label("Photos").set_input_files(photo)
    panel.get_by_role("button", name="Look", exact=True).first.click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Taken on").fill((began() + timedelta(9)).isoformat())
    # The day says which stage it is: the second, though the first was never read.
    expect(dialog.get_by_label("Stage of “Sill”")).to_contain_text("9 days")
    dialog.get_by_role("button", name="Accept 2 readings").click()
    expect(dialog).to_be_hidden()
    page.goto("/#/study/1/fade/strips")
    strip = page.get_by_role("list", name="Strips of stages").get_by_role("listitem")
    expect(strip).to_have_attribute("aria-label", re.compile("9 days: rating [12]"))
    expect(panel.get_by_role("button", name="2 days (due)")).to_be_visible()
