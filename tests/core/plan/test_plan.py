"""Crossing, controls, codes, vessels and advice."""

import itertools
import math
import random

import pytest
from pydantic import ValidationError
from tests.small_study import levels, small_plan, valued

from zesty_grid.core.plan.advice import advice_on
from zesty_grid.core.plan.cells import cross, missing_controls
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.swatch_codes import ALPHABET, is_swatch_code, swatch_code
from zesty_grid.core.plan.vessels import vessels_of
from zesty_grid.core.refusal import Refusal
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF


def plan_of(**changes) -> StudyPlan:
    return StudyPlan.model_validate(small_plan(**changes))


def test_a_full_cross_has_the_product_of_the_levels():
    cells = cross(plan_of(controls=[]))
    assert len(cells) == 2 * 2 * 1 * 2 * 2
    assert len({cell.key for cell in cells}) == len(cells)


def test_a_cell_keeps_its_key_when_factors_change_axes_or_order():
    plan = small_plan()
    turned = plan | {
        "factors": plan["factors"][::-1], "rows": plan["columns"], "columns": plan["rows"],
    }  # fmt: skip
    keys = {cell.key for cell in cross(plan_of())}
    assert keys == {cell.key for cell in cross(StudyPlan.model_validate(turned))}


def test_controls_are_marked_and_offered():
    cells = cross(plan_of())
    assert [c.key for c in cells if c.control == "undyed"] == [
        "control=undyed;fibre=wool", "control=undyed;fibre=cotton",
    ]  # fmt: skip
    assert all(c.control == "unmordanted" for c in cells if c.levels.get("mordant") == "none")
    assert missing_controls(plan_of()) == []
    assert missing_controls(plan_of(controls=[])) == ["undyed"]


def test_without_an_unmordanted_level_that_control_is_offered_in_the_plainest_bath():
    factors = small_plan()["factors"]
    factors[1] = {"kind": "mordant", "levels": levels("alum-hot")}
    factors[3] = {"kind": "ph", "levels": valued("ph", 4, 6.5, 9)}
    assert missing_controls(plan_of(factors=factors)) == ["unmordanted"]
    cells = cross(plan_of(factors=factors, controls=["unmordanted"]))
    added = [c for c in cells if c.key.startswith("control=")]
    assert {c.levels["ph"] for c in added} == {"ph-6.5"}
    assert {c.levels["iron"] for c in added} == {"iron-0"}


def test_left_out_cells_stay_but_are_not_included():
    key = cross(plan_of())[0].key
    cells = cross(plan_of(left_out=[key]))
    assert [c.key for c in cells if not c.included] == [key]


def test_a_million_cells_are_refused_before_they_are_made():
    many = levels(*(f"x{i}" for i in range(12)))
    ph = valued("ph", *(1 + i for i in range(12)))
    iron = valued("iron", *(i / 2 for i in range(12)))
    plan = StudyPlan.model_validate(
        {
            "name": "Too much",
            "factors": [
                {"kind": "fibre", "levels": many}, {"kind": "mordant", "levels": many},
                {"kind": "dye", "levels": many}, {"kind": "ph", "levels": ph},
                {"kind": "iron", "levels": iron},
            ],
            "rows": ["fibre", "mordant"],
            "columns": ["dye", "ph", "iron"],
        }
    )  # fmt: skip
    assert math.prod(len(f.levels) for f in plan.factors) == 248_832
    with pytest.raises(Refusal, match=r"248,832 cells.*2,000"):
        cross(plan)


@pytest.mark.parametrize(
    "change",
    [
        {"swatch_mass_g": -1},
        {"swatch_mass_g": float("nan")},
        {"rows": ["fibre"]},
        {"rows": ["fibre", "mordant", "dye"]},
        {"factors": [{"kind": "ph", "levels": valued("ph", 99)}], "rows": ["ph"], "columns": []},
        {"name": ""},
        {"unknown": 1},
    ],
)
def test_unsound_plans_are_refused(change):
    with pytest.raises(ValidationError):
        plan_of(**change)


def test_codes_differ_and_use_no_character_that_can_be_confused():
    codes = [swatch_code(n) for n in range(1, 8000)]
    assert len(set(codes)) == len(codes)
    assert not set("".join(codes)) & set("01OQDILZ25S8B6GUV")
    assert {len(code) for code in codes} == {4, 5}


def test_the_check_character_catches_every_wrong_character_and_every_neighbour_swap():
    for n in random.Random(1).sample(range(6859), 150):
        code = swatch_code(n)
        assert is_swatch_code(code.lower())
        for place, other in itertools.product(range(4), ALPHABET):
            if other != code[place]:
                assert not is_swatch_code(code[:place] + other + code[place + 1 :])
        for i in range(3):
            if code[i] != code[i + 1]:
                swapped = code[:i] + code[i + 1] + code[i] + code[i + 2 :]
                assert not is_swatch_code(swapped)


def test_cells_share_a_vessel_when_all_that_acts_in_it_is_the_same():
    plan = plan_of()
    vessels = vessels_of(plan, cross(plan), STARTING_SHELF)
    # One alum bath; a dye bath for each pH; one iron bath after the one dye: counted by hand.
    assert [(v.name, v.bath, len(v.cells)) for v in vessels] == [
        ("M1", "mordant", 8), ("D1", "dye", 8), ("D2", "dye", 8), ("F1", "iron", 8),
    ]  # fmt: skip
    assert {v.ph for v in vessels if v.bath == "dye"} == {4, 9}
    undyed = {c.key for c in cross(plan) if c.control == "undyed"}
    assert not any(undyed & set(v.cells) for v in vessels)


def test_tannin_then_alum_needs_two_baths():
    factors = small_plan()["factors"]
    factors[1] = {"kind": "mordant", "levels": levels("tannin-alum")}
    plan = plan_of(factors=factors)
    baths = [v.bath for v in vessels_of(plan, cross(plan), STARTING_SHELF)]
    assert baths[:2] == ["tannin", "mordant"]


def test_alum_sulphate_on_cotton_is_warned_about_with_the_reason():
    # Sulphates for protein, acetate or tannin first for cellulose: common practice.
    plan = plan_of()
    advice = advice_on(plan, cross(plan), STARTING_SHELF)
    assert [a.code for a in advice] == ["unsuited:alum-hot:cotton"]
    assert "aluminium acetate" in advice[0].reason
    assert len(advice[0].cells) == 4


def test_wool_above_ph_10_is_warned_about():
    factors = small_plan()["factors"]
    factors[3] = {"kind": "ph", "levels": valued("ph", 10, 10.5)}
    plan = plan_of(factors=factors)
    alkali = [a for a in advice_on(plan, cross(plan), STARTING_SHELF) if "alkali" in a.code]
    assert [a.code for a in alkali] == ["alkali:wool"]
    assert all("ph-10.5" in cell for cell in alkali[0].cells)
