"""At the wet bench, in the browser: a day's work, two devices, a cut network, the iron by the
second, labels before the camera, a phone in one hand."""

import io
import re
from collections import Counter
from datetime import datetime

import cv2
import numpy as np
import pypdfium2
import pytest
from playwright.sync_api import Browser, Locator, Page, expect
from reportlab.platypus import SimpleDocTemplate
from tests import patient_http as http
from tests.small_study import levels, valued
from tests.ui.at_the_bench import bench_of, entries_of, now_step, open_bench, tick

from zesty_grid.formats.swatch_label import SwatchLabel
from zesty_grid.standins.probe import STORIES, ProbeServer, Story, start_probes

PHONE = {"width": 390, "height": 844}
PLAN = {
    "name": "Two fibres, one dye",
    "factors": [
        {"kind": "fibre", "levels": levels("wool", "cotton")},
        {"kind": "mordant", "levels": levels("alum-hot")},
        {"kind": "dye", "levels": levels("dye-extract")},
        {"kind": "iron", "levels": valued("iron", 0, 1)},
    ],
    "rows": ["fibre", "mordant"],
    "columns": ["dye", "iron"],
    "controls": [],
}


@pytest.fixture
def study(address: str) -> str:
    """The address of the study in the API."""
    made = http.post(f"{address}/api/studies", json=PLAN).json()["id"]
    return f"{address}/api/studies/{made}"


def seconds_of(study: str) -> dict[str, float]:
    """The seconds that each swatch was in an iron watch."""
    passages = http.get(f"{study}/dye").json()["passages"]
    return {one["swatch"]: one["seconds"] for one in passages if one["seconds"] is not None}


def do_step(bench: Locator) -> None:
    """Does what the step asks, whatever it is, and ticks it off."""
    step = now_step(bench)
    title = step.locator("h2").inner_text()
    while (out := step.locator("button[aria-pressed=false]")).count():
        left = out.count()
        out.first.click()
        expect(out).to_have_count(left - 1)
    start = step.get_by_role("button", name=re.compile("^(Begin|All in)"))
    if start.count():
        start.click()
        expect(start).to_have_count(0)
    while (pull := step.get_by_role("button", name=re.compile("^Pull"))).count():
        left = pull.count()
        pull.first.click()
        expect(pull).to_have_count(left - 1)
    if step.get_by_role("button", name="Clear now").count():
        step.get_by_role("button", name="Clear now").click()
        expect(step.get_by_text("1 rinse, clear")).to_be_visible()
    step.get_by_role("button", name="Done").click()
    expect(step.locator("h2").filter(has_text=title)).to_have_count(0)


def work_vessel(bench: Locator, name: str) -> None:
    for _ in range(20):
        if bench.get_by_role("heading", name=f"{name} is done").count():
            return
        do_step(bench)
    raise AssertionError(f"{name} has no end")


def test_a_days_work_from_the_first_scour_to_dry(page: Page, study: str):
    asked = Counter[str]()
    page.on("request", lambda request: asked.update([f"{request.method} {request.url}"]))
    bench = open_bench(page)
    bench.get_by_label("Who").fill("Imke")
    # The dye is an extract: it is measured in, and there is nothing to simmer first.
    for name in ("S1", "S2", "M1", "D1", "F1"):
        expect(bench.get_by_label("At the vessel")).to_contain_text(name)
        work_vessel(bench, name)
        following = bench.get_by_role("button", name="Go to")
        if name != "F1":
            following.click()
    expect(bench.get_by_text("All vessels are done")).to_be_visible()
    expect(bench.get_by_text("dry and rested, ready to read from")).to_be_visible()
    bench.get_by_label("The hand").click()
    page.get_by_role("option", name="stiff").click()
    bench.get_by_role("button", name="Note it").click()
    expect(bench.get_by_role("button", name="Noted")).to_be_visible()
    while (entries := entries_of(study))[-1]["kind"] != "hand":
        page.wait_for_timeout(100)
    assert {entry["who"] for entry in entries} == {"Imke"}
    # After what was logged here the bench is asked for once; a look at all benches finds nothing new in it.
    assert asked[f"GET {study}/dye"] < 1.3 * asked[f"POST {study}/dye/entries"]
    assert entries[-1]["hand"] == "stiff"
    view = http.get(f"{study}/dye").json()
    assert all(one["steps"][-1]["done_at"] for one in view["vessels"])
    assert set(seconds_of(study)) == set(bench_of(study)["F1"]["vessel"]["swatches"])
    page.get_by_role("button", name="Today").click()
    expect(page.get_by_text("swatches have no reading yet")).to_be_visible()
    expect(page.get_by_text("vessels are not finished")).to_have_count(0)


def test_the_lid_waits_for_every_swatch_and_a_wrong_one_is_said(page: Page, study: str):
    tick(study, "F1", "dip")
    tick(study, "M1", "enter")
    vessels = bench_of(study)
    bench = open_bench(page, "M1")
    step = now_step(bench)
    expect(step.get_by_text("0 of 4 in")).to_be_visible()
    first, *_, last = vessels["M1"]["vessel"]["swatches"]
    field = step.get_by_label("Code or tie")
    field.fill(first.lower())
    field.press("Enter")
    expect(step.get_by_text(f"{first} goes in.")).to_be_visible()
    expect(step.get_by_text("1 of 4 in")).to_be_visible()
    tie = step.get_by_role("button", name=last).locator("span").last.inner_text()
    field.fill(tie.replace("·", "."))
    step.get_by_role("button", name="Tick in").click()
    expect(step.get_by_text("2 of 4 in")).to_be_visible()
    field.fill("ZZZZ")
    field.press("Enter")
    expect(step.get_by_role("alert")).to_contain_text("is no code")
    step.get_by_role("button", name="Done").click()
    expect(step.get_by_text("2 not in:")).to_be_visible()
    step.get_by_role("button", name="Go on without 2").click()
    expect(step.get_by_role("heading", name="Warm slowly and hold")).to_be_visible()
    iron_only = open_bench(page, "F1")

    def entered() -> list[dict]:
        return [e for e in entries_of(study) if (e["kind"], e["step"]) == ("done", "enter")]

    while not entered():
        page.wait_for_timeout(100)
    assert "without" in entered()[0]["note"]
    expect(iron_only.get_by_text("Not finished yet and needed first: D1")).to_be_visible()


def test_two_devices_stand_at_one_bench(page: Page, browser: Browser, address: str, study: str):
    bench = open_bench(page, "M1")
    context = browser.new_context(viewport=PHONE, base_url=address)
    phone = context.new_page()
    other = open_bench(phone, "M1")
    expect(now_step(other).get_by_role("heading", name="Wet out")).to_be_visible()
    now_step(bench).get_by_role("button", name="Begin").click()
    timer = phone.get_by_role("timer", name="M1 Wet out the pieces")
    expect(timer).to_be_visible()
    now_step(other).get_by_role("button", name="Done").click()
    expect(now_step(bench).get_by_role("heading", name="Fill the vessel")).to_be_visible()
    expect(page.get_by_role("timer")).to_have_count(0)
    context.close()


def test_the_iron_watch_goes_on_over_a_reload(page: Page, study: str):
    tick(study, "F1", "dip")
    bench = open_bench(page, "F1")
    expect(now_step(bench).get_by_text("at most 300 s")).to_have_count(0)
    now_step(bench).get_by_role("button", name="All in: start the clock").click()
    expect(now_step(bench).get_by_text("at most 300 s")).to_be_visible()
    expect(now_step(bench).get_by_text("at most 60 s")).to_be_visible()
    first, second = bench_of(study)["F1"]["vessel"]["swatches"]
    now_step(bench).get_by_role("button", name=f"Pull {first}").click()
    expect(page.get_by_role("timer", name="F1 Dip and watch")).to_be_visible()
    while not seconds_of(study):
        page.wait_for_timeout(100)
    began = next(e for e in entries_of(study) if e["kind"] == "begun" and e["step"] == "dip")
    page.reload()
    expect(now_step(bench).get_by_role("button", name=f"{first} ✓")).to_be_disabled()
    clock = now_step(bench).get_by_role("timer", name="Seconds in the iron")
    expect(clock).to_contain_text(" s")
    page.wait_for_timeout(1500)
    now_step(bench).get_by_role("button", name=f"Pull {second}").click()
    expect(clock).to_have_text("All pulled")
    while len(seconds := seconds_of(study)) < 2:
        page.wait_for_timeout(100)
    pulled = next(e for e in entries_of(study) if e["swatches"] == [second])
    passed = datetime.fromisoformat(pulled["at"]) - datetime.fromisoformat(began["at"])
    assert seconds[second] == pytest.approx(passed.total_seconds(), abs=0.01)
    assert seconds[second] > seconds[first] + 1.4


@pytest.mark.own_page
def test_the_network_is_cut_and_nothing_is_lost(page: Page, study: str):
    tick(study, "M1", "enter")
    before = len(entries_of(study))
    bench = open_bench(page, "M1")
    codes = bench_of(study)["M1"]["vessel"]["swatches"]
    page.context.set_offline(True)
    for code in codes:
        now_step(bench).get_by_role("button", name=code).click()
    expect(now_step(bench).get_by_text("4 of 4 in: complete")).to_be_visible()
    now_step(bench).get_by_role("button", name="Done").click()
    now_step(bench).get_by_label("°C").fill("41,5")
    now_step(bench).get_by_role("button", name="Record").click()
    now_step(bench).get_by_role("button", name="Begin").click()
    expect(now_step(bench).get_by_text(re.compile(r"\d:\d\d of"))).to_be_visible()
    dock = page.get_by_role("contentinfo", name="Dock")
    expect(dock).to_contain_text("7 entries wait for the network; kept on this device")
    page.wait_for_timeout(3000)
    assert len(entries_of(study)) == before
    page.context.set_offline(False)
    expect(dock.get_by_text(re.compile("waits? for the network"))).to_have_count(0)
    arrived = entries_of(study)[before:]
    assert [e["kind"] for e in arrived] == ["loaded"] * 4 + ["done", "record", "begun"]
    assert [e["swatches"] for e in arrived[:4]] == [[code] for code in codes]
    assert arrived[5]["temperature_c"] == 41.5
    assert sorted(e["at"] for e in arrived) == [e["at"] for e in arrived]
    waited = [datetime.fromisoformat(e["received_at"]) - datetime.fromisoformat(e["at"]) for e in arrived]
    assert min(waited).total_seconds() > 2
    page.reload()
    expect(now_step(bench).get_by_text(re.compile(r"\d:\d\d of"))).to_be_visible()
    assert len(entries_of(study)) == before + 7


def label_before_the_camera(code: str) -> bytes:
    """The label as the bench papers print it, held before a phone: from the side, soft, noisy."""
    paper = io.BytesIO()
    SimpleDocTemplate(paper, pagesize=(150, 80), leftMargin=6, rightMargin=6, topMargin=6, bottomMargin=6).build(
        [SwatchLabel(code, "2·1", "Wool, alum")]
    )
    page = pypdfium2.PdfDocument(paper.getvalue())[0].render(scale=7).to_pil().convert("RGB")
    flat = np.asarray(page)
    h, w = flat.shape[:2]
    seen = np.array([[120, 90], [w - 40, 20], [w - 90, h - 30], [60, h - 110]], np.float32)
    corners = np.array([[0, 0], [w, 0], [w, h], [0, h]], np.float32)
    view = cv2.getPerspectiveTransform(corners, seen)
    photo = cv2.warpPerspective(flat, view, (w, h), borderValue=(120, 116, 110))
    light = np.linspace(0.95, 0.6, w)[None, :, None]
    rng = np.random.default_rng(3)
    soft = cv2.GaussianBlur(photo, (0, 0), 2.0) * light + rng.normal(0, 5, photo.shape)
    bgr = cv2.cvtColor(np.clip(soft, 0, 255).astype(np.uint8), cv2.COLOR_RGB2BGR)
    return cv2.imencode(".jpg", bgr, [cv2.IMWRITE_JPEG_QUALITY, 75])[1].tobytes()


def test_a_label_is_scanned_into_its_vessel(page: Page, study: str):
    tick(study, "M1", "enter")
    code = bench_of(study)["M1"]["vessel"]["swatches"][1]
    bench = open_bench(page, "M1")
    photo = {"name": "label.jpg", "mimeType": "image/jpeg"}
    scan = now_step(bench).get_by_label("Picture of labels")
    scan.set_input_files({**photo, "buffer": label_before_the_camera(code)})
    expect(now_step(bench).get_by_text(f"{code} goes in.")).to_be_visible()
    expect(now_step(bench).get_by_text("1 of 4 in")).to_be_visible()
    blank = cv2.imencode(".jpg", np.full((400, 600, 3), 120, np.uint8))[1].tobytes()
    scan.set_input_files({**photo, "buffer": blank})
    expect(now_step(bench).get_by_text("No label can be read")).to_be_visible()


def test_what_went_wrong_stays_with_the_swatch_and_is_made_up(page: Page, study: str):
    tick(study, "D1", "hold")
    bench = open_bench(page, "D1")
    code = bench_of(study)["D1"]["vessel"]["swatches"][0]
    bench.get_by_role("button", name="It went wrong").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Swatches concerned").click()
    page.get_by_role("option", name=code).click()
    page.keyboard.press("Escape")
    dialog.get_by_label("Note").fill("the phone rang")
    dialog.get_by_role("button", name="It boiled").click()
    expect(dialog).to_be_hidden()
    part = bench.locator("section").filter(has=page.get_by_role("heading", name="Went wrong"))
    expect(part).to_contain_text(f"boiled, {datetime.now().astimezone():%-d}")
    expect(part).to_contain_text("the phone rang")
    part.get_by_role("button", name="Repeat it").click()
    expect(part).to_contain_text("What is done: repeat")
    bench.get_by_role("button", name="Dye 1 new piece").click()
    expect(bench.get_by_role("status").filter(has_text="filled as before")).to_contain_text("D2")
    swatches = http.get(study).json()["swatches"]
    assert [one["replicate"] for one in swatches if one["planned"] and not one["begun"]].count(2) == 1


def test_a_probe_draws_its_curve_and_says_that_it_boils(page: Page, application, study: str):
    left_alone = Story("Probe C", lambda _: 99.2, lambda _: None)
    server = ProbeServer((STORIES[1], left_alone), period_s=0.2)
    application.state.probes.listen(*start_probes(server))
    tick(study, "M1", "hold")
    bench = open_bench(page, "M1")
    bench.get_by_label("Hang in a probe").click()
    page.get_by_role("option", name="Probe C").click()
    bench.get_by_role("button", name="Hang in").click()
    expect(bench.get_by_role("status", name="Probe reads")).to_contain_text("99")
    expect(bench.get_by_role("alert")).to_contain_text("It boils")
    expect(bench.get_by_role("img", name="°C over time")).to_be_visible()
    bench.get_by_role("button", name="Take out").click()
    expect(bench.get_by_role("status", name="Probe reads")).to_have_count(0)
    server.shutdown()


def test_the_days_are_planned_moved_and_taken_away(page: Page, study: str):
    page.goto("/#/study/1/dye/days")
    page.get_by_role("button", name="Hours, hands and waits").click()
    hours = page.get_by_role("dialog")
    hours.get_by_label("Saturday").check()
    hours.get_by_label("Pairs of hands").fill("2")
    hours.get_by_role("button", name="Keep these").click()
    expect(hours).to_be_hidden()
    page.get_by_role("button", name="Plan the days").click()
    expect(page.get_by_text("Ready to read")).to_be_visible()
    expect(page.get_by_role("button", name="Plan the rest anew from now")).to_be_enabled()
    expect(page.get_by_role("img", name="Hands and vessels on").first).to_be_visible()
    row = page.get_by_role("button", name=re.compile("D1.*Fill the vessel"))
    row.click()
    move = page.get_by_role("dialog")
    planned = move.get_by_label("Begin at").input_value()
    move.get_by_label("Begin at").fill(f"{planned[:10]}T03:00")
    move.get_by_role("button", name="Move it, all else stays").click()
    expect(move.get_by_role("alert").first).to_be_visible()
    move.get_by_role("button", name="Close").click()
    expect(page.get_by_role("link", name="Calendar file")).to_be_visible()
    page.reload()
    expect(row).to_be_visible()
    row.click()
    page.get_by_role("button", name="Go to D1 at the bench").click()
    expect(page.get_by_label("At the vessel")).to_contain_text("D1")


@pytest.mark.own_page
def test_at_a_bench_in_fahrenheit_everything_is_read_typed_and_corrected_in_it(page: Page, study: str):
    page.add_init_script("localStorage.setItem('ways', JSON.stringify({ temperature: 'F' }))")
    bench = open_bench(page, "D1")
    expect(now_step(bench).locator("h2")).to_be_visible()
    more = bench.get_by_role("button", name="Reading")
    more.click()
    bench.get_by_label("°F").fill("300")
    # A reading goes from -20 to 130 °C.
    expect(bench.get_by_text("from −4 °F to 266 °F")).to_be_visible()
    bench.get_by_label("°F").fill("140")
    bench.get_by_role("button", name="Record").click()
    expect(bench.get_by_label("°F")).to_have_value("")
    page.goto("/#/study/1/dye/log")
    page.get_by_label("Search the log").fill("reading")
    rows = page.locator("tbody tr")
    expect(rows).to_have_count(1)
    expect(rows).to_contain_text("140 °F")
    rows.get_by_role("button", name="correct").click()
    dialog = page.get_by_role("dialog")
    expect(dialog.get_by_label("°F")).to_have_value("140")
    keep = dialog.get_by_role("button", name="Put this in its place")
    dialog.get_by_label("°F").fill("warm")
    expect(dialog.get_by_text("It must be a number.")).to_be_visible()
    expect(keep).to_be_disabled()
    dialog.get_by_label("°F").fill("150,8")
    keep.click()
    expect(rows.filter(has_text="in place of no.")).to_contain_text("151 °F")
    read = [one["temperature_c"] for one in entries_of(study) if one["kind"] == "record"]
    assert sorted(read) == pytest.approx([60, 66])


@pytest.mark.own_page
def test_days_off_are_chosen_days_and_stand_as_the_person_writes_them(page: Page, study: str):
    page.add_init_script("localStorage.setItem('ways', JSON.stringify({ dates: 'mdy' }))")
    page.set_viewport_size({"width": 360, "height": 640})
    page.goto("/#/study/1/dye/days")
    page.get_by_role("button", name="Hours, hands and waits").click()
    hours = page.get_by_role("dialog")
    # Hours can be read on the smallest phone.
    cut = hours.locator("input[type=time]").evaluate_all("all => Math.min(...all.map(e => e.clientWidth))")
    assert cut > 110
    off = hours.get_by_role("group", name="Days off")
    for day in ("2026-12-25", "2026-12-24"):
        off.get_by_label("A day off").fill(day)
        off.get_by_role("button", name="Add").click()
    expect(off).to_contain_text("Dec 24, 2026")
    off.get_by_role("button", name="Work on Dec 25, 2026").click()
    hours.get_by_label("Pairs of hands").fill("two")
    expect(hours.get_by_text("It must be a number.")).to_be_visible()
    hours.get_by_label("Pairs of hands").fill("2")
    hours.get_by_role("button", name="Keep these").click()
    expect(hours).to_have_count(0)
    protocol = http.get(f"{study}/dye").json()["protocol"]
    assert protocol["days_off"] == ["2026-12-24"]
    assert protocol["pairs_of_hands"] == 2


def test_the_log_is_searched_corrected_and_leads_to_the_swatch(page: Page, study: str):
    tick(study, "F1", "dip")
    vessels = bench_of(study)
    where, iron = {"vessel": "D1", "step": "hold"}, {"vessel": "F1", "step": "dip"}
    code = vessels["F1"]["vessel"]["swatches"][0]
    for entry in (
        {"kind": "record", "ph": 4.4, "who": "Imke", **where},
        {"kind": "begun", **iron},
        {"kind": "pulled", "swatches": [code], **iron},
    ):
        assert http.post(f"{study}/dye/entries", json=entry).status_code == 201
    page.goto("/#/study/1/dye/log")
    page.get_by_label("Search the log").fill("ph 4.4")
    rows = page.locator("tbody tr")
    expect(rows).to_have_count(1)
    rows.get_by_role("button", name="correct").click()
    page.get_by_role("dialog").get_by_label("pH").fill("5.4")
    page.get_by_role("button", name="Put this in its place").click()
    page.get_by_label("Search the log").fill("reading")
    expect(rows).to_have_count(2)
    expect(rows.filter(has_text="pH 5.4")).to_contain_text("in place of no.")
    expect(rows.filter(has_text=re.compile(r"pH 4\.4"))).to_contain_text("see")
    page.get_by_label("Search the log").fill("pulled")
    rows.first.get_by_role("button", name="its record").click()
    expect(page.get_by_role("heading", name=code)).to_be_visible()
    path = page.get_by_role("region", name="F1")
    expect(path.get_by_text(re.compile(r"\d\.\d s · "))).to_be_visible()
    expect(page.get_by_role("heading", name="F1")).to_be_visible()
    page.reload()
    expect(page.get_by_role("heading", name=code)).to_be_visible()


def test_a_whole_bath_on_a_phone_with_one_thumb(browser: Browser, address: str, study: str):
    context = browser.new_context(viewport=PHONE, base_url=address, has_touch=True, is_mobile=True)
    phone = context.new_page()
    bench = open_bench(phone, "M1")
    for _ in range(20):
        if bench.get_by_role("heading", name="M1 is done").count():
            break
        # All is within the width of the phone, and the button is as large as a thumb.
        assert phone.evaluate("document.documentElement.scrollWidth") <= PHONE["width"]
        button = now_step(bench).get_by_role("button", name="Done")
        assert button.bounding_box()["height"] >= 48
        do_step(bench)
    expect(bench.get_by_role("heading", name="M1 is done")).to_be_visible()
    phone.get_by_role("tab", name="Log").click()
    expect(phone.get_by_role("row").nth(3)).to_be_visible()
    phone.get_by_role("tab", name="Swatches").click()
    expect(phone.get_by_role("grid", name="Swatches")).to_be_visible()
    context.close()


def test_a_dose_is_found_from_two_readings_at_the_bench(page: Page, address: str):
    plan = PLAN | {
        "factors": [*PLAN["factors"][:3], {"kind": "ph", "levels": valued("ph", 9)}],
        "columns": ["dye", "ph"],
    }
    made = http.post(f"{address}/api/studies", json=plan).json()["id"]
    study = f"{address}/api/studies/{made}"
    tick(study, "D1", "set-ph")
    bench = open_bench(page, "D1")
    step = now_step(bench)
    expect(step.get_by_text("Read the pH before anything is given.")).to_be_visible()
    step.get_by_label("pH").fill("6.2")
    step.get_by_role("button", name="Record").click()
    expect(step.get_by_text(re.compile("Give half: .* log what you gave"))).to_be_visible()
    put_in = step.get_by_role("group", name="Put in")
    # The stock that the plan measures from is there already: millilitres are not taken for grams.
    expect(put_in.get_by_label("of stock, %")).to_have_value("1")
    put_in.get_by_label("How much").fill("80")
    expect(put_in.get_by_text("80 mL of the 1 % stock of Soda ash (0.80 g)")).to_be_visible()
    expect(put_in.get_by_role("alert")).to_contain_text("where 0.")
    put_in.get_by_role("button", name="Yes, it is so: log it").click()
    expect(step.get_by_text("Stir, wait 15 min, and read again.")).to_be_visible()
    step.get_by_role("textbox", name="pH").fill("7.4")
    step.get_by_role("button", name="Record").click()
    expect(step.get_by_text(re.compile(r"Give .* more \(.* to .*\)"))).to_be_visible()
    expect(step.get_by_text("Given so far: 0.80 g Soda ash.")).to_be_visible()
    expect(step.get_by_text("The bath buffers")).to_be_visible()


def test_a_bundle_print_keeps_what_lay_where(page: Page, address: str):
    plan = PLAN | {
        "factors": [*PLAN["factors"][:3], {"kind": "process", "levels": levels("bundle-print")}],
        "columns": ["dye", "process"],
    }
    made = http.post(f"{address}/api/studies", json=plan).json()["id"]
    study = f"{address}/api/studies/{made}"
    tick(study, "D1", "enter")
    bench = open_bench(page, "D1")
    step = now_step(bench)
    expect(step.get_by_role("heading", name="Roll the bundles")).to_be_visible()
    codes = bench_of(study)["D1"]["vessel"]["swatches"]
    step.get_by_label("In roll 1").click()
    page.get_by_role("option", name=codes[0]).click()
    page.keyboard.press("Escape")
    step.get_by_label("What lies where").fill("three leaves by the core, cones outside")
    step.get_by_role("button", name="Keep roll 1").click()
    expect(step.get_by_label("In roll 2")).to_be_visible()
    for title in ("Bind the rolls", "Fill the steamer"):
        do_step(bench)
        expect(now_step(bench).get_by_role("heading", name=title)).to_be_visible()
    do_step(bench)
    expect(now_step(bench).get_by_text("it must not boil dry")).to_be_visible()
    laid = next(e for e in entries_of(study) if e["kind"] == "laid")
    assert laid["swatches"] == [codes[0]]
    assert laid["note"] == "roll 1: three leaves by the core, cones outside"


def test_a_timer_that_is_up_says_so_on_every_screen_and_can_have_more_time(page: Page, study: str):
    hold = {"vessel": "M1", "step": "hold"}
    begun = {"kind": "begun", "minutes": 0.02, **hold}
    assert http.post(f"{study}/dye/entries", json=begun).status_code == 201
    page.goto("/#/shelf")
    timer = page.get_by_role("timer", name="M1 Warm slowly and hold")
    expect(timer).to_contain_text("time is up")
    expect(page).to_have_title(re.compile(r"\(1\) time is up"))
    timer.get_by_role("button", name="5 min more").click()
    expect(timer).not_to_contain_text("time is up")
    expect(page).to_have_title(re.compile("^(?!.*time is up).*Zesty Grid$"))
    timer.get_by_role("button", name="M1").click()
    expect(page.get_by_label("At the vessel")).to_contain_text("M1")
    page.reload()
    expect(timer).to_be_visible()


@pytest.mark.own_page
def test_what_the_server_refuses_stays_on_the_device_until_it_is_let_go(page: Page, study: str):
    bench = open_bench(page, "M1")
    expect(now_step(bench)).to_be_visible()
    page.context.set_offline(True)
    now_step(bench).get_by_role("button", name="Done").click()
    # Meanwhile the mordant is taken out of the plan on another device.
    plan = PLAN | {"factors": [PLAN["factors"][0], *PLAN["factors"][2:]], "rows": ["fibre"]}
    changed = http.put(study, json={"revision": 1, "plan": plan})
    assert changed.status_code == 200
    page.context.set_offline(False)
    dock = page.get_by_role("contentinfo", name="Dock")
    expect(dock.get_by_role("alert")).to_contain_text("There is no M1 in this study")
    page.reload()
    expect(dock.get_by_role("alert")).to_contain_text("There is no M1 in this study")
    dock.get_by_role("button", name="Let it go").click()
    expect(dock).to_be_hidden()
