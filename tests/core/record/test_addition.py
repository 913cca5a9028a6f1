"""What goes into a bath, in whatever measure it is taken, and what is asked before it is logged."""

import pytest
from tests.bench import bench_for, entry

from zesty_grid.core.record.addition import Addition, words_of, worked_out
from zesty_grid.core.record.checking import check_entry, question_about
from zesty_grid.core.record.entry import NewBenchEntry
from zesty_grid.core.refusal import Refusal
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF

BENCH = bench_for()


def put_in(item: str, amount: float, unit: str, what: str = "substance", **more) -> Addition:
    said = {"what": what, "item": item, "amount": amount, "unit": unit} | more
    return worked_out(Addition.model_validate(said), STARTING_SHELF)


@pytest.mark.parametrize(
    ("item", "amount", "unit", "more", "grams"),
    [
        ("soda-ash", 5, "g", {}, 5),
        # A 1 % stock holds 1 g in 100 mL.
        ("soda-ash", 5, "mL", {"stock_percent": 1}, 0.05),
        ("iron-sulphate", 0.25, "L", {"stock_percent": 2}, 5),
        # 20 drops make a millilitre: common practice.
        ("ammonia", 20, "drops", {}, 1),
        ("citric-acid", 40, "drops", {"stock_percent": 10}, 0.2),
        # A level teaspoon of alum weighs about 5 g, a tablespoon is three: common practice.
        ("potassium-alum", 2, "tsp", {}, 10),
        ("potassium-alum", 1, "tbsp", {}, 15),
        ("cream-of-tartar", 1, "pinch", {}, 3 / 16),
        ("vinegar", 1, "tbsp", {}, 15),
        ("vinegar", 50, "mL", {}, 50),
    ],
)
def test_every_measure_comes_out_in_grams_with_its_working(item, amount, unit, more, grams):
    found = put_in(item, amount, unit, **more)
    assert found.grams == pytest.approx(grams)
    assert found.working
    assert found.name in words_of(found)


def test_the_words_say_the_stock_and_the_grams():
    said = words_of(put_in("iron-sulphate", 5, "mL", stock_percent=1))
    assert said == "5 mL of the 1 % stock of Iron(II) sulphate (0.05 g)"
    assert words_of(put_in("ammonia", 1, "drops")).startswith("1 drop Ammonia")


def test_what_cannot_be_told_in_grams_is_refused_with_the_way_out():
    with pytest.raises(Refusal, match="millilitres of it say nothing"):
        put_in("soda-ash", 5, "mL")
    with pytest.raises(Refusal, match="spoon of Washing soda"):
        put_in("washing-soda", 1, "tsp")
    with pytest.raises(Refusal, match="not on the Shelf"):
        put_in("dragon-scale", 1, "g")


def test_water_and_extract_have_a_volume_and_no_grams():
    water = put_in("", 0.5, "L", what="water")
    assert (water.grams, water.volume_ml) == (None, 500)
    extract = put_in("E1", 40, "mL", what="extract")
    assert (extract.name, extract.volume_ml) == ("extract of E1", 40)


def test_five_millilitres_are_not_taken_for_five_grams():
    """Typed in the stock that the plan measures out, nothing is asked; five grams are."""
    dye = BENCH["D2"]
    planned = dye.amounts.ph.figure
    assert planned.stock_percent == 1
    key = next(s.key for s in STARTING_SHELF.substances if s.name.lower() == planned.name)
    assert question_about(put_in(key, 5, "mL", stock_percent=1), dye, []) is None
    asked = question_about(put_in(key, 50, "g"), dye, [])
    assert asked.startswith("That is 50.0 g where")


def test_what_was_given_before_counts_and_a_correction_does_not_count_twice():
    dye = BENCH["D2"]
    planned_g = dye.amounts.ph.figure.grams
    dose = put_in("soda-ash", planned_g, "g")
    log = [entry(1, "addition", vessel="D2", step="set-ph", addition=dose)]
    asked = question_about(dose, dye, log)
    assert "with the" in asked
    assert "that are in already" in asked
    assert question_about(dose, dye, log, corrects=1) is None


def test_the_unplanned_is_asked_about_but_a_drop_is_not():
    dye = BENCH["D1"]
    assert "No Iron(II) sulphate is planned" in question_about(put_in("iron-sulphate", 1, "g"), dye, [])
    assert question_about(put_in("ammonia", 1, "drops"), dye, []) is None
    litres = dye.vessel.volume_ml / 1000
    assert "whole bath" in question_about(put_in("", litres + 1, "L", what="water"), dye, [])
    assert question_about(put_in("", 100, "mL", what="water"), dye, []) is None


def test_an_odd_addition_is_asked_about_once_and_then_kept():
    said = NewBenchEntry(kind="addition", vessel="D1", addition=put_in("soda-ash", 400, "g"))
    with pytest.raises(Refusal) as refused:
        check_entry(said, BENCH["D1"], (), [])
    assert refused.value.code == "far-from-planned"
    check_entry(said.model_copy(update={"sure": True}), BENCH["D1"], (), [])


def test_a_note_needs_neither_vessel_nor_step_and_is_never_refused():
    check_entry(NewBenchEntry(kind="note", note="rain all day"), None, (), [])
    check_entry(NewBenchEntry(kind="note", note="smells", vessel="D1"), BENCH["D1"], (), [])
    with pytest.raises(Refusal, match="at which vessel"):
        check_entry(NewBenchEntry(kind="done"), None, (), [])
    with pytest.raises(Refusal, match="no D9"):
        check_entry(NewBenchEntry(kind="note", note="n", vessel="D9"), None, (), [])
    with pytest.raises(Refusal, match="no such step"):
        check_entry(NewBenchEntry(kind="done", vessel="D1", step="boil"), BENCH["D1"], (), [])


def test_a_correction_that_leaves_the_addition_as_it_was_is_not_asked_again():
    added = put_in("soda-ash", 400, "g")
    log = [entry(1, "addition", vessel="D1", addition=added.model_dump())]
    mended = NewBenchEntry(kind="addition", vessel="D1", addition=added, note="hot", replaces=1)
    check_entry(mended, BENCH["D1"], (), log)
    more = mended.model_copy(update={"addition": put_in("soda-ash", 500, "g")})
    with pytest.raises(Refusal) as refused:
        check_entry(more, BENCH["D1"], (), log)
    assert refused.value.code == "far-from-planned"
