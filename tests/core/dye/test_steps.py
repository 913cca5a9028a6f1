"""The order of the work at a vessel, and the bench log's rules. All: common practice."""

import pytest
from pydantic import ValidationError
from tests.small_study import cells_of, small_plan

from zesty_grid.core.dye.bench_entry import BenchEntry, NewBenchEntry, ticked_at
from zesty_grid.core.dye.steps import last_step_key, steps_of
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.vessels import vessels_of
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF
from zesty_grid.core.weigh.amounts import weigh_vessel


def steps_by_vessel():
    plan = StudyPlan.model_validate(small_plan())
    return {
        v.name: steps_of(v, weigh_vessel(plan, v, STARTING_SHELF), STARTING_SHELF)
        for v in vessels_of(plan, cells_of(plan), STARTING_SHELF)
    }


def test_pieces_are_wetted_before_they_enter_and_ph_is_set_before_dyeing():
    for name, steps in steps_by_vessel().items():
        keys = [step.key for step in steps]
        enter = "dip" if name.startswith("F") else "enter"
        assert keys.index("wet-out") < keys.index(enter)
        if name.startswith("D"):
            assert keys.index("set-ph") < keys.index("enter")
            assert keys.index("extract") < keys.index("set-ph")
        assert len(set(keys)) == len(keys)


def test_a_vessel_is_done_with_after_its_last_step():
    plan = StudyPlan.model_validate(small_plan())
    steps = steps_by_vessel()
    for vessel in vessels_of(plan, cells_of(plan), STARTING_SHELF):
        assert steps[vessel.name][-1].key == last_step_key(vessel)


def test_alum_is_held_hot_and_below_a_simmer():
    hold = next(s for s in steps_by_vessel()["M1"] if s.key == "hold")
    assert 80 <= hold.temperature_c <= 85
    assert 45 <= hold.duration_min <= 60


def test_cautions_stand_at_the_step_and_defer_to_local_rules():
    steps = steps_by_vessel()
    powder = next(s for s in steps["M1"] if s.key == "dissolve")
    iron = next(s for s in steps["F1"] if s.key == "dip")
    alkali = next(s for s in steps["D2"] if s.key == "set-ph")
    acid = next(s for s in steps["D1"] if s.key == "set-ph")
    assert "mask" in powder.caution
    assert "children" in iron.caution
    assert "60 s" in iron.detail
    assert "Alkali" in alkali.caution
    assert "Vinegar" in acid.caution
    assert all("Local rules" in s.caution for s in (powder, iron, alkali))


def entry(number: int, kind: str) -> BenchEntry:
    return BenchEntry(id=number, vessel="v", step="s", kind=kind, at=f"t{number}", note="n")


def test_a_tick_counts_until_it_is_taken_back():
    assert ticked_at([], "v", "s") is None
    assert ticked_at([entry(1, "done"), entry(2, "record")], "v", "s") == "t1"
    assert ticked_at([entry(1, "done"), entry(2, "undone")], "v", "s") is None
    assert ticked_at([entry(1, "done"), entry(2, "undone"), entry(3, "done")], "v", "s") == "t3"


@pytest.mark.parametrize("wrong", [{"ph": 15}, {"temperature_c": 200}, {}])
def test_impossible_and_empty_records_are_refused(wrong):
    with pytest.raises(ValidationError):
        NewBenchEntry(vessel="v", step="s", kind="record", **wrong)
