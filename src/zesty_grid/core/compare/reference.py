"""Differences of every cell from a chosen reference, and which of them can be told at all."""

from collections.abc import Iterable
from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.cells import Cell, cell_key
from zesty_grid.core.plan.factors import FactorKind
from zesty_grid.core.read.colour_difference import ColourDifference, cielab_difference
from zesty_grid.core.read.measurement import Lab
from zesty_grid.core.read.readings import Reading

# A difference is told from none when it is larger than twice its standard uncertainty
# (coverage about 95 %; Guide to the Expression of Uncertainty in Measurement, JCGM 100).
COVERAGE_FACTOR = 2.0


class CellReference(Frozen):
    """All cells are compared with one cell or control."""

    mode: Literal["cell"] = "cell"
    cell: str


class FactorReference(Frozen):
    """Each cell is compared with the cell that is the same but for this factor."""

    mode: Literal["factor"] = "factor"
    factor: FactorKind
    level: str


Reference = Annotated[CellReference | FactorReference, Field(discriminator="mode")]


class CellColour(Frozen):
    cell: str
    lab: Lab
    uncertainty_de00: float


def colours_of_cells(newest: Iterable[Reading]) -> list[CellColour]:
    """The mean colour of each cell's swatches, and the standard uncertainty of that mean.

    With one swatch the uncertainty is its reading's; with more, the mean of theirs over √n.
    """
    by_cell: dict[str, list[Reading]] = {}
    for reading in newest:
        by_cell.setdefault(reading.cell, []).append(reading)
    found = []
    for cell, own in by_cell.items():
        lightness, a, b = np.mean([reading.lab for reading in own], axis=0).tolist()
        squares = sum(reading.uncertainty_de00**2 for reading in own)
        found.append(
            CellColour(
                cell=cell,
                lab=(lightness, a, b),
                uncertainty_de00=float(np.sqrt(squares)) / len(own),
            )
        )
    return found


class CellDifference(Frozen):
    """`distinguishable` is False where the difference drowns in the measuring uncertainty."""

    cell: str
    reference: str
    difference: ColourDifference
    uncertainty_de00: float
    distinguishable: bool


def compare_cells(
    cells: list[Cell], colours: list[CellColour], reference: CellReference | FactorReference
) -> list[CellDifference]:
    """The difference of every read cell from its reference; unread ones are left out."""
    colour_of = {colour.cell: colour for colour in colours}
    found = []
    for cell in cells:
        sample = colour_of.get(cell.key)
        base = colour_of.get(_reference_key(cell, reference))
        if sample is None or base is None or sample.cell == base.cell:
            continue
        difference = cielab_difference(np.array(base.lab), np.array(sample.lab))
        uncertainty = float(np.hypot(base.uncertainty_de00, sample.uncertainty_de00))
        found.append(
            CellDifference(
                cell=cell.key,
                reference=base.cell,
                difference=difference,
                uncertainty_de00=uncertainty,
                distinguishable=difference.de00 > COVERAGE_FACTOR * uncertainty,
            )
        )
    return found


def _reference_key(cell: Cell, reference: CellReference | FactorReference) -> str:
    if isinstance(reference, CellReference):
        return reference.cell
    if reference.factor not in cell.levels:
        return ""
    added = cell.control if cell.key.startswith("control=") else None
    return cell_key(cell.levels | {reference.factor: reference.level}, added)
