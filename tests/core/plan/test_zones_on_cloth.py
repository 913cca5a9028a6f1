"""Many cells of the grid on one cloth: prints with several sources, and folded dips."""

import pytest
from tests.bench import bench_for, entry
from tests.core.dye.schedule_checker import faults_of
from tests.core.dye.scheduling.test_bench_plans import TUESDAY, USUAL
from tests.small_study import levels, planned, valued

from zesty_grid.core.dye.maps import maps_of
from zesty_grid.core.dye.scheduling.from_bench import problem_of
from zesty_grid.core.dye.scheduling.list_schedule import best_list_schedule
from zesty_grid.core.noise.levels import NoiseLevels, starting_at
from zesty_grid.core.plan.advice import advice_on
from zesty_grid.core.plan.grid import grid_of
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.telling import what_it_can_tell
from zesty_grid.core.plan.thinning import Budget, thin_out
from zesty_grid.core.plan.vessel import Vessel
from zesty_grid.core.plan.vessels import vessels_of
from zesty_grid.core.plan.working_out import work_out
from zesty_grid.core.plan.zones_on_cloth import cloths_of, zones_on
from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.core.record.laid import LaidZone
from zesty_grid.core.refusal import Refusal
from zesty_grid.core.shelf.items import DyeLot, ShelfVessel
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF
from zesty_grid.core.weigh.bench_papers import bench_papers
from zesty_grid.core.weigh.heat import steamer_water_l
from zesty_grid.core.weigh.weighing import weigh_study
from zesty_grid.core.words.telling import with_words

SOURCES = ("cherry-leaves", "geranium", "onion-skins", "fern", "coreopsis-heads")
SHELF = STARTING_SHELF.model_copy(
    update={
        "dye_lots": (
            *STARTING_SHELF.dye_lots,
            *(DyeLot(key=key, name=key.replace("-", " ").capitalize(), state="fresh") for key in SOURCES),
        ),
        "vessels": (
            *STARTING_SHELF.vessels,
            ShelfVessel(key="steamer-20", name="Steamer, 20 L", litres=20, form="steamer"),
        ),
    }
)


def plan_of(*factors: dict, fibres=("silk", "wool"), **changes) -> StudyPlan:
    every = [{"kind": "fibre", "levels": levels(*fibres)}, *factors]
    return StudyPlan.model_validate(
        {
            "name": "Prints",
            "factors": every,
            "rows": ["fibre"],
            "swatch_mass_g": 10,
            "columns": [one["kind"] for one in every[1:]],
        }
        | changes
    )


FIVE = {"kind": "source", "levels": levels(*SOURCES)}
WATERS = [{"key": "none", "label": "Plain"}, {"key": "iron-water", "label": "Iron water"}]
DIPPED = {"kind": "pretreatment", "levels": WATERS}


def bench_of(plan: StudyPlan) -> BenchVessel:
    return next(one for one in bench_for(plan, shelf=SHELF).values() if one.vessel.bath == "dye")


def print_of(plan: StudyPlan) -> Vessel:
    (vessel,) = [one for one in vessels_of(planned(plan, SHELF)) if one.bath == "dye"]
    return vessel


def test_one_cloth_carries_a_cell_for_each_source_and_pretreatment():
    plan = plan_of(FIVE, DIPPED)
    study = planned(plan, SHELF)
    # Two fibres, five sources, two pretreatments: 20 cells, on 2 cloths.
    assert len(study.cells) == 20
    assert len(cloths_of(study.cells)) == 2
    assert len(study.swatches) == 2
    cells = grid_of(study).cells
    assert len(cells) == 20
    for cell in cells:
        assert len(cell.swatches) == 1
    zones = {cell.zone for cell in cells}
    assert len(zones) == 10
    assert {"Fern", "Fern, Iron water"} <= zones
    assert len(zones_on(plan, study.cells, "fibre=silk")) == 10


def test_a_zone_that_is_left_out_lies_on_no_cloth_and_the_cloth_stays():
    plan = plan_of(FIVE, left_out=("fibre=silk;source=fern",))
    study = planned(plan, SHELF)
    assert len(study.swatches) == 2
    out = next(cell for cell in grid_of(study).cells if cell.key == "fibre=silk;source=fern")
    assert (out.included, out.swatches) == (False, ())
    assert "Fern" not in zones_on(plan, study.cells, "fibre=silk")
    assert "Fern" in zones_on(plan, study.cells, "fibre=wool")


def test_one_roll_one_steaming_and_the_work_in_its_order():
    plan = plan_of(FIVE, DIPPED, rolling={"cloths_per_roll": 2, "bound_with": "waxed thread"})
    vessel = print_of(plan)
    assert (vessel.process, len(vessel.swatches), len(vessel.rolls)) == ("bundle-print", 2, 1)
    one = bench_of(plan)
    keys = [step.key for step in one.steps]
    assert keys == ["plants", "wet-out", "lay", "enter", "bind", "steamer", "hold", "cool", "unroll", "rinse", "dry"]
    steps = {step.key: step for step in one.steps}
    power = min(place.power_w for place in SHELF.heat_places)
    litres = steamer_water_l(min(power, 1000), 150)
    assert f"{litres:.1f} L" in steps["steamer"].detail
    assert steps["hold"].stir_every_min == 30
    assert "waxed thread" in steps["bind"].detail
    assert "children" in steps["plants"].caution  # iron water for the plants
    assert steps["cool"].shortest_min >= 8 * 60


def test_four_cloths_in_two_rolls_stay_together_in_their_vessel_and_in_the_days():
    plan = plan_of(FIVE, fibres=("silk", "wool", "cotton", "linen"), rolling={"cloths_per_roll": 2})
    vessel = print_of(plan)
    assert [len(roll) for roll in vessel.rolls] == [2, 2]
    small = SHELF.model_copy(
        update={"vessels": (ShelfVessel(key="steamer-1", name="Small", litres=1, form="steamer", count=4),)}
    )
    # 0.8 of a litre holds one roll of two cloths of 10 g at 30 mL/g, and not a cloth more.
    split = [one for one in vessels_of(planned(plan, small)) if one.bath == "dye"]
    assert [[len(roll) for roll in one.rolls] for one in split] == [[2], [2]]
    bench = bench_for(plan, shelf=SHELF)
    made = problem_of(list(bench.values()), SHELF, USUAL, TUESDAY)
    solution = best_list_schedule(made.problem)
    assert solution is not None
    assert faults_of(made.problem, solution) == []


def test_vest_and_shirt_face_to_face_in_a_dye_bath_take_its_liquor_and_its_dye():
    dye = {"kind": "dye", "levels": levels("dried-bark")}
    plan = plan_of(dye, FIVE, fibres=("cotton", "linen"), rolling={"cloths_per_roll": 2})
    vessel = print_of(plan)
    assert (vessel.process, len(vessel.rolls)) == ("rolled", 1)
    own = weigh_study(planned(plan, SHELF)).vessels[0]
    grams = [f.grams for f in own.figures if f.role == "dye stuff" and f.grams]
    # 150 % of two cloths of 10 g.
    assert grams == [pytest.approx(30)]
    assert next(f for f in own.figures if f.role == "water").volume_ml is not None
    keys = [step.key for step in bench_of(plan).steps]
    assert keys.index("wet-out") < keys.index("lay") < keys.index("enter") < keys.index("bind")
    assert keys.index("bind") < keys.index("hold") < keys.index("unroll")
    assert "steamer" not in keys


def test_hammered_cloth_is_not_steamed_and_both_ways_lie_on_one_cloth():
    ways = {
        "kind": "printing",
        "levels": [{"key": "rolled", "label": "Rolled"}, {"key": "hammered", "label": "Hammered"}],
    }
    both = plan_of(FIVE, ways)
    assert [step.key for step in bench_of(both).steps][2:5] == ["lay", "hammer", "enter"]
    assert len(planned(both, SHELF).swatches) == 2
    only = plan_of(FIVE, {"kind": "printing", "levels": ways["levels"][1:]})
    vessel = print_of(only)
    assert (vessel.process, vessel.temperature_c) == ("hammered", 20)
    assert "hold" not in {step.key for step in bench_of(only).steps}


def test_what_melts_is_warned_of_in_the_plan_and_at_the_steamer():
    plan = plan_of(FIVE, rolling={"wrapped_in": "plastic film", "rolled_on": "a plastic pipe"})
    study = planned(plan, SHELF)
    assert "melts" in {one.code for one in advice_on(study, vessels_of(study))}
    hold = next(step for step in bench_of(plan).steps if step.key == "hold")
    assert "plastic film and a plastic pipe" in hold.caution
    safe = planned(plan_of(FIVE, rolling={"wrapped_in": "cloth"}), SHELF)
    assert "melts" not in {one.code for one in advice_on(safe, vessels_of(safe))}


def test_sources_are_laid_and_not_weighed_and_the_totals_still_add_up():
    own = weigh_study(planned(plan_of(FIVE), SHELF)).vessels[0]
    laid = [f for f in own.figures if f.role == "dye stuff"]
    assert [f.name for f in laid][:2] == ["Cherry leaves", "Geranium"]
    assert all(f.grams is None and f.words == "to cover its zones on 2 cloths" for f in laid)


def test_folded_cloth_goes_in_as_often_as_its_zones_say():
    times = {"kind": "times_in", "levels": valued("n", 0, 1, 3)}
    dye = {"kind": "dye", "levels": levels("dried-flowers")}
    process = {"kind": "process", "levels": levels("dip")}
    fold = {"fold": "In quarters", "corners": "the four corners", "depth_cm": 4}
    plan = plan_of(dye, process, times, folding=fold)
    study = planned(plan, SHELF)
    assert (len(study.cells), len(study.swatches)) == (6, 2)
    keys = [step.key for step in bench_of(plan).steps]
    assert [key for key in keys if key in ("fold", "enter", "dip-2", "dip-3", "unfold")] == [
        "fold",
        "enter",
        "dip-2",
        "dip-3",
        "unfold",
    ]
    hold = next(step for step in bench_of(plan).steps if step.key == "hold")
    assert "4 cm deep" in hold.detail


def test_corners_go_into_three_irons_only():
    times = {"kind": "times_in", "levels": valued("n", 0, 1)}
    dye = {"kind": "dye", "levels": levels("dried-flowers")}
    irons = {"kind": "iron", "levels": valued("iron", 1, 2, 4)}
    fold = {"fold": "In a fan", "corners": "two corners", "into": "iron"}
    plan = plan_of(dye, irons, times, folding=fold, fibres=("cotton",))
    study = planned(plan, SHELF)
    assert (len(study.cells), len(study.swatches)) == (6, 3)
    vessels = vessels_of(study)
    (bath,) = [one for one in vessels if one.bath == "dye"]
    assert (bath.times_in, bath.folding) == (0, None)
    bench = bench_for(plan, shelf=SHELF)
    for one in vessels:
        if one.bath == "iron":
            keys = [step.key for step in bench[one.name].steps]
            assert keys[:5] == ["wet-out", "fill", "stock", "fold", "enter"]


def test_only_cloth_with_zones_is_folded_into_the_iron():
    dye = {"kind": "dye", "levels": levels("dried-flowers")}
    irons = {"kind": "iron", "levels": valued("iron", 1, 2)}
    fold = {"fold": "In a fan", "corners": "two corners", "into": "iron"}
    vessels = vessels_of(planned(plan_of(dye, irons, folding=fold), SHELF))
    assert {(one.bath, one.times_in) for one in vessels} == {("dye", 0), ("iron", 0)}


def test_a_plan_with_zones_is_worked_out_like_any_other():
    plan = plan_of(
        FIVE, DIPPED, {"kind": "side", "levels": levels("upper", "lower")}, controls=["undyed"], replicates=2
    )
    study = planned(plan, SHELF)
    worked = work_out(study)
    # Two cloths twice, and an undyed piece of each fibre twice, which is not printed.
    assert len(worked.swatches) == 8
    undyed = {one.code for one in worked.swatches if one.control == "undyed"}
    assert all(not undyed & set(one.swatches) for one in worked.vessels)
    # The undyed pieces are controls: what is crossed are the four printed cloths.
    noise = starting_at(NoiseLevels())
    telling = what_it_can_tell(study, [(v.bath, v.swatches) for v in worked.vessels], noise, [])
    assert telling.swatches == 4
    of_zones = {one.factor: one for one in telling.effects if one.between is None}
    assert {"source", "pretreatment", "side"} <= set(of_zones)
    # All five sources lie on each of the two kinds of cloth; what cannot be known is not said.
    assert [one.swatches for one in of_zones["source"].levels] == [2] * 5
    assert of_zones["source"].smallest_difference_de00 is None
    assert of_zones["source"].same_cloth == 2
    said = {one.factor: one.words for one in with_words(telling).effects}
    assert "same cloth, on 2 cloths" in said["source"]


def test_a_budget_of_swatches_says_that_zones_cost_none():
    plan = plan_of(FIVE)
    study = planned(plan, SHELF)
    noise = starting_at(NoiseLevels())
    with pytest.raises(Refusal, match="zones of one cloth are none"):
        thin_out(plan, study.cells, SHELF, Budget(swatches=4, vessels=2), noise)


def test_places_of_a_larger_piece_are_on_the_map_for_the_table():
    shirt = [
        {
            "key": "shirt",
            "name": "Shirt",
            "mass_g": 180,
            "levels": {"fibre": "silk"},
            "places": ["collar", "hem", "left sleeve"],
        }
    ]
    dye = {"kind": "dye", "levels": levels("dried-flowers")}
    papers = bench_papers(planned(plan_of(dye, larger_pieces=shirt), SHELF))
    (larger,) = [one for one in papers.swatches if one.mass_g == 180]
    assert [one.zone for one in larger.zones] == ["collar", "hem", "left sleeve"]
    assert all(one.x >= 0 and one.x + one.width <= 1 for one in larger.zones)


def test_what_lies_face_to_face_mirrors_the_map_below_it():
    plan = plan_of(FIVE, rolling={"cloths_per_roll": 2})
    study = planned(plan, SHELF)
    vessel = print_of(plan)
    (lower, upper) = vessel.rolls[0]
    even = {one.swatch: one for one in maps_of(study, vessel, [])}
    assert (even[lower].faces, even[upper].faces) == (None, lower)
    zones = (LaidZone(zone="Fern", x=0.1, y=0.2, width=0.3, height=0.4),)
    said = {"vessel": vessel.name, "step": "lay", "swatches": (lower,), "zones": zones}
    drawn = {one.swatch: one for one in maps_of(study, vessel, [entry(1, "laid", **said)])}
    assert (drawn[lower].drawn, drawn[lower].zones) == (True, zones)
    (mirror,) = drawn[upper].zones
    # What ends 0.4 from the left lies 0.6 from the left of the cloth that faces it.
    assert (mirror.x, mirror.y, mirror.width) == (pytest.approx(0.6), 0.2, 0.3)
