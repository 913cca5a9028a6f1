"""The grid by keyboard and pointer, its size, and the views beside the lenses."""

import re

import pytest
from playwright.sync_api import Page, expect
from tests import patient_http as http
from tests.small_study import levels, small_plan, valued


@pytest.fixture
def study(address: str) -> int:
    return http.post(f"{address}/api/studies", json=small_plan()).json()["id"]


def test_lenses_and_selection_by_keyboard_and_the_selection_stays(page: Page, study: int):
    page.goto(f"/#/study/{study}/plan")
    grid = page.get_by_role("grid", name="Swatches")
    grid.focus()
    page.keyboard.press("ArrowRight")
    page.keyboard.press("Shift+ArrowDown")
    page.keyboard.press("Shift+ArrowRight")
    chosen = page.locator("[role=gridcell][aria-selected=true]")
    expect(chosen).to_have_count(4)
    for key, lens in zip("23456", ("weigh", "dye", "read", "fade", "compare"), strict=True):
        page.keyboard.press(key)
        expect(page.get_by_role("complementary", name=f"{lens} panel")).to_be_visible()
        expect(chosen).to_have_count(4)
    page.keyboard.press("Escape")
    expect(chosen).to_have_count(0)
    page.keyboard.press("?")
    dialog = page.get_by_role("dialog")
    expect(dialog).to_contain_text("Which differences are real")
    dialog.get_by_role("tab", name="Keys").click()
    expect(dialog).to_contain_text("change the lens")


def test_headers_select_and_dragging_selects_a_block(page: Page, study: int):
    page.goto(f"/#/study/{study}/plan")
    chosen = page.locator("[role=gridcell][aria-selected=true]")
    page.get_by_role("rowheader", name="Wool", exact=True).click()
    expect(chosen).to_have_count(8)
    cells = page.get_by_role("gridcell")
    cells.nth(0).hover()
    page.mouse.down()
    cells.nth(5).hover()
    page.mouse.up()
    expect(chosen).to_have_count(4)


def test_a_factor_can_change_axes_and_the_swatches_keep_their_codes(page: Page, study: int):
    page.goto(f"/#/study/{study}/plan")
    expect(page.get_by_role("gridcell")).to_have_count(18)
    codes = page.locator(".cell .code").all_inner_texts()
    page.get_by_role("button", name="Move Fibre to the columns").click()
    expect(page.get_by_role("button", name="Move Fibre to the rows")).to_be_visible()
    assert sorted(page.locator(".cell .code").all_inner_texts()) == sorted(codes)


def test_of_a_large_grid_only_what_is_visible_is_drawn(page: Page, address: str):
    factors = [
        {"kind": "fibre", "levels": levels("wool", "silk", "cotton", "linen", "hemp", "ramie")},
        {"kind": "mordant", "levels": levels("none", "alum-hot", "alum-acetate")},
        {"kind": "dye", "levels": levels("dried-flowers", "dried-bark", "dry-skins")},
        {"kind": "ph", "levels": valued("ph", 4, 5, 6, 7, 8, 9, 10)},
        {"kind": "iron", "levels": valued("iron", 0, 0.5, 1, 1.5, 2)},
    ]
    plan = small_plan(name="Large", factors=factors)
    made = http.post(f"{address}/api/studies", json=plan).json()["id"]
    page.goto(f"/#/study/{made}/plan")
    grid = page.get_by_role("grid", name="Swatches")
    expect(grid).to_have_attribute("aria-rowcount", "21")
    expect(grid).to_have_attribute("aria-colcount", "107")
    drawn = page.locator("[role=gridcell][data-cell^='fibre']")
    expect(drawn.first).to_be_visible()
    assert drawn.count() < 700
    grid.evaluate("element => element.scrollTo(1e6, 1e6)")
    last = "fibre=ramie;mordant=alum-acetate;dye=dry-skins;ph=ph-10;iron=iron-2"
    expect(page.locator(f"[data-cell='{last}']")).to_be_visible()


def test_html_in_a_name_is_shown_as_text(page: Page, address: str):
    name = "<img src=x onerror=alert(1)>"
    http.post(f"{address}/api/studies", json=small_plan(name=name))
    page.goto("/")
    expect(page.get_by_role("button", name=name)).to_be_visible()
    assert page.locator("img[src=x]").count() == 0


def test_shelf_is_searched_and_added_to(page: Page, study: int):
    page.goto("/#/shelf")
    page.get_by_label("Find on the Shelf").fill("felts")
    expect(page.get_by_text("felts with sudden temperature change")).to_be_visible()
    expect(page.get_by_text("Cotton", exact=True)).to_have_count(0)
    page.get_by_label("Find on the Shelf").fill("")
    page.get_by_role("tab", name="Dye lots").click()
    page.get_by_role("button", name="New dye lot").click()
    page.get_by_label("Name").fill("Creek reed")
    page.get_by_role("button", name="Put the dye lot on the Shelf").click()
    expect(page.get_by_role("button", name="Creek reed")).to_be_visible()


def test_today_leads_to_the_lens(page: Page, study: int):
    page.goto("/#/today")
    own = page.get_by_role("region", name="Small", exact=True)
    expect(own.get_by_text("swatches have no reading yet")).to_be_visible()
    page.get_by_role("button", name="Go there").first.click()
    expect(page.get_by_role("complementary", name="dye panel")).to_be_visible()


def test_the_bench_theme_and_the_place_survive_a_reload(page: Page, study: int):
    page.goto(f"/#/study/{study}/weigh")
    page.get_by_role("button", name="Dark bench").click()
    page.reload()
    expect(page.get_by_role("button", name="Light bench")).to_be_visible()
    expect(page.get_by_role("complementary", name="weigh panel")).to_be_visible()


def test_greys_around_the_swatches_have_no_tint(page: Page, study: int):
    page.goto(f"/#/study/{study}/read")
    for bench in ("Dark bench", "Light bench"):
        expect(page.get_by_role("gridcell").first).to_be_visible()
        colour = page.evaluate("getComputedStyle(document.body).backgroundColor")
        r, g, b = re.findall(r"\d+", colour)[:3]
        assert r == g == b
        page.get_by_role("button", name=bench).click()


def test_on_a_phone_nothing_is_wider_than_the_screen(page: Page, study: int):
    page.set_viewport_size({"width": 390, "height": 844})
    for lens in ("plan", "weigh", "dye", "read", "fade", "compare"):
        page.goto(f"/#/study/{study}/{lens}")
        if lens != "dye":
            page.get_by_role("button", name="Grid", exact=True).first.click()
            expect(page.get_by_role("grid", name="Swatches")).to_be_visible()
            assert page.evaluate("document.documentElement.scrollWidth") <= 390
            page.get_by_role("group", name="What is shown").get_by_role("button").last.click()
        expect(page.get_by_role("complementary", name=f"{lens} panel")).to_be_visible()
        assert page.evaluate("document.documentElement.scrollWidth") <= 390
    done = page.get_by_role("button", name="Done")
    page.goto(f"/#/study/{study}/dye")
    box = done.bounding_box()
    assert box
    assert box["height"] >= 48


def test_the_plan_says_what_each_choice_costs_and_warns_once(page: Page, study: int):
    page.goto(f"/#/study/{study}/plan")
    plan = page.get_by_role("complementary")
    expect(plan.get_by_text("18 swatches, 4 vessels")).to_be_visible()
    said = plan.get_by_text("does not suit cotton")
    plan.get_by_role("button", name="Show 4 swatches").click()
    chosen = page.locator("[role=gridcell][aria-selected=true]")
    expect(chosen).to_have_count(4)
    plan.get_by_role("button", name="Leave out").click()
    expect(plan.get_by_text("14 swatches, 4 vessels")).to_be_visible()
    expect(said).to_be_hidden()
    plan.get_by_role("button", name="Do not cross Iron").click()
    plan.get_by_role("button", name="Take it out").click()
    expect(plan.get_by_text("3 vessels · saved")).to_be_visible()
    plan.get_by_label("Undyed fibre: 2").click()
    expect(plan.get_by_label("Undyed fibre: +2")).to_be_visible()


def test_controls_are_marked_in_the_grid(page: Page, study: int):
    page.goto(f"/#/study/{study}/read")
    control = page.locator("[data-cell='control=undyed;fibre=wool']")
    expect(control.locator(".ring")).to_be_visible()
    treated = page.locator("[data-cell*='mordant=alum-hot']").first
    expect(treated).to_be_visible()
    expect(treated.locator(".ring")).to_have_count(0)


def test_an_unread_swatch_has_no_invented_colour(page: Page, study: int):
    page.goto(f"/#/study/{study}/read")
    cell = page.get_by_role("gridcell").first
    expect(cell).to_have_attribute("aria-label", re.compile("not read yet"))
    fills = cell.locator("rect, svg > path").evaluate_all("all => all.map(r => r.getAttribute('fill'))")
    for fill in fills:
        if fill and fill.startswith("#"):
            assert fill[1:3] == fill[3:5] == fill[5:7]
    expect(page.get_by_text("No photo waits to be accepted.")).to_be_visible()


def test_weigh_follows_the_selection(page: Page, study: int):
    page.goto(f"/#/study/{study}/weigh")
    weigh = page.get_by_role("complementary")
    weigh.get_by_role("tab", name="Baths").click()
    expect(weigh.get_by_role("heading", name="D2")).to_be_visible()
    page.locator("[data-cell*='mordant=none'][data-cell*='ph-4;iron=iron-0']").first.click()
    expect(weigh.get_by_role("heading", name="D1")).to_be_visible()
    expect(weigh.get_by_role("heading", name="D2")).to_be_hidden()
    expect(weigh.get_by_role("heading", name="M1")).to_be_hidden()
    page.locator("[data-cell='control=undyed;fibre=wool']").click()
    expect(weigh.get_by_text("go into no vessel")).to_be_visible()


def test_every_control_on_every_view_has_a_name(page: Page, study: int):
    for view in ("plan", "weigh", "dye", "read", "fade", "compare", "today", "shelf"):
        page.goto(f"/#/study/{study}/{view}")
        page.get_by_role("button", name="Today").wait_for()
        page.wait_for_load_state("networkidle")
        nameless = page.evaluate(
            """() => [...document.querySelectorAll('button, input:not([aria-hidden]), a[href]')]
              .filter(e => !(e.innerText || e.ariaLabel || e.labels?.length || e.title
                || e.getAttribute('aria-labelledby'))).map(e => e.outerHTML)"""
        )
        assert nameless == [], view
