"""Compare by mouse and keyboard: side by side, what is real, the chart, a colour, what next."""

import math
import re

import numpy as np
import pytest
from playwright.sync_api import Browser, Page, expect
from tests.api.test_areas import CLOTHS, SHOT, bare
from tests.cloth_spectra import true_lab
from tests.compared_studies import seeded_study
from tests.seeded_readings import add_readings, new_trial
from tests.small_study import small_plan

from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.store.database import Database

CELL = "fibre={};mordant=alum-hot;dye=dried-flowers;strength=strength-{};iron=iron-{}"


@pytest.fixture
def studies(address: str, database: Database) -> tuple[dict[str, str], dict[str, str]]:
    """Two runs of one recipe; the second is lighter by two."""
    first = seeded_study(database, seed=1)
    second = seeded_study(database, seed=2, shift=(2.0, 0, 0), name="Again in spring")
    return first[1], second[1]


def part(page: Page, name: str) -> None:
    page.get_by_role("tab", name=name, exact=True).click()


def cell(page: Page, *which: object):
    return page.locator(f"[data-cell='{CELL.format(*which)}']")


def test_eight_swatches_of_two_studies_lie_side_by_side(page: Page, studies):
    page.goto("/#/study/1/compare")
    cell(page, "wool", 25, 0).click()
    for which in (("wool", 50, 0), ("wool", 100, 0), ("wool", 25, 1)):
        cell(page, *which).click(modifiers=["Control"])
    part(page, "Side by side")
    panel = page.get_by_role("complementary")
    panel.get_by_role("button", name="Lay the selected").click()
    laid = page.get_by_role("list", name="Laid side by side").get_by_role("listitem")
    expect(laid).to_have_count(8)
    # And one of the other study, by the words of its recipe.
    panel.get_by_label("From").click()
    page.get_by_role("option", name="Again in spring").click()
    panel.get_by_label("Or find any piece").fill(studies[1][CELL.format("wool", 25, 0)])
    page.get_by_role("option").first.click()
    expect(laid).to_have_count(9)
    # Its difference from the neighbour is written between them.
    expect(laid.nth(7)).to_contain_text("→")
    # In another order by keyboard; the focus goes along.
    last = laid.nth(8)
    name = last.get_attribute("data-piece")
    last.focus()
    page.keyboard.press("Shift+ArrowLeft")
    expect(laid.nth(7)).to_have_attribute("data-piece", name or "")
    # The undyed cloth at a key press, on a dark ground, in pairs.
    page.keyboard.press("u")
    expect(page.get_by_title("undyed:").first).to_be_visible()
    panel.get_by_role("button", name="Dark", exact=True).click()
    panel.get_by_label("In pairs").check()
    panel.get_by_label("Name of the table").fill("Weak and strong")
    panel.get_by_role("button", name="Keep", exact=True).click()
    expect(page).to_have_url(re.compile(r"/study/1/compare/table/1(\?|$)"))
    with page.expect_download() as download:
        panel.get_by_role("button", name="Print in colour").click()
    assert download.value.suggested_filename == "table.pdf"
    # By its address alone, in a window that knows nothing of it.
    page.evaluate("sessionStorage.clear()")
    page.reload()
    expect(laid).to_have_count(9)
    expect(panel.get_by_label("Name of the table")).to_have_value("Weak and strong")
    expect(panel.get_by_label("In pairs")).to_be_checked()
    panel.get_by_role("button", name="Take away").click()
    expect(page.get_by_text("Nothing is laid yet")).to_be_visible()


def test_an_empty_table_offers_colours_of_the_study(page: Page, studies):
    page.goto("/#/study/1/compare/table")
    page.get_by_role("button", name="Lay these 8, from hue to hue").click()
    laid = page.get_by_role("list", name="Laid side by side").get_by_role("listitem")
    expect(laid).to_have_count(8)
    assert len(set(laid.all_inner_texts())) == 8


def test_on_a_phone_the_open_tab_is_in_sight(browser: Browser, address: str, studies):
    context = browser.new_context(viewport={"width": 360, "height": 640}, base_url=address)
    page = context.new_page()
    page.goto("/#/study/1/compare/tell")
    expect(page.get_by_role("tab", name="Tell others")).to_be_in_viewport(ratio=0.95)
    context.close()


def test_a_phone_shows_two_at_a_time(browser: Browser, address: str, studies):
    context = browser.new_context(viewport={"width": 360, "height": 640}, base_url=address)
    page = context.new_page()
    page.goto("/#/study/1/compare/table")
    page.get_by_role("button", name="Differences", exact=True).click()
    for strength in (25, 50, 100):
        page.get_by_label("Or find any piece").fill(studies[0][CELL.format("wool", strength, 0)])
        page.get_by_role("option").first.click()
    page.get_by_role("button", name="View", exact=True).click()
    laid = page.get_by_role("list", name="Laid side by side").get_by_role("listitem")
    expect(laid).to_have_count(2)
    expect(page.get_by_text("1 and 2 of 3")).to_be_visible()
    page.get_by_role("button", name="Next").click()
    expect(page.get_by_text("2 and 3 of 3")).to_be_visible()
    assert page.evaluate("document.documentElement.scrollWidth") <= 360
    context.close()


def test_a_run_again_is_told_with_what_all_pairs_share(page: Page, studies):
    page.goto("/#/study/1/compare/table")
    panel = page.get_by_role("complementary")
    panel.get_by_label("Study", exact=True).click()
    page.get_by_role("option", name="Again in spring").click()
    expect(panel.get_by_text(re.compile(r"12 pairs, \d\.\d ΔE00 apart"))).to_be_visible()
    expect(panel.get_by_text("“Again in spring” is lighter")).to_be_visible()
    panel.get_by_role("button", name="Lay these pairs").click()
    laid = page.get_by_role("list", name="Laid side by side").get_by_role("listitem")
    expect(laid).to_have_count(24)


def test_an_effect_is_read_with_its_figures_and_its_reason(page: Page, studies):
    page.goto("/#/study/1/compare")
    page.get_by_role("button", name="Which are real, pots and swatches counted?").click()
    expect(page).to_have_url(re.compile("compare/real$"))
    different = page.get_by_role("region", name="Different")
    sentence = different.get_by_role("button", name=re.compile("^Iron 1 is darker"))
    expect(sentence).to_contain_text("everywhere, most with Cotton")
    sentence.click()
    detail = page.get_by_role("region", name="Iron 1 against Iron 0")
    expect(detail.get_by_role("table", name="At three depths")).to_contain_text("Dyed again")
    detail.get_by_text("The working").click()
    expect(detail.get_by_role("table", name="In each direction of colour")).to_contain_text("lightness")
    expect(detail.get_by_text("As large by noise alone")).to_be_visible()
    noise = page.get_by_role("table", name="Noise")
    # Two runs of each, apart: repeats that sharpen what is usual.
    expect(noise).to_contain_text(re.compile(r"vessel from vessel.*repeats and usual value"))
    expect(page.get_by_role("region", name="What depends on what")).to_be_visible()
    expect(page.get_by_role("region", name="Unevenness")).to_be_visible()


def test_the_chart_and_the_grid_share_their_selection(page: Page, studies):
    page.goto("/#/study/1/compare")
    cell(page, "wool", 100, 0).click()
    part(page, "Chart")
    points = page.get_by_role("listbox", name="Swatches by their colour").get_by_role("option")
    expect(points).to_have_count(24)
    chosen = page.get_by_role("option", selected=True)
    # Two runs of the recipe stand in one cell.
    expect(chosen).to_have_count(2)
    page.get_by_label("What this factor does to each").click()
    page.get_by_role("option", name="Iron", exact=True).click()
    expect(page.locator("line[marker-end]")).not_to_have_count(0)
    # A finger beside a piece means the nearest one; far from all of them, none.
    boxes = [one.bounding_box() or {} for one in points.all()]
    middles = [(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2) for box in boxes]
    lone = max(
        range(len(middles)), key=lambda i: min(math.dist(middles[i], one) for j, one in enumerate(middles) if j != i)
    )
    page.mouse.click(middles[lone][0] - boxes[lone]["width"] / 2 - 5, middles[lone][1])
    expect(points.nth(lone)).to_have_attribute("aria-selected", "true")
    cell_words = chosen.first.get_attribute("aria-label")
    table = page.get_by_role("listbox", name="Swatches by their colour").bounding_box()
    assert table
    page.mouse.click(table["x"] + table["width"] - 8, table["y"] + 8)
    assert chosen.first.get_attribute("aria-label") == cell_words
    # By keyboard to a neighbour, chosen too.
    chosen.first.focus()
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Shift+Enter")
    expect(page.get_by_role("heading", name="2 chosen")).to_be_visible()
    page.get_by_role("button", name="In order").click()
    rungs = page.get_by_role("listbox", name="In the order of lightness").get_by_role("option")
    expect(rungs).to_have_count(24)
    lightness = [
        float(re.search(r"L\* (\d+)$", one)[1])
        for one in rungs.evaluate_all("all => all.map(r => r.getAttribute('aria-label'))")
    ]
    assert lightness == sorted(lightness, reverse=True)
    part(page, "Grid")
    expect(page.get_by_role("gridcell", selected=True)).to_have_count(2)


def test_what_fades_is_ordered_and_its_way_is_drawn(page: Page, studies, database):
    codes = [studies[0][CELL.format("wool", strength, 0)] for strength in (25, 50, 100)]
    trial = new_trial(
        database,
        1,
        {
            "kind": "light",
            "name": "Sill",
            "swatches": codes,
            "stages": [{"label": f"{n} days", "days": n, "dose_lxh": n * 1e5} for n in (1, 2)],
        },
    )
    for stage in range(2):
        pieces = []
        for number, code in enumerate(codes, 1):
            faded = (60.0 + 3 * number * (stage + 1), 5.0, 45.0)
            pieces += [(code, "dark", (60.0, 5.0, 45.0)), (code, "light", faded)]
        add_readings(database, 1, pieces, trial, stage)
    page.goto("/#/study/1/compare/chart")
    page.get_by_label("The way they fade").check()
    expect(page.locator("polyline[stroke-dasharray]")).to_have_count(3)
    page.get_by_label("What this factor does to each").click()
    page.get_by_role("option", name="Iron", exact=True).click()
    # The arrows in words, for those who do not see them.
    expect(page.get_by_role("list", name="What the arrows say")).to_contain_text("Iron 1 is darker")
    page.get_by_role("button", name="In order").click()
    page.get_by_role("combobox", name="In the order of").click()
    page.get_by_role("option", name="Lasting").click()
    rungs = page.get_by_role("listbox", name="In the order of lasting").get_by_role("option")
    expect(rungs).to_have_count(3)
    for rung, code in zip(rungs.all(), codes, strict=True):
        expect(rung).to_contain_text(code)
        expect(rung).to_contain_text("ΔE00")


def test_two_factors_together_are_shown_in_cloth(page: Page, studies):
    page.goto("/#/study/1/compare/profiles")
    expect(page.get_by_role("img", name=re.compile("L\\*, lightness.*iron 1"))).to_be_visible()
    page.get_by_label("Shows").click()
    page.get_by_role("option", name="C*, chroma").click()
    expect(page.get_by_role("img", name=re.compile("C\\*, chroma"))).to_be_visible()
    page.get_by_text("The figures").click()
    expect(page.get_by_role("cell", name=re.compile("±")).first).to_be_visible()


def test_a_colour_is_found_and_its_recipe_printed(page: Page, studies):
    page.goto("/#/study/1/compare/find")
    panel = page.get_by_role("complementary")
    panel.get_by_role("button", name="L*a*b*").click()
    for name, value in (("L*", "55"), ("a*", "5"), ("b*", "50")):
        panel.get_by_label(name, exact=True).fill(value)
    found = page.get_by_role("list", name="Nearest colours").get_by_role("listitem")
    expect(found).to_have_count(12)
    panel.get_by_label("Fibre", exact=True).click()
    page.get_by_role("option", name="Cotton", exact=True).click()
    expect(found.first).to_contain_text("Cotton")
    found.first.get_by_role("button", name=re.compile("^Recipe of")).click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("For dry fibre, g").fill("250")
    # 15 % of 250 g, worked out by hand.
    expect(dialog.get_by_text("potassium alum: 37.5 g")).to_be_visible()
    # Each caution stands once, where its danger is first met.
    said = dialog.get_by_text("Caution.").locator("..").all_inner_texts()
    assert len(said) > 2
    assert len(said) == len(set(said))
    link = dialog.get_by_role("link", name="Print the card")
    answer = page.request.get(link.get_attribute("href") or "")
    assert answer.headers["content-type"] == "application/pdf"
    dialog.get_by_role("button", name="Close").click()
    # Between the swatches: another strength than any that was dyed.
    between = page.get_by_role("region", name="Between the swatches")
    expect(between.get_by_text("left out in turn")).to_be_visible()
    slider = between.get_by_role("slider", name=re.compile("Dye strength"))
    slider.focus()
    before = between.get_by_role("status").inner_text()
    for _ in range(20):
        page.keyboard.press("ArrowRight")
    expect(between.get_by_role("status")).not_to_have_text(before)
    expect(between.get_by_role("status")).to_contain_text("Foretold, not dyed")


def test_cells_that_were_not_read_are_shown_as_foretold(page: Page, address, database):
    empty = CELL.format("cotton", 50, 1)
    seeded_study(database, left_out=[empty])
    page.goto("/#/study/1/compare")
    ghost = page.locator(f"[data-cell='{empty}']")
    expect(ghost).to_have_attribute("aria-label", re.compile("left out"))
    page.get_by_label("Show them as foretold").check()
    expect(ghost.locator("rect[stroke-dasharray]")).to_be_visible()
    expect(ghost).to_have_attribute("aria-label", re.compile("foretold, not dyed"))
    expect(page.get_by_text("left out in turn")).to_be_visible()


def test_a_make_up_run_is_filled_into_the_grid_that_it_mends(page: Page, address, database):
    lost = CELL.format("cotton", 50, 1)
    seeded_study(database, left_out=[lost])
    _, codes = seeded_study(database, seed=4, name="Strengths, make-up")
    page.goto("/#/study/1/compare/table")
    panel = page.get_by_role("complementary")
    panel.get_by_label("Study", exact=True).click()
    page.get_by_role("option", name="Strengths, make-up").click()
    panel.get_by_label("Fill its swatches into the gaps of this grid").check()
    part(page, "Grid")
    gap = page.locator(f"[data-cell='{lost}']")
    expect(gap).to_contain_text(re.compile(f"{codes[lost]}|{codes[lost + '#2']}"))
    part(page, "What is real")
    expect(page.get_by_role("note").filter(has_text="fill the gaps")).to_be_visible()


def test_what_is_not_settled_becomes_the_next_study(page: Page, studies):
    page.goto("/#/study/1/compare/next")
    page.get_by_role("button", name="Towards the colour of Find").click()
    proposal = page.get_by_role("region", name="Proposal")
    expect(proposal.get_by_text("swatches in")).to_be_visible()
    proposal.get_by_role("button", name="Make this study").click()
    expect(page).to_have_url(re.compile(r"/study/3/plan$"))
    expect(page.get_by_role("button", name=re.compile("towards a colour"))).to_be_visible()


def test_swatches_that_were_never_in_light_are_taken_to_fade(page: Page, studies):
    page.goto("/#/study/1/compare/next")
    expect(page.get_by_text("No swatch was in light yet.")).to_be_visible()
    page.get_by_role("button", name="Which would tell most").click()
    proposed = page.get_by_role("status").filter(has_text="pieces show")
    expect(proposed).to_be_visible()
    codes = set(re.findall(r"\b[A-Z0-9]{4}\b", proposed.inner_text()))
    assert codes <= set(studies[0].values())
    assert len(codes) == 8
    page.get_by_role("button", name="Select their cells and open Fade").click()
    expect(page).to_have_url(re.compile(r"/study/1/fade(\?|$)"))
    page.get_by_role("button", name="Start a trial").click()
    expect(page.get_by_role("button", name=re.compile(r"Start with \d+ swatches"))).to_be_visible()


@pytest.mark.parametrize("kind", ["JPEG", "HEIC"])
def test_the_colour_of_an_object_in_a_photo_is_looked_for(page: Page, studies, tmp_path, kind):
    """Browsers cannot show HEIC: there it is the server's picture that is clicked."""
    photo, where = bare(kind)
    path = tmp_path / f"table.{kind.lower()}"
    path.write_bytes(photo)
    page.goto("/#/study/1/compare/find")
    page.get_by_label("Photo of an object beside a chart").set_input_files(path)
    shown = page.get_by_alt_text("Photo of the object")
    # A picture that this browser cannot show gives way to the server's.
    while not shown.evaluate("picture => picture.naturalWidth > 0"):
        page.wait_for_timeout(100)
    box = shown.bounding_box()
    at = [sum(point[i] for point in where["A1"]) / 4 for i in (0, 1)]
    x, y = at[0] / SHOT.width_px * box["width"], at[1] / SHOT.height_px * box["height"]
    shown.click(position={"x": x, "y": y})
    lightness = page.get_by_label("L*", exact=True)
    expect(lightness).to_have_value(re.compile(r"^\d+\.\d$"))
    measured = [page.get_by_label(n, exact=True).input_value() for n in ("L*", "a*", "b*")]
    seen = np.array([float(value) for value in measured])
    assert float(delta_e_2000(seen, true_lab(CLOTHS[0]))) < 5
    # The doubt of the photo goes into the search.
    expect(page.get_by_role("heading", name=re.compile("^Wanted:"))).to_be_visible()
    expect(page.get_by_text(re.compile(r"±\d\.\d\. Looked through"))).to_be_visible()


def test_odd_ones_are_listed_and_selected(page: Page, studies):
    page.goto("/#/study/1/compare/twins")
    expect(page.get_by_role("region", name="Do not fit")).to_contain_text("All swatches fit their neighbours.")
    twins = page.get_by_role("region", name="Twins", exact=True)
    expect(twins).to_contain_text("nobody can tell them apart")


def test_others_are_told(page: Page, studies):
    page.goto("/#/study/1/compare")
    cell(page, "wool", 25, 0).click()
    part(page, "Tell others")
    code = studies[0][CELL.format("wool", 25, 0)]
    page.get_by_role("button", name=f"Recipe card of {code}").click()
    expect(page.get_by_role("dialog")).to_contain_text("this is how it was planned")
    page.get_by_role("dialog").get_by_role("button", name="Close").click()
    for name, kind in (
        ("As PDF", "application/pdf"),
        ("As one page", "text/html"),
        ("CSV", "text/csv"),
        ("SVG", "image/svg+xml"),
    ):
        href = page.get_by_role("link", name=name, exact=True).get_attribute("href") or ""
        assert page.request.get(href).headers["content-type"].startswith(kind)


@pytest.mark.parametrize("where", ["real", "chart", "profiles", "table", "find", "twins", "next"])
def test_every_part_says_what_is_missing_on_an_empty_study(page: Page, client, where):
    client.post("/api/studies", json=small_plan())
    page.goto(f"/#/study/1/compare/{where}")
    said = re.compile("Too few|No swatch is read|Nothing is laid|Nothing that was read|No two recipes")
    expect(page.get_by_text(re.compile(said)).first).to_be_visible()
