"""From a swatch to cloth: so much of it dyed by its own recipe, read, and laid beside it."""

import re
from datetime import UTC, datetime

import pytest
from playwright.sync_api import Page, expect
from tests import patient_http as http
from tests.seeded_readings import add_readings, new_study
from tests.small_study import levels, small_plan, valued
from tests.ui.at_the_bench import bench_of, dye_all

from zesty_grid.store.database import Database

VINEGAR = {"item": "vinegar", "amount": 2, "unit": "tbsp", "moment": "with the pieces in", "after_min": 20}
FACTORS = [
    {"kind": "fibre", "levels": levels("wool", "silk")},
    {"kind": "mordant", "levels": levels("alum-hot")},
    {"kind": "dye", "levels": levels("insect-dye")},
    {"kind": "addition", "levels": [{"key": "v", "label": "Vinegar", "additions": [VINEGAR]}]},
    {"kind": "iron", "levels": valued("iron", 0, 1)},
]
AXES = {"rows": ["fibre"], "columns": ["mordant", "dye", "addition", "iron"], "controls": []}


@pytest.fixture
def dyed(address: str, database: Database) -> dict[str, str]:
    """A study that was dyed and read: its codes by fibre and iron."""
    id, codes = new_study(database, small_plan(factors=FACTORS, **AXES))
    dye_all(f"{address}/api/studies/{id}")
    own = {f"{'silk' if 'silk' in cell else 'wool'} {cell[-1]}": code for cell, code in codes.items()}
    colours = {"wool 0": (45.0, 45.0, 15.0), "silk 0": (50.0, 40.0, 12.0), "wool 1": (32.0, 20.0, 2.0)}
    laid = [(own[name], "whole", lab) for name, lab in colours.items()]
    add_readings(database, id, laid, accepted_at=datetime.now(UTC))
    return own


def test_three_hundred_grams_of_a_swatch_dyed_read_and_laid_beside_it(page: Page, address, database, dyed):
    page.goto("/#/study/1/read")
    page.get_by_role("gridcell", name=re.compile(dyed["wool 0"])).click()
    page.get_by_role("button", name="Recipe", exact=True).click()
    card = page.get_by_role("dialog")
    expect(card).to_contain_text("Scour wool")
    card.get_by_label("For dry fibre, g").fill("300")
    card.get_by_label("In so many pieces").fill("3")
    # 2 tablespoons were for the four pieces of 6 g: 30 mL for 24 g.
    expect(card).to_contain_text("vinegar: 375 mL")
    expect(card).to_contain_text("20 min after the pieces")
    card.get_by_role("button", name="Dye 300 g of it").click()
    expect(page).to_have_url(re.compile("/study/2/plan"))
    study = f"{address}/api/studies/2"
    pots = [one for one in bench_of(study).values() if one["vessel"]["bath"] in ("mordant", "dye")]
    # No pot of the Shelf takes 9 L to 80 %: two each for mordant and dye.
    assert sum(one["vessel"]["dry_fibre_g"] for one in pots) == 2 * 300
    assert sum(one["vessel"]["volume_ml"] for one in pots) == pytest.approx(2 * 9000)
    dye_all(study)
    new = [one["code"] for one in http.get(study).json()["swatches"]]
    add_readings(database, 2, [(code, "whole", (46.0, 44.0, 15.0)) for code in new], accepted_at=datetime.now(UTC))
    page.goto("/#/study/2/compare")
    beside = page.get_by_role("region", name=re.compile(f"beside {dyed['wool 0']}"))
    expect(beside).to_contain_text("As two dyeings of one recipe are")


def test_another_colour_is_said_with_what_was_otherwise(page: Page, address, database, dyed):
    body = {"swatches": [{"code": dyed["wool 0"]}, {"code": dyed["wool 1"]}], "mass_g": 60}
    assert http.post(f"{address}/api/recipes/follow", json=body).status_code == 201
    study = f"{address}/api/studies/2"
    # The recipes share scour, extract, mordant and their dye bath; only one has iron.
    assert [len(one["vessel"]["swatches"]) for one in bench_of(study).values()] == [2, 0, 2, 2, 1]
    dye_all(study)
    http.post(f"{study}/dye/entries", json={"kind": "record", "vessel": "D1", "step": "hold", "ph": 8.5})
    own = {one["levels"]["recipe"]: one["code"] for one in http.get(study).json()["swatches"]}
    light, iron = (own[f"as-{dyed[name].lower()}"] for name in ("wool 0", "wool 1"))
    laid = [(light, "whole", (70.0, 20.0, 5.0)), (iron, "whole", (32.0, 21.0, 2.0))]
    add_readings(database, 2, laid, accepted_at=datetime.now(UTC))
    page.goto("/#/study/2/compare")
    off = page.get_by_role("region", name=f"{light} beside {dyed['wool 0']}")
    expect(off).to_contain_text("Not the same: lighter, duller")
    expect(page.get_by_role("region", name=f"{iron} beside {dyed['wool 1']}")).to_contain_text("As two dyeings")


def test_a_set_of_five_colours_is_chosen_and_planned(page: Page, address: str, database: Database):
    factors = [
        {"kind": "fibre", "levels": levels("wool", "silk", "cotton")},
        {"kind": "dye", "levels": levels("insect-dye", "dried-flowers", "dried-bark")},
        {"kind": "iron", "levels": valued("iron", 0, 1)},
    ]
    id, codes = new_study(database, small_plan(factors=factors, rows=["fibre"], columns=["dye", "iron"], controls=[]))
    dye_all(f"{address}/api/studies/{id}")
    hues = {"insect-dye": (45.0, 45.0, 10.0), "dried-flowers": (75.0, 5.0, 60.0), "dried-bark": (55.0, 18.0, 28.0)}
    laid = []
    for cell, code in codes.items():
        at = dict(part.split("=") for part in cell.split(";"))
        pale, dark = 12.0 * (at["fibre"] == "cotton"), 25.0 * (at["iron"] == "iron-1")
        lightness, a, b = hues[at["dye"]]
        laid.append((code, "whole", (lightness + pale - dark, a - dark, b - pale - dark)))
    for start in (0, 9):
        add_readings(database, id, laid[start : start + 9], accepted_at=datetime.now(UTC))
    page.goto("/#/study/1/compare/find")
    page.get_by_text("A set of colours").click()
    page.get_by_role("button", name="Choose them").click()
    chosen = page.get_by_role("list", name="The set").get_by_role("listitem")
    expect(chosen).to_have_count(5)
    said = page.get_by_role("status").filter(has_text="to dye them")
    expect(said).to_contain_text(re.compile(r"The nearest two lie ΔE00 \d\d\.\d apart. \d+ vessels"))
    vessels = int(re.findall(r"(\d+) vessels", said.inner_text())[0])
    page.get_by_role("button", name="Dye them").click()
    dialog = page.get_by_role("dialog", name="Dye more of 5 colours")
    dialog.get_by_role("button", name="Dye 100 g of each").click()
    expect(page).to_have_url(re.compile("/study/2/plan"))
    made = http.get(f"{address}/api/studies/2").json()
    assert len(made["swatches"]) == 5
    assert len(made["vessels"]) == vessels


def test_a_set_may_hold_what_was_only_foretold_and_it_is_dyed_as_its_study_would(page: Page, address, database):
    factors = [
        {"kind": "fibre", "levels": levels("wool", "silk", "cotton")},
        {"kind": "dye", "levels": levels("insect-dye", "dried-flowers", "dried-bark")},
    ]
    id, codes = new_study(database, small_plan(factors=factors, rows=["fibre"], columns=["dye"], controls=[]))
    shades = {"insect-dye": (45.0, 45.0, 10.0), "dried-flowers": (75.0, 5.0, 60.0), "dried-bark": (55.0, 18.0, 28.0)}
    read = {cell: code for cell, code in codes.items() if cell != "fibre=cotton;dye=insect-dye"}
    laid = [(code, "whole", shades[cell.rsplit("=", 1)[1]]) for cell, code in read.items()]
    add_readings(database, id, laid)
    asked = {"how": "apart", "count": 9, "first": {"hex": "#aa8833"}, "study": id}
    answer = http.post(f"{address}/api/find/set", json=asked)
    assert answer.status_code == 200, answer.text
    (foretold,) = [one for one in answer.json()["found"] if one["piece"] is None]
    assert foretold["of"] == {"code": None, "run": None, "study": id, "cell": "fibre=cotton;dye=insect-dye"}
    assert foretold["foretold_de00"] > 0
    body = {"swatches": [foretold["of"]], "mass_g": 50}
    made = http.post(f"{address}/api/recipes/follow", json=body).json()["id"]
    (pot,) = [one for one in bench_of(f"{address}/api/studies/{made}").values() if one["vessel"]["bath"] == "dye"]
    # 10 % of an insect dye is the default of the Shelf (common practice): 5 g for 50 g.
    assert [f["grams"] for f in pot["amounts"]["figures"] if f["role"] == "dye stuff"] == [5.0]
    page.goto(f"/#/study/{made}/plan")
    expect(page.get_by_role("gridcell", name=re.compile("Foretold: Cotton, Insect-dye"))).to_be_visible()
