"""Lots that are mixed from other lots."""

from zesty_grid.core.shelf.items import DyeLot
from zesty_grid.core.shelf.shelf import Shelf


def parts_of_lot(lot: DyeLot, grams: float, shelf: Shelf) -> list[tuple[DyeLot, float]]:
    """A mixture as the lots that are in it, with their grams; a plain lot is itself."""
    parts = [(shelf.dye_lot(part.lot), part.percent) for part in lot.mixture]
    if not parts or any(own is None for own, _ in parts):
        return [(lot, grams)]
    return [(own, grams * percent / 100) for own, percent in parts if own is not None]
