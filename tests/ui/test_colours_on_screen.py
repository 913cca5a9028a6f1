"""What the grid shows of readings: colours, differences, ratings and what cannot be told."""

import re

import pytest
from playwright.sync_api import Locator, Page, expect
from tests.seeded_readings import add_readings, new_study, new_trial
from tests.small_study import small_plan

from zesty_grid.store.database import Database

WOOL = "fibre=wool;mordant={};dye=dried-flowers;ph=ph-4;iron={}"
PLAIN, IRON = WOOL.format("alum-hot", "iron-0"), WOOL.format("alum-hot", "iron-1")
BARE, BARE_IRON = WOOL.format("none", "iron-0"), WOOL.format("none", "iron-1")


@pytest.fixture
def codes(address: str, database: Database) -> dict[str, str]:
    study, codes = new_study(database, small_plan())
    laid = [
        (codes[PLAIN], "whole", (70.0, 10.0, 60.0)),
        (codes[IRON], "whole", (45.0, 2.0, 20.0)),
        (codes[BARE], "whole", (80.0, 2.0, 30.0)),
        (codes[BARE_IRON], "whole", (80.4, 2.0, 30.0)),
    ]
    add_readings(database, study, laid)
    return codes


def fills(cell: Locator) -> list[str]:
    everything = cell.locator("svg > path, g rect").evaluate_all("all => all.map(r => r.getAttribute('fill'))")
    return [fill for fill in everything if fill.startswith("#")]


def cell_of(page: Page, key: str) -> Locator:
    return page.locator(f"[data-cell='{key}']")


def test_a_read_swatch_shows_its_measured_colour_code_and_words(page: Page, codes):
    page.goto("/#/study/1/read")
    cell = cell_of(page, PLAIN)
    expect(cell).to_contain_text(codes[PLAIN])
    expect(cell).to_have_attribute("aria-label", re.compile(r"yellow, L\* 70.0 a\* 10.0 b\* 60.0"))
    # L* 70, a* 10, b* 60 under D50 is about #c9a42f in sRGB: strong in red, weak in blue.
    (fill,) = fills(cell)
    red, green, blue = (int(fill[i : i + 2], 16) for i in (1, 3, 5))
    assert red > green > blue + 80
    cell.click()
    panel = page.get_by_role("complementary")
    expect(panel.get_by_text("±0.5 ΔE00").first).to_be_visible()
    expect(panel.get_by_text("24 Sept 2026").first).to_be_visible()


def test_differences_that_drown_in_the_measuring_are_marked(page: Page, codes):
    page.goto("/#/study/1/compare")
    panel = page.get_by_role("complementary")
    panel.get_by_label("Or: same but for").click()
    page.get_by_role("option", name="Iron: iron 0").click()
    # 0.4 in lightness at L* 80 is a ΔE00 of about 0.3, below what is told within one photo (1.1).
    expect(cell_of(page, BARE_IRON)).to_contain_text("≈ 0.3")
    expect(cell_of(page, IRON).locator(".code")).to_have_text(re.compile(r"^\d\d\.\d\s*$"))
    expect(panel.get_by_role("heading", name="2 differences, 1 too small to tell")).to_be_visible()
    expect(panel.get_by_text("darker, greener, bluer")).to_be_visible()
    expect(panel.get_by_text("too small to tell: below 1.1")).to_be_visible()
    error = panel.get_by_role("note", name="What the error is")
    expect(error).to_contain_text("Looked at: the error of reading colour.")
    expect(error).to_contain_text("Whether it would come out so again is in What is real.")


def test_a_control_can_be_the_reference(page: Page, codes, database):
    undyed = "control=undyed;fibre=wool"
    add_readings(database, 1, [(codes[undyed], "whole", (85.0, 0.0, 12.0))])
    page.goto("/#/study/1/compare")
    cell_of(page, undyed).click()
    panel = page.get_by_role("complementary")
    panel.get_by_role("button", name=f"Compare with {codes[undyed]}").click()
    expect(cell_of(page, undyed)).to_contain_text("ref")
    expect(panel.get_by_role("heading", name="4 differences, 0 too small to tell")).to_be_visible()


def test_fading_is_seen_as_two_halves_with_its_rating_at_each_stage(page: Page, codes, database):
    trial = new_trial(
        database,
        1,
        {
            "kind": "light",
            "name": "Window",
            "swatches": [codes[PLAIN], codes[BARE]],
            "stages": [
                {"label": "2 days", "days": 2, "dose_lxh": 2e5},
                {"label": "8 days", "days": 8, "dose_lxh": 8e5},
            ],
        },
    )
    for stage, faded in enumerate(((72.0, 9.0, 52.0), (78.0, 6.0, 30.0))):
        laid = [
            (codes[PLAIN], "dark", (70.0, 10.0, 60.0)),
            (codes[PLAIN], "light", faded),
            (codes[BARE], "dark", (80.0, 2.0, 30.0)),
            (codes[BARE], "light", (80.0, 2.0, 30.0)),
        ]
        add_readings(database, 1, laid, trial, stage)
    page.goto("/#/study/1/fade")
    cell = cell_of(page, PLAIN)
    expect(cell).to_have_attribute("aria-label", re.compile("rating"))
    assert len(fills(cell)) == 2
    assert len(set(fills(cell))) == 2
    expect(cell_of(page, BARE)).to_contain_text("5")
    panel = page.get_by_role("complementary")
    panel.get_by_role("button", name="2 days").click()
    expect(cell).to_have_attribute("aria-label", re.compile("rating 3, ΔE00|rating 3-4|rating 2-3"))
    cell.click()
    page.get_by_role("tab", name="Curves").click()
    chart = page.get_by_role("img", name=re.compile(f"Change over light. {codes[PLAIN]}"))
    expect(chart).to_be_visible()
    expect(chart.locator("circle")).to_have_count(2)
    expect(panel.get_by_text("Rating").first).to_be_visible()


def test_what_another_device_reads_is_shown_without_a_reload(page: Page, codes, database):
    page.goto("/#/study/1/read")
    cell = cell_of(page, PLAIN)
    expect(cell).to_have_attribute("aria-label", re.compile(r"L\* 70.0"))
    add_readings(database, 1, [(codes[PLAIN], "whole", (60.0, 10.0, 60.0))])
    expect(cell).to_have_attribute("aria-label", re.compile(r"L\* 65.0"))


def test_all_readings_of_a_state_are_shown_by_their_mean_and_scatter(page: Page, codes, database):
    add_readings(database, 1, [(codes[PLAIN], "whole", (60.0, 10.0, 60.0))])
    page.goto("/#/study/1/read")
    cell = cell_of(page, PLAIN)
    expect(cell).to_have_attribute("aria-label", re.compile(r"L\* 65.0"))
    cell.click()
    own = page.get_by_role("group", name=f"Readings of {codes[PLAIN]}")
    expect(own.get_by_text("mean of 2 readings")).to_be_visible()
    expect(own.get_by_text("they scatter by")).to_be_visible()
    # One of them is put aside: it stays, and no longer counts.
    own.get_by_text("The 2 readings behind it").click()
    own.get_by_role("checkbox").last.uncheck()
    expect(cell).to_have_attribute("aria-label", re.compile(r"L\* 70.0"))
    expect(own.get_by_role("checkbox")).to_have_count(2)


def test_replicates_lie_side_by_side_and_count_as_their_mean(page: Page, address: str, database: Database):
    study, codes = new_study(database, small_plan(replicates=2))
    colours = {PLAIN: (60.0, 0.0, 0.0), f"{PLAIN}#2": (64.0, 0.0, 0.0), BARE: (70.0, 0.0, 0.0)}
    add_readings(database, study, [(codes[key], "whole", lab) for key, lab in colours.items()])
    page.goto(f"/#/study/{study}/read")
    expect(cell_of(page, PLAIN)).to_contain_text(f"{codes[PLAIN]}+1")
    expect(cell_of(page, PLAIN)).to_have_attribute("aria-label", re.compile(r"L\* 60"))
    assert len(fills(cell_of(page, PLAIN))) == 2
    assert len(fills(cell_of(page, BARE))) == 1
    page.get_by_role("button", name="6Compare").click()
    panel = page.get_by_role("complementary")
    cell_of(page, BARE).click()
    panel.get_by_role("button", name=f"Compare with {codes[BARE]}").click()
    # The mean of L* 60 and 64 is 62; against 70 that is a ΔE00 of 6.6 (Sharma et al. 2005:
    # S_L at a mean L* of 66 is 1.19, and 8/1.19 = 6.7).
    expect(cell_of(page, PLAIN)).to_contain_text(re.compile(r"6\.[5-8]"))
