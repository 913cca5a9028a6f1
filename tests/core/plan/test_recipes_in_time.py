"""What goes in when, how warm and how long each bath is, heated again, left, taken out sooner."""

import pytest
from tests.bench import bench_for
from tests.core.dye.schedule_checker import faults_of
from tests.core.dye.scheduling.test_bench_plans import TUESDAY, USUAL
from tests.small_study import levels, planned, valued

from zesty_grid.core.dye.scheduling.from_bench import problem_of
from zesty_grid.core.dye.scheduling.list_schedule import best_list_schedule
from zesty_grid.core.plan.advice import advice_on
from zesty_grid.core.plan.choices import other_choices
from zesty_grid.core.plan.factors import Factor
from zesty_grid.core.plan.on_shelf import check_levels
from zesty_grid.core.plan.planned_addition import PlannedAddition
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.vessel import Vessel
from zesty_grid.core.plan.vessels import vessels_of
from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.core.refusal import Refusal
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF
from zesty_grid.core.weigh.amounts import VesselAmounts
from zesty_grid.core.weigh.ph_bath import BathWater, Solute, bath_equilibrium
from zesty_grid.core.weigh.weighing import weigh_study

ONE_DYE = ({"kind": "fibre", "levels": levels("wool")}, {"kind": "dye", "levels": levels("dried-flowers")})


def plan_of(*factors, **changes) -> StudyPlan:
    """A piece of 20 g for each cell: at 30 mL/g each adds 0.6 L."""
    every = [*ONE_DYE, *factors]
    return StudyPlan.model_validate(
        {
            "name": "In time",
            "factors": every,
            "rows": [],
            "columns": [one["kind"] for one in every],
            "swatch_mass_g": 20,
        }
        | changes
    )


def putting(*added: dict, key: str = "added") -> dict:
    return {"key": key, "label": key.capitalize(), "additions": list(added)}


def arms(*put: dict) -> dict:
    return {"kind": "addition", "levels": [{"key": "none", "label": "Nothing"}, *put]}


def dye_baths(plan: StudyPlan) -> list[Vessel]:
    return [one for one in vessels_of(planned(plan)) if one.bath == "dye"]


def weighed(plan: StudyPlan, title: str = "Added") -> VesselAmounts:
    name = next(v.name for v in vessels_of(planned(plan)) if title in v.title)
    return next(one for one in weigh_study(planned(plan)).vessels if one.vessel == name)


def bench_of(plan: StudyPlan, title: str) -> BenchVessel:
    return next(one for one in bench_for(plan).values() if title in one.vessel.title)


VINEGAR = {"item": "vinegar", "amount": 2, "unit": "tbsp", "moment": "with the pieces in", "after_min": 45}


def test_vinegar_goes_into_one_arm_only_at_its_moment():
    plan = plan_of(arms(putting(VINEGAR)))
    plain, sour = sorted(dye_baths(plan), key=lambda one: len(one.additions))
    assert (plain.additions, sour.title) == ((), "Dried-flowers, Added")
    figure = weighed(plan).figures[-1]
    # Two level tablespoons are 6 teaspoons of 5 mL, and a liquid weighs about 1 g/mL.
    assert (figure.grams, figure.moment) == (pytest.approx(30), "45 min after the pieces")
    steps = {one.key: one for one in bench_of(plan, "Added").steps}
    order = [key for key in steps if key in ("enter", "hold", "add-1", "hold-2", "cool")]
    assert order == ["enter", "hold", "add-1", "hold-2", "cool"]
    assert (steps["hold"].duration_min, steps["hold-2"].duration_min) == (45, 15)
    assert steps["hold-2"].warm_min == 0
    assert steps["add-1"].adds is not None
    assert (steps["add-1"].adds.item, steps["add-1"].adds.unit) == ("vinegar", "tbsp")
    assert "(2 tbsp)" in steps["add-1"].detail


@pytest.mark.parametrize(
    ("amount", "unit", "item", "grams", "volume_ml"),
    [
        # By hand, for one piece of 20 g in 0.6 L.
        (10, "% WOF", "potassium-alum", 2.0, None),
        (5, "g", "salt", 5.0, None),
        (4, "g/L", "salt", 2.4, None),
        (10, "mL/L", "vinegar", 6.0, 6.0),
        (40, "drops", "vinegar", 2.0, 2.0),
        (1, "tsp", "salt", 6.0, None),
        (1, "tsp", "chalk", None, None),
    ],
)
def test_amounts_go_with_the_fibre_with_the_bath_or_with_the_vessel(amount, unit, item, grams, volume_ml):
    figure = weighed(plan_of(arms(putting({"item": item, "amount": amount, "unit": unit})))).figures[-1]
    assert (figure.grams, figure.volume_ml) == (
        pytest.approx(grams) if grams else None,
        pytest.approx(volume_ml) if volume_ml else None,
    )
    if grams is None:
        # Nobody has weighed a spoon of it: the measure itself is the record.
        assert figure.words == "1 tsp"
        assert "not on the Shelf" in figure.working


def test_alum_after_the_soda_foams_and_turns_to_slime_as_the_chemistry_says():
    soda = {"item": "soda-ash", "amount": 2, "unit": "g/L"}
    alum = {"item": "potassium-alum", "amount": 6, "unit": "g/L", "moment": "after the pH"}
    course = weighed(plan_of(arms(putting(alum, soda)))).course
    assert [one.name for one in course] == ["soda ash", "potassium alum"]
    water = STARTING_SHELF.waters[0]
    tap = BathWater(
        ph=water.ph, alkalinity_mg_l_caco3=water.alkalinity_mg_l_caco3, hardness_mg_l_caco3=water.hardness_mg_l_caco3
    )
    both = (Solute(substance="soda_ash", grams=2), Solute(substance="alum_potassium", grams=6))
    assert course[0].ph_after == pytest.approx(bath_equilibrium(1, tap, both[:1]).ph, abs=0.01)
    assert course[1].ph_after == pytest.approx(bath_equilibrium(1, tap, both).ph, abs=0.01)
    said = " ".join(course[1].warnings)
    assert "foams" in said
    assert "slime" in said


def test_what_goes_in_before_the_ph_is_set_counts_in_its_dose_and_what_follows_does_not():
    ph = {"kind": "ph", "levels": valued("ph", 5)}
    chalk = {"item": "chalk", "amount": 1, "unit": "g/L"}
    before = weighed(plan_of(ph, arms(putting(chalk))))
    after = weighed(plan_of(ph, arms(putting(chalk | {"moment": "after the pH"}))))
    doses = [next(f for f in own.figures if f.role == "adjuster").grams for own in (before, after)]
    assert doses[0] > 1.5 * doses[1]
    keys = [one.key for one in bench_of(plan_of(ph, arms(putting(chalk))), "Added").steps]
    assert keys.index("add-1") < keys.index("set-ph")


def test_extract_topped_up_after_six_hours_is_drawn_from_the_same_extract():
    more = {
        "what": "dye lot",
        "item": "dried-flowers",
        "amount": 25,
        "unit": "% WOF",
        "moment": "with the pieces in",
        "after_min": 360,
    }
    process = {"kind": "process", "levels": levels("room")}
    plan = plan_of(process, {"kind": "addition", "levels": [putting(more)]})
    weighing = weigh_study(planned(plan))
    # By hand: 75 % of 20 g for the bath and 25 % for topping up are 20 g in one extract, of which
    # half of the 0.6 L carries the 15 g of the bath.
    lot = STARTING_SHELF.dye_lot("dried-flowers")
    assert lot is not None
    strength = lot.strength_percent_wof / 100
    (extract,) = weighing.extractions
    assert extract.grams == pytest.approx(20 * (strength + 0.25))
    shares = {share.moment: share for share in extract.shares}
    assert shares[""].volume_ml == pytest.approx(300)
    assert shares["6 h after the pieces"].volume_ml == pytest.approx(300 * 0.25 / strength)
    own = weighing.vessels[0]
    water = next(f for f in own.figures if f.role == "water")
    assert water.volume_ml == pytest.approx(300)
    keys = [one.key for one in bench_of(plan, "Added").steps]
    assert keys.index("hold") < keys.index("add-1") < keys.index("hold-2")


def test_something_goes_into_the_used_bath_between_dips():
    alum = {"item": "potassium-alum", "amount": 10, "unit": "% WOF", "dip": 2}
    plan = plan_of({"kind": "addition", "levels": [putting(alum)]}, {"kind": "dip", "levels": valued("dip", 1, 2)})
    first, second = sorted(dye_baths(plan), key=lambda one: one.dip or 0)
    assert (first.additions, second.liquor_of) == ((), first.name)
    amounts = {one.vessel: one for one in weigh_study(planned(plan)).vessels}
    figures = amounts[second.name].figures
    assert [f.role for f in figures] == ["dye liquor", "addition"]
    assert figures[1].grams == pytest.approx(2.0)
    steps = bench_for(plan)[second.name].steps
    assert [one.key for one in steps][:2] == ["fill", "add-1"]


def test_every_bath_has_its_temperature_and_time_as_factors():
    plan = plan_of(
        {"kind": "mordant", "levels": levels("alum-hot")},
        {"kind": "mordant_temperature", "levels": valued("t", 20, 80)},
        {"kind": "iron", "levels": [{"key": "i", "label": "1 %", "value": 1}]},
        {"kind": "iron_temperature", "levels": valued("t", 40)},
        {"kind": "iron_duration", "levels": valued("t", 30)},
        {"kind": "after_ph", "levels": [{"key": "none", "label": "None"}, *valued("p", 9)]},
        {"kind": "after_duration", "levels": valued("t", 45)},
    )
    vessels = vessels_of(planned(plan))
    mordants = [one for one in vessels if one.bath == "mordant"]
    assert sorted(one.temperature_c or 0 for one in mordants) == [20, 80]
    # Cells without an after-bath are there, and have none.
    (adjust,) = [one for one in vessels if one.bath == "adjust"]
    assert (adjust.duration_min, len(adjust.swatches)) == (45, 2)
    (iron,) = [one for one in vessels if one.bath == "iron"]
    assert (iron.temperature_c, iron.duration_min, len(iron.swatches)) == (40, 30, 4)
    # A warm half hour is no dip that is watched by the second.
    steps = {one.key: one for one in bench_for(plan)[iron.name].steps}
    assert "dip" not in steps
    assert (steps["hold"].temperature_c, steps["hold"].duration_min) == (40, 30)


def test_a_ph_left_as_it_is_is_an_arm_beside_others():
    as_it_is = {"key": "as-it-is", "label": "As it is"}
    plan = plan_of({"kind": "ph", "levels": [as_it_is, *valued("ph", 9)]})
    assert sorted(str(one.ph) for one in dye_baths(plan)) == ["9.0", "None"]
    with pytest.raises(ValueError, match="pH from 1 to 13"):
        Factor.model_validate({"kind": "ph", "levels": [{"key": "sour", "label": "Sour"}]})


def test_heated_again_on_later_days_each_time_counted_and_left_to_rest():
    plan = plan_of({"kind": "reheats", "levels": valued("r", 0, 2)}, {"kind": "rest", "levels": valued("w", 0, 4320)})
    baths = dye_baths(plan)
    assert len(baths) == 4
    both = next(one for one in bench_for(plan).values() if one.vessel.reheats and one.vessel.rest_min)
    keys = [one.key for one in both.steps]
    assert keys[keys.index("hold") :][:6] == ["hold", "cool-1", "again-1", "cool-2", "again-2", "rest"]
    assert both.steps[keys.index("again-2")].title == "Heat it again, 2 of 2"
    assert both.steps[keys.index("rest")].shortest_min == 4320
    effort = {one.vessel: one.heat for one in weigh_study(planned(plan)).effort.vessels}
    once = next(one for one in baths if not one.reheats)
    again = next(one for one in baths if one.reheats)
    # Three times the heat of one, in the same water.
    assert effort[again.name].warm_kwh == pytest.approx(3 * effort[once.name].warm_kwh)
    assert effort[again.name].water_l == effort[once.name].water_l


def test_pieces_come_out_of_one_sun_jar_at_their_times():
    sun = {"kind": "process", "levels": levels("sun-jar")}
    times = {"kind": "duration", "levels": valued("d", 2880, 10080, 40320)}
    apart = plan_of(sun, times, swatch_mass_g=5)
    assert len(dye_baths(apart)) == 3
    plan = plan_of(sun, times, swatch_mass_g=5, taken_out="one vessel")
    (jar,) = dye_baths(plan)
    assert [(one.after_min, len(one.swatches)) for one in jar.outs] == [(2880, 1), (10080, 1)]
    assert (jar.duration_min, len(jar.swatches)) == (40320, 3)
    one = bench_for(plan)[jar.name]
    keys = [step.key for step in one.steps]
    start = keys.index("enter")
    assert keys[start : start + 6] == ["enter", "hold", "out-1", "hold-2", "out-2", "hold-3"]
    minutes = [step.duration_min for step in one.steps if step.key.startswith("hold")]
    assert minutes == [2880, 7200, 30240]
    (choice,) = [c for c in other_choices(planned(plan), [jar]) if c.field == "taken_out"]
    assert (choice.other, choice.vessels_other - choice.vessels_now) == ("apart", 2)


def test_a_pot_is_sampled_by_the_minute_and_the_days_hold_to_it():
    plan = plan_of({"kind": "duration", "levels": valued("d", 5, 15, 45)}, taken_out="one vessel")
    bench = bench_for(plan)
    made = problem_of(list(bench.values()), STARTING_SHELF, USUAL, TUESDAY)
    solution = best_list_schedule(made.problem)
    assert solution is not None
    assert faults_of(made.problem, solution) == []
    (pot,) = dye_baths(plan)
    order = [one for one in made.stretches if one.vessel == pot.name]
    outs = [one.task for one in order if any(step.startswith("out") for step in one.steps)]
    # Each comes right when the stretch before it is over: no tick of five minutes is lost.
    for before, task in zip([one.task for one in order], outs, strict=False):
        if solution.starts[task] > solution.starts[before]:
            assert made.problem.task[before].length > 0
    first, second = (solution.starts[task] for task in outs)
    assert second - first == made.problem.task[outs[0]].length


def test_a_second_stronger_iron_bath_comes_after_the_first():
    plan = plan_of(
        {"kind": "iron", "levels": [{"key": "i", "label": "1 %", "value": 1}]},
        {"kind": "second_iron", "levels": valued("s", 0, 2)},
    )
    first, second = [one for one in vessels_of(planned(plan)) if one.bath == "iron"]
    assert [one.iron_percent_wof for one in (first, second)] == [1, 2]
    assert (len(first.swatches), len(second.swatches)) == (2, 1)
    assert first.stage != second.stage
    bench = bench_for(plan)
    assert first.name in bench[second.name].after


def test_doses_by_weight_are_for_the_whole_bath_and_shared_by_its_pots():
    plan = plan_of(
        {"kind": "strength", "levels": [{"key": "g", "label": "30 g", "grams": 30}]},
        {"kind": "iron", "levels": [{"key": "i", "label": "5 g", "grams": 5}]},
        replicates=3,
    )
    vessels = vessels_of(planned(plan))
    amounts = {one.vessel: one for one in weigh_study(planned(plan)).vessels}
    dyes = [
        sum(f.grams or 0 for f in amounts[v.name].figures if f.role == "dye stuff") for v in vessels if v.bath == "dye"
    ]
    assert sum(dyes) == pytest.approx(30)
    iron = next(v for v in vessels if v.bath == "iron")
    assert sum(f.grams or 0 for f in amounts[iron.name].figures if f.role == "iron") == (pytest.approx(5))


def test_vessels_of_unequal_size_and_a_volume_are_chosen_by_hand():
    plan = plan_of(replicates=6)
    (bath,) = dye_baths(plan)
    two = sorted((v for v in STARTING_SHELF.vessels if v.form == "pot" and not v.iron_only), key=lambda v: v.litres)
    small, large = two[0], two[-1]
    chosen = [{"bath": bath.key, "vessels": [small.key, large.key], "litres": 1.8}]
    baths = dye_baths(plan_of(replicates=6, own_vessels=chosen))
    assert [one.on_shelf for one in baths] == [small.key, large.key]
    assert sum(len(one.swatches) for one in baths) == 6
    assert len(baths[1].swatches) > len(baths[0].swatches)
    # 1.8 L for 120 g of fibre are 15 mL/g.
    assert sum(one.volume_ml for one in baths) == pytest.approx(1800)
    for one in baths:
        assert one.volume_ml == pytest.approx(15 * one.dry_fibre_g)


def test_iron_and_alum_in_one_jar_on_purpose_is_warned_of_and_not_forbidden():
    mordants = {"kind": "mordant", "levels": levels("alum-hot", "iron-mordant")}
    apart, together = plan_of(mordants), plan_of(mordants, iron_with_alum="together")
    assert len(dye_baths(apart)) == 2
    (bath,) = dye_baths(together)
    assert bath.has_iron
    study = planned(together)
    codes = [one.code for one in advice_on(study, vessels_of(study))]
    assert "iron-with-alum" in codes
    fields = {one.field: one for one in other_choices(planned(apart), vessels_of(planned(apart)))}
    assert fields["iron_with_alum"].vessels_other < fields["iron_with_alum"].vessels_now


@pytest.mark.parametrize(
    ("said", "words"),
    [
        ({"item": "vinegar", "amount": 5, "unit": "mL", "after_min": 5}, "how long"),
        ({"item": "vinegar", "amount": 5, "unit": "mL", "moment": "with the pieces in"}, "how long"),
        ({"what": "dye lot", "item": "weld", "amount": 5, "unit": "mL"}, "extract follows"),
    ],
)
def test_an_addition_that_does_not_say_enough_is_refused(said, words):
    with pytest.raises(ValueError, match=words):
        PlannedAddition.model_validate(said)


def test_an_addition_that_is_not_on_the_shelf_is_refused_with_a_cure():
    plan = plan_of(arms(putting({"item": "moonlight", "amount": 5, "unit": "g"})))
    with pytest.raises(Refusal) as caught:
        check_levels(plan, STARTING_SHELF)
    assert caught.value.faults[0].field == "factors.addition"


def test_much_iron_on_wool_is_said_by_percent_in_grams_and_for_the_second_iron():
    def said(kind: str, level: dict) -> set[str]:
        plan = plan_of(
            {"kind": "iron", "levels": valued("iron", 1)} if kind != "iron" else {"kind": "iron", "levels": [level]},
            *([{"kind": "second_iron", "levels": [level]}] if kind == "second_iron" else []),
        )
        study = planned(plan)
        return {one.code.split(":")[0] for one in advice_on(study, vessels_of(study))}

    # One piece of 20 g: 0.4 g are the 2 % that is commonly called enough for wool.
    in_grams = {"key": "in-g", "label": "In g", "grams": 0.5, "route": "after-bath"}
    assert "iron-g" in said("iron", in_grams)
    assert "iron-g" not in said("iron", in_grams | {"grams": 0.4})
    assert "iron" in said("second_iron", valued("again", 4)[0])
    assert "iron" not in said("second_iron", valued("again", 2)[0])
