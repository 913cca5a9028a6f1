"""The order of the work at a vessel, and the bench log's rules. All: common practice."""

import pytest
from pydantic import ValidationError
from tests.small_study import cells_of, levels, small_plan, valued

from zesty_grid.core.dye.bench_entry import BenchEntry, NewBenchEntry, ticked_at
from zesty_grid.core.dye.steps import last_step_key, steps_of
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.vessels import vessels_of
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF
from zesty_grid.core.weigh.amounts import weigh_vessel
from zesty_grid.core.weigh.weighing import amounts_of


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


def steps_for(*more: dict, mordant="none") -> dict[str, list]:
    factors = [
        {"kind": "fibre", "levels": levels("wool")},
        {"kind": "mordant", "levels": levels(mordant)},
        {"kind": "dye", "levels": levels("dried-bark")},
        *more,
    ]
    plan = StudyPlan.model_validate(
        small_plan(factors=factors, columns=["dye", *(f["kind"] for f in more)], controls=[])
    )
    vessels = vessels_of(plan, cells_of(plan), STARTING_SHELF)
    amounts, _ = amounts_of(plan, vessels, STARTING_SHELF)
    return {
        v.name: steps_of(v, own, STARTING_SHELF) for v, own in zip(vessels, amounts, strict=True)
    }


def step(steps: list, key: str):
    return next(one for one in steps if one.key == key)


def test_a_bundle_print_is_rolled_and_steamed_and_must_not_boil_dry():
    steps = steps_for({"kind": "process", "levels": levels("bundle-print")})["D1"]
    assert step(steps, "enter").title == "Roll the bundles"
    assert step(steps, "hold").title == "Steam"
    # 2 to 3 h of steam: common practice.
    assert 120 <= step(steps, "hold").duration_min <= 180
    assert "boil dry" in step(steps, "hold").detail


def test_later_dips_take_the_bath_as_it_is():
    steps = steps_for({"kind": "dip", "levels": valued("dip", 1, 2)})
    assert [s.key for s in steps["D1"]][:2] == ["fill", "extract"]
    assert "dip before" in step(steps["D2"], "fill").detail
    assert "extract" not in {s.key for s in steps["D2"]}


def test_iron_in_the_pot_is_added_with_its_caution():
    iron = [{"key": "i", "label": "In the pot", "value": 2, "route": "pot"}]
    added = step(steps_for({"kind": "iron", "levels": iron})["D1"], "iron")
    assert "iron(II) sulphate" in added.detail
    assert "children" in added.caution


def test_iron_before_the_dye_is_lifted_out_and_kept_apart():
    iron = [{"key": "i", "label": "First", "value": 3, "route": "mordant"}]
    steps = steps_for({"kind": "iron", "levels": iron})
    assert steps["FM1"][-1].key == "finish"
    assert "apart from alum" in steps["FM1"][-1].detail


def test_an_after_bath_sets_its_ph_and_an_overdye_is_a_dye_bath():
    steps = steps_for({"kind": "after_ph", "levels": valued("a", 9)})["A1"]
    assert step(steps, "set-ph").wants_ph
    assert "gloves" in step(steps, "set-ph").caution
    over = steps_for({"kind": "second_dye", "levels": levels("dye-extract")})["O1"]
    assert "Dye extract" in step(over, "extract").detail


def test_a_dose_for_the_ph_is_said_with_half_first():
    steps = steps_for({"kind": "ph", "levels": valued("ph", 4)})["D1"]
    assert "1 % citric acid stock for plain water: give half" in step(steps, "set-ph").detail


def test_a_cold_dye_bath_is_not_warmed():
    cold = steps_for({"kind": "temperature", "levels": valued("t", 20)})["D1"]
    assert step(cold, "hold").title == "Leave it to soak"
    hot = steps_for({"kind": "temperature", "levels": valued("t", 60)})["D1"]
    assert step(hot, "hold").title == "Warm slowly and hold"


def test_a_cold_mordant_soaks_and_an_unknown_strength_is_said():
    assert step(steps_for(mordant="alum-cold")["M1"], "hold").title == "Leave it to soak"
    assert "as much as it takes" in step(steps_for(mordant="iron-liquor")["M1"], "dissolve").detail
