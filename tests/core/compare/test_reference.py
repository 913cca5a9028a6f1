"""Differences from a chosen reference, and which can be told."""

import numpy as np
import pytest
from tests.small_study import cells_of, small_plan

from zesty_grid.core.compare.reference import (
    CellColour,
    CellReference,
    FactorReference,
    compare_cells,
)
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.read.colour_difference import delta_e_2000

CELLS = cells_of(StudyPlan.model_validate(small_plan()))


def colours(step: float, uncertainty: float = 0.3) -> list[CellColour]:
    return [
        CellColour(cell=cell.key, lab=(50 + step * i, 10, 10), uncertainty_de00=uncertainty)
        for i, cell in enumerate(CELLS)
    ]


def test_every_other_cell_is_compared_with_the_chosen_one():
    found = compare_cells(CELLS, colours(1.0), CellReference(cell=CELLS[0].key))
    assert len(found) == len(CELLS) - 1
    last = found[-1]
    expected = delta_e_2000(np.array([50, 10, 10.0]), np.array([50 + 17, 10, 10.0]))
    assert last.difference.de00 == pytest.approx(float(expected))


def test_same_but_for_one_factor():
    reference = FactorReference(factor="iron", level="iron-0")
    found = compare_cells(CELLS, colours(1.0), reference)
    assert len(found) == 8
    assert all(one.reference == one.cell.replace("iron-1", "iron-0") for one in found)


def test_differences_within_twice_the_combined_uncertainty_are_not_distinguishable():
    # Two readings of ±0.3 combine to 0.42; with coverage factor 2 (JCGM 100) the limit is 0.85.
    found = compare_cells(CELLS, colours(0.5), CellReference(cell=CELLS[0].key))
    assert found[0].uncertainty_de00 == pytest.approx(0.424, abs=1e-3)
    assert [one.distinguishable for one in found[:3]] == [False, True, True]


def test_unread_cells_and_an_unread_reference_give_nothing():
    some = colours(1.0)[1:]
    assert compare_cells(CELLS, some, CellReference(cell=CELLS[0].key)) == []
    assert len(compare_cells(CELLS, some, CellReference(cell=CELLS[1].key))) == len(CELLS) - 2


@pytest.mark.parametrize("factor", ["fibre", "mordant", "ph", "iron"])
def test_a_factor_reference_changes_that_factor_and_nothing_else(factor):
    level = CELLS[0].levels[factor]
    found = compare_cells(CELLS, colours(1.0), FactorReference(factor=factor, level=level))
    by_key = {cell.key: cell for cell in CELLS}
    assert found
    for one in found:
        cell, base = by_key[one.cell].levels, by_key[one.reference].levels
        assert {kind for kind in cell if cell[kind] != base.get(kind)} == {factor}
        assert base[factor] == level


def test_the_same_pair_differs_as_much_from_either_side():
    there = compare_cells(CELLS, colours(1.0), CellReference(cell=CELLS[2].key))
    back = compare_cells(CELLS, colours(1.0), CellReference(cell=CELLS[5].key))
    one = next(d for d in there if d.cell == CELLS[5].key)
    other = next(d for d in back if d.cell == CELLS[2].key)
    assert one.difference.de00 == pytest.approx(other.difference.de00)
    assert one.difference.dl == pytest.approx(-other.difference.dl)


def test_an_unknown_reference_gives_nothing():
    assert compare_cells(CELLS, colours(1.0), CellReference(cell="fibre=moonbeam")) == []
    nowhere = FactorReference(factor="dye", level="moonbeam")
    assert compare_cells(CELLS, colours(1.0), nowhere) == []
