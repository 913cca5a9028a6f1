"""Differences of every cell from a chosen reference, and which of them can be told at all."""

from collections.abc import Iterable, Mapping, Sequence
from typing import Annotated, Literal, NamedTuple

import numpy as np
from pydantic import Field

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.cells import Cell, cell_key
from zesty_grid.core.plan.factors import FactorKind
from zesty_grid.core.read.colour_difference import ColourDifference, cielab_differences
from zesty_grid.core.read.difference_uncertainty import Seen, difference_uncertainties, mean_lab
from zesty_grid.core.row_number import StateNumber

# The readings of the pieces of a cell that count, piece by piece.
Pieces = Sequence[Sequence[Seen]]


class CellWay(NamedTuple):
    """Pieces of one cell that went on by one way; empty: they did not go on."""

    cell: str
    way: str = ""


class CellReference(Frozen):
    """All cells are compared with one cell or control."""

    mode: Literal["cell"] = "cell"
    cell: str


class FactorReference(Frozen):
    """Each cell is compared with the cell that is the same but for this factor."""

    mode: Literal["factor"] = "factor"
    factor: FactorKind
    level: str


class BeforeReference(Frozen):
    """Each piece is compared with itself in the state before: before the bath of that name, or
    before its last one; or with itself in one `state`."""

    mode: Literal["before"] = "before"
    vessel: str = ""
    state: StateNumber | None = None


Reference = Annotated[CellReference | FactorReference | BeforeReference, Field(discriminator="mode")]


class CellDifference(Frozen):
    """`distinguishable` is False where two colours that are the same would often be read as far
    apart: the difference is no larger than `limit_de00`. `pieces` is how many were compared; those
    that went on by different ways stay apart."""

    cell: str
    way: str = ""
    reference: str
    difference: ColourDifference
    uncertainty_de00: float
    limit_de00: float
    distinguishable: bool
    pieces: int


class Comparison(Frozen):
    """`error_words` say which kind of error has been looked at, and which has not."""

    differences: tuple[CellDifference, ...]
    error_words: str


def compare_cells(
    cells: Iterable[Cell], seen: Mapping[CellWay, Pieces], reference: CellReference | FactorReference
) -> list[CellDifference]:
    """The difference of every read cell from its reference, way by way; unread ones are left out.

    A way is laid against the same way there, else against the pieces that did not go on, else
    against the only ones that there are.
    """
    ways: dict[str, dict[str, Pieces]] = {}
    for there, pieces in seen.items():
        ways.setdefault(there.cell, {})[there.way] = pieces
    pairs = []
    for cell in cells:
        base_key = _reference_key(cell, reference)
        bases = ways.get(base_key, {})
        for way, sample in ways.get(cell.key, {}).items():
            base = bases.get(way) or bases.get("") or (next(iter(bases.values())) if len(bases) == 1 else None)
            if base and base is not sample:
                pairs.append(_Pair(CellWay(cell.key, way), base_key, base, sample))
    return _differences(pairs)


def compare_before(before: Mapping[CellWay, Pieces], after: Mapping[CellWay, Pieces]) -> list[CellDifference]:
    """Pieces after a bath against the same pieces before it, cell by cell and way by way; only those
    read in both states are handed in."""
    return _differences([_Pair(key, key.cell, before[key], after[key]) for key in after if before.get(key)])


def error_words(reference: Reference) -> str:
    """What the limit of a difference rests on."""
    said = "Looked at: the error of reading colour."
    if isinstance(reference, BeforeReference):
        return f"{said} Each piece is its own measure, so that pots and cloth do not matter."
    return f"{said} Whether it would come out so again is in What is real."


class _Pair(NamedTuple):
    there: CellWay
    reference: str
    base: Pieces
    sample: Pieces


def _differences(pairs: Sequence[_Pair]) -> list[CellDifference]:
    """All together: one by one, thousands take seconds."""
    apart = cielab_differences(
        np.array([mean_lab(one.base) for one in pairs]).reshape(-1, 3),
        np.array([mean_lab(one.sample) for one in pairs]).reshape(-1, 3),
    )
    uncertain = difference_uncertainties([(one.base, one.sample) for one in pairs])
    return [
        CellDifference(
            cell=pair.there.cell,
            way=pair.there.way,
            reference=pair.reference,
            difference=difference,
            uncertainty_de00=off.uncertainty_de00,
            limit_de00=off.limit_de00,
            distinguishable=difference.de00 > off.limit_de00,
            pieces=len(pair.sample),
        )
        for pair, difference, off in zip(pairs, apart, uncertain, strict=True)
    ]


def _reference_key(cell: Cell, reference: CellReference | FactorReference) -> str:
    if isinstance(reference, CellReference):
        return reference.cell
    if reference.factor not in cell.levels:
        return ""
    added = cell.control if cell.added else None
    return cell_key(cell.levels | {reference.factor: reference.level}, added, cell.larger)
