"""Each job of the bench laid into days: sound by both independent checkers, list and solver."""

import pytest
from tests.api.test_jobs import JOBS, LOTS, VESSELS, plan_for
from tests.bench import bench_for
from tests.core.dye.schedule_checker import faults_of
from tests.core.dye.scheduling.test_bench_plans import TUESDAY, USUAL
from tests.core.dye.ways_checker import faults_of_ways
from tests.small_study import levels, valued

from zesty_grid.core.dye.scheduling.from_bench import problem_of
from zesty_grid.core.dye.scheduling.list_schedule import best_list_schedule
from zesty_grid.core.dye.scheduling.solver import solve
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.shelf.items import DyeLot, ShelfVessel
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF

SHELF = STARTING_SHELF.model_copy(
    update={
        "dye_lots": (*STARTING_SHELF.dye_lots, *(DyeLot.model_validate(one) for one in LOTS)),
        "vessels": (*STARTING_SHELF.vessels, *(ShelfVessel.model_validate(one) for one in VESSELS)),
    }
)
PLANS = {name: plan_for(name) for name in JOBS} | {
    "a pot sampled by the minute": {
        "name": "Sampled",
        "rows": [],
        "columns": ["fibre", "dye", "duration"],
        "factors": [
            {"kind": "fibre", "levels": levels("wool")},
            {"kind": "dye", "levels": levels("sea-aster")},
            {"kind": "duration", "levels": valued("d", 5, 15, 45)},
        ],
        "swatch_mass_g": 20,
        "taken_out": "one vessel",
    },
    "soya milk before earth": {
        "name": "Coated",
        "rows": [],
        "columns": ["fibre", "mordant", "dye"],
        "factors": [
            {"kind": "fibre", "levels": levels("cotton")},
            {"kind": "mordant", "levels": levels("soya-milk")},
            {"kind": "dye", "levels": levels("sea-aster")},
        ],
        "swatch_mass_g": 20,
    },
}


@pytest.mark.parametrize("name", PLANS)
def test_a_job_laid_into_days_is_sound(name):
    bench = bench_for(StudyPlan.model_validate(PLANS[name]), shelf=SHELF)
    made = problem_of(list(bench.values()), SHELF, USUAL, TUESDAY)
    plain = best_list_schedule(made.problem)
    found = solve(made.problem, 2).solution
    for solution in (plain, found):
        assert solution is not None
        assert faults_of(made.problem, solution) == []
        assert faults_of_ways(made, solution, bench) == []
