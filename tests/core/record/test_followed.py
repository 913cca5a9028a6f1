"""A recipe that is followed at the application's own bench gives the same bath as the record's."""

from dataclasses import replace

import pytest
from hypothesis import HealthCheck, assume, given, settings
from hypothesis import strategies as st
from tests.bench import SMALL, START, entry
from tests.bench import begun as begun_
from tests.core.plan.test_plan_invariants import plans
from tests.small_study import levels

from zesty_grid.core.dye.bench import bench_of
from zesty_grid.core.dye.protocol import Protocol
from zesty_grid.core.plan.factors import Level
from zesty_grid.core.plan.following import RecipeOf, following_plan, recipe_level
from zesty_grid.core.plan.liquors import BegunLiquor
from zesty_grid.core.plan.open_places import with_open_made_again
from zesty_grid.core.plan.placement import place_swatches
from zesty_grid.core.plan.planned_study import PlannedStudy, on_paper, with_code
from zesty_grid.core.plan.study_plan import OwnVessel, StudyPlan
from zesty_grid.core.plan.vessels import vessels_of
from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.core.record.followed import BY_ITSELF, PassedThrough, followed_baths
from zesty_grid.core.record.taken import Taken
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF

USUAL = Protocol()


def chain(bench: list[BenchVessel], code: str) -> list[BenchVessel]:
    return [one for one in bench if code in one.vessel.swatches and one.vessel.bath not in BY_ITSELF]


def followed(study: PlannedStudy, chain: list[BenchVessel], code: str, mass_g: float, log=()) -> list[BenchVessel]:
    """The bench of a plan made of the recipe of a swatch."""
    passed = [PassedThrough(one, START, log) for one in chain]
    swatch = study.by_code[code]
    recipe = recipe_level(RecipeOf(code=code), study.words(swatch), followed_baths(passed, code))
    plan = following_plan("Again", study.plan, [(Level(key=swatch.fibre, label="Fibre"), recipe)], mass_g)
    bench = bench_of(on_paper(plan, study.shelf), USUAL)
    return [one for one in bench if one.vessel.bath not in BY_ITSELF]


def grams_per_fibre(one: BenchVessel) -> dict[str, float]:
    """What goes in for each gram of fibre: in g, of what is only measured in mL."""
    found: dict[str, float] = {}
    for figure in one.amounts.figures:
        amount = figure.grams
        if amount is None and figure.volume_ml is not None:
            amount = figure.volume_ml * (figure.stock_percent or 100) / 100
        if amount is not None and figure.role not in ("water", "dye liquor"):
            found[figure.name] = found.get(figure.name, 0.0) + amount / one.vessel.dry_fibre_g
    return found


def minutes(one: BenchVessel, is_last: bool) -> list[tuple[str, int | None, float | None, bool]]:
    """The steps by their keys, without those of others: who are taken out, or dried while it goes on."""
    own = [step for step in one.steps if not step.takes_out and (is_last or step.key != "dry")]
    return [(step.key, step.duration_min, step.temperature_c, step.attended) for step in own]


@settings(max_examples=25, deadline=None, suppress_health_check=[HealthCheck.too_slow])
@given(plans(), st.integers(0, 10**6), st.sampled_from([20.0, 100.0, 300.0]))
def test_card_plan_and_bench_give_the_baths_of_the_record(plan: StudyPlan, which: int, mass_g: float):
    study = on_paper(plan, STARTING_SHELF)
    if not study.planned:
        return
    code = study.planned[which % len(study.planned)].code
    before = chain(bench_of(study, USUAL), code)
    if not before:
        return
    again = followed(study, before, code, mass_g)
    assert sum(one.vessel.dry_fibre_g for one in again) == pytest.approx(mass_g * len(before))
    for one in again:
        old = before[one.vessel.place or 0]
        ratio = one.vessel.volume_ml / one.vessel.dry_fibre_g
        assert ratio == pytest.approx(old.vessel.volume_ml / old.vessel.dry_fibre_g)
        assert grams_per_fibre(one) == pytest.approx(grams_per_fibre(old), rel=1e-6, abs=1e-9)
        is_last = old is before[-1]
        assert minutes(one, is_last) == minutes(old, is_last)


@pytest.mark.parametrize("beside", [None, ("dye", "dried-flowers"), ("mordant", "alum-acetate")])
def test_a_print_is_followed_in_its_rolls(beside):
    more = [{"kind": beside[0], "levels": levels(beside[1])}] if beside else []
    sources = {"kind": "source", "levels": levels("fresh-leaves", "fresh-flowers")}
    factors = [{"kind": "fibre", "levels": levels("silk", "cotton")}, *more, sources]
    columns = [one["kind"] for one in factors[1:]]
    plan = StudyPlan.model_validate({"name": "Prints", "factors": factors, "rows": ["fibre"], "columns": columns})
    study = on_paper(plan, STARTING_SHELF)
    code = study.planned[0].code
    before = chain(bench_of(study, USUAL), code)
    again = followed(study, before, code, 100.0)
    assert [one.vessel.sources for one in again] == [one.vessel.sources for one in before]
    for old, one in zip(before, again, strict=True):
        assert grams_per_fibre(one) == pytest.approx(grams_per_fibre(old), rel=1e-6)
        assert minutes(one, old is before[-1]) == minutes(old, old is before[-1])


SPOONS = (
    {"item": "vinegar", "amount": 2, "unit": "tbsp", "moment": "with the pieces in", "after_min": 20},
    {"item": "soda-ash", "amount": 0.5, "unit": "tsp"},
    {"item": "citric-acid", "amount": 1, "unit": "g"},
    {"item": "vinegar", "amount": 12, "unit": "drops"},
    {"item": "vinegar", "amount": 3, "unit": "mL/L"},
)


@st.composite
def with_spoons(draw) -> StudyPlan:
    """A plan whose dye baths have grams, litres and spoons of their own."""
    added = draw(st.lists(st.sampled_from(SPOONS), min_size=1, max_size=2))
    fibres = draw(st.lists(st.sampled_from(("wool", "silk", "cotton", "polyester")), min_size=2, unique=True))
    factors = [
        {"kind": "fibre", "levels": [{"key": key, "label": key} for key in fibres]},
        {"kind": "dye", "levels": [{"key": "insect-dye", "label": "Insect"}]},
        {"kind": "strength", "levels": [{"key": "s", "label": "7 g", "grams": 7}]},
        {"kind": "addition", "levels": [{"key": "a", "label": "Added", "additions": added}]},
        {"kind": "iron", "levels": [{"key": "i", "label": "Iron", "grams": 0.4, "route": "pot"}]},
    ]
    plan = StudyPlan.model_validate(
        {
            "name": "By the spoon",
            "factors": factors,
            "rows": ["fibre"],
            "columns": ["dye", "strength", "addition", "iron"],
            "swatch_mass_g": draw(st.floats(2, 30)),
        }
    )
    if draw(st.booleans()):
        key = vessels_of(on_paper(plan, STARTING_SHELF))[0].key
        litres = draw(st.floats(0.5, 3))
        plan = plan.model_copy(update={"own_vessels": (OwnVessel(bath=key, litres=litres),)})
    return plan


def ph_of(one: BenchVessel) -> list[float]:
    """After each thing that is put in, in plain water."""
    return [after.ph_after for after in one.amounts.course]


@settings(max_examples=25, deadline=None, suppress_health_check=[HealthCheck.too_slow])
@given(with_spoons(), st.integers(0, 10**6))
def test_one_piece_made_again_has_the_concentrations_and_the_ph_of_its_origin(plan: StudyPlan, which: int):
    study = on_paper(plan, STARTING_SHELF)
    (origin,) = chain(bench_of(study, USUAL), study.planned[0].code)
    assume(origin.vessel.parts == 1)
    lost = study.planned[which % len(study.planned)]
    taken = Taken(
        past={one.code: frozenset({origin.vessel.stage}) for one in study.planned},
        has_record=True,
        names=frozenset({origin.name}),
        liquors=(BegunLiquor.model_validate(origin.vessel.model_dump(include=set(BegunLiquor.model_fields))),),
        lost=frozenset({lost.code}),
    )
    begun = [one.model_copy(update={"begun": True, "settled": True}) for one in study.swatches]
    before = replace(study, taken=taken, swatches=begun)
    again = with_open_made_again(before)
    placed = place_swatches(again, before.cells, begun, before.archive)
    new = [with_code(one, 1000 + i) for i, one in enumerate(placed.new)]
    after = replace(before, plan=again).with_swatches([*placed.swatches, *new], {})
    (made,) = chain(bench_of(after, USUAL, [begun_(origin)]), new[0].code)
    for other in (made, *followed(study, [origin], lost.code, 55.0)):
        assert grams_per_fibre(other) == pytest.approx(grams_per_fibre(origin), rel=1e-6)
        ratio = other.vessel.volume_ml / other.vessel.dry_fibre_g
        assert ratio == pytest.approx(origin.vessel.volume_ml / origin.vessel.dry_fibre_g)
        assert ph_of(other) == pytest.approx(ph_of(origin), abs=0.1)
        assert minutes(other, True) == minutes(origin, True)


def test_what_was_put_in_at_the_bench_belongs_to_the_recipe():
    study = on_paper(SMALL, STARTING_SHELF)
    code = study.planned[0].code
    dye = next(one for one in chain(bench_of(study, USUAL), code) if one.vessel.bath == "dye")
    acid = {"what": "substance", "item": "vinegar", "amount": 1, "unit": "tbsp", "name": "vinegar", "grams": 15}
    log = [
        entry(1, "addition", after_min=30, vessel=dye.name, step="hold", addition=acid),
        entry(2, "reheat", after_min=600, vessel=dye.name, step="", temperature_c=80),
        entry(3, "addition", after_min=5, vessel="Z9", addition=acid),
    ]
    (bath,) = followed_baths([PassedThrough(dye, START, log)], code)
    (added,) = bath.additions
    assert (added.item, added.amount, added.unit, added.after_min) == ("vinegar", 1, "tbsp", 30)
    assert bath.reheats == 1
    (again,) = followed(study, [dye], code, 2 * dye.vessel.dry_fibre_g, log)
    (vinegar,) = [f for f in again.amounts.figures if f.role == "addition"]
    assert vinegar.volume_ml == pytest.approx(30)
