"""A plan of a thousand cells, a phone, the dark bench, and every part by keyboard."""

import re

import pytest
from playwright.sync_api import Page, expect
from tests import patient_http as http
from tests.seeded_readings import new_study
from tests.small_study import levels, small_plan, valued

from zesty_grid.store.database import Database


@pytest.fixture
def study(address: str) -> int:
    return http.post(f"{address}/api/studies", json=small_plan()).json()["id"]


@pytest.fixture
def thousand(address: str) -> int:
    factors = [
        {"kind": "fibre", "levels": levels("wool", "silk", "cotton", "linen", "hemp")},
        {"kind": "mordant", "levels": levels("none", "alum-hot", "alum-cold", "alum-acetate", "tannin")},
        {"kind": "dye", "levels": levels("dried-flowers", "dried-bark", "dry-skins", "dye-extract", "insect-dye")},
        {"kind": "ph", "levels": valued("ph", 4, 5.5, 7, 9)},
        {"kind": "iron", "levels": valued("iron", 0, 1)},
    ]
    plan = small_plan(factors=factors, controls=[], swatch_mass_g=4)
    return http.post(f"{address}/api/studies", json=plan).json()["id"]


def test_a_thousand_cells_are_edited_thinned_and_brought_back(page: Page, thousand: int):
    page.goto(f"/#/study/{thousand}/plan")
    panel = page.get_by_role("complementary")
    expect(panel.get_by_text("1000 swatches")).to_be_visible()
    page.get_by_role("rowheader", name="Linen", exact=True).click()
    expect(panel.get_by_text("200 selected")).to_be_visible()
    panel.get_by_role("button", name="Leave out", exact=True).click()
    expect(panel.get_by_text("800 swatches")).to_be_visible()
    panel.get_by_role("button", name="Put back").click()
    expect(panel.get_by_text("1000 swatches")).to_be_visible()
    panel.get_by_role("tab", name="Tell").click()
    panel.get_by_role("button", name="Fit it to a budget").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("At most so many swatches").fill("96")
    dialog.get_by_label("In at most so many dye vessels").fill("12")
    dialog.get_by_role("button", name="Choose the cells").click()
    expect(dialog.get_by_text("96 cells and 0 controls in 12 dye vessels")).to_be_visible()
    first = dialog.get_by_role("status").inner_text()
    dialog.get_by_role("button", name="Another choice").click()
    expect(dialog.get_by_text("Seed 2")).to_be_visible()
    assert dialog.get_by_role("status").inner_text() != first
    dialog.get_by_role("button", name="Take this choice").click()
    expect(panel.get_by_text("96 swatches")).to_be_visible()


def test_what_two_factors_do_together_can_be_kept(page: Page, thousand: int):
    page.goto(f"/#/study/{thousand}/plan")
    panel = page.get_by_role("complementary")
    panel.get_by_role("tab", name="Tell").click()
    panel.get_by_role("button", name="Fit it to a budget").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("At most so many swatches").fill("96")
    dialog.get_by_label("In at most so many dye vessels").fill("12")
    dialog.get_by_label("Also keep what these do together").click()
    page.get_by_role("option", name="Dye with dye pH").click()
    page.keyboard.press("Escape")
    dialog.get_by_role("button", name="Choose the cells").click()
    # 5 dyes × 4 pH are 20 combinations; 12 pots cannot hold them.
    expect(dialog.get_by_role("alert")).to_contain_text("could not be told apart at all")
    dialog.get_by_label("In at most so many dye vessels").fill("20")
    dialog.get_by_role("button", name="Choose the cells").click()
    expect(dialog.get_by_text("in 20 dye vessels")).to_be_visible()


PARTS = {"plan": ("Cross", "Leave out", "Tell", "Vessels"), "weigh": ("Make ready", "Baths", "Totals")}


@pytest.mark.parametrize("lens", PARTS)
def test_on_a_phone_every_part_fits_and_can_be_tapped(page: Page, study: int, lens: str):
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto(f"/#/study/{study}/{lens}")
    page.get_by_role("group", name="What is shown").get_by_role("button").last.click()
    for name in PARTS[lens]:
        tab = page.get_by_role("tab", name=name)
        tab.click()
        expect(tab).to_have_attribute("aria-selected", "true")
        page.wait_for_load_state("networkidle")
        assert page.evaluate("document.documentElement.scrollWidth") <= 390
        box = tab.bounding_box()
        assert box
        assert box["height"] >= 40


def test_the_shelf_and_its_dialog_fit_a_phone(page: Page, study: int):
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto("/#/shelf")
    page.get_by_role("tab", name="Mordant routes").click()
    page.get_by_role("button", name="Tannin, then alum").click()
    expect(page.get_by_role("group", name="Bath 2")).to_be_visible()
    assert page.evaluate("document.documentElement.scrollWidth") <= 390


def test_parts_are_reached_and_opened_by_keyboard(page: Page, study: int):
    page.goto(f"/#/study/{study}/weigh")
    tab = page.get_by_role("tab", name="Baths")
    tab.focus()
    page.keyboard.press("Enter")
    panel = page.get_by_role("complementary")
    alum = panel.get_by_role("button", name=re.compile(r"potassium alum \d"))
    alum.focus()
    page.keyboard.press("Enter")
    expect(alum).to_have_attribute("aria-expanded", "true")
    expect(page.get_by_text("15 % × 48.0 g = 7.20 g")).to_be_visible()
    page.keyboard.press("Space")
    expect(alum).to_have_attribute("aria-expanded", "false")


@pytest.mark.parametrize("bench", ["light", "dark"])
def test_words_stand_out_from_their_ground(page: Page, study: int, bench: str):
    """WCAG 2.2, 1.4.3: at least 4.5 to 1 for text, by the formula of the standard."""
    page.goto(f"/#/study/{study}/plan")
    if bench == "dark":
        page.get_by_role("button", name="Dark bench").click()
    page.get_by_role("tab", name="Tell").click()
    note = page.get_by_text("Standard deviations")
    expect(note).to_be_visible()
    for words in (
        note,
        page.get_by_role("heading", name="What can this grid tell me?"),
        page.get_by_text(re.compile("^Pots: ")).first,
    ):
        ink = words.evaluate("e => getComputedStyle(e).color")
        ground = page.get_by_role("complementary").evaluate("e => getComputedStyle(e).backgroundColor")
        assert contrast(ink, ground) >= 4.5


def contrast(first: str, second: str) -> float:
    lighter, darker = sorted((luminance(first), luminance(second)), reverse=True)
    return (lighter + 0.05) / (darker + 0.05)


def luminance(colour: str) -> float:
    channels = [int(c) / 255 for c in re.findall(r"\d+", colour)[:3]]
    linear = [c / 12.92 if c <= 0.04045 else ((c + 0.055) / 1.055) ** 2.4 for c in channels]
    return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]


def test_among_many_studies_one_is_found_by_its_words(page: Page, database: Database):
    study, _ = new_study(database, small_plan(name="Weld on wool"))
    with database.transaction() as connection:
        connection.executemany(
            "INSERT INTO study (plan, created_at, name, question) "
            "SELECT json_set(plan, '$.name', ?1), created_at, ?1, question FROM study "
            "WHERE id = ?2",
            ((f"Madder {n}", study) for n in range(1, 90)),
        )
    page.goto("/#/study/1/plan")
    page.get_by_role("button", name="Weld on wool ▾").click()
    listed = page.get_by_role("list", name="Studies").get_by_role("listitem")
    expect(listed).to_have_count(60)
    expect(page.get_by_text("The first 60; type a word to find others.")).to_be_visible()
    page.get_by_label("Find a study").fill("MADDER 77")
    expect(listed).to_have_count(1)
    listed.get_by_role("button", name="Madder 77").click()
    # It is none of the first sixty, and its name is there all the same.
    expect(page.get_by_role("button", name="Madder 77 ▾")).to_be_visible()
    page.get_by_role("button", name="Madder 77 ▾").click()
    page.get_by_label("Find a study").fill("indigo")
    expect(page.get_by_text("No study has these words")).to_be_visible()
    page.get_by_role("button", name="New study").click()
    expect(page.get_by_role("dialog")).to_be_visible()
