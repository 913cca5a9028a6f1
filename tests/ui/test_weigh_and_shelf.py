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


def test_what_is_made_ready_opens_to_its_working(weigh):
    expect(weigh.get_by_text("Cut and weigh 18 swatches: 108 g of dry fibre.")).to_be_visible()
    weigh.get_by_role("button", name="Wool, 9").click()
    expect(weigh.get_by_text("17.3 × 17.3 cm, in 4 pieces of 8.7 × 8.7 cm")).to_be_visible()
    weigh.get_by_role("button", name="Dried flowers, hot").click()
    expect(weigh.get_by_text("D1 720 mL, D2 720 mL")).to_be_visible()


def test_two_readings_say_what_is_still_to_give(weigh):
    weigh.get_by_role("tab", name="Baths").click()
    weigh.get_by_role("region", name="D1").get_by_role("button").first.click()
    weigh.get_by_role("button", name="I have two readings").last.click()
    ask = weigh.get_by_role("button", name="What is still to give?")
    expect(ask).to_be_disabled()
    weigh.get_by_label("pH at first").fill("6,1")
    weigh.get_by_label("Given, g").fill("0.3")
    weigh.get_by_label("pH after").fill("6.9")
    ask.click()
    expect(weigh.get_by_role("alert")).to_contain_text("no step towards pH 4")
    weigh.get_by_label("pH after").fill("5.2")
    ask.click()
    expect(weigh.get_by_text("as a reading is good to 0.1")).to_be_visible()


def test_a_coarse_scale_asks_for_stocks_and_the_choice_is_saved(page: Page, weigh):
    weigh.get_by_role("tab", name="Totals").click()
    weigh.get_by_label("Scale").click()
    page.get_by_role("option", name="Kitchen scale").click()
    weigh.get_by_role("tab", name="Make ready").click()
    expect(weigh.get_by_role("button", name="iron(II) sulphate, 1 %")).to_contain_text(
        "20.0 g in 200 mL, 6.0 mL of it to 60 mL"
    )
    page.reload()
    expect(weigh.get_by_role("button", name="iron(II) sulphate, 1 %")).to_be_visible()


def test_totals_heat_waste_and_cards(weigh):
    weigh.get_by_role("tab", name="Totals").click()
    expect(weigh.get_by_role("button", name="potassium alum")).to_contain_text("7.20 g")
    expect(weigh.get_by_role("row", name="All, with rinsing")).to_be_visible()
    expect(weigh.get_by_text("soda until it drops out as rust").first).to_be_visible()
    weigh.get_by_text("iron(II) sulphate", exact=True).last.click()
    expect(weigh.get_by_text("dangerous to small children")).to_be_visible()


@pytest.mark.parametrize(
    ("link", "start"), [("Bench papers (PDF)", b"%PDF"), ("Swatches (CSV)", b"code,tie"), ("All of it (JSON)", b"{")]
)
def test_the_papers_can_be_fetched(page: Page, weigh, link, start):
    address = weigh.get_by_role("link", name=link).get_attribute("href")
    answer = page.request.get(address)
    assert answer.ok
    assert answer.body().startswith(start)


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


def test_a_route_is_made_of_baths_and_a_refused_one_says_why(page: Page, weigh):
    page.goto("/#/shelf")
    page.get_by_role("tab", name="Mordant routes").click()
    page.get_by_role("button", name="New mordant route").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Name").fill("Tin bloom")
    dialog.get_by_role("button", name="Add a bath").click()
    dialog.get_by_label("Dose, % WOF").fill("12")
    dialog.get_by_role("button", name="Put the mordant route on the Shelf").click()
    expect(dialog.get_by_role("alert")).to_contain_text("make fibre brittle")
    dialog.get_by_label("Name").fill("Alum, gentle")
    dialog.get_by_role("button", name="Put the mordant route on the Shelf").click()
    expect(page.get_by_role("button", name="Alum, gentle")).to_be_visible()
    expect(page.get_by_text("potassium alum 12 %")).to_be_visible()


def test_taking_a_bath_away_leaves_the_times_of_the_others(page: Page, weigh):
    page.goto("/#/shelf")
    page.get_by_role("tab", name="Mordant routes").click()
    page.get_by_role("button", name="New mordant route").click()
    dialog = page.get_by_role("dialog")
    for number, time in ((1, "12 h"), (2, "45 min")):
        dialog.get_by_role("button", name="Add a bath").click()
        dialog.get_by_role("group", name=f"Bath {number}").get_by_label("Time").fill(time)
    dialog.get_by_role("group", name="Bath 1").get_by_role("button", name="remove").click()
    expect(dialog.get_by_role("group")).to_have_count(1)
    expect(dialog.get_by_label("Time")).to_have_value("45 min")


def test_what_is_used_is_retired_and_what_is_not_can_be_taken_away_and_back(page: Page, weigh):
    page.goto("/#/shelf")
    page.get_by_role("button", name="Wool", exact=True).click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_role("button", name="Take it away").click()
    expect(dialog.get_by_role("alert")).to_contain_text("It is used by “Small”")
    dialog.get_by_role("button", name="Retire").click()
    expect(page.get_by_role("button", name="Wool", exact=True)).to_be_hidden()
    page.get_by_label("Show what is retired").click()
    expect(page.get_by_role("button", name="Wool (retired)", exact=True)).to_be_visible()
    page.get_by_role("button", name="Ramie").click()
    dialog.get_by_role("button", name="Take it away").click()
    expect(page.get_by_role("button", name="Ramie")).to_be_hidden()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("button", name="Ramie")).to_be_visible()


def test_a_blend_must_add_up(page: Page, weigh):
    page.goto("/#/shelf")
    page.get_by_role("button", name="New fibre").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Name").fill("Linsey")
    dialog.get_by_role("button", name="Add a part").click()
    dialog.get_by_label("%").fill("60")
    dialog.get_by_role("button", name="Put the fibre on the Shelf").click()
    expect(dialog.get_by_role("alert")).to_contain_text("add up to 100")
    dialog.get_by_role("button", name="Add a part").click()
    dialog.get_by_role("button", name="Put the fibre on the Shelf").click()
    expect(page.get_by_role("button", name="Linsey")).to_be_visible()
    expect(page.get_by_text("60 % protein, 40 % protein")).to_be_visible()


def test_what_is_no_number_or_taken_already_is_said_at_its_field(page: Page, address: str):
    page.goto("/#/shelf")
    page.get_by_role("button", name="New fibre").click()
    dialog = page.get_by_role("dialog", name="New fibre")
    dialog.get_by_label("g/m²").fill("abc")
    dialog.get_by_label("In hand, g").fill("-5")
    keep = dialog.get_by_role("button", name="Put the fibre on the Shelf")
    keep.click()
    expect(dialog.get_by_text("It needs a name.")).to_be_visible()
    expect(dialog.get_by_text("It must be a number, such as 180 or 1.5.")).to_be_visible()
    dialog.get_by_label("Name").fill("Wool")
    dialog.get_by_label("g/m²").fill("180,5")
    keep.click()
    # What only the server knows is said at the field too, and nothing typed is lost.
    expect(dialog.get_by_text("Not so: input should be greater")).to_be_visible()
    dialog.get_by_label("In hand, g").fill("5")
    keep.click()
    expect(dialog.get_by_text("This is already on the Shelf")).to_be_visible()
    dialog.get_by_label("Name").fill("Nettle")
    keep.click()
    expect(dialog).to_have_count(0)
    fibres = http.get(f"{address}/api/shelf").json()["fibres"]
    (made,) = [one for one in fibres if one["name"] == "Nettle"]
    assert (made["mass_g_m2"], made["amount_in_hand_g"]) == (180.5, 5)


def test_a_dose_that_cannot_be_read_is_not_kept_as_none(page: Page, address: str):
    page.goto("/#/shelf")
    page.get_by_role("tab", name="Mordant routes").click()
    page.get_by_role("button", name="Alum, hot").click()
    dialog = page.get_by_role("dialog")
    bath = dialog.get_by_role("group", name="Bath 1")
    bath.get_by_label("Dose, % WOF").fill("much")
    expect(bath.get_by_text("It must be a number.")).to_be_visible()
    expect(dialog.get_by_role("button", name="Save")).to_be_disabled()
    bath.get_by_label("Dose, % WOF").fill("12,5")
    dialog.get_by_role("button", name="Save").click()
    expect(dialog).to_have_count(0)
    routes = http.get(f"{address}/api/shelf").json()["mordant_routes"]
    (hot,) = [one for one in routes if one["key"] == "alum-hot"]
    assert hot["baths"][0]["dose_percent_wof"] == 12.5


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
