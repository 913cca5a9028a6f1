"""Recipes scaled from the record, and what is told of them."""

import pytest
from tests.small_study import planned, small_plan

from zesty_grid.core.compare.recipe import Gentleness, cost_of, gentleness, is_in_hand, stuffs_needed, told_baths
from zesty_grid.core.dye.bench import bench_of
from zesty_grid.core.dye.protocol import Protocol
from zesty_grid.core.dye.swatch_record import BathPassed
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.record.followed import ReadIn
from zesty_grid.core.shelf.items import DyeLot
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF


def bench(**changes):
    study = planned(StudyPlan.model_validate(small_plan(**changes)))
    return bench_of(study, Protocol(), [], {})


def baths_of(*kinds):
    every = bench()
    return [next(one for one in every if one.vessel.bath == kind) for kind in kinds]


def test_a_caution_stands_where_it_is_first_met():
    baths = told_baths(bench(), {})
    said = [words for one in baths for words in (*one.cautions, *(step.caution for step in one.steps)) if words]
    assert len(said) == len(set(said))
    assert any(one.cautions for one in baths)


def test_what_really_happened_stands_beside_it():
    (iron,) = baths_of("iron")
    followed = iron.model_copy(update={"vessel": iron.vessel.model_copy(update={"place": 2})})
    passed = BathPassed(
        study=1,
        study_name="S",
        vessel=iron.name,
        title="",
        begun=True,
        recipe=(),
        seconds=62.0,
        temperature_c=(19.0, 23.0),
        ph=(4.8, 5.6),
        heated_again=0,
    )
    (bath,) = told_baths([followed], {2: passed})
    assert bath.really == "19 to 23 °C, pH 4.8 to 5.6, 62 s"
    (unlogged,) = told_baths([iron], {})
    assert unlogged.really == ""


@pytest.mark.parametrize(
    ("known", "gentle"),
    [
        ({}, True),
        ({"iron": True}, False),
        ({"copper": True}, False),
        ({"hottest_c": 45.0}, True),
        ({"hottest_c": 46.0}, False),
        ({"heat_unknown": True}, False),
        ({"ph_low": 4.9}, False),
        ({"ph_high": 8.0}, True),
        ({"ph_high": 8.5}, False),
    ],
)
def test_gentle_is_no_iron_no_copper_no_heat_and_a_mild_ph(known, gentle):
    base = {"iron": False, "copper": False, "hottest_c": None, "ph_low": None, "ph_high": None}
    assert Gentleness(**(base | known)).is_gentle is gentle


def as_warm_as_it_is(one):
    """A bath of which no temperature is planned."""
    return one.model_copy(update={"vessel": one.vessel.model_copy(update={"temperature_c": None})})


def test_gentleness_is_that_of_the_baths_but_the_scour():
    scour, iron = baths_of("scour", "iron")
    # Scouring at 80 °C is done to all cloth, and does not count.
    assert gentleness([scour], {}).hottest_c is None
    assert gentleness([iron], {}).iron
    # Of what nothing is known, it is not said to be gentle.
    assert not gentleness([], {}).is_gentle
    assert gentleness([as_warm_as_it_is(iron)], {}).heat_unknown
    assert not gentleness([as_warm_as_it_is(iron)], {iron.name: ReadIn((20.0, 80.0), None)}).heat_unknown
    warm = BathPassed(
        study=1, study_name="S", vessel=iron.name, title="", begun=True, recipe=(), temperature_c=(20.0, 61.0)
    )
    # It boiled over the plan: what was measured counts.
    assert gentleness([iron], {iron.name: warm}).hottest_c == 61.0


def test_stuffs_are_added_up_with_what_is_in_hand_and_what_they_cost():
    mordant, dye = baths_of("mordant", "dye")
    lot = next(one for one in STARTING_SHELF.dye_lots if one.key == "dried-flowers")
    rich = lot.model_copy(update={"amount_in_hand_g": 100, "price_per_100_g": 8})
    assert isinstance(rich, DyeLot)
    lots = tuple(rich if one.key == lot.key else one for one in STARTING_SHELF.dye_lots)
    shelf = STARTING_SHELF.model_copy(update={"dye_lots": lots})
    needed = {one.name: one for one in stuffs_needed([mordant, dye], shelf, 100)}
    assert needed["potassium alum"].grams == pytest.approx(15)
    stuff = next(one for name, one in needed.items() if name.lower() == lot.name.lower())
    assert stuff.cost == pytest.approx(stuff.grams * 0.08)
    assert is_in_hand([stuff]) is (stuff.grams <= 100)
    assert cost_of([stuff]) == pytest.approx(stuff.cost)
    assert is_in_hand([]) is None
    assert cost_of([needed["potassium alum"]]) is None
    assert "water" not in needed
