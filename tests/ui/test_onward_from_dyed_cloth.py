"""Cloth that is dyed already goes on: iron, ammonia, the start of another study."""

import re
import time
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest
from playwright.sync_api import Page, Route, expect
from tests import patient_http as http
from tests.seeded_readings import add_readings
from tests.small_study import levels, small_plan
from tests.ui.at_the_bench import bench_of, dye_all, tick
from tests.ui.test_walk import photos_of

YELLOWS = small_plan(
    name="Yellows of the summer",
    factors=[
        {"kind": "fibre", "levels": levels("wool", "silk")},
        {"kind": "mordant", "levels": levels("alum-hot")},
        {"kind": "dye", "levels": levels("dried-flowers")},
    ],
    columns=["dye"],
    controls=[],
    replicates=2,
)
YELLOW, OLIVE = (75.0, 3.0, 60.0), (48.0, 1.0, 28.0)


@pytest.fixture
def study(address: str, database) -> str:
    """A study that was dyed five days ago, and read yesterday."""
    made = http.post(f"{address}/api/studies", json=YELLOWS).json()["id"]
    at = f"{address}/api/studies/{made}"
    dye_all(at)
    laid = [(one["code"], "whole", YELLOW) for one in http.get(at).json()["swatches"]]
    add_readings(database, made, laid, accepted_at=datetime.now(UTC) - timedelta(days=1), early=True)
    return at


def read_again(database, study: int, codes: list[str], lab=OLIVE) -> None:
    add_readings(
        database,
        study,
        [(code, "whole", lab) for code in codes],
        accepted_at=datetime.now(UTC) + timedelta(minutes=2),
        early=True,
    )


def answer_slowly(route: Route) -> None:
    time.sleep(1)
    route.continue_()


def select_all(page: Page) -> None:
    page.get_by_role("gridcell").first.click()
    page.get_by_role("gridcell").last.click(modifiers=["Shift"])


def test_half_of_the_yellows_go_into_iron_and_are_seen_before_and_after(page: Page, study, database):
    page.goto("/#/study/1/plan")
    panel = page.get_by_role("complementary")
    panel.get_by_role("tab", name="Go on").click()
    select_all(page)
    panel.get_by_role("button", name="Go on with them").click()
    dialog = page.get_by_role("dialog", name="Go on with 4 swatches")
    dialog.get_by_label("Iron, % WOF").fill("2")
    dialog.get_by_label("Seconds").fill("30")
    expect(dialog.get_by_text(re.compile(r"^Iron 2 %.*: 2$"))).to_be_visible()
    expect(dialog).to_contain_text("weakens cloth")
    dialog.get_by_role("button", name="Plan it").click()
    expect(panel.get_by_role("heading", name="Further treatments: 1")).to_be_visible()
    iron = bench_of(study)["F1"]
    codes = iron["vessel"]["swatches"]
    assert len(codes) == 2
    # One wool and one silk: each against its like that stays yellow.
    fibres = {one["code"]: one["fibre"] for one in http.get(study).json()["swatches"]}
    assert {fibres[code] for code in codes} == {"wool", "silk"}
    # It is weighed, and watched by the second at the bench.
    page.goto("/#/study/1/weigh")
    panel.get_by_role("region", name="F1").get_by_role("button").first.click()
    expect(panel.get_by_text("Iron(II) sulphate").first).to_be_visible()
    tick(study, "F1", at=datetime.now(UTC))
    read_again(database, 1, codes)
    page.goto("/#/study/1/compare")
    panel.get_by_label("Or: each piece with itself before").click()
    page.get_by_role("option", name="F1").click()
    expect(panel.get_by_role("heading", name="2 differences")).to_be_visible()
    page.goto(f"/#/study/1/dye/swatch/{codes[0]}")
    states = page.get_by_role("list", name="States").get_by_role("listitem")
    expect(states.filter(has_text=re.compile(r"L\* 75"))).to_have_count(1)
    # Yellow to olive is 30 in L*, and 32 in b*: ΔE00 of more than 20.
    after = states.filter(has_text=re.compile(r"L\* 48"))
    expect(after).to_contain_text(re.compile(r"ΔE00 2\d\.\d to the one before"))


def test_ammonia_after_the_first_reading_is_a_state_of_its_own(page: Page, study, database):
    page.goto("/#/study/1/plan")
    panel = page.get_by_role("complementary")
    panel.get_by_role("tab", name="Go on").click()
    page.get_by_role("gridcell").first.click()
    panel.get_by_role("button", name=re.compile("Go on with")).click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Treatment").click()
    page.get_by_role("option", name=re.compile("pH")).click()
    dialog.get_by_label("pH", exact=True).fill("10")
    dialog.get_by_label("With").click()
    page.get_by_role("option", name="Ammonia").click()
    expect(dialog).to_contain_text("open the window")
    # A slow answer: what is planned is what is chosen, not what was dealt out before.
    page.route("**/go-on/effect", answer_slowly)
    dialog.get_by_label("Leave a part of them as they are, to compare").uncheck()
    dialog.get_by_role("button", name="Plan it").click()
    expect(panel.get_by_role("heading", name="Further treatments: 1")).to_be_visible()
    bath = next(one for one in bench_of(study).values() if one["vessel"].get("treatment"))
    name, codes = bath["vessel"]["name"], bath["vessel"]["swatches"]
    assert len(codes) == 2
    tick(study, name, at=datetime.now(UTC))
    read_again(database, 1, codes, (70.0, 8.0, 66.0))
    page.goto("/#/study/1/read")
    page.get_by_role("gridcell").first.click()
    own = page.get_by_role("group", name=f"Readings of {codes[0]}")
    expect(own.get_by_text(re.compile("as dyed|dyed", re.I)).first).to_be_visible()
    expect(own.get_by_text(re.compile(r"L\* 75")).first).to_be_visible()
    expect(own.get_by_text(re.compile(r"L\* 70")).first).to_be_visible()
    # The grid shows either state.
    cell = page.get_by_role("gridcell").first
    expect(cell).to_have_attribute("aria-label", re.compile(r"L\* 70"))
    panel.get_by_label("Shown in the grid").click()
    page.get_by_role("option", name="dyed").click()
    expect(cell).to_have_attribute("aria-label", re.compile(r"L\* 75"))


def test_iron_on_an_earlier_studys_yellow_in_a_study_begun_from_it(page: Page, study, database):
    first = next(one["code"] for one in http.get(study).json()["swatches"])
    page.goto("/#/study/1/plan")
    panel = page.get_by_role("complementary")
    panel.get_by_role("tab", name="Go on").click()
    page.get_by_role("gridcell").filter(has_text=first).click()
    panel.get_by_role("button", name=re.compile("Start a study from")).click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Name of the new study").fill("Iron on the yellows")
    dialog.get_by_role("button", name="Start it").click()
    expect(page).to_have_url(re.compile("/study/2/plan"))
    second = f"{study.removesuffix('1')}2"
    own = http.get(second).json()
    assert first in {one["code"] for one in own["swatches"]}
    panel.get_by_label("Cross with another factor").click()
    page.get_by_role("option", name="Iron", exact=True).click()
    panel.get_by_role("tab", name="Go on").click()
    expect(panel.get_by_role("button", name="Yellows of the summer")).to_be_visible()
    # Whole under its own code: its earlier colour is there, and its record knows both studies.
    page.goto("/#/study/2/read")
    expect(page.get_by_role("gridcell").filter(has_text=first)).to_have_attribute("aria-label", re.compile(r"L\* 75"))
    page.goto(f"/#/study/2/dye/swatch/{first}")
    expect(page.get_by_role("button", name="Also in “Yellows of the summer”")).to_be_visible()
    expect(page.get_by_role("region", name="D1")).to_contain_text("in “Yellows of the summer”")


def test_a_piece_that_is_still_wet_is_asked_about_and_read_damp_does_not_count(
    page: Page, address: str, tmp_path: Path
):
    made = http.post(f"{address}/api/studies", json=YELLOWS).json()["id"]
    dye_all(f"{address}/api/studies/{made}", days_ago=0.2)
    assert http.post(f"{address}/api/studies/{made}/sheets", json={}).status_code == 201
    page.goto(f"/#/study/{made}/read")
    page.get_by_label("Photos").set_input_files(photos_of(address, made, tmp_path, None))
    panel = page.get_by_role("complementary")
    panel.get_by_role("button", name="Look", exact=True).first.click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Taken on").fill(f"{datetime.now().astimezone():%Y-%m-%d}")
    dialog.get_by_role("button", name="Accept").click()
    expect(dialog.get_by_role("alert")).to_contain_text("Wet cloth reads darker")
    dialog.get_by_role("button", name="They were damp: keep them, not counted").click()
    expect(dialog).to_be_hidden()
    cell = page.get_by_role("gridcell").first
    expect(cell).to_have_attribute("aria-label", re.compile("not read yet"))
    cell.click()
    panel.get_by_text(re.compile("The reading behind it|readings behind it")).first.click()
    expect(panel.get_by_text(re.compile("damp")).first).to_be_visible()
    panel.get_by_label("counts").first.check()
    expect(cell).to_have_attribute("aria-label", re.compile(r"L\*"))


def test_three_yellows_into_iron_and_three_into_a_blue_stay_apart(page: Page, address: str, database):
    made = http.post(f"{address}/api/studies", json=YELLOWS | {"replicates": 3}).json()["id"]
    study = f"{address}/api/studies/{made}"
    dye_all(study)
    view = http.get(study).json()
    codes = [one["code"] for one in view["swatches"]]
    add_readings(
        database,
        made,
        [(code, "whole", YELLOW) for code in codes],
        accepted_at=datetime.now(UTC) - timedelta(days=1),
        early=True,
    )
    of = {code: one["fibre"] for code, one in zip(codes, view["swatches"], strict=True)}
    wool, silk = ([code for code in codes if of[code] == fibre] for fibre in ("wool", "silk"))
    iron, blue = [*wool[:2], silk[0]], [wool[2], *silk[1:]]
    ways = [
        {"key": "iron-1", "name": "Iron 2 %", "kind": "iron", "swatches": iron, "iron_percent_wof": 2},
        {"key": "dye-1", "name": "A blue over it", "kind": "dye", "swatches": blue, "dye": "insect-dye"},
    ]
    plan = view["plan"] | {"treatments": ways}
    assert http.put(study, json={"revision": view["revision"], "plan": plan}).status_code == 200
    for name in ("F1", "O1"):
        tick(study, name, at=datetime.now(UTC))
    green = (45.0, -20.0, 22.0)
    read_again(database, made, iron)
    read_again(database, made, blue, green)
    page.goto(f"/#/study/{made}/compare")
    panel = page.get_by_role("complementary")
    # Each way of the silk against the same way of the wool: alike, and never a mean of olive and green.
    cell = page.get_by_role("gridcell", name=re.compile("Silk"))
    expect(cell).to_contain_text("≈ 0.0 | ≈ 0.0")
    expect(panel.get_by_role("heading", name="2 differences, 2 too small to tell")).to_be_visible()
    expect(panel.get_by_text("A blue over it", exact=True)).to_be_visible()
    expect(panel.get_by_text("mean of 2 pieces")).to_have_count(1)
    # Laid against each other, for the same green.
    page.get_by_role("tab", name="What is real").click()
    said = page.get_by_role("region", name="≠ Different, if it were dyed again")
    expect(said.get_by_role("button", name=re.compile("A blue over it is greener than Iron 2 %"))).to_be_visible()
    page.get_by_text("Which of two ways keeps more of its colour?").click()
    for label, option in (("Factor", "Went on"), ("Both started from", "as dyed"), ("One way", "Iron 2 %")):
        page.get_by_label(label, exact=True).click()
        page.get_by_role("option", name=option).click()
    page.get_by_label("Other way", exact=True).click()
    page.get_by_role("option", name="A blue over it").click()
    expect(page.get_by_role("status").filter(has_text="from the start")).to_contain_text("Iron 2 % is ΔE00 2")
