"""What a grid can tell of each of its factors."""

from typing import Literal

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.noise.levels import Noise, NoiseLevels
from zesty_grid.core.noise.together import Together
from zesty_grid.core.plan.bath import BathKind
from zesty_grid.core.plan.factors import FactorKind


class LevelCount(Frozen):
    """How often a level is there. `vessels` is None for a level that goes into no vessel."""

    level: str
    label: str
    swatches: int
    vessels: int | None


class PairTold(Frozen):
    """Two levels, and the smallest difference between them that would be found 8 times in 10, now and with one more
    vessel (or swatch) of each. None: they never lie beside each other with all else the same."""

    from_level: str
    to_level: str
    how: Literal["alike", "together", "summed", "never"]
    together: tuple[Together, ...] = ()
    shows_de00: float | None = None
    one_more_shows_de00: float | None = None


class Promise(Frozen):
    """What Tell said of two levels when the first bath began."""

    factor: FactorKind
    from_level: str
    to_level: str
    shows_de00: float


class Effect(Frozen):
    """Whether a factor's effect can be told, and the smallest that would be found 8 times in 10 between any two of its
    levels, now and with one more vessel (or swatch) of each. `between` is the kind of bath that keeps levels in vessels
    of their own; None: they share theirs. `same_cloth`: levels that are zones of one cloth, on so many cloths; how much
    such zones differ where nothing was changed is not known."""

    factor: FactorKind
    name: str
    between: BathKind | None
    levels: tuple[LevelCount, ...]
    can_be_told: bool
    pairs: tuple[PairTold, ...] = ()
    smallest_difference_de00: float | None = None
    one_more_shows_de00: float | None = None
    same_cloth: int | None = None
    words: str = ""


class Telling(Frozen):
    """`noise` is what it was told against; `start` where that began, and the noise of a reading. `promised` when the
    first bath began; none: none has."""

    noise: Noise
    start: NoiseLevels
    swatches: int
    effects: tuple[Effect, ...]
    promised: tuple[Promise, ...] | None = None
