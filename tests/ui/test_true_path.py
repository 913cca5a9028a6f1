"""What really happened, said at the bench: the wrong pot, earlier entries, corrections, reheats."""

import re
from datetime import UTC, datetime, timedelta

import pytest
from playwright.sync_api import Locator, Page, expect
from tests import patient_http as http
from tests.small_study import levels, small_plan, valued
from tests.ui.at_the_bench import bench_of, entries_of, log, open_bench, tick

PLAN = small_plan(
    factors=[
        {"kind": "fibre", "levels": levels("wool", "silk")},
        {"kind": "mordant", "levels": levels("alum-hot")},
        {"kind": "dye", "levels": levels("dried-flowers", "dried-bark")},
        {"kind": "iron", "levels": valued("iron", 0, 1)},
    ],
    columns=["dye", "iron"],
    controls=[],
)


@pytest.fixture
def study(address: str) -> str:
    made = http.post(f"{address}/api/studies", json=PLAN).json()["id"]
    return f"{address}/api/studies/{made}"


def local(at: datetime, seconds: bool = False) -> str:
    """As a datetime field takes it, in the browser's time zone, which is the machine's."""
    return at.astimezone().strftime("%Y-%m-%dT%H:%M:%S" if seconds else "%Y-%m-%dT%H:%M")


def more(bench: Locator, what: str) -> None:
    bench.get_by_role("region", name="Log anything").get_by_role("button", name=what).click()


def test_a_piece_in_the_wrong_pot_is_shown_where_it_truly_belongs(page: Page, study: str):
    tick(study, "M1")
    tick(study, "D2", until="enter")
    vessels = bench_of(study)
    lost = vessels["D1"]["vessel"]["swatches"][0]
    bench = open_bench(page, "D2")
    bench.get_by_label("Code or tie").fill(lost)
    bench.get_by_role("button", name="Tick in").click()
    expect(bench.get_by_role("alert")).to_contain_text("does not belong in D2")
    would_be = "Had it gone in, it would be: Dried-bark, not Dried-flowers"
    expect(bench.get_by_text(would_be)).to_be_visible()
    bench.get_by_role("button", name="It went in all the same").click()
    expect(bench.get_by_role("button", name=f"✓ {lost}")).to_contain_text("does not belong")
    stray = bench.get_by_role("group", name=f"{lost} in D2")
    expect(stray).to_contain_text("left out of Compare and Tell")
    stray.get_by_role("button", name="Count it as Dried-bark, not Dried-flowers").click()
    expect(stray).to_contain_text("it counts as it really is")
    swatch = next(one for one in http.get(study).json()["swatches"] if one["code"] == lost)
    assert (swatch["levels"]["dye"], swatch["true_levels"]["dye"]) == ("dried-flowers", "dried-bark")
    # The grid shows it with its like, and leaves a mark where it was meant to be.
    page.goto("/#/study/1/plan")
    fibre = swatch["levels"]["fibre"]
    key = f"fibre={fibre};mordant=alum-hot;dye={{}};iron={swatch['levels']['iron']}"
    expect(page.locator(f"[data-cell='{key.format('dried-bark')}']")).to_contain_text(lost)
    meant = page.locator(f"[data-cell='{key.format('dried-flowers')}']")
    meant.click()
    panel = page.get_by_role("complementary")
    expect(panel.get_by_text(f"{lost} was meant")).to_be_visible()
    page.goto(f"/#/study/1/dye/swatch/{lost}")
    expect(page.get_by_text("It was meant to have Dried-flowers, and went")).to_be_visible()
    expect(page.get_by_role("region", name="D2")).to_contain_text("It was not meant for this bath")


def test_what_happened_earlier_is_entered_later_and_says_so(page: Page, study: str):
    earlier = (datetime.now(UTC) - timedelta(hours=20)).replace(second=0, microsecond=0)
    bench = open_bench(page, "M1")
    bench.get_by_role("button", name="It happened earlier").click()
    bar = bench.get_by_role("note", name="Entered later")
    bar.get_by_label("What I log happened at").fill(local(earlier))
    more(bench, "Note")
    bench.get_by_role("textbox", name="Note", exact=True).fill("soaked overnight in rain water")
    bench.get_by_role("button", name="Keep the note").click()
    more(bench, "Reading")
    bench.get_by_label("°C").last.fill("48")
    bench.get_by_role("button", name="Record").last.click()
    bar.get_by_role("button", name="Back to now").click()
    expect(bench.get_by_role("button", name="It happened earlier")).to_be_visible()
    page.goto("/#/study/1/dye/log")
    rows = page.locator("tbody tr")
    expect(rows).to_have_count(2)
    expect(rows.filter(has_text="entered later")).to_have_count(2)
    expect(rows.filter(has_text="48 °C")).to_have_count(1)
    said = entries_of(study)
    assert {datetime.fromisoformat(one["at"]) for one in said} == {earlier}
    later = [datetime.fromisoformat(one["entered_at"]) for one in said]
    assert min(later) > earlier + timedelta(hours=19)


def test_a_correction_keeps_the_time_and_so_the_seconds_in_the_iron(page: Page, study: str):
    begun = datetime.now(UTC) - timedelta(days=2)
    at = {"vessel": "F1", "step": "dip"}
    tick(study, "F1", until="dip", at=begun - timedelta(minutes=9))
    code = bench_of(study)["F1"]["vessel"]["swatches"][0]
    log(study, kind="begun", at=begun.isoformat(), **at)
    pulled = begun + timedelta(seconds=20.3)
    log(study, kind="pulled", swatches=[code], at=pulled.isoformat(), **at)

    def seconds() -> float:
        passages = http.get(f"{study}/dye").json()["passages"]
        return next(p["seconds"] for p in passages if p["swatch"] == code and p["vessel"] == "F1")

    assert seconds() == pytest.approx(20.3)
    page.goto("/#/study/1/dye/log")
    page.get_by_label("Search the log").fill("pulled")
    rows = page.locator("tbody tr")
    rows.first.get_by_role("button", name="correct").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Note").fill("a fold stuck out")
    dialog.get_by_role("button", name="Put this in its place").click()
    expect(rows.filter(has_text="in place of no.")).to_have_count(1)
    assert seconds() == pytest.approx(20.3)
    # Only where the time is what was wrong does it move.
    rows.filter(has_text="in place of no.").get_by_role("button", name="correct").click()
    dialog.get_by_label("It happened at").fill(local(begun + timedelta(seconds=31), seconds=True))
    dialog.get_by_role("button", name="Put this in its place").click()
    expect(rows.filter(has_text="in place of no.")).to_have_count(2)
    assert 30 <= seconds() <= 31


def test_a_bath_that_came_out_too_pale_is_heated_again_overnight(page: Page, study: str):
    for name in ("M1", "D1"):
        tick(study, name)
    code = bench_of(study)["D1"]["vessel"]["swatches"][0]
    bench = open_bench(page, "D1")
    more(bench, "Heat again")
    form = bench.get_by_role("group", name="Heat again")
    form.get_by_label("For").fill("12 h")
    form.get_by_label("Note, such as: too pale").fill("too pale")
    form.get_by_role("button", name="Heat it again").click()
    clock = bench.get_by_role("group", name="Heat again to 80 °C")
    expect(clock.get_by_text(re.compile(r"11:59:\d\d"))).to_be_visible()
    clock.get_by_role("button", name="Done").click()
    expect(clock).to_be_hidden()
    page.goto(f"/#/study/1/dye/swatch/{code}")
    lines = page.get_by_role("region", name="D1")
    expect(lines).to_contain_text("too pale")
    expect(lines).to_contain_text("12 h")


def test_a_spoon_by_millilitres_of_a_stock_is_put_in_after_the_end(page: Page, study: str):
    for name in ("M1", "D1"):
        tick(study, name)
    bench = open_bench(page, "D1")
    more(bench, "Put in")
    form = bench.get_by_role("group", name="Put in")
    form.get_by_role("combobox", name="Put in").click()
    page.get_by_role("option", name="Soda ash").click()
    form.get_by_label("How much").fill("5")
    form.get_by_label("In", exact=True).click()
    page.get_by_role("option", name="mL", exact=True).click()
    form.get_by_label("of stock, %").fill("1")
    # 5 mL of a 1 % stock are 0.05 g, not 5 g.
    expect(form).to_contain_text("0.05 g")
    form.get_by_role("button", name=re.compile("log it|Log it")).click()
    page.goto("/#/study/1/dye/log")
    row = page.locator("tbody tr").filter(has_text="5 mL of the 1 % stock of Soda ash")
    expect(row).to_be_visible()
    # Five grams are far from what was planned, and are asked about.
    page.reload()
    more(bench, "Put in")
    form.get_by_role("combobox", name="Put in").click()
    page.get_by_role("option", name="Soda ash").click()
    form.get_by_label("How much").fill("50")
    expect(form.get_by_role("alert")).to_contain_text("No Soda ash is planned")
    expect(form.get_by_role("button", name="Yes, it is so: log it")).to_be_visible()
