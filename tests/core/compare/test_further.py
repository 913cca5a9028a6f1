"""What lies further along is proposed where the colour was still moving, or where nobody looked yet."""

import pytest
from tests.small_study import levels, planned, small_plan, valued

from zesty_grid.core.compare.compared import ComparedSwatch, CompareQuestion
from zesty_grid.core.compare.further import further_tests
from zesty_grid.core.compare.real_effects import real_effects
from zesty_grid.core.noise.levels import USUAL, starting_at
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF

NOISE = starting_at(USUAL)


def plan_with(*more: dict) -> StudyPlan:
    factors = [
        {"kind": "fibre", "levels": levels("wool", "silk")},
        {"kind": "dye", "levels": levels("dried-flowers")},
        *more,
    ]
    return StudyPlan.model_validate(
        small_plan(factors=factors, rows=["fibre"], columns=[one["kind"] for one in factors[1:]], controls=[])
    )


def further(plan: StudyPlan, lightness: dict[str, float], factor: str) -> dict[str, list[float]]:
    """The values proposed of each factor, where the swatches have a lightness by their level of one."""
    swatches = tuple(
        ComparedSwatch(
            code=one.code,
            levels={str(kind): level for kind, level in one.levels.items()},
            vessels={"dye": f"D{list(lightness).index(one.levels[factor])}"} if lightness else {},
            lab=(lightness[one.levels[factor]] if lightness else 50.0, 10.0, 40.0),
        )
        for one in planned(plan).planned
    )
    factors = tuple(one.kind for one in plan.factors if len(one.levels) > 1)
    effects = real_effects(CompareQuestion(swatches=swatches, factors=factors)).effects
    found = {}
    for test in further_tests(plan, effects, STARTING_SHELF, NOISE):
        steps = [one for one in test.plan.factors if one.kind in ("strength", "duration", "temperature")]
        (step,) = [one for one in steps if len(one.levels) == 2]
        found[step.kind] = [level.value for level in step.levels]
        assert test.swatches == len(planned(test.plan).planned)
        assert test.tells_de00 is not None
    return found


def test_what_was_never_crossed_is_offered_one_step_up():
    # Dried flowers at 75 % of the fibre, an hour at 80 °C: the defaults of the Shelf (common practice).
    found = further(plan_with(), {}, "")
    assert found == {"strength": [75, 150], "duration": [60, 120], "temperature": [80, 95]}


@pytest.mark.parametrize(("last", "offered"), [(44.0, [100, 200]), (49.5, None)])
def test_a_strength_goes_further_only_while_it_still_moves_the_colour(last, offered):
    plan = plan_with({"kind": "strength", "levels": valued("strength", 25, 50, 100)})
    found = further(plan, {"strength-25": 60.0, "strength-50": 50.0, "strength-100": last}, "strength")
    assert found.get("strength") == offered


def test_no_bath_is_made_hotter_than_below_a_simmer():
    hot = plan_with({"kind": "temperature", "levels": valued("temperature", 95)})
    assert "temperature" not in further(hot, {}, "")
    warm = plan_with({"kind": "temperature", "levels": valued("temperature", 40, 60)})
    assert further(warm, {"temperature-40": 60.0, "temperature-60": 50.0}, "temperature")["temperature"] == [60, 75]
