"""How heavy the pieces are, and what larger pieces stay in the pots beside them."""

from typing import Annotated, Literal

from pydantic import Field, model_validator

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.factors import FactorKind
from zesty_grid.core.shelf.items import Key, Name

ControlKind = Literal["undyed", "unmordanted", "mordanted-undyed", "bridge"]
Mass = Annotated[float, Field(gt=0, le=5000, allow_inf_nan=False)]
MAX_OWN_MASSES = 40
MAX_LARGER_PIECES = 40


class OwnMass(Frozen):
    """A mass of its own for one fibre, for one kind of control, or for both together."""

    fibre: Key | None = None
    control: ControlKind | None = None
    mass_g: Mass

    @model_validator(mode="after")
    def _names_something(self) -> "OwnMass":
        if self.fibre is None and self.control is None:
            raise ValueError("an own mass names a fibre, a control, or both")
        return self


class LargerPiece(Frozen):
    """A full skein or garment that goes through the baths of one cell beside its swatches.

    Of a factor that its `levels` do not name it has the first level. Its `places` are read by
    name, each marked with a thread; it need not be cut.
    """

    key: Key
    name: Name
    levels: dict[FactorKind, Key]
    mass_g: Mass
    places: Annotated[tuple[Name, ...], Field(max_length=24)] = ()


def own_mass_g(own: tuple[OwnMass, ...], fibre: str | None, control: str | None, default_g: float) -> float:
    """Mass of a piece: what names both its fibre and its control counts most, then the control."""

    def fits(one: OwnMass) -> bool:
        return one.fibre in (None, fibre) and one.control in (None, control)

    fitting = [one for one in own if fits(one)]
    best = max(fitting, key=lambda one: (one.control is not None) * 2 + (one.fibre is not None), default=None)
    return best.mass_g if best else default_g
