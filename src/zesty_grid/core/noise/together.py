"""Levels that always go with each other."""

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.noise.crossing import Beside, Crossing


class Together(Frozen):
    """Levels of another factor that always go with the two that are compared, on either side."""

    factor: str
    from_levels: tuple[str, ...]
    to_levels: tuple[str, ...]


def goes_with(crossing: Crossing, beside: Beside) -> tuple[Together, ...]:
    return tuple(
        Together(
            factor=crossing.factors[other],
            from_levels=crossing.levels_with(beside, other, 0),
            to_levels=crossing.levels_with(beside, other, 1),
        )
        for other in beside.others
    )
