"""An empty file, a dye of one's own, words that explain themselves, and hands that are safe."""

import re

import pytest
from playwright.sync_api import Page, Route, expect
from tests import patient_http as http
from tests.small_study import small_plan

from zesty_grid.api.application import create_application
from zesty_grid.demo.worked_example import NAME, make_worked_example
from zesty_grid.store.database import Database


@pytest.fixture
def application(database: Database):
    return create_application(database, make_example=make_worked_example)


@pytest.fixture
def study(address: str) -> int:
    return http.post(f"{address}/api/studies", json=small_plan()).json()["id"]


def test_from_an_empty_file_to_a_grid_of_ones_own_dye(page: Page, address: str):
    page.goto("/")
    expect(page.get_by_role("heading", name="What do you want to know?")).to_be_visible()
    page.get_by_role("button", name="Plan the first study").click()
    dialog = page.get_by_role("dialog", name="What do you want to know?")
    dialog.get_by_label("Which dye?").click()
    page.get_by_role("option", name="A dye of your own").click()
    own = page.get_by_role("dialog", name="New dye lot")
    own.get_by_label("Name").fill("Hedge bramble")
    own.get_by_role("button", name="Put the dye lot on the Shelf").click()
    expect(dialog.get_by_label("Which dye?")).to_contain_text("Hedge bramble")
    dialog.get_by_role("button", name="Make the study").click()
    expect(page.get_by_role("grid", name="Swatches").get_by_role("gridcell").first).to_be_visible()
    (made,) = http.get(f"{address}/api/studies").json()
    plan = http.get(f"{address}/api/studies/{made['id']}").json()["plan"]
    (dye,) = [one for one in plan["factors"] if one["kind"] == "dye"]
    assert [level["label"] for level in dye["levels"]] == ["Hedge bramble"]


def test_a_dye_is_added_where_levels_are_chosen(page: Page, study: int):
    page.goto(f"/#/study/{study}/plan")
    group = page.get_by_role("complementary").get_by_role("group", name="Dye", exact=True)
    group.get_by_label("Add a level of Dye").get_by_role("combobox").click()
    page.get_by_role("option", name="A dye of your own").click()
    own = page.get_by_role("dialog", name="New dye lot")
    expect(own.get_by_label("Spoils above")).to_have_count(0)
    own.get_by_role("button", name="All that can be said of it").click()
    expect(own.get_by_label("Spoils above")).to_be_visible()
    own.get_by_label("Name").fill("Weld from the yard")
    own.get_by_role("button", name="Put the dye lot on the Shelf").click()
    expect(group.get_by_text("Weld from the yard")).to_be_visible()
    expect(page.get_by_role("columnheader", name="Weld from the yard")).to_be_visible()


def test_a_worked_example_lies_beside_ones_own_once(page: Page, study: int, address: str):
    page.goto(f"/#/study/{study}/plan")
    for _ in range(2):
        page.get_by_role("button", name="▾").click()
        page.get_by_role("button", name="A worked example").click()
        expect(page.get_by_role("button", name=NAME)).to_be_visible(timeout=90_000)
    listed = http.get(f"{address}/api/studies").json()
    assert [one["name"] for one in listed].count(NAME) == 1
    example = next(one for one in listed if one["name"] == NAME)
    assert example["read_count"] == example["swatch_count"] == 20
    (trial,) = http.get(f"{address}/api/studies/{example['id']}/trials").json()
    assert len(trial["points"]) == 4 * len(trial["plan"]["swatches"])
    page.get_by_role("navigation", name="Lenses").get_by_role("button", name="Read").click()
    # Its cloth is that of its photos.
    page.set_viewport_size({"width": 1920, "height": 1080})
    cloth = page.get_by_role("gridcell").first.locator("image")
    expect(cloth).to_have_attribute("href", re.compile("^blob:"))


@pytest.mark.parametrize(
    ("lens", "words", "button"),
    [
        ("read", "has been in a bath yet", "Go to the bench"),
        ("fade", "no swatch is read yet", "Read the swatches"),
        ("compare", "Two colours are needed", "Read the swatches"),
    ],
)
def test_each_lens_says_what_is_missing(page: Page, study: int, lens, words, button):
    page.goto(f"/#/study/{study}/{lens}")
    note = page.get_by_role("note").filter(has_text=words)
    expect(note).to_be_visible()
    if lens == "compare":
        expect(page.get_by_text("No swatch is read yet.").first).to_be_visible()
        expect(page.get_by_text("Fetching")).to_have_count(0)
    note.get_by_role("button", name=button).click()
    wanted = "dye" if lens == "read" else "read"
    expect(page.get_by_role("complementary", name=f"{wanted} panel")).to_be_visible()


def test_words_explain_themselves_and_have_a_page(page: Page, address: str):
    page.goto("/")
    page.get_by_role("button", name="controls", exact=True).click()
    meaning = page.get_by_role("dialog", name="Control")
    expect(meaning).to_contain_text("left out on purpose")
    meaning.get_by_role("link", name="All words").click()
    expect(page.get_by_role("heading", name="Words")).to_be_visible()
    page.get_by_label("Find a word").fill("knots")
    expect(page.get_by_role("definition")).to_have_count(1)
    expect(page.get_by_role("definition")).to_contain_text("tell a swatch apart")
    expect(page).to_have_title("Words · Zesty Grid")


def test_taking_out_a_level_says_what_goes_with_it(page: Page, study: int):
    page.goto(f"/#/study/{study}/plan")
    panel = page.get_by_role("complementary")
    expect(panel.get_by_text("18 swatches, 4 vessels")).to_be_visible()
    panel.get_by_role("button", name="Remove Cotton").click()
    ask = page.get_by_role("alertdialog", name="Take out Cotton")
    expect(ask).to_contain_text("9 swatches")  # with its undyed control
    ask.get_by_role("button", name="Keep it").click()
    expect(panel.get_by_role("button", name="Remove Cotton")).to_be_visible()
    panel.get_by_role("button", name="Remove Cotton").click()
    ask.get_by_role("button", name="Take it out").click()
    expect(panel.get_by_role("button", name="Remove Cotton")).to_have_count(0)
    # Undo reaches over a reload.
    expect(panel.get_by_text("· saved")).to_be_visible()
    page.reload()
    panel.get_by_role("button", name="Undo").click()
    expect(panel.get_by_role("button", name="Remove Cotton")).to_be_visible()
    expect(panel.get_by_text("18 swatches, 4 vessels")).to_be_visible()


def test_a_change_that_cannot_be_saved_is_kept_over_a_reload(page: Page, study: int, address: str):
    page.goto(f"/#/study/{study}/plan")
    panel = page.get_by_role("complementary")
    expect(panel.get_by_text("· saved")).to_be_visible()

    def lost(route: Route) -> None:
        if route.request.method == "PUT":
            route.abort()
        else:
            route.continue_()

    page.route(f"**/api/studies/{study}", lost)
    panel.get_by_label("Question").fill("Does the water matter?")
    panel.get_by_label("Question").blur()
    expect(panel.get_by_text("not saved yet")).to_be_visible()
    expect(panel.get_by_text("· saved")).to_have_count(0)
    page.reload()
    expect(panel.get_by_text("not saved yet")).to_be_visible()
    page.unroute(f"**/api/studies/{study}")
    # It is tried again by itself.
    expect(panel.get_by_text("· saved")).to_be_visible()
    saved = http.get(f"{address}/api/studies/{study}").json()["plan"]
    assert saved["question"] == "Does the water matter?"


def test_quantities_and_dates_are_written_as_the_person_has_them(page: Page, study: int):
    page.goto("/#/settings")
    for title, choice in (
        ("Weights", "ounces"),
        ("Temperatures", "°F"),
        ("Decimals", "0,5"),
        ("Dates", "2026-09-03"),
        ("Volumes", "US cups and spoons"),
    ):
        page.get_by_role("radiogroup", name=title).get_by_label(choice).check()
    # 12.5 g are 0.441 oz (28.3495 g each), 500 mL 2.11 US cups (236.588 mL each), 60 °C 140 °F.
    said = page.get_by_role("status").filter(has_text="So it is written")
    expect(said).to_contain_text("0,441 oz")
    expect(said).to_contain_text("2,11 cups")
    expect(said).to_contain_text("140 °F")
    expect(said).to_contain_text("2026-09-03")
    page.goto(f"/#/study/{study}/weigh")
    # 6 g each.
    expect(page.get_by_role("gridcell").first).to_contain_text("0,212 oz")
    page.get_by_role("tab", name="Baths").click()
    weigh = page.get_by_role("complementary")
    weigh.get_by_role("button", name="+ potassium alum").click()
    expect(weigh.get_by_text(re.compile(r"15 % × 1,69 oz = 0,254 oz"))).to_be_visible()


def test_the_bench_is_as_light_as_the_system_has_it(own_page: Page, address: str):
    own_page.emulate_media(color_scheme="dark")
    own_page.goto("/#/words")
    expect(own_page.get_by_role("button", name="Light bench")).to_be_visible()
    own_page.get_by_role("button", name="Light bench").click()
    own_page.reload()
    expect(own_page.get_by_role("button", name="Dark bench")).to_be_visible()
    own_page.goto("/#/settings")
    own_page.get_by_role("radiogroup", name="Bench").get_by_label("as the system has it").check()
    expect(own_page.get_by_role("button", name="Light bench")).to_be_visible()


def test_the_keyboard_skips_to_the_panel(page: Page, study: int):
    page.goto(f"/#/study/{study}/read")
    expect(page.get_by_role("gridcell").first).to_be_visible()
    page.keyboard.press("Tab")
    expect(page.get_by_role("button", name="Skip to the panel")).to_be_focused()
    page.keyboard.press("Enter")
    assert page.evaluate("document.activeElement.getAttribute('aria-label')") == "read panel"


def paste(page: Page, group, words: str, text: str) -> None:
    group.get_by_role("combobox").click()
    page.get_by_role("option", name="Paste a column").click()
    group.get_by_role("textbox", name=words).fill(text)


def test_columns_of_a_spreadsheet_become_dyes_values_and_masses(page: Page, study: int, address: str):
    page.goto(f"/#/study/{study}/plan")
    panel = page.get_by_role("complementary")
    dyes = panel.get_by_role("group", name="Dye", exact=True)
    paste(page, dyes, "A column of dyes", "Hedge bramble\nWeld from the yard\n\n")
    dyes.get_by_role("button", name="Add 2").click()
    expect(dyes.get_by_role("button", name="Weld from the yard: no notes")).to_be_visible()
    degrees = panel.get_by_role("group", name="Dye pH", exact=True)
    paste(page, degrees, "A column of values", "5,5\nten\n9\n9\n6.5")
    expect(degrees.get_by_role("status")).to_contain_text("“ten”")
    degrees.get_by_role("button", name="Add 2").click()
    expect(degrees.get_by_role("button", name="pH 6.5: no notes")).to_be_visible()
    panel.get_by_role("button", name="Paste masses").click()
    masses = panel.get_by_role("group", name="Fibres and their masses")
    masses.get_by_role("textbox").fill("wool\t5,8\ncotton\t7\nramie\t3")
    expect(masses.get_by_role("status")).to_contain_text("1 line cannot be read")
    masses.get_by_role("button", name="Add 2").click()
    expect(panel.get_by_text("Wool: 5.8 g each")).to_be_visible()
    expect(page.get_by_role("status").filter(has_text="· saved")).to_be_visible()
    plan = http.get(f"{address}/api/studies/{study}").json()["plan"]
    assert [(one["fibre"], one["mass_g"]) for one in plan["own_masses"]] == [("wool", 5.8), ("cotton", 7.0)]
    values = {one["kind"]: [level["label"] for level in one["levels"]] for one in plan["factors"]}
    assert values["dye"] == ["Dried-flowers", "Hedge bramble", "Weld from the yard"]
    assert values["ph"][2:] == ["pH 5.5", "pH 6.5"]
    lots = [one["name"] for one in http.get(f"{address}/api/shelf").json()["dye_lots"]]
    assert {"Hedge bramble", "Weld from the yard"} <= set(lots)


def test_fields_are_filled_in_the_chosen_units_and_stored_in_si(page: Page, study: int, address: str):
    page.goto("/#/settings")
    page.get_by_label("°F").check()
    page.get_by_label("ounces").check()
    page.goto("/#/shelf")
    page.get_by_role("tab", name="Dye lots").click()
    page.get_by_role("button", name="New dye lot").click()
    lot = page.get_by_role("dialog", name="New dye lot")
    lot.get_by_label("Name").fill("Privet")
    lot.get_by_label("Spoils above, °F").fill("140")
    lot.get_by_label("In hand, oz").fill("2")
    lot.get_by_role("button", name="Put the dye lot on the Shelf").click()
    expect(lot).to_have_count(0)
    lots = {one["name"]: one for one in http.get(f"{address}/api/shelf").json()["dye_lots"]}
    assert lots["Privet"]["spoils_above_c"] == pytest.approx(60)
    assert lots["Privet"]["amount_in_hand_g"] == pytest.approx(56.699, abs=0.001)
    page.goto(f"/#/study/{study}/plan")
    mass = page.get_by_label("Dry mass of a swatch, oz")
    mass.fill("5 g")
    mass.press("Enter")
    expect(mass).to_have_value("0.176")
    plan = http.get(f"{address}/api/studies/{study}").json()["plan"]
    assert plan["swatch_mass_g"] == pytest.approx(5)


def test_on_a_phone_the_button_of_a_dialog_stays_in_sight(page: Page, study: int):
    page.set_viewport_size({"width": 360, "height": 640})
    page.goto(f"/#/study/{study}/plan")
    page.get_by_role("button", name="▾").click()
    page.get_by_role("button", name="New study").click()
    dialog = page.get_by_role("dialog", name="What do you want to know?")
    expect(dialog.get_by_role("button", name="Make the study")).to_be_in_viewport(ratio=0.95)
