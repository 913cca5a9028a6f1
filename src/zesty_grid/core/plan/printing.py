"""How cloths are rolled for a print, and how they are folded for a dip."""

from typing import Annotated, Literal

from pydantic import Field

from zesty_grid.core.frozen import Frozen

Wrap = Literal["nothing", "cloth", "paper", "plastic film"]
Core = Literal["nothing", "a stick", "a metal pipe", "a plastic pipe", "a jar"]
Tied = Annotated[str, Field(max_length=60)]
MELTS = ("plastic film", "a plastic pipe")


class Rolling(Frozen):
    """So many cloths lie on one another in a roll: two of them face to face print on both, and one
    may be the blanket of the other."""

    cloths_per_roll: Annotated[int, Field(ge=1, le=12)] = 1
    rolled_on: Core = "a stick"
    bound_with: Tied = "string"
    wrapped_in: Wrap = "nothing"

    @property
    def melts(self) -> tuple[str, ...]:
        """What of it melts in steam."""
        return tuple(one for one in (self.wrapped_in, self.rolled_on) if one in MELTS)


class Folding(Frozen):
    """`fold` and `corners` in words; `depth_cm` of them go `into` a bath."""

    fold: Tied = ""
    corners: Tied = ""
    depth_cm: Annotated[float, Field(gt=0, le=500, allow_inf_nan=False)] | None = None
    into: Literal["dye", "iron"] = "dye"
