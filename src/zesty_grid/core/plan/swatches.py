"""Swatches: the physical replicates of the cells."""

from collections.abc import Iterable
from typing import NamedTuple

from zesty_grid.core.plan.cells import Cell


class SwatchPlace(NamedTuple):
    """Replicate `replicate` (from 1) of a cell; `key` names it before it has a code."""

    key: str
    cell: str
    replicate: int


def swatch_key(cell: str, replicate: int) -> str:
    """The first replicate goes by the key of its cell."""
    return cell if replicate == 1 else f"{cell}#{replicate}"


def swatches_of(cells: Iterable[Cell], replicates: int) -> list[SwatchPlace]:
    """Every swatch of the included cells, replicate by replicate within each cell."""
    return [
        SwatchPlace(swatch_key(cell.key, r), cell.key, r)
        for cell in cells
        if cell.included
        for r in range(1, replicates + 1)
    ]
