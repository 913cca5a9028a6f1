"""How a study is worked, its extracts and scours."""

import pytest
from pydantic import ValidationError
from tests.bench import bench_for
from tests.small_study import levels, small_plan, valued

from zesty_grid.core.dye.preparing import extract_vessels
from zesty_grid.core.dye.protocol import Protocol, StepTime, WorkingHours, with_own_times
from zesty_grid.core.dye.step import Step
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.record.taken import NOTHING_TAKEN
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF
from zesty_grid.core.weigh.extraction import Extraction

HOLD = Step(key="hold", title="Hold", duration_min=60, shortest_min=60, longest_min=60)
WAIT = Step(key="wait", title="Wait", shortest_min=10, longest_min=None)


def retimed(step: Step, **own) -> Step:
    protocol = Protocol(step_times=(StepTime(bath="dye", step=step.key, **own),))
    return with_own_times([step], "dye", protocol)[0]


def test_own_times_bend_the_usual_time_into_their_range():
    assert retimed(HOLD, shortest_min=90).duration_min == 90
    assert retimed(HOLD, shortest_min=20, longest_min=40).duration_min == 40
    assert retimed(HOLD, hands_min=7).duration_min == 60
    assert retimed(HOLD, hands_min=7).hands_min == 7
    assert retimed(WAIT, shortest_min=30).longest_min is None
    assert with_own_times([HOLD], "mordant", Protocol()) == [HOLD]


@pytest.mark.parametrize(
    "wrong",
    [
        {"week": (None,) * 7},
        {"week": (WorkingHours(),) * 6},
        {"pairs_of_hands": 0},
        {"dry_h": -1},
        {"wet_within_h": float("nan")},
        {"finish_by": "soon"},
        {"step_times": (StepTime(bath="dye", step="hold"), StepTime(bath="dye", step="hold"))},
    ],
)
def test_hours_that_cannot_be_are_refused(wrong):
    with pytest.raises(ValidationError):
        Protocol.model_validate(wrong)


def test_a_longest_time_is_not_shorter_than_the_shortest():
    with pytest.raises(ValidationError, match="at least the shortest"):
        StepTime(bath="dye", step="hold", shortest_min=60, longest_min=30)


def extraction(water_ml: float) -> Extraction:
    return Extraction(
        key="dried-bark:hot:1",
        name="Dried bark",
        way="hot",
        grams=100,
        water_ml=water_ml,
        temperature_c=80,
        duration_min=90,
        note="",
        shares=(),
    )


def test_an_extract_takes_the_smallest_pot_that_holds_it_or_several():
    (small,) = extract_vessels([extraction(600)], STARTING_SHELF, NOTHING_TAKEN)
    assert (small.on_shelf, small.name) == ("jar-1", "E1")
    (large,) = extract_vessels([extraction(6000)], STARTING_SHELF, NOTHING_TAKEN)
    assert large.on_shelf == "pot-10"
    many = extract_vessels([extraction(18_000)], STARTING_SHELF, NOTHING_TAKEN)
    # A pot is filled to 80 %: common practice.
    assert [one.on_shelf for one in many] == ["pot-10"] * 3
    assert sum(one.volume_ml for one in many) == 18_000
    bare = STARTING_SHELF.model_copy(update={"vessels": ()})
    none = extract_vessels([extraction(600)], bare, NOTHING_TAKEN)
    assert none[0].on_shelf is None


def test_barks_are_simmered_an_hour_a_day_on_three_days():
    factors = [*small_plan()["factors"][:3], {"kind": "extraction", "levels": levels("repeated")}]
    plan = StudyPlan.model_validate(small_plan(factors=factors, columns=["dye", "extraction"]))
    steps = bench_for(plan)["E1"].steps
    assert [s.key for s in steps if s.heat] == ["extract-1", "extract-2", "extract-3"]
    nights = [s for s in steps if s.key in ("steep-1", "steep-2")]
    assert all(s.shortest_min >= 12 * 60 for s in nights)


def test_each_fibre_has_its_own_scour_and_synthetics_are_only_washed():
    factors = [
        {"kind": "fibre", "levels": levels("wool", "nylon", "viscose", "polyester")},
        *small_plan()["factors"][1:3],
        {"kind": "ph", "levels": valued("ph", 7)},
    ]
    plan = StudyPlan.model_validate(small_plan(factors=factors, columns=["dye", "ph"]))
    scours = [one for name, one in bench_for(plan).items() if name[0] == "S"]
    assert [one.name for one in scours] == ["S1", "S2", "S3"]
    assert [one.vessel.key for one in scours] == ["scour:animal", "scour:plant", "scour:synthetic"]
    assert [one.vessel.temperature_c for one in scours] == [80, 90, 40]
    every = [key for one in scours for key in one.vessel.swatches]
    assert len(every) == len(set(every))
