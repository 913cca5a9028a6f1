"""No view and no dialog breaks a rule of axe-core (4.14), in light or dark; nor do large letters,
forced colours, or a phone that lies on its side."""

import re
import shutil
from collections.abc import Iterator

import pytest
from fastapi import FastAPI
from playwright.sync_api import Browser, Page, expect
from tests.demo_file import example_file
from tests.ui.axe_look import violations, violations_in_light_and_dark

from zesty_grid.api.application import create_application
from zesty_grid.store.database import Database

VIEWS = (
    "study/1/plan",
    "study/1/weigh",
    "study/1/dye",
    "study/1/dye/days",
    "study/1/dye/log",
    "study/1/read",
    "study/1/fade",
    "study/1/fade/strips",
    "study/1/fade/curves",
    "study/1/fade/lasting",
    "study/1/fade/life",
    "study/1/compare",
    "study/1/compare/real",
    "study/1/compare/table",
    "study/1/compare/chart",
    "study/1/compare/find",
    "study/1/compare/odd",
    "study/1/compare/next",
    "study/1/compare/tell",
    "study/1/compare/profiles",
    "today",
    "shelf",
    "safekeeping",
    "words",
    "settings",
    "trainer",
)
CODE = re.compile(r"^[A-Z0-9]{4}$")
# How each dialog is opened: the view, and the buttons on the way.
DIALOGS = {
    "help": ("study/1/read", ["Help"]),
    "studies": ("study/1/read", ["▾"]),
    "new study": ("study/1/read", ["▾", "New study"]),
    "from a file": ("study/1/read", ["▾", "Studies from a file"]),
    "shelf item": ("shelf", ["Wool"]),
    "new dye": ("shelf", ["tab:Dye lots", "New dye lot"]),
    "list": ("shelf", ["From a list"]),
    "how the plan became so": ("study/1/plan", ["How this plan became so"]),
    "budget": ("study/1/plan", ["tab:Tell", "Fit it to a budget"]),
    "show and order": ("study/1/read", ["show and order"]),
    "photos": ("study/1/read", ["Take them with this device"]),
    "going on": ("study/1/plan", ["gridcell:", "Go on with it"]),
    "start from": ("study/1/plan", ["gridcell:", "Start a study from it"]),
    "hours and waits": ("study/1/dye/days", ["Hours, hands and waits"]),
    "correction": ("study/1/dye/log", ["correct"]),
    "went wrong": ("study/1/dye", ["It went wrong"]),
    "instrument": ("study/1/read", ["Bring in a file"]),
    "light": ("study/1/fade", ["Say where they hang|Change the light"]),
    "recipe": ("study/1/compare/find", ["Recipe"]),
}


@pytest.fixture(scope="module")
def example(tmp_path_factory) -> FastAPI:
    path = tmp_path_factory.mktemp("example") / "example.db"
    shutil.copyfile(example_file(), path)
    return create_application(Database(path))


@pytest.fixture
def application(example: FastAPI) -> FastAPI:
    return example


def settled(page: Page) -> None:
    page.wait_for_timeout(300)
    page.wait_for_load_state("networkidle")
    expect(page.get_by_role("status").filter(has_text="Fetching")).to_have_count(0)


@pytest.mark.parametrize("part", range(4))
def test_no_view_breaks_a_rule(page: Page, part: int):
    broken = {}
    for view in VIEWS[part::4]:
        page.goto(f"/#/{view}")
        expect(page.get_by_role("heading", level=1)).to_have_count(1)
        settled(page)
        found = violations_in_light_and_dark(page)
        if found:
            broken[view] = found
        assert page.title().endswith("· Zesty Grid")
    assert broken == {}


@pytest.mark.parametrize("name", DIALOGS)
def test_no_dialog_breaks_a_rule(page: Page, name: str):
    view, buttons = DIALOGS[name]
    page.goto(f"/#/{view}")
    settled(page)
    for words in buttons:
        role, found, label = words.rpartition(":")
        page.get_by_role(role if found else "button", name=re.compile(label)).first.click()
    dialogs = page.get_by_role("dialog")
    expect(dialogs.first).to_be_visible()
    settled(page)
    # The view behind it was looked at without it.
    assert violations_in_light_and_dark(page, "body > [role=presentation]") == []
    page.keyboard.press("Escape")
    expect(dialogs).to_have_count(0)


@pytest.mark.parametrize("width", [390, 360])
def test_no_rule_is_broken_on_a_phone(page: Page, width: int):
    page.set_viewport_size({"width": width, "height": 740})
    broken = {}
    for view in ("study/1/plan", "study/1/weigh", "study/1/dye", "study/1/read", "today"):
        page.goto(f"/#/{view}")
        settled(page)
        for part in page.get_by_role("group", name="What is shown").get_by_role("button").all():
            part.click()
            settled(page)
            found = violations(page)
            if found:
                broken[view] = found
            assert page.evaluate("document.documentElement.scrollWidth") <= width
    assert broken == {}


def test_everything_that_can_be_used_shows_where_the_keyboard_is(page: Page):
    page.goto("/#/study/1/plan")
    settled(page)
    unseen = []
    for _ in range(60):
        page.keyboard.press("Tab")
        seen = page.evaluate(
            """() => { const at = document.activeElement;
              if (!at || at === document.body) return 'nothing';
              const frame = at.closest('.MuiInputBase-root, .MuiButtonBase-root') ?? at;
              const shown = [at, frame].some(e => { const s = getComputedStyle(e);
                return (s.outlineStyle !== 'none' && parseFloat(s.outlineWidth) > 0)
                  || /Mui-focus(ed|Visible)/.test(e.className);
              });
              return shown ? '' : at.outerHTML.slice(0, 160); }"""
        )
        if seen and seen != "nothing":
            unseen.append(seen)
    assert unseen == []


@pytest.fixture
def large_letters(own_page: Page) -> Iterator[Page]:
    """WCAG 2.2, 1.4.12: lines of 1.5, letters 0.12 em and words 0.16 em apart."""
    own_page.add_init_script(
        """addEventListener('DOMContentLoaded', () => { const wide = new CSSStyleSheet();
        wide.replaceSync(`* { line-height: 1.5 !important; letter-spacing: .12em !important;
          word-spacing: .16em !important; }`); document.adoptedStyleSheets.push(wide); });"""
    )
    return own_page


def test_wider_letters_cut_no_button(large_letters: Page):
    page = large_letters
    page.goto("/#/study/1/read")
    settled(page)
    cut = page.get_by_role("button").evaluate_all(
        """all => all.filter(e => e.offsetParent && e.scrollWidth > e.clientWidth + 2
          && getComputedStyle(e).overflow !== 'visible' && !e.textContent.includes('▾'))
          .map(e => e.textContent)"""
    )
    assert cut == []


@pytest.mark.parametrize("size", [(640, 400), (740, 360)])
def test_at_twice_the_size_and_on_its_side_the_grid_stands(page: Page, size: tuple[int, int]):
    """WCAG 2.2, 1.4.4: 1280 × 800 at 200 % is a window of 640 × 400."""
    page.set_viewport_size({"width": size[0], "height": size[1]})
    page.goto("/#/study/1/read")
    cell = page.get_by_role("gridcell").first
    expect(cell).to_be_in_viewport()
    assert page.evaluate("document.documentElement.scrollWidth") <= size[0]


def test_with_forced_colours_the_cloth_keeps_its_own(browser: Browser, address: str):
    context = browser.new_context(
        forced_colors="active", viewport={"width": 1280, "height": 800}, base_url=address, service_workers="block"
    )
    page = context.new_page()
    page.goto("/#/study/1/read")
    cell = page.get_by_role("gridcell").first
    expect(cell.locator("svg rect").first).to_have_attribute("fill", re.compile("^#"))
    kept = cell.locator("svg").evaluate("e => getComputedStyle(e).forcedColorAdjust")
    assert kept == "none"
    cell.click()
    stitches = page.locator(".stitches")
    expect(stitches).to_have_attribute("d", re.compile("^M"))
    canvas_text = page.evaluate(
        "() => { document.body.style.color = 'CanvasText'; return getComputedStyle(document.body).color; }"
    )
    assert stitches.evaluate("e => getComputedStyle(e).stroke") == canvas_text
    context.close()


@pytest.mark.parametrize(("wanted", "seconds"), [("no-preference", "0.42s"), ("reduce", "0s")])
def test_fading_is_seen_to_go_on_and_nothing_moves_for_those_who_want_that(
    browser: Browser, address: str, wanted, seconds
):
    context = browser.new_context(reduced_motion=wanted, base_url=address, service_workers="block")
    page = context.new_page()
    page.goto("/#/study/1/fade")
    cloth = page.get_by_role("gridcell").first.locator("svg *").first
    assert cloth.evaluate("e => getComputedStyle(e).transitionDuration") == seconds
    page.goto("/#/study/1/read")
    expect(page.get_by_role("complementary", name="read panel")).to_be_visible()
    cloth = page.get_by_role("gridcell").first.locator("svg *").first
    assert cloth.evaluate("e => getComputedStyle(e).transitionDuration") == "0s"
    context.close()


def test_a_code_leads_to_the_record(page: Page):
    page.goto("/#/study/1/fade")
    link = page.get_by_role("complementary").get_by_role("link").filter(has_text=CODE).first
    code = link.inner_text()
    link.click()
    expect(page.get_by_role("heading", level=1, name=code)).to_be_visible()


def test_under_a_finger_everything_is_large_enough(browser: Browser, address: str):
    """48 px each way, twice what WCAG 2.2, 2.5.8 asks for."""
    context = browser.new_context(
        viewport={"width": 390, "height": 844},
        has_touch=True,
        is_mobile=True,
        base_url=address,
        service_workers="block",
    )
    page = context.new_page()
    small = {}
    for view in ("study/1/plan", "study/1/dye", "study/1/read", "study/1/fade", "today", "shelf"):
        page.goto(f"/#/{view}")
        settled(page)
        for part in page.get_by_role("group", name="What is shown").get_by_role("button").all():
            part.click()
        settled(page)
        found = page.locator("button, [role=tab], select, summary").evaluate_all(
            """all => all.filter(e => e.offsetParent && e.textContent !== 'Skip to the panel')
              .filter(e => { const b = e.getBoundingClientRect();
                const a = getComputedStyle(e, '::after');
                const whole = a.position === 'absolute' && a.content !== 'none';
                return !whole && !e.matches('p *, [aria-haspopup=dialog][title]')
                  && (b.height < 47.5 || b.width < 47.5); })
              .map(e => e.outerHTML.slice(0, 150))"""
        )
        if found:
            small[view] = found
    assert small == {}
    context.close()
