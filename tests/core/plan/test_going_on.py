"""Going on from dyed cloth: who gets what, and the plans that come of it; what a change does."""

from collections import Counter

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.small_study import levels, small_plan, valued

from zesty_grid.core.plan.controls import all_cells
from zesty_grid.core.plan.effects import effect_of_change
from zesty_grid.core.plan.going_on import GoingOn, deal_out, study_from, with_treatments
from zesty_grid.core.plan.placement import place_swatches
from zesty_grid.core.plan.planned_study import PlannedStudy, archive_of, on_paper
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.treatment import Treatment
from zesty_grid.core.plan.treatment_bath import treatment_bath
from zesty_grid.core.plan.vessels import vessels_of
from zesty_grid.core.record.taken import Taken
from zesty_grid.core.refusal import Refusal
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF

IRON = {
    "key": "new",
    "kind": "iron",
    "name": "Iron 2 %",
    "iron_percent_wof": 2,
    "route": "after-bath",
    "seconds": 30,
    "swatches": ["s0"],
}
AMMONIA = {"key": "new", "kind": "adjust", "name": "Ammonia", "ph": 9, "adjust_with": "ammonia", "swatches": ["s0"]}


def wanted(count: int, *choices: list, seed: int = 1) -> GoingOn:
    return GoingOn.model_validate(
        {
            "swatches": [f"s{n}" for n in range(count)],
            "seed": seed,
            "choices": [{"levels": choice} for choice in choices],
        }
    )


@given(st.integers(4, 60), st.integers(0, 99))
def test_half_of_each_kind_goes_into_the_iron_and_everybody_goes_once(count, seed):
    alike = {f"s{n}": f"cell {n // 2}" for n in range(count)}
    dealt = deal_out(wanted(count, [IRON, None], seed=seed), alike, [])
    arms = {arm.words: arm.swatches for arm in dealt.arms}
    assert set(arms) == {"Iron 2 %", "left as they are"}
    everybody = [code for arm in arms.values() for code in arm]
    assert sorted(everybody) == sorted(alike)
    assert abs(len(arms["Iron 2 %"]) - len(arms["left as they are"])) <= 1
    # Two of one cell never go the same way.
    for arm in arms.values():
        assert max(Counter(alike[code] for code in arm).values()) == 1
    (iron,) = dealt.treatments
    assert sorted(iron.swatches) == sorted(arms["Iron 2 %"])


def test_two_treatments_are_crossed_and_dealt_the_same_for_the_same_seed():
    asked = wanted(8, [IRON, None], [AMMONIA, None])
    dealt = deal_out(asked, {}, ["iron-1"])
    assert [len(arm.swatches) for arm in dealt.arms] == [2, 2, 2, 2]
    assert [one.key for one in dealt.treatments] == ["iron-2", "adjust-1"]
    assert deal_out(asked, {}, ["iron-1"]) == dealt
    other = deal_out(asked.model_copy(update={"seed": 5}), {}, ["iron-1"])
    assert other.arms != dealt.arms


def test_more_arms_than_swatches_are_refused():
    with pytest.raises(Refusal, match="4 arms for 3 swatches"):
        deal_out(wanted(3, [IRON, None], [AMMONIA, None]), {}, [])


def test_the_way_of_single_cells_is_dealt_by_chance_and_not_by_their_order():
    """Cells that alternate between two pH must not all go one way by it."""
    alternating = {f"s{n}": f"cell {n}" for n in range(40)}
    seen = []
    for seed in range(30):
        (iron,) = deal_out(wanted(40, [IRON, None], seed=seed), alternating, []).treatments
        seen.append(sum(int(code[1:]) % 2 == 0 for code in iron.swatches))
    assert min(seen) < 10 < max(seen)
    # Each even cell has an even chance: the mean of 30 draws of 20 is 10, ± 3 standard errors.
    assert abs(sum(seen) / 30 - 10) < 3 * (20**0.5 / 2) / 30**0.5


def treated(treatment: dict, study: PlannedStudy) -> list:
    codes = tuple(swatch.code for swatch in study.swatches[:3])
    own = Treatment.model_validate(treatment | {"key": "iron-1", "swatches": codes})
    plan = with_treatments(study.plan, [own])
    been = {swatch.code: frozenset({"dye:0"}) for swatch in study.swatches}
    taken = Taken(past=been, been=been, has_record=True)
    after = PlannedStudy(plan, study.shelf, study.swatches, study.archive, taken)
    return [vessel for vessel in vessels_of(after) if vessel.treatment]


STUDY = on_paper(StudyPlan.model_validate(small_plan()), STARTING_SHELF)


def test_a_treatment_has_a_vessel_of_its_own_with_the_next_number():
    (vessel,) = treated(IRON, STUDY)
    assert vessel.name.startswith("F")
    assert vessel.iron_percent_wof == 2
    assert set(vessel.swatches) == {swatch.code for swatch in STUDY.swatches[:3]}
    assert vessel.dry_fibre_g == sum(swatch.mass_g for swatch in STUDY.swatches[:3])
    # Iron stays out of pots that serve anything else: common practice.
    shelf = {one.key: one for one in STUDY.shelf.vessels}
    assert shelf[vessel.on_shelf].iron_only


@pytest.mark.parametrize(
    ("treatment", "bath", "facts"),
    [
        (IRON, "iron", {"seconds": 30, "temperature_c": 20}),
        # A hot iron bath: about 70 °C for an hour, common practice.
        (IRON | {"route": "hot bath"}, "iron mordant", {"temperature_c": 70, "duration_min": 60}),
        (AMMONIA, "adjust", {"ph": 9, "adjuster": "ammonia"}),
        (
            {"key": "d", "kind": "dye", "name": "Blue", "dye": "dye-extract", "swatches": ["s0"]},
            "overdye",
            {"dye": "dye-extract"},
        ),
        (
            {"key": "w", "kind": "wash", "name": "Wash", "temperature_c": 40, "swatches": ["s0"]},
            "wash",
            {"temperature_c": 40},
        ),
        ({"key": "a", "kind": "again", "name": "D1 again", "again": "D1", "swatches": ["s0"]}, "dye", {"again": "D1"}),
    ],
)
def test_each_kind_of_treatment_is_the_bath_that_it_names(treatment, bath, facts):
    made = treatment_bath(Treatment.model_validate(treatment), STARTING_SHELF)
    assert made.bath == bath
    assert {name: getattr(made, name) for name in facts} == facts


@pytest.mark.parametrize("missing", ["iron_percent_wof", "swatches", "name"])
def test_a_treatment_says_what_it_is(missing):
    with pytest.raises(ValueError, match=r"."):
        Treatment.model_validate({k: v for k, v in IRON.items() if k != missing})
    with pytest.raises(ValueError, match="twice"):
        Treatment.model_validate(IRON | {"swatches": ["a", "a"]})


def test_a_study_from_cloth_has_a_fibre_for_each_kind_and_uses_every_swatch():
    words = {swatch.code: STUDY.words(swatch) for swatch in STUDY.swatches[:4]}
    words[STUDY.swatches[1].code] = words[STUDY.swatches[0].code]
    plan = study_from("Next", STUDY.swatches[:4], words, cut=False, mass_g=2)
    fibres = plan.factors[0].levels
    assert len(fibres) == 3
    assert {code for level in fibres for code in level.swatches} == set(words)
    assert plan.replicates == 1
    assert study_from("Next", STUDY.swatches[:4], words, cut=True, mass_g=2).swatch_mass_g == 2


def effect(after: StudyPlan, begun: int = 0, running: tuple[str, ...] = (), finished: int = 0):
    swatches = [one.model_copy(update={"begun": n < begun}) for n, one in enumerate(STUDY.swatches)]
    before = PlannedStudy(STUDY.plan, STUDY.shelf, swatches, STUDY.archive)
    cells = all_cells(after, STUDY.shelf)
    archive = archive_of([STUDY.plan, after])
    placement = place_swatches(after, cells, swatches, archive)
    then = PlannedStudy(after, STUDY.shelf, list(placement.swatches), archive)
    return effect_of_change(before, then, placement, vessels_of(before), vessels_of(then), running, finished)


def grown(**more) -> StudyPlan:
    factor = {
        "kind": "second_dye",
        "begun_as": "none",
        "levels": [{"key": "none", "label": "No second dye"}, *levels("dye-extract")],
    } | more
    plan = small_plan()
    return StudyPlan.model_validate(
        plan | {"factors": [*plan["factors"], factor], "columns": [*plan["columns"], "second_dye"]}
    )


def test_what_a_change_does_is_said_before_it_is_saved():
    said = effect(grown(), begun=16, running=("D2",), finished=2)
    assert said.asks == ()
    assert said.touches_record
    assert said.new_swatches == 16
    assert said.words[0].startswith("16 new swatches in ")
    assert "16 begun swatches count as no second dye." in said.words
    assert "D2 has begun and stays as it is." in said.words
    assert "2 finished baths stay as they were." in said.words


def test_a_change_asks_as_what_the_begun_swatches_count_and_proposes_what_makes_no_difference():
    (ask,) = effect(grown(begun_as=None), begun=3).asks
    assert (ask.factor, ask.swatches, ask.proposed) == ("second_dye", 3, "none")
    plan = small_plan()
    ph = {"kind": "strength", "levels": valued("strength", 50, 100)}
    more = StudyPlan.model_validate(
        plan | {"factors": [*plan["factors"], ph], "columns": [*plan["columns"], "strength"]}
    )
    (ask,) = effect(more, begun=3).asks
    assert (ask.factor, ask.proposed) == ("strength", None)


def test_what_is_taken_out_says_what_stays():
    fewer = STUDY.plan.model_copy(update={"left_out": tuple(cell.key for cell in STUDY.cells if not cell.added)[:6]})
    said = effect(fewer, begun=4)
    assert "4 begun swatches are no longer planned: all that is known of them stays" in said.words[0]
    assert "2 swatches that were not begun are taken out" in said.words[1]
    assert (said.no_longer_planned, said.taken_out) == (4, 2)


def test_a_change_of_nothing_but_words_concerns_nothing():
    said = effect(STUDY.plan.model_copy(update={"name": "Other"}), begun=4, running=("M1",))
    assert said.words == ()
    assert not said.touches_record
