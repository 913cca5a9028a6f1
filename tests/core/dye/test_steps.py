"""The order of the work at a vessel, and the bench log's rules. All: common practice."""

from tests.bench import USUAL, bench_for
from tests.small_study import levels, small_plan, valued

from zesty_grid.core.dye.protocol import Protocol, StepTime
from zesty_grid.core.plan.study_plan import StudyPlan


def steps_by_vessel(protocol: Protocol = USUAL):
    bench = bench_for(StudyPlan.model_validate(small_plan()), protocol)
    return {name: list(one.steps) for name, one in bench.items()}


def test_pieces_are_wetted_before_they_enter_and_ph_is_set_before_dyeing():
    for name, steps in steps_by_vessel().items():
        keys = [step.key for step in steps]
        enter = "dip" if name.startswith("F") else "enter"
        assert name[0] in "SE" or keys.index("wet-out") < keys.index(enter)
        if name.startswith("D"):
            assert keys.index("set-ph") < keys.index("enter")
            assert keys.index("extract") < keys.index("set-ph")
        assert len(set(keys)) == len(keys)


def test_scour_and_extract_come_first_and_pieces_dry_after_their_last_bath():
    bench = bench_for(StudyPlan.model_validate(small_plan()))
    # Baths of one kind stand in the order in which they are run, which is random.
    assert list(bench) == ["S1", "S2", "E1", "M1", "D2", "D1", "F1"]
    assert [bench[name].vessel.run_order for name in ("D2", "D1")] == [1, 2]
    assert bench["M1"].after == ("S1", "S2")
    assert "E1" in bench["D1"].after
    assert bench["M1"].steps[-1].key == "finish"
    assert bench["F1"].steps[-1].key == "dry"
    # Half of the pieces of each dye bath go on into the iron.
    assert "stay wet" in bench["D1"].steps[-1].detail


def test_scouring_is_hot_and_gentle_for_wool_and_has_soda_for_plants():
    # 80 to 82 °C for 30 min; about 2 % WOF of washing soda, 1 to 2 h at a simmer: common practice.
    bench = bench_for(StudyPlan.model_validate(small_plan()))
    wool, cotton = step(bench["S1"].steps, "hold"), step(bench["S2"].steps, "hold")
    assert 80 <= wool.temperature_c <= 82
    assert wool.duration_min == 30
    assert (cotton.shortest_min, bench["S2"].vessel.temperature_c) == (60, 90)
    soda = bench["S2"].amounts.figures[-1]
    assert soda.grams == 0.02 * bench["S2"].amounts.dry_fibre_g
    ready_for_dyeing = bench_for(StudyPlan.model_validate(small_plan()), Protocol(scour=False))
    assert "S1" not in ready_for_dyeing


def test_wool_is_warmed_no_faster_than_a_degree_a_minute_and_cools_in_the_bath():
    for name, steps in steps_by_vessel().items():
        hot = [s for s in steps if s.heat and name[0] != "E"]
        for one in hot:
            assert one.warm_min >= one.temperature_c - 20
            assert one.attended
            assert any(s.key == "cool" and s.shortest_min >= 30 for s in steps)


def test_own_times_take_the_place_of_the_defaults():
    own = StepTime(bath="dye", step="cool", shortest_min=240, longest_min=300, hands_min=3)
    steps = steps_by_vessel(Protocol(step_times=(own,)))
    cool = step(steps["D1"], "cool")
    assert (cool.shortest_min, cool.longest_min, cool.hands_min) == (240, 300, 3)
    assert step(steps["M1"], "cool").shortest_min == 60


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
    return {name: list(one.steps) for name, one in bench_for(plan).items()}


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
    assert step(steps["D2"], "fill").detail.startswith("the bath of D1, as it is")
    assert "extract" not in {s.key for s in steps["D2"]}


def test_cotton_is_not_warned_of_felting_while_it_cools():
    wool = [{"key": "wool", "label": "Wool"}]
    cotton = [{"key": "cotton", "label": "Cotton"}]
    for fibre, warned in ((wool, True), (cotton, False)):
        factors = [{"kind": "fibre", "levels": fibre}, {"kind": "dye", "levels": levels("dried-flowers")}]
        plan = StudyPlan.model_validate(small_plan(factors=factors, rows=["fibre"], columns=["dye"], controls=[]))
        said = " ".join(s.caution for s in bench_for(plan)["D1"].steps)
        assert ("felts" in said) == warned


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
