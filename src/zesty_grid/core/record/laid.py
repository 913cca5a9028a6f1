"""What lies where on a cloth: the map that is drawn when it is laid."""

from collections.abc import Sequence
from math import ceil, sqrt
from typing import Annotated

from pydantic import Field

from zesty_grid.core.frozen import Frozen

Share = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]
Part = Annotated[float, Field(gt=0, le=1, allow_inf_nan=False)]
MARGIN = 0.02


class LaidZone(Frozen):
    """A rectangle in shares of the cloth's width and height, from its top left."""

    zone: Annotated[str, Field(min_length=1, max_length=120)]
    x: Share
    y: Share
    width: Part
    height: Part


def mirrored(zones: Sequence[LaidZone]) -> tuple[LaidZone, ...]:
    """What lies face down on a map: left and right change places."""
    return tuple(zone.model_copy(update={"x": max(0.0, 1 - zone.x - zone.width)}) for zone in zones)


def laid_evenly(zones: Sequence[str]) -> tuple[LaidZone, ...]:
    """A map to begin with: the zones in rows, each as large as the others."""
    if not zones:
        return ()
    across = ceil(sqrt(len(zones)))
    down = ceil(len(zones) / across)
    return tuple(
        LaidZone(
            zone=zone,
            x=(i % across) / across + MARGIN,
            y=(i // across) / down + MARGIN,
            width=1 / across - 2 * MARGIN,
            height=1 / down - 2 * MARGIN,
        )
        for i, zone in enumerate(zones)
    )
