"""Later dips take over the liquor of the first: in its pot, after it, and with no new water."""

import pytest
from tests.bench import bench_for
from tests.core.dye.schedule_checker import faults_of
from tests.core.dye.scheduling.test_bench_plans import TUESDAY, USUAL
from tests.small_study import levels, planned, valued

from zesty_grid.core.dye.bench import liquors_taken_over
from zesty_grid.core.dye.scheduling.from_bench import problem_of
from zesty_grid.core.dye.scheduling.list_schedule import best_list_schedule
from zesty_grid.core.plan.advice import advice_on
from zesty_grid.core.plan.liquors import BegunLiquor
from zesty_grid.core.plan.planned_study import PlannedStudy
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.treatment import Treatment
from zesty_grid.core.plan.vessel import Vessel
from zesty_grid.core.plan.vessels import vessels_of
from zesty_grid.core.record.taken import Taken
from zesty_grid.core.shelf.items import ShelfVessel
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF
from zesty_grid.core.weigh.weighing import weigh_study

IRON_IN_POT = [
    {"key": "iron-0", "label": "No iron", "value": 0},
    {"key": "iron-pot", "label": "Iron in the pot", "value": 1, "route": "pot"},
]


def plan_of(*factors, **changes) -> StudyPlan:
    every = [
        {"kind": "fibre", "levels": levels("wool", "silk")},
        {"kind": "dye", "levels": levels("dried-flowers", "dried-bark")},
        *factors,
    ]
    return StudyPlan.model_validate(
        {"name": "Dips", "factors": every, "rows": [], "columns": [one["kind"] for one in every], "swatch_mass_g": 10}
        | changes
    )


def dips(plan: StudyPlan, shelf=STARTING_SHELF) -> list[Vessel]:
    return [vessel for vessel in vessels_of(planned(plan, shelf)) if vessel.bath == "dye"]


def by_dip(plan: StudyPlan, shelf=STARTING_SHELF) -> dict[tuple[str | None, int | None], Vessel]:
    return {(one.dye, one.dip): one for one in dips(plan, shelf)}


TWO_DIPS = {"kind": "dip", "levels": valued("dip", 1, 2, 3)}


def test_each_later_dip_names_the_dip_before_and_stands_in_its_vessel():
    found = by_dip(plan_of(TWO_DIPS))
    for dye in ("dried-flowers", "dried-bark"):
        first, second, third = (found[dye, dip] for dip in (1, 2, 3))
        assert (first.liquor_of, second.liquor_of) == (None, first.name)
        assert third.liquor_of == second.name
        assert second.on_shelf == first.on_shelf
        assert second.volume_ml == first.volume_ml


def test_no_dip_is_run_before_the_one_whose_liquor_it_takes():
    for seed in range(20):
        found = by_dip(plan_of(TWO_DIPS, order_seed=seed))
        assert sorted(one.run_order for one in found.values()) == list(range(1, 7))
        for dye in ("dried-flowers", "dried-bark"):
            numbers = [found[dye, dip].run_order for dip in (1, 2, 3)]
            assert numbers == sorted(numbers)


def test_a_liquor_that_is_used_again_is_no_new_water_and_no_waste_of_its_own():
    plan = plan_of(TWO_DIPS)
    weighing = weigh_study(planned(plan))
    # By hand: each first dip holds 2 pieces of 10 g at 30 mL/g, 0.6 L; rinsing takes 60 mL for
    # each of the 12 pieces' 10 g. Two later dips of each dye add no water at all.
    assert weighing.effort.water_l == pytest.approx(2 * 0.6 + 12 * 10 * 0.06)
    assert weighing.effort.waste_l == pytest.approx(weighing.effort.water_l)
    later = next(v for v in dips(plan) if v.dip == 2)
    own = next(one for one in weighing.vessels if one.vessel == later.name)
    assert [figure.role for figure in own.figures] == ["dye liquor"]
    assert later.liquor_of is not None
    assert later.liquor_of in own.figures[0].name


def test_pieces_of_a_later_dip_are_dealt_to_all_pots_of_the_first():
    small = STARTING_SHELF.model_copy(update={"vessels": (ShelfVessel(key="jar", name="Jar", litres=1, count=20),)})
    plan = plan_of({"kind": "dip", "levels": valued("dip", 1, 2)}, replicates=3)
    pots = [one for one in dips(plan, small) if one.dye == "dried-bark"]
    first = {one.name: one for one in pots if one.dip == 1}
    second = [one for one in pots if one.dip == 2]
    assert len(first) > 1
    assert {one.liquor_of for one in second} == set(first)
    sizes = [len(one.swatches) for one in second]
    assert sum(sizes) == 6
    assert max(sizes) - min(sizes) <= 1


def test_a_dip_with_iron_takes_the_bare_liquor_where_only_that_was_dipped_before():
    plan = plan_of({"kind": "dip", "levels": valued("dip", 1, 2)}, {"kind": "iron", "levels": IRON_IN_POT})
    out = {"levels": {"dip": ["dip-1"], "iron": ["iron-pot"]}, "reason": "iron comes later"}
    bare = {"levels": {"dip": ["dip-2"], "iron": ["iron-0"]}, "reason": "iron comes with it"}
    found = by_dip(plan.model_validate(plan.model_dump() | {"rules": [out, bare]}))
    later = found["dried-bark", 2]
    assert later.iron_percent_wof == 1
    assert later.liquor_of == found["dried-bark", 1].name


def test_a_missing_first_dip_is_said_and_so_are_two_that_want_one_liquor():
    only_second = plan_of({"kind": "dip", "levels": valued("dip", 2)})
    study = planned(only_second)
    said = advice_on(study, vessels_of(study))
    assert [one.text for one in said if one.code.startswith("no-first-dip")] == [
        "D1 Dried-flowers, dip 2 has no dip 1 before it.",
        "D2 Dried-bark, dip 2 has no dip 1 before it.",
    ]
    plan = plan_of({"kind": "dip", "levels": valued("dip", 1, 2)}, {"kind": "iron", "levels": IRON_IN_POT})
    out = {"levels": {"dip": ["dip-1"], "iron": ["iron-pot"]}, "reason": "iron comes later"}
    both = planned(StudyPlan.model_validate(plan.model_dump() | {"rules": [out]}))
    codes = {one.code.split(":")[0] for one in advice_on(both, vessels_of(both))}
    assert "shared-liquor" in codes


def test_more_fibre_than_the_first_dip_had_is_said_to_be_crowded():
    larger = [
        {
            "key": "shawl",
            "name": "Shawl",
            "mass_g": 200,
            "levels": {"fibre": "wool", "dye": "dried-bark", "dip": "dip-2"},
        }
    ]
    study = planned(plan_of({"kind": "dip", "levels": valued("dip", 1, 2)}, larger_pieces=larger))
    said = [one for one in advice_on(study, vessels_of(study)) if one.code.startswith("crowded")]
    # 0.6 L for 220 g of fibre are 2.7 mL/g.
    assert len(said) == 1
    assert "3 mL for each g of fibre, not 30" in said[0].text


def test_the_liquor_of_a_first_dip_that_has_begun_is_found():
    plan = plan_of({"kind": "dip", "levels": valued("dip", 2)})
    key = next(one.key for one in dips(plan) if one.dye == "dried-bark")
    begun = BegunLiquor(
        name="D7", key=key.replace("dip-2", "dip-1"), dip=1, on_shelf="pot-10", on_shelf_name="Pot", volume_ml=4200
    )
    study = planned(plan)
    taken = Taken(has_record=True, names=frozenset({"D7"}), liquors=(begun,))
    after = PlannedStudy(plan, study.shelf, study.swatches, study.archive, taken)
    later = next(one for one in vessels_of(after) if one.dye == "dried-bark")
    assert (later.liquor_of, later.on_shelf, later.volume_ml) == ("D7", "pot-10", 4200)
    # One bath of the kind has begun: those ahead are run after it.
    assert sorted(one.run_order for one in vessels_of(after) if one.bath == "dye") == [2, 3]


def test_a_bath_that_begins_does_not_move_the_others_in_the_run_order():
    plan = plan_of({"kind": "ph", "levels": valued("ph", *range(4, 10))})
    study = planned(plan)
    before = sorted((v for v in vessels_of(study) if v.bath == "dye"), key=lambda v: v.run_order)
    first = before[0]
    taken = Taken(
        has_record=True, names=frozenset({first.name}), past=dict.fromkeys(first.swatches, frozenset({first.stage}))
    )
    after = PlannedStudy(plan, study.shelf, study.swatches, study.archive, taken)
    left = sorted((v for v in vessels_of(after) if v.bath == "dye"), key=lambda v: v.run_order)
    assert [v.key for v in left] == [v.key for v in before[1:]]
    assert [v.run_order for v in left] == [v.run_order for v in before[1:]]


def test_baths_used_again_by_treatments_wait_for_one_another_in_one_pot():
    plan = plan_of()
    codes = [one.code for one in planned(plan).swatches]
    bath = next(one for one in dips(plan) if one.dye == "dried-bark")
    again = [
        Treatment(key=f"again-{i}", name=f"Again {i}", kind="again", swatches=(code,), again=bath.name)
        for i, code in enumerate([bath.swatches[0], codes[0]], 1)
    ]
    changed = plan.model_copy(update={"treatments": tuple(again)})
    vessels = vessels_of(planned(changed))
    one, two = (next(v for v in vessels if v.treatment == t.key) for t in again)
    assert one.liquor_of == two.liquor_of == bath.name
    assert (one.on_shelf, one.volume_ml) == (bath.on_shelf, bath.volume_ml)
    assert liquors_taken_over(vessels) == {one.name: bath.name, two.name: one.name}


def test_the_days_run_each_dip_after_the_one_before_in_the_same_vessel():
    plan = plan_of(TWO_DIPS)
    bench = bench_for(plan)
    made = problem_of(list(bench.values()), STARTING_SHELF, USUAL, TUESDAY)
    solution = best_list_schedule(made.problem)
    assert solution is not None
    assert faults_of(made.problem, solution) == []
    tasks = {one.vessel: [] for one in made.stretches}
    for stretch in made.stretches:
        tasks[stretch.vessel].append(stretch.task)
    claims = {claim.key: claim for claim in made.problem.claims}
    for name, one in bench.items():
        if one.vessel.liquor_of:
            before = one.vessel.liquor_of
            last = tasks[before][-1]
            length = made.problem.task[last].length
            assert solution.starts[tasks[name][0]] >= solution.starts[last] + length
            assert name not in claims
            assert before in one.after
    # A chain of three dips is one claim, from the filling of the first to the last of the third.
    for claim in claims.values():
        if bench[claim.key].vessel.dip == 1:
            third = next(
                n for n, one in bench.items() if one.vessel.dip == 3 and one.vessel.dye == bench[claim.key].vessel.dye
            )
            assert claim.last == tasks[third][-1]
