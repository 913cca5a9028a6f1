"""The whole path on a fresh file, in the browser: plan to compare, reloading in between."""

import re
import threading
from pathlib import Path

import numpy as np
import pytest
from playwright.sync_api import Page, Route, expect
from tests import patient_http as http
from tests.cloth_spectra import dyed
from tests.photographs import photograph

from zesty_grid.core.read.sheet_layout import Sheet
from zesty_grid.standins.camera import Shot
from zesty_grid.standins.cloth import Cloth
from zesty_grid.standins.scene import Scene

SHOT = Shot(width_px=2400, height_px=1800)


def panel(page: Page, lens: str):
    page.get_by_role("navigation", name="Lenses").get_by_role("button", name=lens).click()
    return page.get_by_role("complementary")


def make_study(page: Page, name: str) -> None:
    """Two fibres, with and without alum, in one dye, and the undyed controls."""
    plan = {
        "name": name,
        "factors": [
            {"kind": "fibre", "levels": [{"key": "wool", "label": "Wool"}, {"key": "cotton", "label": "Cotton"}]},
            {
                "kind": "mordant",
                "levels": [{"key": "none", "label": "No mordant"}, {"key": "alum-hot", "label": "Alum, hot"}],
            },
            {"kind": "dye", "levels": [{"key": "dye-extract", "label": "Dye extract"}]},
        ],
        "rows": ["fibre", "mordant"],
        "columns": ["dye"],
        "controls": ["undyed"],
    }
    assert page.request.post("/api/studies", data=plan).ok
    page.goto("/")
    expect(page.get_by_role("grid", name="Swatches")).to_be_visible()


def photos_of(address: str, study: int, folder: Path, trial: int | None) -> list[Path]:
    """A photo of each page of the study, or of its trial, as the application laid them out."""
    rng = np.random.default_rng(5)
    made = []
    for sheet in http.get(f"{address}/api/studies/{study}/sheets").json():
        if sheet["trial"] != trial:
            continue
        cloths = tuple(Cloth(a["cell"], dyed(rng), 0.8) for a in sheet["assignments"])
        scene = Scene(Sheet.model_validate(sheet["sheet"]), cloths)
        made.append(folder / f"{sheet['sheet']['id']}.jpg")
        made[-1].write_bytes(photograph(scene, SHOT))
    return made


def drop_and_accept(page: Page, photos: list[Path], stage: str | None = None) -> None:
    read = panel(page, "Read")
    page.get_by_label("Photos").set_input_files(photos)
    for _ in photos:
        read.get_by_role("button", name="Look", exact=True).first.click()
        dialog = page.get_by_role("dialog")
        expect(dialog.get_by_role("img", name="Photo of sheet")).to_be_visible()
        expect(dialog.get_by_text("How the colours were worked out")).to_be_visible()
        if stage:
            dialog.get_by_label("Stage of").click()
            page.get_by_role("option", name=stage).click()
        dialog.get_by_role("button", name="Accept").click()
        if stage:
            # It is not due for two days: that is asked.
            dialog.get_by_role("button", name="It is this stage all the same").click()
        expect(dialog).to_be_hidden()


def test_the_whole_path(page: Page, address: str, tmp_path: Path):
    make_study(page, "Hedge and ditch")
    cells = page.get_by_role("gridcell")
    expect(cells).to_have_count(6)  # 2 fibres × 2 mordants × 1 dye, and 2 undyed controls

    # Plan: cross with iron as well; leave one cell out; the warning says why.
    plan = panel(page, "Plan")
    plan.get_by_label("Cross with another factor").click()
    page.get_by_role("option", name="Iron", exact=True).click()
    # The list of factors closes, and the new factor is there, before the next list is opened.
    expect(page.get_by_role("listbox")).to_have_count(0)
    expect(plan.get_by_text("No iron")).to_be_visible()
    plan.get_by_label("Add a level of Iron").get_by_role("combobox").click()
    page.get_by_role("option", name="Iron 1 %").click()
    expect(cells).to_have_count(10)
    expect(plan.get_by_text("Alum, hot does not suit cotton (cellulose).")).to_be_visible()
    cells.first.click()
    plan.get_by_role("button", name="Leave out").click()
    expect(cells.first).to_have_attribute("aria-label", "Wool, No mordant, Dye extract, No iron (control): left out")
    page.reload()
    expect(cells.first).to_have_attribute("aria-label", "Wool, No mordant, Dye extract, No iron (control): left out")
    cells.first.click()
    plan.get_by_role("button", name="Put back").click()
    expect(plan.get_by_text("10 swatches, 3 vessels")).to_be_visible()

    # Weigh: 4 alum swatches of 5 g at 15 % are 3 g; the working opens.
    page.get_by_role("grid", name="Swatches").press("Escape")
    weigh = panel(page, "Weigh")
    weigh.get_by_role("tab", name="Baths").click()
    alum = weigh.get_by_role("button", name=re.compile(r"potassium alum \d"))
    expect(alum).to_contain_text("3.00 g")
    alum.click()
    expect(weigh.get_by_text("15 % × 20.0 g = 3.00 g")).to_be_visible()
    expect(weigh.get_by_role("note")).to_contain_text("does not suit cotton")
    expect(weigh.get_by_text("dust mask").first).to_be_visible()

    # Dye: a wrong reading is refused and kept in the field; a tick survives a reload.
    dye = panel(page, "Dye")
    step = dye.get_by_role("region", name="Step 1", exact=True)
    step.get_by_role("button", name="Read or note something").click()
    step.get_by_label("pH").fill("23")
    expect(step.get_by_text("pH from 0 to 14")).to_be_visible()
    expect(step.get_by_role("button", name="Record")).to_be_disabled()
    expect(step.get_by_label("pH")).to_have_value("23")
    step.get_by_label("pH").fill("6,8")
    step.get_by_role("button", name="Record").click()
    listed = dye.get_by_role("region", name="Step 1 of all")
    expect(listed.get_by_text("pH 6.8")).to_be_visible()
    step.get_by_role("button", name="Done").click()
    expect(listed.get_by_text("✓")).to_be_visible()
    page.reload()
    expect(listed.get_by_text("✓")).to_be_visible()
    expect(listed.get_by_text("pH 6.8")).to_be_visible()
    following = dye.get_by_role("region", name="Step 2", exact=True)
    expect(following).to_have_attribute("aria-current", "step")

    # Read: lay out, photograph, look, accept; the grid shows the colours, after a reload too.
    read = panel(page, "Read")
    read.get_by_role("button", name="Lay out sheets for 10 swatches").click()
    expect(read.get_by_role("link", name="Whole swatches page 1")).to_be_visible()
    drop_and_accept(page, photos_of(address, 1, tmp_path, None))
    expect(cells.first).to_have_attribute("aria-label", re.compile(r"L\*"))
    page.reload()
    expect(cells.first).to_have_attribute("aria-label", re.compile(r"L\*"))

    # Fade: a light trial on two swatches, its sheet, its photo, its rating.
    cells.nth(0).click()
    cells.nth(1).click(modifiers=["Shift"])
    fade = panel(page, "Fade")
    fade.get_by_role("button", name="Start a trial").click()
    fade.get_by_label("Name of the trial").fill("Shed window")
    fade.get_by_label("Read after days").fill("2 9")
    fade.get_by_role("button", name="Start with 2 swatches").click()
    fade.get_by_role("button", name="Lay out its sheets").click()
    expect(fade.get_by_role("link", name="page 1")).to_be_visible()
    drop_and_accept(page, photos_of(address, 1, tmp_path, 1), stage="2 days")
    panel(page, "Fade")
    page.get_by_role("tab", name="Strips").click()
    expect(page.get_by_role("list", name="Strips of stages").get_by_role("listitem")).to_have_count(2)
    expect(fade.get_by_text("Rating").first).to_be_visible()
    expect(fade.get_by_role("button", name="9 days (due)")).to_be_visible()
    page.get_by_role("tab", name="Grid").click()

    # Compare: the same but for iron, and against one chosen swatch.
    page.get_by_role("grid", name="Swatches").press("Escape")
    compare = panel(page, "Compare")
    compare.get_by_label("Or: same but for").click()
    page.get_by_role("option", name="Iron: No iron").click()
    expect(compare.get_by_text("The same swatch, but with No iron")).to_be_visible()
    expect(compare.get_by_role("heading", name="4 differences")).to_be_visible()
    cells.nth(3).click()
    compare.get_by_role("button", name="Compare with").click()
    expect(compare.get_by_role("heading", name="9 differences")).to_be_visible()
    page.reload()
    expect(compare.get_by_role("heading", name="9 differences")).to_be_visible()

    # What is real: few swatches and one pot each are told against how pots usually differ.
    page.get_by_role("tab", name="What is real").click()
    expect(page.get_by_text("Usual values;").first).to_be_visible()
    page.get_by_role("tab", name="Grid", exact=True).click()
    cells.nth(0).click()
    cells.nth(3).click(modifiers=["Shift"])
    page.get_by_role("tab", name="Side by side").click()
    compare.get_by_role("button", name="Lay the selected").click()
    laid = page.get_by_role("list", name="Laid side by side").get_by_role("listitem")
    expect(laid).not_to_have_count(0)
    # A colour near one that is there, and its recipe.
    page.get_by_role("tab", name="Find", exact=True).click()
    page.get_by_role("button", name=re.compile("^Recipe of")).first.click()
    expect(page.get_by_role("dialog").get_by_role("link", name="Print the card")).to_be_visible()
    page.get_by_role("dialog").get_by_role("button", name="Close").click()
    page.get_by_role("tab", name="Profiles").click()
    expect(page.get_by_role("img", name=re.compile("lightness"))).to_be_visible()
    # What would tell more becomes a study.
    page.get_by_role("tab", name="Test next").click()
    page.get_by_role("button", name=re.compile("^Propose:")).first.click()
    page.get_by_role("region", name="Proposal").get_by_role("button", name="Make this study").click()
    expect(page).to_have_url(re.compile(r"/study/2/plan$"))


def test_a_photo_that_cannot_be_measured_says_why_and_the_good_one_still_counts(
    page: Page, address: str, tmp_path: Path
):
    make_study(page, "Two photos")
    read = panel(page, "Read")
    read.get_by_role("button", name="Lay out sheets for 6 swatches").click()
    expect(read.get_by_role("link", name="Whole swatches page 1")).to_be_visible()
    good = photos_of(address, 1, tmp_path, None)[0]
    text = tmp_path / "diary.jpg"
    text.write_text("I dyed wool today.")
    page.get_by_label("Photos").set_input_files([text, good])
    expect(read.get_by_text("diary.jpg: refused")).to_be_visible()
    expect(read.get_by_role("alert")).to_contain_text("not a photo that can be read")
    expect(read.get_by_text("1 waiting")).to_be_visible()


def second_tab_that_has_not_noticed(page: Page, address: str) -> Page:
    """Another tab whose view of study 1 is frozen as it is now, though it can still save."""
    stale = http.get(f"{address}/api/studies/1").text
    other = page.context.new_page()

    def answer(route: Route) -> None:
        if route.request.method == "GET":
            route.fulfill(body=stale, content_type="application/json")
        else:
            route.continue_()

    other.route("**/api/studies/1", answer)
    other.goto(f"{address}/#/study/1/plan")
    expect(other.get_by_role("grid", name="Swatches")).to_be_visible()
    return other


def renamed_behind_the_back_of_another_tab(page: Page, address: str) -> Page:
    """Answers the other tab, which still shows the study as it was before the first renamed it."""
    make_study(page, "Shared")
    other = second_tab_that_has_not_noticed(page, address)
    plan = panel(page, "Plan")
    plan.get_by_label("Name").fill("Shared, by the first tab")
    plan.get_by_label("Name").press("Enter")
    expect(page.get_by_role("button", name="Shared, by the first tab")).to_be_visible()
    return other


def change_mass(page: Page, grams: str) -> None:
    field = panel(page, "Plan").get_by_label("Dry mass of a swatch, g")
    field.fill(grams)
    field.press("Enter")


@pytest.mark.parametrize("mine", [False, True])
def test_two_tabs_never_overwrite_each_other_unseen(page: Page, address: str, mine: bool):
    other = renamed_behind_the_back_of_another_tab(page, address)
    plan = panel(page, "Plan")

    change_mass(other, "8")
    warning = other.get_by_role("alertdialog", name="Changed elsewhere")
    expect(warning).to_contain_text("nothing is overwritten")
    page.reload()
    expect(plan.get_by_label("Dry mass of a swatch, g")).to_have_value("5")

    other.unroute("**/api/studies/1")
    choice = "Put my change onto it" if mine else "Show the newer version"
    warning.get_by_role("button", name=choice).click()
    expect(warning).to_be_hidden()
    # What the first tab changed stands either way.
    name = panel(other, "Plan").get_by_label("Name")
    expect(name).to_have_value("Shared, by the first tab")
    page.reload()
    expect(plan.get_by_label("Dry mass of a swatch, g")).to_have_value("8" if mine else "5")
    expect(plan.get_by_label("Name")).to_have_value("Shared, by the first tab")


def test_a_change_that_waits_for_an_answer_is_not_lost_by_the_next_one(page: Page, address: str):
    other = renamed_behind_the_back_of_another_tab(page, address)
    change_mass(other, "8")
    warning = other.get_by_role("alertdialog", name="Changed elsewhere")
    expect(warning).to_be_visible()
    # Two more changes while the first one waits: none of the three is lost, nor the other tab's.
    ratio = other.get_by_label("Liquor ratio, mL/g")
    ratio.fill("40")
    ratio.press("Enter")
    question = other.get_by_label("Question")
    question.fill("Which is the fastest?")
    question.blur()
    other.unroute("**/api/studies/1")
    warning.get_by_role("button", name="Put my change onto it").click()
    expect(warning).to_be_hidden()
    expect(other.get_by_text("· saved")).to_be_visible()
    saved = http.get(f"{address}/api/studies/1").json()["plan"]
    assert saved["swatch_mass_g"] == 8
    assert saved["liquor_ratio_ml_per_g"] == 40
    assert saved["question"] == "Which is the fastest?"
    assert saved["name"] == "Shared, by the first tab"


def test_changes_that_come_faster_than_the_server_are_all_kept(page: Page, address: str):
    """Each is saved onto what the one before has left, however slow the answers are."""
    make_study(page, "In a hurry")
    plan = panel(page, "Plan")
    gate = threading.Event()

    def slowly(route: Route) -> None:
        if route.request.method == "PUT":
            gate.wait(1)
        route.continue_()

    page.route("**/api/studies/1", slowly)
    plan.get_by_label("Undyed fibre").click()
    change_mass(page, "8")
    plan.get_by_role("button", name="Remove Cotton").click()
    plan.get_by_role("button", name="Take it out").click()
    expect(plan.get_by_text("· saved")).to_be_visible()
    expect(plan.get_by_role("button", name="Remove Cotton")).to_have_count(0)
    saved = http.get(f"{address}/api/studies/1").json()["plan"]
    assert saved["swatch_mass_g"] == 8
    assert [level["key"] for level in saved["factors"][0]["levels"]] == ["wool"]
    assert saved["controls"] == []
    # And each can be undone by itself.
    for _ in range(3):
        plan.get_by_role("button", name="Undo").click()
        expect(plan.get_by_text("· saved")).to_be_visible()
    expect(plan.get_by_role("button", name="Remove Cotton")).to_be_visible()
    assert http.get(f"{address}/api/studies/1").json()["plan"]["controls"] == ["undyed"]


def test_a_wrong_amount_is_refused_beside_the_field_and_nothing_changes(page: Page):
    make_study(page, "Mass")
    plan = panel(page, "Plan")
    plan.get_by_label("Dry mass of a swatch, g").fill("-3")
    plan.get_by_label("Dry mass of a swatch, g").press("Enter")
    expect(plan.get_by_role("alert")).to_contain_text("greater than 0")
    page.reload()
    expect(plan.get_by_label("Dry mass of a swatch, g")).to_have_value("5")


def test_a_study_taken_off_the_list_can_be_brought_back(page: Page):
    make_study(page, "Going, going")
    panel(page, "Plan").get_by_role("button", name="Take this study off the list").click()
    expect(page.get_by_role("heading", name="What do you want to know?")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("button", name="Going, going")).to_be_visible()


def test_when_the_server_cannot_be_reached_it_is_said_and_what_was_typed_stays(page: Page):
    make_study(page, "Cut off")
    dye = panel(page, "Dye")
    step = dye.get_by_role("region", name="Step 1", exact=True)
    step.get_by_role("button", name="Read or note something").click()
    page.route("**/api/**", lambda route: route.abort())
    step.get_by_label("Note").fill("Rusty water")
    step.get_by_role("button", name="Record").click()
    dock = page.get_by_role("contentinfo", name="Dock")
    expect(dock).to_contain_text("1 entry waits for the network; kept on this device")
    page.unroute("**/api/**")
    expect(dock).to_be_hidden()
    expect(dye.get_by_text("Rusty water")).to_be_visible()
    # Elsewhere what cannot be saved is said where it was entered, and stays there.
    plan = panel(page, "Plan")
    page.route("**/api/studies/*", lambda route: route.abort())
    name = plan.get_by_label("Name")
    name.fill("Cut off again")
    name.press("Tab")
    expect(plan.get_by_role("alert")).to_contain_text("cannot be reached")
    expect(name).to_have_value("Cut off again")


def test_a_view_that_failed_to_load_offers_to_try_again(page: Page):
    make_study(page, "Try again")
    page.route("**/weigh", lambda route: route.fulfill(status=503, body="{}"))
    weigh = panel(page, "Weigh")
    again = weigh.get_by_role("button", name="Try again")
    expect(again).to_be_visible()
    page.unroute("**/weigh")
    again.click()
    expect(weigh.get_by_role("heading", name="Before the first bath")).to_be_visible()


def test_a_tick_can_be_taken_back_and_a_wash_trial_started(page: Page):
    make_study(page, "Back and forth")
    dye = panel(page, "Dye")
    step = dye.get_by_role("region", name="Step 1", exact=True)
    step.get_by_role("button", name="Done").click()
    first = dye.get_by_role("region", name="Step 1 of all")
    first.get_by_role("button", name="✓").click()
    first.get_by_role("button", name="Take back step 1").click()
    expect(step.get_by_role("button", name="Done")).to_be_visible()

    page.get_by_role("gridcell").first.click()
    fade = panel(page, "Fade")
    fade.get_by_role("button", name="Start a trial").click()
    fade.get_by_label("Trial", exact=True).click()
    page.get_by_role("option", name="Washing").click()
    fade.get_by_label("Name of the trial").fill("By hand")
    fade.get_by_label("Read after washes").fill("3 1")
    fade.get_by_role("button", name="Start with 1 swatch").click()
    expect(fade.get_by_role("alert")).to_contain_text("must grow")
    fade.get_by_label("Read after washes").fill("1 3")
    fade.get_by_role("button", name="Start with 1 swatch").click()
    expect(fade.get_by_role("button", name="3 washes (due)")).to_be_visible()
    expect(fade.get_by_text("Nothing read at this stage")).to_be_visible()


def test_a_study_can_be_made_with_the_keyboard_alone(page: Page):
    page.goto("/")
    button = page.get_by_role("button", name="Plan the first study")
    expect(button).to_be_visible()
    button.focus()
    page.keyboard.press("Enter")
    questions = page.get_by_role("radiogroup", name="Question")
    expect(questions.get_by_role("radio").first).to_be_focused()
    page.keyboard.press("ArrowDown")
    expect(questions.get_by_label("What do pH and iron do to this dye?")).to_be_checked()
    page.keyboard.press("Enter")
    expect(page.get_by_role("grid", name="Swatches")).to_be_visible()
    # 2 fibres, each on a mordant that suits it, × 3 pH × iron or none × 2 runs, and 4 undyed.
    expect(page.get_by_text("28 swatches, 12 vessels")).to_be_visible()
    page.keyboard.press("6")
    expect(page.get_by_role("complementary", name="compare panel")).to_be_visible()
