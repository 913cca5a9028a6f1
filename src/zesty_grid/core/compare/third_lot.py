"""Which lot would part levels that always went together."""

from collections.abc import Iterable

from zesty_grid.core.compare.compared import FactorEffect
from zesty_grid.core.plan.cells import Cell


def third_lot(effect: FactorEffect, cells: Iterable[Cell]) -> tuple[str, ...]:
    """Cells of the plan that were left out: the second level with what went with the first; of none, the first level
    with what went with the second. Empty where the levels lie beside each other, or the plan crosses no such cell."""
    if not effect.together:
        return ()
    left_out = [cell for cell in cells if not cell.included and not cell.added]
    for level, side in ((effect.to_level, "from_levels"), (effect.from_level, "to_levels")):
        found = tuple(
            cell.key
            for cell in left_out
            if _levels(cell).get(effect.factor) == level
            and all(_levels(cell).get(one.factor) in getattr(one, side) for one in effect.together)
        )
        if found:
            return found
    return ()


def _levels(cell: Cell) -> dict[str, str]:
    return {str(kind): level for kind, level in cell.levels.items()}
