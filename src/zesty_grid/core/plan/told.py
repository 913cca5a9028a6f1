"""What a grid can tell of each of its factors."""

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.bath import BathKind
from zesty_grid.core.plan.factors import FactorKind
from zesty_grid.core.plan.noise import NoiseEstimate


class LevelCount(Frozen):
    """How often a level is there. `vessels` is None for a level that goes into no vessel."""

    level: str
    label: str
    swatches: int
    vessels: int | None


class Effect(Frozen):
    """Whether a factor's effect can be told, and the smallest that would show 8 times in 10.

    `between` is the kind of bath whose vessels carry the comparison; None: within vessels, but for
    the levels in `alone`, which never share a vessel with the others. `degrees_of_freedom` None:
    too few to learn the noise from this study, taken as known. `smallest_if_noise_known_de00`
    trusts the noise levels instead of this study's own repeats. Either holds for a difference in
    the noisiest direction of colour.
    """

    factor: FactorKind
    name: str
    between: BathKind | None
    alone: tuple[str, ...] = ()
    levels: tuple[LevelCount, ...]
    can_be_told: bool
    smallest_difference_de00: float | None
    smallest_if_noise_known_de00: float | None
    degrees_of_freedom: int | None
    words: str
    warnings: tuple[str, ...] = ()


class Telling(Frozen):
    noise: NoiseEstimate
    swatches: int
    effects: tuple[Effect, ...]
    joint: tuple[str, ...]
