"""The Plan lens in the browser: questions, rules, what a grid can tell, budgets, undo."""

import re

import pytest
from playwright.sync_api import Page, expect
from tests import patient_http as http
from tests.small_study import small_plan


@pytest.fixture
def plan_of(page: Page, address: str):
    """Opens the Plan lens of a new study and answers its panel."""

    def opened(**changes):
        made = http.post(f"{address}/api/studies", json=small_plan(**changes)).json()["id"]
        page.goto(f"/#/study/{made}/plan")
        panel = page.get_by_role("complementary")
        expect(panel.get_by_role("tab", name="Cross")).to_be_visible()
        return panel

    return opened


def test_a_sound_plan_of_24_swatches_comes_from_a_question_in_three_choices(page: Page):
    page.goto("/")
    page.get_by_role("button", name="Plan the first study").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Does the mordant matter on these fibres?").check()
    dialog.get_by_label("Which dye?").click()
    page.get_by_role("option", name="Dried bark").click()
    dialog.get_by_label("On which fibres?").click()
    for name in ("Silk", "Linen"):
        page.get_by_role("option", name=name).click()
    page.keyboard.press("Escape")
    dialog.get_by_label("Which mordants?").click()
    page.get_by_role("option", name="Alum and cream of tartar, hot").click()
    page.keyboard.press("Escape")
    dialog.get_by_role("button", name="Make the study").click()
    panel = page.get_by_role("complementary")
    # Wool: none, alum, alum and tartar; cotton: none, acetate; two of each, and 4 undyed.
    expect(panel.get_by_text("14 swatches")).to_be_visible()
    panel.get_by_role("tab", name="Leave out").click()
    expect(panel.get_by_role("heading", name="Rules: 3")).to_be_visible()
    expect(panel.get_by_text("plant fibre has few such sites").first).to_be_visible()


def test_undo_and_redo_by_button_and_by_key(page: Page, plan_of):
    panel = plan_of()
    panel.get_by_role("button", name="Do not cross Iron").click()
    panel.get_by_role("button", name="Take it out").click()
    expect(panel.get_by_text("10 swatches, 3 vessels")).to_be_visible()
    panel.get_by_role("button", name="Undo").click()
    expect(panel.get_by_text("18 swatches, 4 vessels")).to_be_visible()
    page.keyboard.press("Control+Shift+z")
    expect(panel.get_by_text("10 swatches, 3 vessels")).to_be_visible()
    page.keyboard.press("Control+z")
    expect(panel.get_by_text("18 swatches, 4 vessels")).to_be_visible()
    expect(panel.get_by_role("button", name="Redo")).to_be_enabled()
    page.reload()
    expect(panel.get_by_text("18 swatches, 4 vessels")).to_be_visible()


def test_a_factor_is_dragged_from_one_axis_to_the_other(page: Page, plan_of):
    panel = plan_of()
    rows = panel.get_by_role("group", name="Down the rows")
    columns = panel.get_by_role("group", name="Across the columns")
    columns.scroll_into_view_if_needed()
    rows.get_by_text("Mordant").hover()
    page.mouse.down()
    columns.hover()
    columns.hover()
    page.mouse.up()
    expect(columns.get_by_text("Mordant")).to_be_visible()
    expect(rows.get_by_text("Mordant")).to_be_hidden()
    headers = page.get_by_role("grid", name="Swatches").locator("[role=row]:has([role=columnheader])")
    expect(page.get_by_role("grid", name="Swatches")).to_have_attribute("aria-rowcount", str(2 + headers.count()))


def test_a_second_tab_is_told_and_shows_the_newer_version(page: Page, plan_of):
    plan_of(name="Shared")
    other = page.context.new_page()
    other.goto(page.url)
    told = other.get_by_text("Changed in another tab or on another device")
    expect(other.get_by_text("18 swatches")).to_be_visible()
    expect(told).to_be_hidden()
    panel = page.get_by_role("complementary")
    panel.get_by_role("button", name="Do not cross Iron").click()
    panel.get_by_role("button", name="Take it out").click()
    expect(told).to_be_visible()
    expect(other.get_by_text("10 swatches, 3 vessels")).to_be_visible()
    expect(other.get_by_role("button", name="Undo")).to_be_disabled()


def test_a_copy_starts_the_next_study(page: Page, plan_of):
    panel = plan_of(name="First")
    panel.get_by_role("button", name="Copy as the next study").click()
    expect(page.get_by_role("button", name="First, next")).to_be_visible()
    expect(panel.get_by_text("18 swatches")).to_be_visible()


def test_a_bridge_is_offered_counted_and_chosen(page: Page, plan_of):
    alum = "fibre=wool;mordant=alum-hot;dye=dried-flowers;ph=ph-4;iron=iron-"
    panel = plan_of(left_out=[f"{alum}0", f"{alum}1"])
    panel.get_by_label("Bridge piece in every dye vessel: +1").click()
    expect(panel.get_by_label("Bridge piece in every dye vessel: 1")).to_be_checked()
    expect(page.locator("[data-cell^='control=bridge']")).to_have_count(1)
    panel.get_by_label("Bridge fibre").click()
    page.get_by_role("option", name="Cotton").click()
    expect(page.locator("[data-cell^='control=bridge']")).to_have_count(0)


def test_an_empty_grid_is_filled_factor_by_factor(page: Page):
    page.goto("/")
    page.get_by_role("button", name="Plan the first study").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Something else: an empty grid").check()
    make = dialog.get_by_role("button", name="Make the study")
    expect(make).to_be_disabled()
    dialog.get_by_label("Name").fill("From nothing")
    make.click()
    expect(page.get_by_text("This study crosses nothing yet.")).to_be_visible()
    panel = page.get_by_role("complementary")
    for factor in ("Fibre", "Process"):
        panel.get_by_label("Cross with another factor").click()
        page.get_by_role("option", name=factor, exact=True).click()
        expect(panel.get_by_role("group", name=factor, exact=True)).to_be_visible()
    panel.get_by_label("Add a level of Process").get_by_role("combobox").click()
    page.get_by_role("option", name="Sun jar").click()
    expect(page.get_by_role("gridcell")).to_have_count(2)
    # Nothing is dyed without a dye: no vessel is needed yet.
    expect(panel.get_by_text("2 swatches, 0 vessels")).to_be_visible()
    panel.get_by_role("tab", name="Cross").focus()
    page.keyboard.press("ArrowLeft")
    expect(panel.get_by_role("tab", name="Vessels")).to_be_focused()
    expect(panel.get_by_role("heading", name="Vessels: 0, 0.0 L")).to_be_visible()


def test_a_cell_says_its_tie_and_its_vessels(page: Page, plan_of):
    plan_of()
    cell = page.locator("[data-cell='fibre=wool;mordant=alum-hot;dye=dried-flowers;ph=ph-4;iron=iron-1']")
    expect(cell).to_have_attribute("aria-label", re.compile(r"tie [\d·]+; goes into M1 D1 F1$"))
    control = page.locator("[data-cell='control=undyed;fibre=wool']")
    expect(control).to_have_attribute("aria-label", re.compile("goes into no vessel$"))


def test_some_weigh_otherwise_and_a_full_skein_stays_in_the_pot(page: Page, plan_of):
    panel = plan_of()
    panel.get_by_role("button", name="Another mass for some").click()
    form = panel.get_by_role("group", name="Another mass for some")
    form.get_by_label("Fibre").click()
    page.get_by_role("option", name="Cotton").click()
    form.get_by_label("g each").fill("3,5")
    form.get_by_role("button", name="Weigh them so").click()
    panel.get_by_role("button", name="A larger piece in the pot").click()
    form = panel.get_by_role("group", name="A larger piece in the pot")
    form.get_by_label("g", exact=True).fill("60")
    form.get_by_role("button", name="Put it in").click()
    expect(page.locator("[data-cell*='larger=']").first).to_be_visible()
    page.get_by_role("navigation", name="Lenses").get_by_role("button", name="Weigh").click()
    cotton = "fibre=cotton;mordant=none;dye=dried-flowers;ph=ph-4;iron=iron-0"
    expect(page.locator(f"[data-cell='{cotton}']")).to_contain_text("3.5 g")
    expect(page.get_by_role("gridcell").filter(has_text="60 g")).to_have_count(1)
