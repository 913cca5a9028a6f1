"""Jars in a pot of water: one heat place for all that stand in it, also in the days."""

import pytest
from tests.bench import bench_for
from tests.core.dye.schedule_checker import faults_of
from tests.core.dye.scheduling.test_bench_plans import TUESDAY, USUAL
from tests.small_study import levels, planned, valued

from zesty_grid.core.dye.scheduling.answer import Stop
from zesty_grid.core.dye.scheduling.from_bench import problem_of
from zesty_grid.core.dye.scheduling.list_schedule import best_list_schedule
from zesty_grid.core.dye.scheduling.solver import solve
from zesty_grid.core.plan.advice import advice_on
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.vessels import vessels_of
from zesty_grid.core.plan.water_baths import water_baths
from zesty_grid.core.shelf.items import HeatPlace, ShelfVessel
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF
from zesty_grid.core.weigh.heat import heat_of_bath
from zesty_grid.core.weigh.weighing import weigh_study

SHELF = STARTING_SHELF.model_copy(
    update={
        "vessels": (
            ShelfVessel(key="jar-1", name="Jar", litres=1, form="jar", material="glass", count=6),
            ShelfVessel(key="pot-8", name="Preserving pot", litres=8, material="enamel"),
        ),
        "heat_places": (HeatPlace(key="ring", name="Ring", power_w=1500),),
    }
)


def plan_of(process: str, *strengths: float) -> StudyPlan:
    factors = [
        {"kind": "fibre", "levels": levels("cotton")},
        {"kind": "dye", "levels": levels("dried-bark")},
        {"kind": "strength", "levels": valued("s", *strengths)},
        {"kind": "process", "levels": levels(process)},
    ]
    columns = [one["kind"] for one in factors]
    return StudyPlan.model_validate(
        {"name": "Jars", "factors": factors, "rows": [], "columns": columns, "swatch_mass_g": 10}
    )


IN_WATER = plan_of("water-bath", 50, 100, 150, 200)


def test_jars_of_one_heat_stand_together_as_many_as_the_pot_holds():
    study = planned(IN_WATER, SHELF)
    (bath,) = water_baths(vessels_of(study), SHELF)
    assert len(bath.vessels) == 4
    # Four jars of a litre in a pot filled to 8/10 of its 8 L.
    assert (bath.pot, bath.water_l) == ("pot-8", pytest.approx(0.8 * 8 - 4))
    six = planned(plan_of("water-bath", *range(50, 110, 10)), SHELF)
    # 6/10 of 8 L hold four jars; two stand by themselves.
    assert sorted(len(one.vessels) for one in water_baths(vessels_of(six), SHELF)) == [2, 4]


def test_the_water_around_the_jars_is_warmed_with_them_once():
    effort = weigh_study(planned(IN_WATER, SHELF)).effort
    own_l = 0.3 + (0.8 * 8 - 4) / 4
    one = heat_of_bath(own_l, 85.0, 60, lidded=True)
    lot = SHELF.dye_lot("dried-bark")
    assert lot is not None
    one = heat_of_bath(own_l, lot.temperature_c, 60, lidded=True)
    for vessel in effort.vessels:
        assert vessel.heat.warm_kwh == pytest.approx(one.warm_kwh)
        assert vessel.heat.water_l == pytest.approx(own_l)


def test_the_sun_costs_no_electricity():
    effort = weigh_study(planned(plan_of("sun-jar", 100), SHELF)).effort
    (jar,) = effort.vessels
    assert (jar.heat.warm_kwh, jar.heat.hold_kwh) == (0, 0)
    assert "sun" in jar.heat.working


def test_glass_on_bare_heat_is_warned_of():
    only_jars = SHELF.model_copy(update={"vessels": SHELF.vessels[:1]})
    for process, warned in (("hot-bath", True), ("water-bath", False), ("sun-jar", False)):
        study = planned(plan_of(process, 100), only_jars)
        vessels = vessels_of(study)
        codes = {one.code for one in advice_on(study, vessels)}
        assert ("glass-on-heat" in codes) == warned
        said = " ".join(weigh_study(study).vessel_cautions["D1"])
        assert ("Glass cracks" in said) == warned


@pytest.mark.parametrize("way", ["list", "solver"])
def test_all_jars_of_a_pot_take_one_heat_place_and_are_in_it_while_it_is_hot(way):
    bench = bench_for(IN_WATER, shelf=SHELF)
    made = problem_of(list(bench.values()), SHELF, USUAL, TUESDAY)
    problem = made.problem
    solution = best_list_schedule(problem)
    if way == "solver":
        solution = solve(problem, 3, lambda _: None, Stop()).solution
    assert solution is not None
    assert faults_of(problem, solution) == []
    names = next(one.water_bath.vessels for one in bench.values() if one.water_bath)
    heated = [one for one in made.stretches if one.vessel in names and one.runs]
    assert [one.vessel for one in heated] == [names[0]]
    task = problem.task[heated[0].task]
    hot_from, hot_until = solution.starts[task.key], solution.starts[task.key] + task.length
    for name in names[1:]:
        own = [one for one in made.stretches if one.vessel == name]
        at = next(i for i, one in enumerate(own) if "enter" in one.steps)
        entered = problem.task[own[at].task]
        assert solution.starts[entered.key] + entered.length <= hot_from
        assert solution.starts[own[at + 1].task] >= hot_until
    claim = next(one for one in problem.claims if one.key.endswith("the water bath"))
    assert claim.choices == ("pot-8",)


def test_the_steps_say_who_stands_beside_and_that_lids_are_loose():
    bench = bench_for(IN_WATER, shelf=SHELF)
    hold = next(step for step in bench["D1"].steps if step.key == "hold")
    assert "Preserving pot: 2.4 L of water around them with" in hold.detail
    assert {name for name in ("D2", "D3", "D4") if name in hold.detail} == {"D2", "D3", "D4"}
    assert "never sealed" in hold.caution
