"""The chain of baths of a swatch: what acts where, counted by hand."""

import pytest
from tests.small_study import cells_of, levels, small_plan, valued

from zesty_grid.core.plan.baths import bath_left, baths_of
from zesty_grid.core.plan.choices import other_choices
from zesty_grid.core.plan.factors import Factor
from zesty_grid.core.plan.filling import room_for
from zesty_grid.core.plan.planned_study import on_paper
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.vessel import fits
from zesty_grid.core.plan.vessels import vessels_of
from zesty_grid.core.shelf.items import ShelfVessel
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF


def plan_of(*more: dict, mordants=("alum-hot",), **changes) -> StudyPlan:
    factors = [
        {"kind": "fibre", "levels": levels("wool")},
        {"kind": "mordant", "levels": levels(*mordants)},
        {"kind": "dye", "levels": levels("dried-bark")},
        *more,
    ]
    columns = ["dye", *(factor["kind"] for factor in more)]
    return StudyPlan.model_validate(small_plan(factors=factors, columns=columns, controls=[], **changes))


def chain(plan: StudyPlan, number: int = 0):
    return baths_of(plan, cells_of(plan)[number].levels, STARTING_SHELF)


def test_no_bath_is_ahead_that_belongs_before_one_or_is_one_that_the_piece_was_in():
    plan = plan_of({"kind": "iron", "levels": [{"key": "i", "label": "After", "value": 1}]}, mordants=("tannin-alum",))
    baths = chain(plan)
    assert [bath.bath for bath in baths] == ["tannin", "mordant", "dye", "iron"]
    stages = {bath.bath: bath.stage for bath in baths}

    def left(past: str = "", been: str = "") -> list[str]:
        begun, was_in = ({stages[name]} if name else set() for name in (past, been))
        return [bath.bath for bath in bath_left(baths, frozenset(begun), frozenset(was_in))]

    assert left() == ["tannin", "mordant", "dye", "iron"]
    assert left(past="mordant") == ["tannin", "dye", "iron"]
    assert left(been="mordant") == ["dye", "iron"]


def test_the_order_is_that_of_the_work():
    plan = plan_of(
        {"kind": "iron", "levels": [{"key": "i", "label": "After", "value": 1}]},
        {"kind": "after_ph", "levels": valued("a", 9)},
        {"kind": "second_dye", "levels": levels("dye-extract")},
        mordants=("tannin-alum",),
    )
    assert [bath.bath for bath in chain(plan)] == ["tannin", "mordant", "dye", "overdye", "adjust", "iron"]


def test_none_of_a_treatment_needs_no_bath():
    plan = plan_of(
        {"kind": "iron", "levels": valued("iron", 0)},
        {"kind": "second_dye", "levels": levels("none")},
        mordants=("none",),
    )
    assert [bath.bath for bath in chain(plan)] == ["dye"]


@pytest.mark.parametrize(
    ("factor", "fact", "value"),
    [
        ({"kind": "strength", "levels": valued("s", 200)}, "strength_percent_wof", 200),
        ({"kind": "temperature", "levels": valued("t", 45)}, "temperature_c", 45),
        ({"kind": "duration", "levels": valued("d", 90)}, "duration_min", 90),
        ({"kind": "ph", "levels": valued("p", 9)}, "ph", 9),
        ({"kind": "dip", "levels": valued("d", 2)}, "dip", 2),
        ({"kind": "process", "levels": levels("room")}, "temperature_c", 20),
        ({"kind": "process", "levels": levels("bundle-print")}, "duration_min", 150),
        ({"kind": "extraction", "levels": levels("sun")}, "extraction", "sun"),
    ],
)
def test_what_a_factor_sets_in_the_dye_bath(factor, fact, value):
    dye = chain(plan_of(factor))[-1]
    assert dye.bath == "dye"
    assert getattr(dye, fact) == value


def test_each_factor_that_acts_in_the_pot_makes_pots_of_its_own():
    for kind, two in (
        ("strength", (50, 100)),
        ("temperature", (20, 80)),
        ("duration", (15, 60)),
        ("ph", (4, 9)),
        ("dip", (1, 2)),
    ):
        plan = plan_of({"kind": kind, "levels": valued(kind.replace("_", "-"), *two)})
        dye = [v for v in vessels_of(on_paper(plan, STARTING_SHELF)) if v.bath == "dye"]
        assert len(dye) == 2, kind


def test_mordants_share_a_dye_bath_or_have_their_own_and_the_cost_is_said():
    plan = plan_of(mordants=("none", "alum-hot", "alum-cold"))
    study = on_paper(plan, STARTING_SHELF)
    vessels = vessels_of(study)
    assert sum(v.bath == "dye" for v in vessels) == 1
    (choice,) = other_choices(study, vessels)
    assert (choice.vessels_now, choice.vessels_other) == (3, 5)
    apart = plan.model_copy(update={"mordants_in_dye_bath": "apart"})
    assert len(vessels_of(on_paper(apart, STARTING_SHELF))) == choice.vessels_other
    assert choice.reason_now != choice.reason_other


def test_iron_mordanted_pieces_are_dyed_apart():
    plan = plan_of(mordants=("alum-hot", "iron-mordant"))
    dye = [v for v in vessels_of(on_paper(plan, STARTING_SHELF)) if v.bath == "dye"]
    assert [v.has_iron for v in dye] == [False, True]


@pytest.mark.parametrize(
    ("vessel", "factor", "right"),
    [
        ({}, None, True),
        ({"iron_only": True}, None, False),
        ({"material": "plastic"}, None, False),
        ({"form": "steamer"}, None, False),
        ({"retired": True}, None, False),
        ({"form": "steamer"}, {"kind": "process", "levels": levels("bundle-print")}, True),
        ({}, {"kind": "process", "levels": levels("bundle-print")}, False),
        ({"form": "jar"}, {"kind": "process", "levels": levels("sun-jar")}, True),
        ({"form": "pot"}, {"kind": "process", "levels": levels("sun-jar")}, False),
        ({"material": "plastic"}, {"kind": "process", "levels": levels("room")}, True),
    ],
)
def test_which_vessel_is_right_for_a_bath(vessel, factor, right):
    dye = chain(plan_of(*([factor] if factor else [])))[-1]
    own = ShelfVessel.model_validate({"key": "v", "name": "V", "litres": 5} | vessel)
    assert fits(dye, own) == right


def test_a_vessel_is_filled_to_four_fifths():
    pot = ShelfVessel(key="v", name="V", litres=5)
    # 5 g at 30 mL/g are 150 mL; 4 L hold 26 of them.
    assert room_for(pot.litres, 150) == 26
    assert room_for(pot.litres, 4000) == 1
    assert room_for(pot.litres, 4001) == 0


def test_random_order_comes_back_with_its_seed_and_changes_with_another():
    plan = plan_of({"kind": "ph", "levels": valued("ph", *range(3, 11))}, replicates=4)

    def order(seed: int):
        other = plan.model_copy(update={"order_seed": seed})
        vessels = vessels_of(on_paper(other, STARTING_SHELF))
        return [(v.run_order, v.swatches) for v in vessels]

    assert order(1) == order(1)
    assert order(1) != order(2)
    runs = [v.run_order for v in vessels_of(on_paper(plan, STARTING_SHELF)) if v.bath == "dye"]
    assert sorted(runs) == list(range(1, 9))


def test_a_split_bath_deals_like_swatches_to_different_pots():
    small = STARTING_SHELF.model_copy(update={"vessels": (ShelfVessel(key="jar", name="Jar", litres=1, count=9),)})
    plan = plan_of(mordants=("none", "alum-hot"), replicates=4, swatch_mass_g=6)
    study = on_paper(plan, small)
    dye = [v for v in vessels_of(study) if v.bath == "dye"]
    assert [len(v.swatches) for v in dye] == [4, 4]
    for vessel in dye:
        mordants = [study.by_code[code].levels["mordant"] for code in vessel.swatches]
        assert mordants.count("none") == 2
        assert (vessel.parts, vessel.on_shelf_name) == (2, "Jar")


@pytest.mark.parametrize(
    ("kind", "bad"),
    [
        ("strength", valued("s", 0)),
        ("temperature", valued("t", 140)),
        ("dip", valued("d", 9)),
        ("duration", valued("d", 0)),
        ("iron", valued("i", 40)),
        ("extraction", levels("boiled")),
        ("process", levels("microwave")),
        ("ph", levels("sour")),
        ("fibre", levels("a", "a")),
        ("dye", [{"key": "a", "label": "A", "seconds": 5}]),
    ],
)
def test_levels_that_cannot_be_are_refused(kind, bad):
    with pytest.raises(ValueError, match=r"level|iron"):
        Factor.model_validate({"kind": kind, "levels": bad})
