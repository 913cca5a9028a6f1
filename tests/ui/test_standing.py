"""What breaks in one place leaves the rest standing; paper keeps the colours of the cloth."""

import numpy as np
import pypdfium2
import pytest
from playwright.sync_api import Page, Route, expect
from tests.seeded_readings import add_readings, new_study
from tests.small_study import small_plan

pytestmark = pytest.mark.own_page


@pytest.fixture
def read(database) -> None:
    study, codes = new_study(database, small_plan())
    laid = [(code, "whole", (70.0, 10.0, 60.0)) for code in codes.values()]
    add_readings(database, study, laid[:12])


@pytest.mark.usefixtures("read")
def test_an_error_in_one_panel_leaves_the_rest_standing(page: Page):
    def broken(route: Route) -> None:
        plan = {"kind": "light", "name": "Sill", "swatches": [], "stages": []}
        route.fulfill(json=[{"id": 1, "plan": plan, "points": [], "stains": []}])

    page.route("**/api/studies/1/trials", broken)
    page.goto("/#/study/1/fade")
    alert = page.get_by_role("alert").filter(has_text="This part cannot be shown.")
    expect(alert.first).to_be_visible()
    expect(alert.first).to_contain_text("Nothing that was saved is lost")
    # Another lens is there at once, and this one when the answer is whole again.
    page.get_by_role("link", name="Plan").or_(page.get_by_role("button", name="Plan")).first.click()
    expect(page.get_by_role("gridcell").first).to_be_visible()
    expect(alert).to_have_count(0)
    page.unroute("**/api/studies/1/trials")
    page.goto("/#/study/1/fade")
    page.reload()
    expect(page.get_by_role("button", name="Start a trial")).to_be_visible()


@pytest.mark.usefixtures("read")
def test_paper_keeps_the_colours_of_the_cloth(page: Page):
    page.goto("/#/study/1/read")
    # L* 70, a* 10, b* 60 under D50 is about #c9a42f in sRGB.
    expect(page.get_by_role("gridcell").locator("svg [fill^='#']")).to_have_count(12)
    paper = pypdfium2.PdfDocument(page.pdf(width="1280px", height="800px"))
    seen = np.asarray(paper[0].render(scale=1).to_pil().convert("RGB")).astype(int)
    yellow = (seen[..., 0] - seen[..., 2] > 100) & (seen[..., 0] > 180)
    assert yellow.sum() > 12 * 300
