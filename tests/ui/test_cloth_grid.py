"""The grid: as large as there is room for, found in, chosen in, and moved over by keyboard."""

import re

import pytest
from playwright.sync_api import Browser, Page, expect
from tests import patient_http as http
from tests.seeded_readings import add_readings, new_study
from tests.small_study import levels, small_plan, valued

from zesty_grid.store.database import Database

WOOL = "fibre=wool;mordant={};dye=dried-flowers;ph=ph-4;iron={}"
PLAIN, IRON = WOOL.format("alum-hot", "iron-0"), WOOL.format("alum-hot", "iron-1")
BARE = WOOL.format("none", "iron-0")


@pytest.fixture
def codes(address: str, database: Database) -> dict[str, str]:
    study, codes = new_study(database, small_plan())
    laid = [
        (codes[PLAIN], "whole", (70.0, 10.0, 60.0)),
        (codes[IRON], "whole", (45.0, 2.0, 20.0)),
        (codes[BARE], "whole", (80.0, 2.0, 30.0)),
    ]
    add_readings(database, study, laid)
    return codes


def chip_width(page: Page) -> int:
    chip = page.get_by_role("grid", name="Swatches").get_by_role("gridcell").first.locator("svg")
    return int(chip.get_attribute("width") or 0)


def active(page: Page) -> str:
    """What a screen reader says: the cell or header where the keyboard is."""
    return page.evaluate(
        """() => { const id = document.activeElement.getAttribute('aria-activedescendant');
        const at = document.getElementById(id);
        return at.getAttribute('aria-label') ?? at.textContent; }"""
    )


def test_few_swatches_are_large_and_their_words_stand_below(page: Page, codes):
    page.goto("/#/study/1/read")
    cell = page.locator(f"[data-cell='{PLAIN}']")
    expect(cell).to_contain_text("yellow")
    assert chip_width(page) >= 72
    page.set_viewport_size({"width": 1920, "height": 1080})
    expect(cell).to_contain_text("L* 70.0")
    assert chip_width(page) >= 120


def test_the_size_is_chosen_with_slider_wheel_and_kept(page: Page, codes):
    page.goto("/#/study/1/read")
    fitted = chip_width(page)
    grid = page.get_by_role("grid", name="Swatches")
    slider = page.get_by_role("slider", name="Size of the swatches")
    slider.focus()
    slider.press("Home")
    expect(grid.get_by_role("gridcell").first).not_to_contain_text(codes[PLAIN])
    assert chip_width(page) <= 14
    grid.hover()
    page.keyboard.down("Control")
    for _ in range(8):
        page.mouse.wheel(0, -300)
    page.keyboard.up("Control")
    page.wait_for_function("() => document.querySelector('[role=gridcell] svg').getAttribute('width') > 100")
    large = chip_width(page)
    page.reload()
    expect(grid).to_be_visible()
    assert chip_width(page) == large
    page.get_by_role("button", name="Fit", exact=True).click()
    expect(grid.get_by_role("gridcell").first.locator("svg")).to_have_attribute("width", str(fitted))


def test_names_of_levels_are_whole_where_columns_are_narrow(page: Page, address: str):
    factors = [
        {"kind": "fibre", "levels": levels("wool", "silk")},
        {"kind": "mordant", "levels": levels("none", "alum-hot", "alum-acetate")},
        {"kind": "dye", "levels": levels("dried-flowers", "dried-bark", "dry-skins")},
        {"kind": "ph", "levels": valued("ph", 4, 7, 9)},
        {"kind": "iron", "levels": valued("iron", 0, 1, 2)},
    ]
    made = http.post(f"{address}/api/studies", json=small_plan(name="Narrow", factors=factors))
    page.goto(f"/#/study/{made.json()['id']}/plan")
    heads = page.locator("[role=columnheader], [role=rowheader]")
    expect(heads.first).to_be_visible()
    for share in ("End", "Home"):
        page.get_by_role("slider", name="Size of the swatches").press(share)
        cut = heads.evaluate_all(
            """all => all.filter(e => e.clientHeight >= 22).filter(e => {
                const s = e.firstElementChild;
                return s.offsetWidth > e.clientWidth + 2 || s.offsetHeight > e.clientHeight + 2;
            }).map(e => `${e.textContent} ${e.clientWidth}`)"""
        )
        assert cut == []


def test_what_is_looked_for_stands_out_is_jumped_to_and_chosen(page: Page, codes):
    page.goto("/#/study/1/read")
    find = page.get_by_label("Find in the grid")
    find.fill(codes[IRON].lower())
    expect(page.get_by_role("toolbar").get_by_text("1 of 18")).to_be_visible()
    expect(page.locator("[data-cell].unfound")).to_have_count(17)
    find.press("Enter")
    expect(page.get_by_role("gridcell", selected=True)).to_contain_text(codes[IRON])
    find.fill("wool alum yellow")
    expect(page.get_by_role("toolbar").get_by_text("2 of 18")).to_be_visible()
    page.get_by_role("button", name="Select them").click()
    expect(page.get_by_role("gridcell", selected=True)).to_have_count(2)
    find.fill("")
    page.get_by_role("button", name="View: show and order").click()
    page.get_by_role("combobox", name="Show").select_option("Not read yet")
    page.keyboard.press("Escape")
    expect(page.get_by_role("toolbar").get_by_text("15 of 18")).to_be_visible()


def test_swatches_lie_in_the_order_that_is_asked_for(page: Page, codes):
    page.goto("/#/study/1/read")
    page.get_by_role("button", name="View: show and order").click()
    page.get_by_role("combobox", name="Order").select_option("Dark to light")
    page.keyboard.press("Escape")
    cells = page.get_by_role("grid", name="Swatches").get_by_role("gridcell")
    # L* 45, 70 and 80; those without a colour come after them.
    for place, key in enumerate((IRON, PLAIN, BARE)):
        expect(cells.nth(place)).to_contain_text(codes[key])
    expect(cells.nth(3)).to_contain_text("not read yet")
    expect(page.get_by_role("columnheader")).to_have_count(0)


def test_view_and_selection_stand_in_the_address(page: Page, codes):
    page.goto("/#/study/1/read")
    page.locator(f"[data-cell='{PLAIN}']").click()
    page.locator(f"[data-cell='{IRON}']").click(modifiers=["Control"])
    page.get_by_label("Find in the grid").fill("alum")
    page.wait_for_url(re.compile(f"of={codes[PLAIN]}.{codes[IRON]}"))
    page.keyboard.press("Tab")
    page.get_by_role("navigation", name="Lenses").get_by_role("button", name="Compare").click()
    page.reload()
    expect(page.get_by_role("gridcell", selected=True)).to_have_count(2)
    expect(page.get_by_label("Find in the grid")).to_have_value("alum")
    assert "/compare" in page.url


def test_chosen_swatches_are_copied_as_a_table(page: Page, codes, address: str):
    page.context.grant_permissions(["clipboard-read", "clipboard-write"], origin=address)
    page.goto("/#/study/1/read")
    page.locator(f"[data-cell='{PLAIN}']").click()
    page.get_by_role("button", name="Copy").click()
    expect(page.get_by_text("Copied")).to_be_visible()
    head, line = [row.split("\t") for row in page.evaluate("navigator.clipboard.readText()").split("\n")]
    told = dict(zip(head, line, strict=True))
    assert told["Code"] == codes[PLAIN]
    assert told["Fibre"] == "Wool"
    assert (told["L*"], told["a*"], told["b*"]) == ("70.00", "10.00", "60.00")


def test_the_record_is_one_step_away(page: Page, codes):
    page.goto("/#/study/1/read")
    page.locator(f"[data-cell='{PLAIN}']").dblclick()
    expect(page.get_by_role("list", name="States")).to_be_visible()
    assert f"swatch/{codes[PLAIN]}" in page.url


def test_the_keyboard_moves_as_in_any_grid_and_is_spoken(page: Page, codes):
    """Keys of the grid pattern: W3C ARIA Authoring Practices Guide, Grid, data grids."""
    page.goto("/#/study/1/read")
    grid = page.get_by_role("grid", name="Swatches")
    expect(page.locator(f"[data-cell='{PLAIN}']")).to_have_attribute("aria-label", re.compile("yellow"))
    grid.focus()
    page.keyboard.press("ArrowDown")
    first = active(page)
    assert "Wool" in first
    page.keyboard.press("End")
    end = active(page)
    assert "no iron" not in end.lower()
    page.keyboard.press("Home")
    assert active(page) == first
    page.keyboard.press("Control+End")
    assert "Cotton" in active(page)
    page.keyboard.press("Control+Home")
    assert active(page) == first
    page.keyboard.press("PageDown")
    assert "Cotton" in active(page)
    page.keyboard.press("Control+Home")
    page.keyboard.press("ArrowUp")
    head = active(page)
    page.keyboard.press("Space")
    chosen = page.get_by_role("gridcell", selected=True)
    assert chosen.count() == 4
    assert head in page.get_by_role("columnheader").all_inner_texts()
    page.keyboard.press("ArrowDown")
    page.keyboard.press("ArrowLeft")
    assert active(page) in page.get_by_role("rowheader").all_inner_texts()
    page.keyboard.press("Control+a")
    expect(grid.get_by_role("gridcell", selected=True)).to_have_count(16)
    page.keyboard.press("Escape")
    expect(chosen).to_have_count(0)


def test_the_grid_has_rows_with_headers_and_cells(page: Page, codes):
    page.goto("/#/study/1/read")
    grid = page.get_by_role("grid", name="Swatches")
    expect(grid.get_by_role("gridcell").first).to_be_visible()
    strays = grid.evaluate(
        """grid => [...grid.querySelectorAll('[role=gridcell],[role$=header]')]
          .filter(e => !e.closest('[role=row]')).length"""
    )
    assert strays == 0
    rows = int(grid.get_attribute("aria-rowcount") or 0)
    assert rows == grid.get_by_role("row").count()


def test_where_the_keyboard_goes_the_grid_scrolls(page: Page, codes):
    page.set_viewport_size({"width": 700, "height": 500})
    page.goto("/#/study/1/read")
    page.get_by_role("button", name="Grid", exact=True).click()
    grid = page.get_by_role("grid", name="Swatches")
    page.get_by_role("button", name="View: show and order").click()
    page.get_by_role("slider", name="Size of the swatches").press("End")
    page.keyboard.press("Escape")
    grid.focus()
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Control+End")
    expect(page.locator(f"#{grid.get_attribute('aria-activedescendant')}")).to_be_in_viewport(ratio=0.5)
    page.keyboard.press("Control+Home")
    expect(page.locator(f"#{grid.get_attribute('aria-activedescendant')}")).to_be_in_viewport(ratio=0.5)


def test_a_finger_chooses_by_a_tap_and_never_by_scrolling(browser: Browser, address: str, codes):
    context = browser.new_context(
        viewport={"width": 390, "height": 844}, has_touch=True, base_url=address, service_workers="block"
    )
    page = context.new_page()
    page.goto("/#/study/1/read")
    chosen = page.get_by_role("gridcell", selected=True)
    cell = page.locator(f"[data-cell='{PLAIN}']")
    expect(cell).to_be_visible()
    box = cell.bounding_box()
    assert box
    assert box["width"] >= 48
    assert box["height"] >= 48
    x, y = box["x"] + 20, box["y"] + 20
    touch = context.new_cdp_session(page)
    send = touch.send
    send("Input.dispatchTouchEvent", {"type": "touchStart", "touchPoints": [{"x": x, "y": y}]})
    for step in range(1, 6):
        moved = [{"x": x, "y": y - 25 * step}]
        send("Input.dispatchTouchEvent", {"type": "touchMove", "touchPoints": moved})
    send("Input.dispatchTouchEvent", {"type": "touchEnd", "touchPoints": []})
    page.wait_for_timeout(300)
    expect(chosen).to_have_count(0)
    cell.tap()
    expect(chosen).to_have_count(1)
    page.locator(f"[data-cell='{BARE}']").tap()
    expect(chosen).to_have_count(1)
    page.get_by_role("button", name="Choose several").tap()
    cell.tap()
    expect(chosen).to_have_count(2)
    context.close()
