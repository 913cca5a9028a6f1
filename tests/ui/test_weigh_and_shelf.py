"""The Weigh lens and the Shelf in the browser."""

import pytest
from playwright.sync_api import Page, expect
from tests import patient_http as http
from tests.small_study import small_plan


@pytest.fixture
def weigh(page: Page, address: str):
    study = http.post(f"{address}/api/studies", json=small_plan()).json()["id"]
    page.goto(f"/#/study/{study}/weigh")
    panel = page.get_by_role("complementary")
    expect(panel.get_by_role("heading", name="Before the first bath")).to_be_visible()
    return panel


def test_a_lot_that_does_not_suffice_is_said_at_once(page: Page, weigh):
    place = page.url
    page.goto("/#/shelf")
    page.get_by_role("tab", name="Dye lots").click()
    page.get_by_role("button", name="Dried flowers").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("In hand, g").fill("50")
    dialog.get_by_role("button", name="Save").click()
    expect(dialog).to_be_hidden()
    page.goto(place)
    weigh.get_by_role("tab", name="Totals").click()
    expect(weigh.get_by_role("note")).to_contain_text("Dried flowers does not suffice: 22.0 g")


def test_a_trial_says_which_of_its_stages_is_no_number(page: Page, address: str):
    study = http.post(f"{address}/api/studies", json=small_plan()).json()["id"]
    page.goto(f"/#/study/{study}/fade")
    page.get_by_role("grid", name="Swatches").get_by_role("gridcell").first.click()
    panel = page.get_by_role("complementary")
    panel.get_by_role("button", name="Start a trial").click()
    panel.get_by_label("Name of the trial").fill("Loft window")
    panel.get_by_label("Read after days").fill("2 four 8")
    expect(panel.get_by_text("“four” is no number")).to_be_visible()
    start = panel.get_by_role("button", name="Start with 1 swatch")
    expect(start).to_be_disabled()
    panel.get_by_label("Read after days").fill("2 4 8")
    start.click()
    expect(panel.get_by_role("group", name="Stage")).to_be_visible()
    (trial,) = http.get(f"{address}/api/studies/{study}/trials").json()
    assert [stage["days"] for stage in trial["plan"]["stages"]] == [2, 4, 8]
