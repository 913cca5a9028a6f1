"""Differences from a chosen reference, which of them can be told, and what they rest on."""

import numpy as np
import pytest
from tests.small_study import cells_of, small_plan

from zesty_grid.core.compare.reference import (
    BeforeReference,
    CellReference,
    CellWay,
    FactorReference,
    compare_before,
    compare_cells,
    error_words,
)
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.difference_uncertainty import Seen

CELLS = cells_of(StudyPlan.model_validate(small_plan()))


def seen(lab, photo: int = 1) -> Seen:
    return Seen(lab=lab, photo=photo, capture=1, camera="A")


def pieces(step: float):
    """A piece in each cell, each so much lighter than the one before, all in one photo."""
    return {CellWay(cell.key): [[seen((50 + step * i, 10, 10))]] for i, cell in enumerate(CELLS)}


def test_every_other_cell_is_compared_with_the_chosen_one():
    found = compare_cells(CELLS, pieces(1.0), CellReference(cell=CELLS[0].key))
    assert len(found) == len(CELLS) - 1
    last = found[-1]
    expected = delta_e_2000(np.array([50, 10, 10.0]), np.array([50 + 17, 10, 10.0]))
    assert last.difference.de00 == pytest.approx(float(expected))


def test_same_but_for_one_factor():
    reference = FactorReference(factor="iron", level="iron-0")
    found = compare_cells(CELLS, pieces(1.0), reference)
    assert len(found) == 8
    assert all(one.reference == one.cell.replace("iron-1", "iron-0") for one in found)


def test_what_two_equal_colours_are_often_read_apart_cannot_be_told():
    found = compare_cells(CELLS, pieces(0.7), CellReference(cell=CELLS[0].key))
    # In one photo the limit is a little over 1 ΔE00: see the tests of the uncertainty itself.
    assert [one.distinguishable for one in found[:3]] == [False, True, True]
    assert found[0].limit_de00 == pytest.approx(found[1].limit_de00)


def test_unread_cells_and_an_unread_reference_give_nothing():
    some = pieces(1.0)
    del some[CellWay(CELLS[0].key)]
    assert compare_cells(CELLS, some, CellReference(cell=CELLS[0].key)) == []
    assert len(compare_cells(CELLS, some, CellReference(cell=CELLS[1].key))) == len(CELLS) - 2


@pytest.mark.parametrize("factor", ["fibre", "mordant", "ph", "iron"])
def test_a_factor_reference_changes_that_factor_and_nothing_else(factor):
    level = CELLS[0].levels[factor]
    found = compare_cells(CELLS, pieces(1.0), FactorReference(factor=factor, level=level))
    by_key = {cell.key: cell for cell in CELLS}
    assert found
    for one in found:
        cell, base = by_key[one.cell].levels, by_key[one.reference].levels
        assert {kind for kind in cell if cell[kind] != base.get(kind)} == {factor}
        assert base[factor] == level


def test_the_same_pair_differs_as_much_from_either_side():
    there = compare_cells(CELLS, pieces(1.0), CellReference(cell=CELLS[2].key))
    back = compare_cells(CELLS, pieces(1.0), CellReference(cell=CELLS[5].key))
    one = next(d for d in there if d.cell == CELLS[5].key)
    other = next(d for d in back if d.cell == CELLS[2].key)
    assert one.difference.de00 == pytest.approx(other.difference.de00)
    assert one.limit_de00 == pytest.approx(other.limit_de00)
    assert one.difference.dl == pytest.approx(-other.difference.dl)


def test_an_unknown_reference_gives_nothing():
    assert compare_cells(CELLS, pieces(1.0), CellReference(cell="fibre=moonbeam")) == []
    nowhere = FactorReference(factor="dye", level="moonbeam")
    assert compare_cells(CELLS, pieces(1.0), nowhere) == []


def test_a_piece_counts_once_however_often_it_was_read():
    twice = {
        CellWay("a"): [[seen((50, 0, 0)), seen((52, 0, 0))], [seen((60, 0, 0))]],
        CellWay("b"): [[seen((50, 0, 0))]],
    }
    cell = CELLS[0].model_copy(update={"key": "a"})
    (found,) = compare_cells([cell], twice, CellReference(cell="b"))
    # (51 + 60) / 2 against 50.
    assert found.difference.dl == pytest.approx(5.5)
    assert found.pieces == 2


def test_before_and_after_are_compared_piece_by_piece_with_themselves():
    before = {CellWay("a"): [[seen((60, 0, 30))]], CellWay("b"): []}
    after = {CellWay("a"): [[seen((40, 0, 20), photo=2)]], CellWay("b"): [[seen((10, 0, 0))]]}
    (found,) = compare_before(before, after)
    assert (found.cell, found.reference) == ("a", "a")
    assert found.difference.dl == pytest.approx(-20)
    assert found.distinguishable


def test_pieces_that_went_on_by_different_ways_stay_apart():
    yellow, green, olive = (75.0, 0.0, 60.0), (45.0, -20.0, 20.0), (40.0, 0.0, 25.0)
    ways = {
        CellWay("a"): [[seen(yellow)]],
        CellWay("b", "iron"): [[seen(olive)]],
        CellWay("b", "blue"): [[seen(green)]],
        CellWay("c", "iron"): [[seen(olive)]],
    }
    cells = [CELLS[0].model_copy(update={"key": key}) for key in "abc"]
    from_yellow = compare_cells(cells, ways, CellReference(cell="a"))
    assert [(one.cell, one.way, one.pieces) for one in from_yellow] == [
        ("b", "iron", 1),
        ("b", "blue", 1),
        ("c", "iron", 1),
    ]
    # A way is laid against the same way of the reference; the yellow has no such piece to lie beside.
    from_both = compare_cells(cells, ways, CellReference(cell="b"))
    assert [(one.cell, one.way, round(one.difference.de00)) for one in from_both] == [("c", "iron", 0)]


def test_which_error_was_looked_at_stands_beside_the_figures():
    assert "What is real" in error_words(CellReference(cell="a"))
    assert "What is real" in error_words(FactorReference(factor="ph", level="a"))
    assert "its own measure" in error_words(BeforeReference())
