"""The plan goes on changing while cloth is dyed and read: in the browser, as it happens."""

import re
from datetime import UTC, datetime

import pytest
from playwright.sync_api import Page, expect
from tests import patient_http as http
from tests.seeded_readings import add_readings, new_trial
from tests.small_study import levels, small_plan
from tests.ui.at_the_bench import bench_of, dye_all, log, tick

PLAN = small_plan(
    factors=[
        {"kind": "fibre", "levels": levels("wool", "silk")},
        {"kind": "mordant", "levels": levels("alum-hot")},
        {"kind": "dye", "levels": levels("dried-flowers", "dried-bark")},
    ],
    columns=["dye"],
    controls=[],
    swatch_mass_g=20,
)


@pytest.fixture
def study(address: str) -> str:
    """The address of the study in the API."""
    made = http.post(f"{address}/api/studies", json=PLAN).json()["id"]
    return f"{address}/api/studies/{made}"


def swatches_of(study: str) -> dict[str, dict]:
    return {one["code"]: one for one in http.get(study).json()["swatches"]}


def test_a_factor_that_comes_after_the_reading_takes_nothing_away(page: Page, study, database):
    dye_all(study)
    before = swatches_of(study)
    codes = list(before)
    now = datetime.now(UTC)
    laid = [(code, "whole", (50.0 + 5 * i, 5.0, 30.0)) for i, code in enumerate(codes)]
    add_readings(database, 1, laid, accepted_at=now, early=True)
    stages = [{"label": "1 day", "days": 1, "dose_lxh": 1e5}]
    new_trial(database, 1, {"kind": "light", "name": "Window", "swatches": codes[:2], "stages": stages})
    pieces = [(codes[0], piece, (50.0, 5.0, 30.0)) for piece in ("dark", "light")]
    add_readings(database, 1, pieces, trial=1, stage=0, accepted_at=now, early=True)
    page.goto("/#/study/1/plan")
    panel = page.get_by_role("complementary")
    panel.get_by_label("Cross with another factor").click()
    page.get_by_role("option", name="Second dye", exact=True).click()
    # It asks first as what the dyed ones count, proposes the level that does nothing, and says
    # what it does.
    dialog = page.get_by_role("dialog", name="What this change does")
    expect(dialog).to_contain_text("4 swatches were begun before second dye was crossed")
    expect(dialog.get_by_label("Second dye of what was begun")).to_contain_text("No second dye")
    does = dialog.get_by_role("listitem").first
    expect(does).to_contain_text("4 begun swatches count as no second dye")
    dialog.get_by_role("button", name="Save the change").click()
    expect(dialog).to_be_hidden()
    panel.get_by_label("Add a level of Second dye").get_by_role("combobox").click()
    page.get_by_role("option", name="Dye extract").click()
    dialog.get_by_role("button", name="Save the change").click()
    expect(page.get_by_role("gridcell")).to_have_count(8)
    after = swatches_of(study)
    assert len(after) == 8
    assert {code: after[code]["tie"] for code in codes} == {c: before[c]["tie"] for c in codes}
    # Colours, fade points and comparisons stand where they stood.
    page.get_by_role("tab", name="Read").or_(page.get_by_role("button", name="Read")).first.click()
    for code in codes:
        expect(page.get_by_role("gridcell").filter(has_text=code)).to_have_attribute("aria-label", re.compile(r"L\*"))
    page.goto("/#/study/1/fade")
    expect(panel.get_by_text("Rating").first).to_be_visible()
    page.goto("/#/study/1/compare")
    panel.get_by_label("Or: same but for").click()
    page.get_by_role("option", name="Dye: Dried-flowers").click()
    expect(panel.get_by_role("heading", name="2 differences")).to_be_visible()


def test_a_level_that_comes_while_a_bath_runs_goes_into_new_vessels(page: Page, study: str):
    tick(study, "S1")
    tick(study, "M1", until="hold")
    log(study, vessel="M1", step="hold", kind="begun", minutes=60)
    log(study, vessel="M1", kind="deviation", deviation="boiled")
    before, old = bench_of(study)["M1"], swatches_of(study)
    assert len(before["vessel"]["swatches"]) == 4
    page.goto("/#/study/1/plan")
    panel = page.get_by_role("complementary")
    panel.get_by_label("Add a level of Dye", exact=True).get_by_role("combobox").click()
    page.get_by_role("option", name="Dye extract").click()
    dialog = page.get_by_role("dialog", name="What this change does")
    expect(dialog).to_contain_text("2 new swatches")
    expect(dialog).to_contain_text("M1 has begun and stays as it is")
    dialog.get_by_role("button", name="Save the change").click()
    expect(page.get_by_role("gridcell")).to_have_count(6)
    after = bench_of(study)
    assert (after["M1"]["vessel"], after["M1"]["amounts"]) == (before["vessel"], before["amounts"])
    new = set(swatches_of(study)) - set(old)
    assert set(after["M2"]["vessel"]["swatches"]) == new
    # What was never dyed carries nothing of what was logged.
    page.goto(f"/#/study/1/dye/swatch/{min(new)}")
    expect(page.get_by_role("heading", name=min(new))).to_be_visible()
    expect(page.locator(".printed")).not_to_contain_text("Went wrong")
    expect(page.get_by_role("region", name="M2")).to_contain_text("still ahead")
    # Another mass in the plan leaves the bath that runs at its own.
    plan = http.get(study).json()
    plan["plan"]["swatch_mass_g"] = 10
    saved = http.put(study, json={"revision": plan["revision"], "plan": plan["plan"]})
    assert saved.status_code == 200
    assert bench_of(study)["M1"]["amounts"] == before["amounts"]
    page.goto(f"/#/study/1/dye/swatch/{min(old)}")
    expect(page.get_by_text("20 g.")).to_be_visible()


def test_every_version_can_be_looked_at_and_gone_back_to(page: Page, study: str):
    page.goto("/#/study/1/plan")
    panel = page.get_by_role("complementary")
    first = swatches_of(study)
    panel.get_by_role("button", name="Do not cross Dye").click()
    panel.get_by_role("button", name="Take it out").click()
    expect(page.get_by_role("gridcell")).to_have_count(2)
    panel.get_by_role("button", name="How this plan became so").click()
    dialog = page.get_by_role("dialog", name="How this plan became what it is")
    expect(dialog.get_by_role("button", name="2. ")).to_be_visible()
    dialog.get_by_role("button", name="1. begun").click()
    expect(dialog.get_by_role("group", name="Version 1")).to_contain_text("Dried-flowers, Dried-bark")
    dialog.get_by_role("button", name="Go back to version 1").click()
    expect(page.get_by_role("gridcell")).to_have_count(4)
    assert swatches_of(study).keys() >= first.keys()
    assert {c for c, s in swatches_of(study).items() if s["planned"]} == set(first)


def test_what_is_taken_out_of_the_plan_after_it_began_stays_and_is_marked(page: Page, study: str):
    dye_all(study)
    page.goto("/#/study/1/plan")
    panel = page.get_by_role("complementary")
    panel.get_by_role("button", name="Remove Dried-bark").click()
    panel.get_by_role("button", name="Take it out").click()
    dialog = page.get_by_role("dialog", name="What this change does")
    expect(dialog).to_contain_text("no longer planned")
    dialog.get_by_role("button", name="Save the change").click()
    expect(dialog).to_be_hidden()
    expect(page.get_by_role("gridcell")).to_have_count(4)
    gone = page.locator("[role=gridcell][aria-label*='no longer planned']")
    expect(gone).to_have_count(2)
    gone.first.click()
    expect(panel.get_by_text("no longer planned").first).to_be_visible()
    panel.get_by_role("button", name="Undo").click()
    expect(gone).to_have_count(0)
