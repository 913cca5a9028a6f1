"""The moment of the answer, in small grids as people dye them: one piece a cell, one pot a level."""

import re

import numpy as np
import pytest
from playwright.sync_api import Page, expect
from tests.seeded_readings import add_readings, new_study
from tests.small_study import levels, small_plan

from zesty_grid.store.database import Database

MONTHS = ("April", "May", "June", "July", "August", "September")
LOTS = ("fresh-leaves", "fresh-flowers", "dried-flowers", "dried-seeds", "dried-bark", "dry-skins")


def dyed(database: Database, factors, rows, columns, colour, **changes) -> dict[str, str]:
    """A study of which every swatch is read: `colour` has L*a*b* by the keys of the levels."""
    plan = small_plan(factors=factors, rows=rows, columns=columns, controls=[], **changes)
    study, codes = new_study(database, plan)
    laid = []
    for cell, code in codes.items():
        parts = dict(part.split("=") for part in cell.split(";"))
        laid.append((code, "whole", tuple(float(v) for v in colour(parts))))
    for start in range(0, len(laid), 12):
        add_readings(database, study, laid[start : start + 12])
    return codes


def fibres(*keys):
    return {"kind": "fibre", "levels": levels(*keys)}


@pytest.fixture
def open_real(page: Page, address: str):
    def go() -> Page:
        page.goto("/#/study/1/compare/real")
        expect(page.get_by_role("region", name="≠ Different, if it were dyed again")).to_be_visible()
        return page

    return go


def test_six_fibres_in_two_roots_one_piece_each(database: Database, open_real):
    took = {"wool": 1.0, "superwash-wool": 1.1, "silk": 0.9, "cotton": 0.35, "linen": 0.4, "polyester": 0.03}
    roots = {"dried-bark": np.array([-42, 30, 18]), "dried-seeds": np.array([-28, 4, 45])}
    dyed(
        database,
        [
            fibres(*took),
            {
                "kind": "dye",
                "levels": [{"key": "dried-bark", "label": "Red root"}, {"key": "dried-seeds", "label": "Yellow root"}],
            },
        ],
        ["fibre"],
        ["dye"],
        lambda at: np.array([88, 1, 4]) + took[at["fibre"]] * roots[at["dye"]],
    )
    page = open_real()
    said = page.get_by_role("region", name="≠ Different, if it were dyed again")
    star = said.get_by_role("button", name="Polyester").first
    expect(star).to_contain_text("Polyester")
    star.click()
    one = said.get_by_role("button", name="Polyester stays near white in both").first
    expect(one).to_contain_text("Red root")
    one.click()
    detail = page.get_by_role("region", name=re.compile("Polyester against"))
    depths = detail.get_by_role("table", name="At three depths")
    expect(depths).to_have_text("These piecesdifferDyed againdifferAs a rulediffer")
    # The pair with either root, never a mean of red and yellow.
    expect(detail.get_by_role("table", name="With each level of the others").get_by_role("row")).to_have_count(2)
    # And nobody calls the right polyester swapped.
    page.get_by_role("tab", name="Odd ones").click()
    expect(page.get_by_text("were they swapped")).to_have_count(0)


def test_iron_in_the_pot_against_after(database: Database, open_real):
    iron = [
        {"key": "i0", "label": "No iron", "value": 0},
        {"key": "i1", "label": "After", "value": 1, "route": "after-bath"},
        {"key": "i2", "label": "In the pot", "value": 1, "route": "pot"},
    ]
    moved = {"i0": 0, "i1": 12, "i2": 30}
    dyed(
        database,
        [
            fibres("wool", "silk", "linen"),
            {"kind": "dye", "levels": levels("insect-dye")},
            {"kind": "iron", "levels": iron},
        ],
        ["fibre"],
        ["dye", "iron"],
        lambda at: (60 - moved[at["iron"]], 40 - moved[at["iron"]], 10 - 3 * "wsl".index(at["fibre"][0])),
    )
    page = open_real()
    page.get_by_text("Which of two ways keeps more of its colour?").click()
    for label, option in (
        ("Factor", "Iron"),
        ("Both started from", "No iron"),
        ("One way", "After"),
        ("Other way", "In the pot"),
    ):
        page.get_by_label(label, exact=True).click()
        page.get_by_role("option", name=option, exact=True).click()
    expect(page.get_by_text("After keeps more of it, by")).to_be_visible()
    expect(page.get_by_text("Silk, Insect-dye").or_(page.get_by_text("Silk:")).first).to_be_visible()


def test_an_exhaust_with_alum_against_without_and_the_lot_that_parts_them(database: Database, open_real):
    dips = [{"key": "dip-1", "label": "Dip 1", "value": 1}, {"key": "dip-2", "label": "Dip 2", "value": 2}]
    cell = "fibre=wool;mordant={};dye=dry-skins;dip={}"
    dyed(
        database,
        [
            fibres("wool"),
            {"kind": "mordant", "levels": levels("none", "alum-hot")},
            {"kind": "dye", "levels": levels("dry-skins")},
            {"kind": "dip", "levels": dips},
        ],
        ["fibre", "mordant"],
        ["dye", "dip"],
        lambda at: (60, 10, 40) if at["dip"] == "dip-1" else (44, 24, 42),
        left_out=[cell.format("none", "dip-2"), cell.format("alum-hot", "dip-1")],
    )
    page = open_real()
    said = page.get_by_role("region", name="≠ Different, if it were dyed again").get_by_role("button")
    # One sentence: the dip and the alum are not told apart.
    expect(said).to_have_count(1)
    expect(said).to_contain_text("with Dip 2")
    said.click()
    page.get_by_role("button", name="Plan the lot that parts them").click()
    expect(page).to_have_url("http://" + page.url.split("/")[2] + "/#/study/1/plan")
    expect(page.locator("[data-cell='" + cell.format("alum-hot", "dip-1") + "']")).to_contain_text("not read yet")


def test_one_birch_over_six_months_in_one_pot_each(database: Database, open_real):
    months = [{"key": key, "label": f"Birch, {month}"} for key, month in zip(LOTS, MONTHS, strict=True)]
    deep = dict(zip(LOTS, (0, 1, 2, 14, 15, 16), strict=True))
    dyed(
        database,
        [fibres("wool", "silk"), {"kind": "dye", "levels": months}],
        ["fibre"],
        ["dye"],
        lambda at: (72 - deep[at["dye"]], 2, 45 + deep[at["dye"]] / 2 - 4 * (at["fibre"] == "silk")),
    )
    page = open_real()
    said = page.get_by_role("region", name="≠ Different, if it were dyed again")
    # Nine pairs that say the same are one sentence; what cannot be told is one folded line.
    expect(said.get_by_role("button", name="differ")).to_have_count(1)
    expect(said).to_contain_text("Birch, April, Birch, May and Birch, June differ from")
    expect(said).to_contain_text("Usual values; one more pot of each shows")
    untold = page.locator("summary", has_text="Cannot be told")
    expect(untold).to_have_text("? Cannot be told: 7 pairs of levels")
    # What it was told against is shown, and whose it is.
    noise = page.get_by_role("table", name="Noise")
    expect(noise).to_contain_text("vessel from vessel1.5usual value")
