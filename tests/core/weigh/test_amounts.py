"""Amounts against recipes of common practice, worked by hand."""

import pytest
from tests.small_study import levels, small_plan, valued

from zesty_grid.core.dye.preparing import scours_ahead
from zesty_grid.core.plan.planned_study import on_paper
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.refusal import Refusal
from zesty_grid.core.shelf.items import DyeLot, MixturePart
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF
from zesty_grid.core.weigh.spoons import spoon_words
from zesty_grid.core.weigh.stock_solution import dose_g, least_weighed_g, stock_to_make, stock_volume_ml
from zesty_grid.core.weigh.totals import needed_words
from zesty_grid.core.weigh.weighing import Weighing, weigh_study

COARSE = {"scale": "kitchen-scale"}


def weigh(shelf=STARTING_SHELF, **changes) -> Weighing:
    plan = StudyPlan.model_validate(small_plan(**changes))
    return weigh_study(on_paper(plan, shelf))


def vessels(**changes):
    return {own.vessel: own for own in weigh(**changes).vessels}


def figure(amounts, role):
    return next(f for f in amounts.figures if f.role == role)


def test_doses_of_common_practice():
    assert dose_g(15, 100) == pytest.approx(15)  # alum 15 % for a 100 g skein
    assert dose_g(10, 6) == pytest.approx(0.6)
    assert stock_volume_ml(0.6, 1) == pytest.approx(60)  # 1 mL of a 1 % stock holds 0.01 g
    assert stock_volume_ml(0.05, 1) == pytest.approx(5)  # 1 % for a swatch of 5 g


@pytest.mark.parametrize(
    ("grams", "teaspoon_g", "words"),
    [
        # Level teaspoons of common practice: alum 5 g, cream of tartar 3 g; a pinch is 1/16.
        (5, 5, "1 tsp"),
        (15, 5, "3 tsp"),
        (7, 3, "2½ tsp"),
        (2.5, 5, "½ tsp"),
        (1.25, 5, "¼ tsp"),
        (0.3, 5, "a pinch"),
        (30, 5, "2 tbsp"),
        (0.01, 5, ""),
        (5, None, ""),
    ],
)
def test_spoons(grams, teaspoon_g, words):
    assert spoon_words(grams, teaspoon_g) == words


def test_a_teaspoon_of_alum_for_a_hundred_grams_is_well_under_fifteen_percent():
    # Rule of thumb, common practice: one teaspoon of alum for 100 g of fibre. That is 5 %.
    assert spoon_words(dose_g(5, 100), 5) == "1 tsp"


def test_alum_water_and_dye_for_eight_swatches_of_six_grams():
    amounts = vessels()
    alum = amounts["M1"]
    assert alum.dry_fibre_g == 48
    assert figure(alum, "water").volume_ml == pytest.approx(30 * 48)
    assert figure(alum, "mordant").grams == pytest.approx(7.2)
    assert figure(alum, "mordant").working == "15 % × 48.0 g = 7.20 g"
    assert figure(alum, "mordant").spoons == "1½ tsp"
    assert figure(amounts["D1"], "dye stuff").grams == pytest.approx(36)


def test_a_fine_scale_weighs_dry_and_a_coarse_one_needs_a_stock():
    # A step of 0.01 g is within 5 % from 0.2 g on; a step of 1 g only from 20 g on.
    assert least_weighed_g(0.01, 5) == pytest.approx(0.2)
    assert least_weighed_g(1, 5) == pytest.approx(20)
    fine = figure(vessels()["F1"], "iron")
    assert (fine.grams, fine.volume_ml) == (pytest.approx(0.48), None)
    coarse = figure(vessels(**COARSE)["F1"], "iron")
    assert coarse.volume_ml == pytest.approx(48)
    assert coarse.working.startswith("1 % × 48.0 g = 0.48 g → 48 mL of the 1 % stock")
    assert "the scale shows 1 g" in coarse.working


def test_a_stock_has_a_tenth_to_spare_and_whole_tens_of_millilitres():
    stock = next(s for s in weigh(**COARSE).stocks if "iron" in s.name)
    assert stock.volume_ml == pytest.approx(60)  # 48 mL × 1.1 = 52.8 mL
    # 0.6 g are far below the 20 g that a step of 1 g weighs within 5 %: 20 g go into 200 mL
    # (10 %), and 6 mL of that are made up to 60 mL (1 %).
    assert (stock.grams, stock.strong_ml) == (pytest.approx(20), pytest.approx(200))
    assert stock.dilute_ml == pytest.approx(6)
    assert "by spoon" in stock.working.lower()
    assert stock_to_make("alum", 100, 1).grams == pytest.approx(1.1)
    assert stock_to_make("alum", 100, 1).volume_ml == pytest.approx(110)
    # With the fine scale all but the traces for the pH are weighed dry.
    assert {s.name for s in weigh().stocks} == {"soda ash"}


def test_cream_of_tartar_comes_with_its_alum():
    factors = small_plan()["factors"]
    factors[1] = {"kind": "mordant", "levels": levels("alum-tartar-hot")}
    bath = vessels(factors=factors)["M1"]
    # 10 % alum and 7 % cream of tartar: common practice.
    assert figure(bath, "mordant").grams == pytest.approx(4.8)
    assert figure(bath, "assist").grams == pytest.approx(3.36)


def test_one_extract_is_shared_by_strength():
    # 36 g at 1:1 and 72 g at 2:1 from one extract: the strong bath takes half of its water as
    # extract, the weak one half as much; all of the dye is shared out.
    factors = [*small_plan()["factors"][:3], {"kind": "strength", "levels": valued("strength", 75, 150)}]
    weighed = weigh(factors=factors, columns=["dye", "strength"])
    (extract,) = weighed.extractions
    volume_ml = 4 * 6 * 30
    assert [s.volume_ml for s in extract.shares] == [pytest.approx(volume_ml / 4), pytest.approx(volume_ml / 2)]
    assert extract.grams == pytest.approx(0.75 * 24 + 1.5 * 24)
    weak = next(v for v in weighed.vessels if v.vessel == extract.shares[0].vessel)
    assert figure(weak, "water").volume_ml == pytest.approx(volume_ml * 3 / 4)


def test_purity_and_unknown_strength():
    weaker = tuple(
        s.model_copy(update={"purity_percent": 90}) if s.key == "potassium-alum" else s
        for s in STARTING_SHELF.substances
    )
    own = weigh(STARTING_SHELF.model_copy(update={"substances": weaker})).vessels[0]
    assert figure(own, "mordant").grams == pytest.approx(8.0)
    factors = small_plan()["factors"]
    factors[1] = {"kind": "mordant", "levels": levels("iron-liquor", "soya-milk")}
    liquor = vessels(factors=factors)["M1"]
    assert figure(liquor, "mordant").grams is None
    assert "strip" in figure(liquor, "mordant").working


def test_totals_against_what_is_in_hand_with_cost():
    lots = (
        DyeLot(key="a", name="First picking", amount_in_hand_g=20, price_per_100_g=12),
        DyeLot(key="b", name="Second picking", amount_in_hand_g=500),
        DyeLot(
            key="dried-flowers",
            name="Mixed flowers",
            strength_percent_wof=100,
            mixture=(MixturePart(lot="a", percent=25), MixturePart(lot="b", percent=75)),
        ),
    )
    totals = {t.name: t for t in weigh(STARTING_SHELF.model_copy(update={"dye_lots": lots})).totals}
    # 16 dyed swatches of 6 g at 100 %: 96 g, a quarter of it from the first picking.
    assert totals["First picking"].grams == pytest.approx(24)
    assert totals["First picking"].short_g == pytest.approx(4)
    assert totals["First picking"].cost == pytest.approx(24 * 0.12)
    assert totals["Second picking"].short_g == 0
    assert totals["Wool"].grams == pytest.approx(9 * 6)
    assert totals["Wool"].short_g is None


def test_what_the_scours_take_is_in_the_totals():
    planned = on_paper(StudyPlan.model_validate(small_plan()), STARTING_SHELF)
    plain = {one.name: one for one in weigh_study(planned).totals}
    assert "neutral detergent" not in plain
    totals = {one.name: one for one in weigh_study(planned, scours=scours_ahead(planned)).totals}
    # Cotton is scoured with 2 % of washing soda: 9 pieces of 6 g.
    assert totals["washing soda"].grams == pytest.approx(0.02 * 9 * 6)
    # 2 mL of detergent for each litre: wool and cotton, 54 g each at 30 mL for a gram.
    assert totals["neutral detergent"].volume_ml == pytest.approx(2 * 2 * 54 * 30 / 1000)
    assert needed_words(totals["neutral detergent"]).endswith("mL")


def test_what_is_in_a_bath_brings_its_cautions():
    weighed = weigh()
    assert ["dust mask" in c for c in weighed.cautions] == [True, False]
    assert "children" in weighed.cautions[1]
    by_vessel = weighed.vessel_cautions
    alkaline = " ".join(by_vessel["D2"])
    assert "slime" in alkaline
    assert "felts" in alkaline
    assert "Never near bleach" in " ".join(by_vessel["D1"])
    assert {card.name for card in weighed.cards} >= {"potassium alum", "iron(II) sulphate"}
    factors = [f for f in small_plan()["factors"] if f["kind"] not in ("iron", "mordant", "ph")]
    plain = weigh(factors=factors, rows=["fibre"], columns=["dye"])
    assert plain.cautions == ()
    strong = small_plan()["factors"]
    strong[4] = {"kind": "iron", "levels": valued("iron", 0, 5)}
    said = weigh(factors=strong).vessel_cautions["F1"]
    assert any("weakens" in caution for caution in said)


def test_cautions_stand_only_where_they_apply():
    """Wool felts, cotton does not; alum foams with alkali, unmordanted cloth does not."""

    def said(fibre: str, route: str, name: str = "D1", *more: dict, ph: float = 9) -> str:
        factors = [
            {"kind": "fibre", "levels": levels(fibre)},
            {"kind": "mordant", "levels": levels(route)},
            {"kind": "dye", "levels": levels("dried-flowers")},
            {"kind": "ph", "levels": valued("ph", ph)},
            *more,
        ]
        columns = [one["kind"] for one in factors]
        weighed = weigh(factors=factors, rows=[], columns=columns, controls=[])
        return " ".join(weighed.vessel_cautions[name])

    assert "felts" in said("wool", "alum-hot")
    assert "felts" not in said("cotton", "alum-acetate")
    assert "slime" in said("cotton", "alum-acetate")
    assert "slime" not in said("cotton", "none")
    prints = {"kind": "process", "levels": levels("bundle-print")}
    assert "melt" in said("silk", "alum-hot", "D1", prints)
    # 3 % iron as a mordant harms wool as it does in an after-bath; 2 % is the usual limit.
    assert "weakens" in said("wool", "iron-mordant", "M1")
    assert "weakens" not in said("cotton", "iron-mordant", "M1")
    # Alkali dissolves protein fibres, from about pH 10 on (common practice).
    assert "dissolves wool" in said("wool", "none", ph=10.5)
    assert "dissolves wool" not in said("wool", "none", ph=10)
    assert "dissolves wool" not in said("cotton", "none", ph=10.5)


def test_impossible_masses_are_refused():
    with pytest.raises(ValueError, match="above 0"):
        dose_g(10, 0)
    with pytest.raises(ValueError, match="stronger"):
        stock_volume_ml(1, 0)
    with pytest.raises(ValueError, match="above 0"):
        least_weighed_g(0, 5)
    with pytest.raises(ValueError, match="no stock"):
        stock_to_make("alum", 0, 1)


def test_a_dye_that_left_the_shelf_is_said():
    bare = STARTING_SHELF.model_copy(update={"dye_lots": ()})
    with pytest.raises(Refusal, match="not on the Shelf"):
        weigh(bare)
