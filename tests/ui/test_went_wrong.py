"""Seen when dry: which pot a piece was really in, which are lost, and all that stands open dyed again."""

import re
from datetime import UTC, datetime

from playwright.sync_api import Page, expect
from tests import patient_http as http
from tests.seeded_readings import add_readings, new_study
from tests.small_study import levels, small_plan
from tests.ui.at_the_bench import bench_of, dye_all, entries_of, open_bench, tick

from zesty_grid.store.database import Database

FIBRES = ("wool", "superwash-wool", "silk", "cotton", "linen", "polyester")
TOOK = dict(zip(FIBRES, (1.0, 1.05, 0.9, 0.4, 0.45, 0.05), strict=True))
ROOTS = {"dried-bark": (-42.0, 38.0, 18.0), "dried-seeds": (-20.0, 2.0, 52.0)}


def shade(fibre: str, root: str) -> tuple[float, float, float]:
    lightness, a, b = (base + TOOK[fibre] * change for base, change in zip((88.0, 1.0, 4.0), ROOTS[root], strict=True))
    return lightness, a, b


def test_six_fibres_in_two_baths_two_strays_found_when_dry_and_made_again(page: Page, address: str, database: Database):
    names = [{"key": "dried-bark", "label": "Red root"}, {"key": "dried-seeds", "label": "Yellow root"}]
    factors = [{"kind": "fibre", "levels": levels(*FIBRES)}, {"kind": "dye", "levels": names}]
    id, codes = new_study(database, small_plan(factors=factors, rows=["fibre"], columns=["dye"], controls=[]))
    study = f"{address}/api/studies/{id}"
    dye_all(study)
    piece = {tuple(part.split("=")[1] for part in cell.split(";")): code for cell, code in codes.items()}
    # The silk lay in the yellow root instead of the red one, and the linen the other way round.
    stray, other, lost = piece["silk", "dried-bark"], piece["linen", "dried-seeds"], piece["cotton", "dried-seeds"]
    really = {stray: ("silk", "dried-seeds"), other: ("linen", "dried-bark")}
    laid = [(code, "whole", shade(*really.get(code, where))) for where, code in piece.items() if code != lost]
    add_readings(database, id, laid, accepted_at=datetime.now(UTC))

    for code, wrong, right in ((stray, "D1", "D2"), (other, "D2", "D1")):
        page.goto(f"/#/study/{id}/dye/swatch/{code}")
        page.get_by_role("button", name="It went another way").click()
        where = page.get_by_role("group", name=f"Where {code} was")
        expect(where).to_contain_text(f"Not in {wrong}: ")
        expect(where).to_contain_text(re.compile(r"Its colour is ΔE00 \d\.\d from the likest piece there, [1-4]\d"))
        where.get_by_role("button", name=f"It was in {right}").click()
        expect(page.get_by_text("and went another way")).to_be_visible()
        expect(page.get_by_role("region", name=re.compile(f"^{right} "))).to_contain_text("not meant for this bath")
        expect(page.get_by_role("region", name=re.compile(f"^{wrong} "))).to_have_count(0)
    page.goto(f"/#/study/{id}/dye/swatch/{lost}")
    page.get_by_role("button", name="It went another way").click()
    page.get_by_role("button", name="It is lost").click()
    expect(page.get_by_text("Went wrong: other")).to_be_visible()

    page.goto(f"/#/study/{id}/read")
    cell = page.get_by_role("gridcell", name=re.compile("Silk, Red root: stands open"))
    expect(cell).to_contain_text("open")
    expect(page.get_by_role("gridcell", name=re.compile("Silk, Yellow root"))).to_contain_text(f"{stray}")
    page.goto(f"/#/study/{id}/dye")
    open_ones = page.locator("section").filter(has=page.get_by_role("heading", name="3 places stand open"))
    for name in ("Silk, Red root", "Linen, Yellow root", "Cotton, Yellow root"):
        expect(open_ones).to_contain_text(name)
    open_ones.get_by_role("button", name="Dye 3 new pieces").click()
    said = page.get_by_role("status").filter(has_text="filled as before")
    expect(said).to_contain_text("D4, D3")
    again = bench_of(study)
    first = bench_of(study)["D2"]["vessel"]
    assert again["D4"]["vessel"]["volume_ml"] / again["D4"]["vessel"]["dry_fibre_g"] == (
        first["volume_ml"] / first["dry_fibre_g"]
    )
    assert len(again["D4"]["vessel"]["swatches"]) == 2
    assert {entry["kind"] for entry in entries_of(study)} >= {"placed", "deviation"}


def test_only_what_is_in_the_pot_is_offered_and_not_sure_which_is_an_answer(page: Page, address, database):
    factors = [{"kind": "fibre", "levels": levels("wool", "silk")}, {"kind": "mordant", "levels": levels("alum-hot")}]
    id, _ = new_study(database, small_plan(factors=factors, columns=[], controls=[], replicates=2))
    study = f"{address}/api/studies/{id}"
    tick(study, "M1", "hold")
    first, *others = bench_of(study)["M1"]["vessel"]["swatches"]
    bench = open_bench(page, "M1")
    expect(bench.get_by_text(re.compile(f"In it now: .*{first}"))).to_be_visible()
    bench.get_by_role("button", name="A piece out").click()
    bench.get_by_label("Which pieces").click()
    page.get_by_role("option", name=first).click()
    page.keyboard.press("Escape")
    bench.get_by_role("button", name="Out for good").click()
    expect(bench.get_by_text(f"; out: {first}")).to_be_visible()
    bench.get_by_role("button", name="It went wrong").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Swatches concerned").click()
    expect(page.get_by_role("option")).to_have_count(len(others))
    expect(page.get_by_role("option", name=first)).to_have_count(0)
    for code in others[:2]:
        page.get_by_role("option", name=code).click()
    page.keyboard.press("Escape")
    dialog.get_by_label("Not sure which of them").check()
    expect(dialog.get_by_role("note")).to_contain_text(f"It costs 2 swatches: none of {others[0]} {others[1]} counts")
    dialog.get_by_role("button", name="Was twisted").click()
    part = bench.locator("section").filter(has=page.get_by_role("heading", name="Went wrong"))
    expect(part).to_contain_text("What is done: leave out")
    marks = http.get(f"{study}/dye").json()["marks"]
    assert {mark["swatch"]: mark["cure"] for mark in marks} == dict.fromkeys(others[:2], "leave out")
