"""Dyes that are measured, counted, mixed or drawn off; and how each is extracted."""

from datetime import date

import pytest
from tests.bench import bench_for
from tests.core.dye.schedule_checker import faults_of
from tests.core.dye.scheduling.test_bench_plans import TUESDAY, USUAL
from tests.small_study import levels, planned, valued

from zesty_grid.core.dye.leftover import Leftover, lot_of_leftover
from zesty_grid.core.dye.scheduling.from_bench import problem_of
from zesty_grid.core.dye.scheduling.list_schedule import best_list_schedule
from zesty_grid.core.plan.advice import advice_on
from zesty_grid.core.plan.extraction_recipe import ExtractionRecipe
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.vessels import vessels_of
from zesty_grid.core.refusal import Refusal
from zesty_grid.core.shelf.items import DyeLot, Substance
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF
from zesty_grid.core.weigh.amounts import VesselAmounts
from zesty_grid.core.weigh.extraction import Liquor
from zesty_grid.core.weigh.weighing import Weighing, weigh_study
from zesty_grid.core.weigh.working import Figure

LOTS = (
    DyeLot(
        key="damson-stones",
        name="Damson stones",
        measured="counted",
        piece_name="stone",
        pieces_per_100_g=12,
        piece_g=1.5,
        known_for=("poisonous raw",),
    ),
    DyeLot(key="sloe-stones", name="Sloe stones", measured="counted", piece_name="stone", pieces_per_100_g=30),
    DyeLot(
        key="beet-juice",
        name="Beet juice",
        state="juice",
        measured="liquid",
        strength_percent_wof=400,
        known_for=("fugitive", "stains"),
    ),
    DyeLot(key="madder-drops", name="Madder solution", measured="liquid", solution_percent=2, strength_percent_wof=5),
    DyeLot(
        key="heather", name="Heather tops", strength_percent_wof=100, duration_min=30, preparation="chopped", cup_g=20
    ),
    DyeLot(
        key="hedge-mix",
        name="Hedge mix",
        strength_percent_wof=100,
        mixture=({"lot": "heather", "percent": 40}, {"lot": "dried-bark", "percent": 60}),
    ),
    DyeLot(key="moth-dye", name="Moth dye", known_for=("protein only",)),
)
SHELF = STARTING_SHELF.model_copy(update={"dye_lots": (*STARTING_SHELF.dye_lots, *LOTS)})


def plan_of(dye: str, *factors: dict, **changes) -> StudyPlan:
    """One skein of 50 g, in 1.5 L."""
    every = [{"kind": "fibre", "levels": levels("wool-yarn")}, {"kind": "dye", "levels": levels(dye)}, *factors]
    return StudyPlan.model_validate(
        {"name": "Stuffs", "factors": every, "rows": [], "swatch_mass_g": 50, "columns": [one["kind"] for one in every]}
        | changes
    )


def weighing(dye: str, *factors: dict, shelf: Shelf = SHELF, **changes) -> Weighing:
    return weigh_study(planned(plan_of(dye, *factors, **changes), shelf))


def amounts(dye: str, *factors: dict, **changes) -> VesselAmounts:
    return weighing(dye, *factors, **changes).vessels[0]


def dye_of(own: VesselAmounts) -> Figure:
    return next(figure for figure in own.figures if figure.role == "dye stuff")


def own_way(*recipes: dict) -> dict:
    return {
        "kind": "extraction",
        "levels": [{"key": f"way-{i}", "label": f"Way {i}", "recipe": recipe} for i, recipe in enumerate(recipes, 1)],
    }


def test_stones_are_counted_and_weigh_what_one_weighed():
    figure = dye_of(amounts("damson-stones"))
    # 12 stones for 100 g are 6 for a skein of 50 g; at 1.5 g each they weigh 9 g.
    assert (figure.spelled, figure.grams) == ("6 stones", pytest.approx(9))
    unknown = dye_of(amounts("sloe-stones"))
    assert (unknown.words, unknown.grams) == ("15 stones", None)
    study = planned(plan_of("sloe-stones"), SHELF)
    assert any(one.code == "never-weighed:sloe-stones" for one in advice_on(study, vessels_of(study)))


def test_juice_is_measured_and_is_no_extract():
    said = weighing("beet-juice")
    figure = dye_of(said.vessels[0])
    # 400 mL for 100 g: 200 mL for 50 g, and so much less water.
    assert (figure.volume_ml, figure.grams) == (pytest.approx(200), None)
    water = next(f for f in said.vessels[0].figures if f.role == "water")
    assert water.volume_ml == pytest.approx(1500 - 200)
    assert said.extractions == ()
    total = next(one for one in said.totals if one.kind == "dye lot")
    assert total.grams == pytest.approx(200)
    steps = [one.key for one in bench_for(plan_of("beet-juice"), shelf=SHELF)["D1"].steps]
    assert steps[:2] == ["fill", "extract"]


def test_a_solution_counts_what_is_in_it_and_little_of_it_is_said_in_drops():
    figure = dye_of(amounts("madder-drops"))
    # 5 % of 50 g are 2.5 g; of 2 g in 100 mL these are 125 mL.
    assert (figure.grams, figure.volume_ml) == (pytest.approx(2.5), pytest.approx(125))
    few = dye_of(amounts("madder-drops", {"kind": "strength", "levels": valued("s", 1)}, swatch_mass_g=2))
    # 1 % of 2 g in a 2 % solution is 1 mL: 20 drops of 0.05 mL.
    assert (few.volume_ml, few.spelled) == (pytest.approx(1), "about 20 drops")


def test_an_extract_powder_goes_in_without_a_bag():
    said = weighing("dye-extract")
    figure = dye_of(said.vessels[0])
    assert (figure.grams, said.extractions) == (pytest.approx(5), ())
    bench = bench_for(plan_of("dye-extract"))
    assert [one for one in bench if one.startswith("E")] == []
    step = next(one for one in bench["D1"].steps if one.key == "extract")
    assert "paste" in step.detail


def test_what_was_extracted_before_is_drawn_also_of_a_powder():
    """A pot that was made ready when extracts were still simmered is not poured away."""
    study = planned(plan_of("dye-extract"), SHELF)
    ready = Liquor(name="E1", key="dye-extract:hot:1", strength_g_ml=0.01, grams_for={("D1", ""): 5.0})
    said = weigh_study(study, liquors=[ready])
    # 5 g at 10 g/L are half a litre.
    assert dye_of(said.vessels[0]).volume_ml == pytest.approx(500)
    assert "put by in E1" in dye_of(said.vessels[0]).working


def test_a_mixture_is_spelled_out_wherever_it_is_weighed():
    said = weighing("hedge-mix")
    spelled = "20.0 g Heather tops (chopped) + 30.0 g Dried bark"
    assert dye_of(said.vessels[0]).spelled == spelled
    assert said.extractions[0].spelled == spelled
    steps = bench_for(plan_of("hedge-mix"), shelf=SHELF)["E1"].steps
    assert spelled in steps[0].detail


def test_cups_and_the_lots_own_time_hold():
    said = weighing("heather")
    # 50 g at 20 g a cup.
    assert dye_of(said.vessels[0]).spelled == "about 2.5 cups of 250 mL"
    # Half an hour on the Shelf is half an hour in the pot.
    assert said.extractions[0].duration_min == 30


def test_what_a_lot_is_known_for_is_said_where_it_matters():
    study = planned(plan_of("beet-juice"), SHELF)
    assert any(one.code == "fugitive:beet-juice" for one in advice_on(study, vessels_of(study)))
    assert "stains" in " ".join(weighing("beet-juice").vessel_cautions["D1"])
    cotton = plan_of("moth-dye").model_dump()
    cotton["factors"][0]["levels"] = levels("cotton")
    on_cotton = planned(StudyPlan.model_validate(cotton), SHELF)
    codes = [one.code for one in advice_on(on_cotton, vessels_of(on_cotton))]
    assert "protein-only:moth-dye:cotton" in codes
    stones = bench_for(plan_of("damson-stones"), shelf=SHELF)["E1"].steps[0]
    assert "poisonous raw" in stones.caution


def test_an_hour_a_day_with_two_draws_from_one_pot():
    four_days = {"temperature_c": 85, "rounds": 4, "daily": True}
    draws = own_way(four_days | {"drawn_after": 2}, four_days | {"drawn_after": 4})
    plan = plan_of("damson-stones", draws)
    said = weigh_study(planned(plan, SHELF))
    (extract,) = said.extractions
    # Six stones for each of two skeins, in one pot.
    assert extract.grams == pytest.approx(18)
    assert {share.drawn_after for share in extract.shares} == {2, 4}
    bench = bench_for(plan, shelf=SHELF)
    keys = [one.key for one in bench["E1"].steps]
    assert keys == [
        "fill",
        "extract-1",
        "steep-1",
        "extract-2",
        "steep-2",
        "draw-2",
        "extract-3",
        "steep-3",
        "extract-4",
        "steep-4",
        "finish",
    ]
    made = problem_of(list(bench.values()), SHELF, USUAL, TUESDAY)
    solution = best_list_schedule(made.problem)
    assert solution is not None
    assert faults_of(made.problem, solution) == []
    first = {one.vessel: one.task for one in reversed(made.stretches)}
    drawn = next(s.task for s in made.stretches if s.vessel == "E1" and "draw-2" in s.steps)
    last = [s.task for s in made.stretches if s.vessel == "E1"][-1]
    early, late = sorted(("D1", "D2"), key=lambda name: solution.starts[first[name]])
    # The bath that draws after day 2 need not wait for day 4.
    assert solution.starts[drawn] <= solution.starts[first[early]] < solution.starts[last]
    assert solution.starts[first[late]] > solution.starts[last]


def test_a_cold_soak_is_decanted_in_rounds_and_settles():
    plan = plan_of("heather", own_way({"rounds": 3, "heat_min": 1440, "settle_min": 720}))
    keys = [one.key for one in bench_for(plan, shelf=SHELF)["E1"].steps]
    assert keys == ["fill", "extract-1", "decant-1", "extract-2", "decant-2", "extract-3", "settle", "finish"]
    assert "sludge" in bench_for(plan, shelf=SHELF)["E1"].steps[-1].title


def test_steeped_then_simmered_in_soda_whose_ph_is_checked():
    recipe = {"soak_min": 1440, "soak_ph": 9.5, "soak_with": "soda-ash", "temperature_c": 80}
    one = bench_for(plan_of("heather", own_way(recipe)), shelf=SHELF)["E1"]
    keys = [step.key for step in one.steps]
    assert keys == ["fill", "set-ph", "soak", "extract", "steep", "finish"]
    assert next(step for step in one.steps if step.key == "set-ph").wants_ph
    soda = next(figure for figure in one.amounts.figures if figure.role == "adjuster")
    assert (soda.name, soda.grams is not None and soda.grams > 0) == ("soda ash", True)
    assert next(step for step in one.steps if step.key == "soak").shortest_min == 1440


def test_kept_apart_each_bath_has_its_extract_and_in_the_bath_there_is_none():
    ph = {"kind": "ph", "levels": valued("ph", 4, 9)}
    hot = {"temperature_c": 80}
    shared = weigh_study(planned(plan_of("heather", own_way(hot), ph), SHELF))
    apart = weigh_study(planned(plan_of("heather", own_way(hot | {"kept": "apart"}), ph), SHELF))
    inside = plan_of("heather", own_way(hot | {"kept": "in the bath"}), ph)
    assert [len(one.extractions) for one in (shared, apart)] == [1, 2]
    assert {share.vessel for one in apart.extractions for share in one.shares} == {"D1", "D2"}
    assert weigh_study(planned(inside, SHELF)).extractions == ()
    steps = bench_for(inside, shelf=SHELF)["D1"].steps
    assert steps[1].title == "Lay in the dye stuff"


def test_a_recipe_that_cannot_be_is_refused():
    with pytest.raises(ValueError, match="one of the rounds"):
        ExtractionRecipe(rounds=2, drawn_after=3)
    with pytest.raises(ValueError, match="which pH"):
        ExtractionRecipe(soak_with="soda-ash")


def test_what_is_left_is_kept_as_a_lot_with_its_date():
    vessel = vessels_of(planned(plan_of("beet-juice"), SHELF))[0]
    left = Leftover(vessel="D1", volume_ml=800, kept_in="the freezer")
    lot = lot_of_leftover(left, vessel, "Stuffs", SHELF, date(2026, 11, 26))
    assert (lot.state, lot.measured, lot.amount_in_hand_g) == ("liquor", "liquid", 800)
    assert (lot.collected, lot.known_for) == ("2026-11-26", ("fugitive", "stains"))
    assert lot.name.endswith("26 Nov 2026")
    on_shelf = SHELF.model_copy(update={"dye_lots": (*SHELF.dye_lots, lot)})
    # It can be the start of another bath: 1000 mL for 100 g are 500 mL for a skein of 50 g.
    again = weigh_study(planned(plan_of(lot.key), on_shelf)).vessels[0]
    assert dye_of(again).volume_ml == pytest.approx(500)
    second = lot_of_leftover(left, vessel, "Stuffs", on_shelf, date(2026, 11, 26))
    assert second.key != lot.key
    with pytest.raises(Refusal) as caught:
        lot_of_leftover(left.model_copy(update={"volume_ml": 9000}), vessel, "S", SHELF, date(2026, 11, 26))
    assert caught.value.faults[0].field == "volume_ml"


def test_soya_milk_comes_in_three_coats_with_drying_between_and_rest_days():
    plan = plan_of("heather", {"kind": "mordant", "levels": levels("soya-milk")})
    cotton = plan.model_dump()
    cotton["factors"][0]["levels"] = levels("cotton")
    plan = StudyPlan.model_validate(cotton)
    bench = bench_for(plan, shelf=SHELF)
    one = bench["B1"]
    keys = [step.key for step in one.steps]
    assert keys == [
        "fill",
        "dissolve",
        "enter",
        "hold",
        "dry-1",
        "coat-2",
        "hold-2",
        "dry-2",
        "coat-3",
        "hold-3",
        "finish",
    ]
    made = problem_of(list(bench.values()), SHELF, USUAL, TUESDAY)
    solution = best_list_schedule(made.problem)
    assert solution is not None
    assert faults_of(made.problem, solution) == []
    done = [s.task for s in made.stretches if s.vessel == "B1"][-1]
    entered = next(s.task for s in made.stretches if s.vessel == "D1" and "enter" in s.steps)
    waited = solution.starts[entered] - solution.starts[done] - made.problem.task[done].length
    assert waited * 5 >= 3 * 24 * 60


def test_iron_liquor_is_tried_on_a_strip_and_then_measured_by_what_the_strip_showed():
    route = {"kind": "mordant", "levels": levels("iron-liquor")}
    one = bench_for(plan_of("heather", route), shelf=SHELF)["M1"]
    assert "try" in [step.key for step in one.steps]
    tried = Substance(key="iron-liquor", name="Iron liquor", role="modifier", dose_ml_per_100_g=40)
    shelf = SHELF.model_copy(update={"substances": tuple(tried if s.key == tried.key else s for s in SHELF.substances)})
    after = bench_for(plan_of("heather", route), shelf=shelf)["M1"]
    assert "try" not in [step.key for step in after.steps]
    figure = next(f for f in after.amounts.figures if f.role == "mordant")
    # 40 mL for 100 g are 20 mL for a skein of 50 g.
    assert figure.volume_ml == pytest.approx(20)
    assert "strip" in figure.working


def test_what_does_not_suffice_is_said_as_the_totals_count_it():
    def short_of(key: str, in_hand: float) -> tuple[str, float]:
        lots = tuple(
            one.model_copy(update={"amount_in_hand_g": in_hand}) if one.key == key else one for one in SHELF.dye_lots
        )
        shelf = SHELF.model_copy(update={"dye_lots": lots})
        study = planned(plan_of(key), shelf)
        short = [one.text for one in advice_on(study, vessels_of(study)) if one.code == f"short:{key}"]
        (total,) = [one for one in weigh_study(study).totals if one.kind == "dye lot"]
        return "".join(short), total.short_g or 0.0

    # 400 mL of juice for 100 g of fibre, 50 g of it.
    assert short_of("beet-juice", 150) == (
        "Beet juice does not suffice: 200 mL are needed, 150 mL are in hand.",
        pytest.approx(50),
    )
    assert short_of("beet-juice", 200) == ("", 0.0)
    # Six stones of 1.5 g, counted.
    said, missing_g = short_of("damson-stones", 5)
    assert "9 g are needed, 5 g are in hand" in said
    assert missing_g == pytest.approx(4)
