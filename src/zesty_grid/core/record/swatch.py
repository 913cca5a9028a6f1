"""A swatch is a thing: from the moment its code is given out it goes by that code alone."""

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.factors import FactorKind
from zesty_grid.core.plan.masses import ControlKind
from zesty_grid.core.plan.study_plan import PieceUse

Levels = dict[FactorKind, str]


class Swatch(Frozen):
    """One physical piece, and the place that it has in a study.

    `levels` are those it was planned with, `true_levels` those it really got where it went another
    way. `control` and `larger` say that it is an added control or a larger piece. `planned`: the
    plan as it is now has a place for it. `begun`: it was in a bath of this study, or was read for
    it; then its levels stay. `settled`: its cloth is cut, so that fibre, mass and pieces stay.
    `parent` is the swatch that it was cut from.
    """

    code: str
    serial: int
    tie: str = ""
    fibre: str = ""
    mass_g: float
    pieces: tuple[PieceUse, ...]
    levels: Levels
    control: ControlKind | None = None
    larger: str | None = None
    replicate: int = 1
    planned: bool = True
    begun: bool = False
    settled: bool = False
    true_levels: Levels | None = None
    parent: str | None = None

    @property
    def added(self) -> bool:
        """It is none of the crossing."""
        return self.control is not None or self.larger is not None


class NewSwatch(Frozen):
    """A place in the plan that no swatch has yet; it is given a code when the plan is saved."""

    fibre: str
    mass_g: float
    pieces: tuple[PieceUse, ...]
    levels: Levels
    control: ControlKind | None
    larger: str | None
    replicate: int
    parent: str | None = None
