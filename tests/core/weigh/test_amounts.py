"""Amounts against recipes of common practice, worked by hand."""

import pytest
from tests.small_study import levels, small_plan

from zesty_grid.core.plan.cells import cross
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.vessels import vessels_of
from zesty_grid.core.refusal import Refusal
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF
from zesty_grid.core.weigh.amounts import dose_g, iron_stock, stock_volume_ml, weigh_vessel
from zesty_grid.core.weigh.cautions import weighing_cautions


def amounts_of(**changes):
    plan = StudyPlan.model_validate(small_plan(**changes))
    vessels = vessels_of(plan, cross(plan), STARTING_SHELF)
    return {v.name: weigh_vessel(plan, v, STARTING_SHELF) for v in vessels}


def figure(amounts, role):
    return next(f for f in amounts.figures if f.role == role)


def test_doses_of_common_practice():
    assert dose_g(15, 100) == pytest.approx(15)  # alum 15 % for a 100 g skein
    assert dose_g(10, 6) == pytest.approx(0.6)
    assert stock_volume_ml(0.6, 1) == pytest.approx(60)  # 1 mL of a 1 % stock holds 0.01 g
    assert stock_volume_ml(0.05, 1) == pytest.approx(5)  # 1 % for a swatch of 5 g


def test_alum_water_and_dye_for_eight_swatches_of_six_grams():
    amounts = amounts_of()
    alum = amounts["M1"]
    assert alum.dry_fibre_g == 48
    assert figure(alum, "water").volume_ml == pytest.approx(30 * 48)
    assert figure(alum, "mordant").grams == pytest.approx(7.2)
    assert figure(alum, "mordant").working == "15 % × 48.0 g = 7.20 g"
    assert figure(amounts["D1"], "dye stuff").grams == pytest.approx(36)


def test_iron_is_measured_from_a_stock_with_its_working():
    iron = figure(amounts_of()["F1"], "iron")
    assert iron.grams == pytest.approx(0.48)
    assert iron.volume_ml == pytest.approx(48)
    assert iron.working == "1 % × 48.0 g = 0.48 g → 48 mL of the 1 % stock"


def test_the_stock_to_make_up_has_a_tenth_to_spare():
    stock = iron_stock(list(amounts_of().values()))
    assert stock.volume_ml == pytest.approx(52.8)
    assert stock.grams == pytest.approx(0.528)
    factors = [f for f in small_plan()["factors"] if f["kind"] != "iron"]
    no_iron = amounts_of(factors=factors, columns=["dye", "ph"])
    assert iron_stock(list(no_iron.values())) is None


def test_cream_of_tartar_comes_with_its_alum():
    factors = small_plan()["factors"]
    factors[1] = {"kind": "mordant", "levels": levels("alum-tartar-hot")}
    bath = amounts_of(factors=factors)["M1"]
    # 10 % alum and 7 % cream of tartar: common practice.
    assert figure(bath, "mordant").grams == pytest.approx(4.8)
    assert figure(bath, "assist").grams == pytest.approx(3.36)


def test_what_is_weighed_brings_its_cautions():
    cautions = weighing_cautions(amounts_of().values())
    assert ["dust mask" in c for c in cautions] == [True, False]
    assert "children" in cautions[1]
    factors = [f for f in small_plan()["factors"] if f["kind"] not in ("iron", "mordant")]
    plain = amounts_of(factors=factors, rows=["fibre"], columns=["dye", "ph"])
    assert weighing_cautions(plain.values()) == ()
    factors = small_plan()["factors"]
    factors[1] = {"kind": "mordant", "levels": levels("iron-mordant")}
    plain = amounts_of(factors=factors)
    assert any("children" in caution for caution in weighing_cautions(plain.values()))


def test_impossible_masses_are_refused():
    with pytest.raises(ValueError, match="above 0"):
        dose_g(10, 0)
    with pytest.raises(ValueError, match="stronger"):
        stock_volume_ml(1, 0)


def test_a_dye_that_left_the_shelf_is_said():
    plan = StudyPlan.model_validate(small_plan())
    vessel = next(v for v in vessels_of(plan, cross(plan), STARTING_SHELF) if v.bath == "dye")
    bare = STARTING_SHELF.model_copy(update={"dye_lots": ()})
    with pytest.raises(Refusal, match="not on the Shelf"):
        weigh_vessel(plan, vessel, bare)
