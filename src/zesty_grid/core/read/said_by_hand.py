"""What a person says of a cell of a photo, against what was found in it."""

from typing import Annotated

from pydantic import Field

from zesty_grid.core.frozen import Frozen

PointPx = tuple[float, float]
MOST_SAID_ZONES = 6
Coordinate = Annotated[float, Field(ge=-1e6, le=1e6, allow_inf_nan=False)]
Outline = Annotated[tuple[tuple[Coordinate, Coordinate], ...], Field(min_length=3, max_length=400)]


class Area(Frozen):
    """A part of a piece drawn on the photo, in its pixels."""

    name: Annotated[str, Field(max_length=40)] = ""
    outline_px: Outline


class CellByHand(Frozen):
    """`zone_count`: so many colours (0: as many as are found). `areas`: the piece, or its zones, as
    drawn. `left_out`: not to be measured. `empty`: nothing lies there that is to be measured. `opaque`:
    nothing of the page shows through."""

    cell: Annotated[str, Field(max_length=8)]
    zone_count: Annotated[int, Field(ge=0, le=MOST_SAID_ZONES)] = 0
    areas: Annotated[tuple[Area, ...], Field(max_length=12)] = ()
    left_out: Annotated[tuple[Outline, ...], Field(max_length=12)] = ()
    empty: bool = False
    opaque: bool = False
