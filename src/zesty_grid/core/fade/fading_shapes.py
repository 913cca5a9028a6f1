"""The shapes by which colours are known to fade, as progress over dose.

First order to a plateau: one kind of dye, all of it as easily lost. Two pools: dye at the surface
goes fast, what lies deeper slowly. Power of the dose: many layers, each slower than the one above.
First another way: some mordanted yellows darken or redden before they fade. Source: the fading
literature (Giles 1965; Cox-Crews 1987; Johnston-Feller 2001), from memory.

Doses are in parts of the last stage's dose; progress is 1 at that stage. How strongly a shape may
bend is bounded so that each stays one that was reported.
"""

from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

import numpy as np

from zesty_grid.core.read.colour_space import Floats

FadingModel = Literal["no change", "plateau", "power", "two pools", "first another way"]

RATES = np.geomspace(0.12, 25.0, 22)
DEPTHS = np.array([0.01, 2.0, 8.0])
POWERS = np.linspace(0.15, 1.35, 17)
FAST_RATES = np.geomspace(3.0, 60.0, 8)
SLOW_RATES = np.geomspace(0.05, 1.5, 6)
FAST_SHARES = np.linspace(0.15, 0.85, 6)
FEWEST_STAGES: dict[FadingModel, int] = {
    "no change": 1,
    "plateau": 1,
    "power": 1,
    "two pools": 3,
    "first another way": 4,
}


@dataclass(frozen=True)
class Shape:
    """`parameters` (m, p): the bends that are weighed; `ways`: colour directions that it has."""

    model: FadingModel
    parameters: Floats
    ways: int

    def progress(self, doses: Floats) -> Floats:
        """Progress at doses (n,), for every bend: (m, n, ways)."""
        return _PROGRESS[self.model](self.parameters, np.asarray(doses, float))


def _plateau(parameters: Floats, doses: Floats) -> Floats:
    """First order in the dye that is left; a deep colour shows the first losses less (depth > 0),
    as K/S does not follow lightness in a straight line."""
    rate, depth = parameters[:, :1], parameters[:, 1:2]

    def seen(at: Floats | float) -> Floats:
        return np.asarray(np.log1p(depth) - np.log1p(depth * np.exp(-rate * at)))

    return np.asarray((seen(doses) / seen(1.0))[..., None])


def _power(parameters: Floats, doses: Floats) -> Floats:
    return np.asarray((doses ** parameters[:, :1])[..., None])


def _two_pools(parameters: Floats, doses: Floats) -> Floats:
    fast, slow, share = parameters[:, :1], parameters[:, 1:2], parameters[:, 2:3]

    def lost(at: Floats | float) -> Floats:
        gone = share * -np.expm1(-fast * at) + (1 - share) * -np.expm1(-slow * at)
        return np.asarray(gone)

    return np.asarray((lost(doses) / lost(1.0))[..., None])


def _first_another_way(parameters: Floats, doses: Floats) -> Floats:
    early, late = parameters[:, :1], parameters[:, 1:2]
    ways = [np.expm1(-rate * doses) / np.expm1(-rate) for rate in (late, early)]
    return np.stack(ways, axis=-1)


def _none(parameters: Floats, doses: Floats) -> Floats:
    return np.zeros((1, len(doses), 0))


_PROGRESS = {
    "no change": _none,
    "plateau": _plateau,
    "power": _power,
    "two pools": _two_pools,
    "first another way": _first_another_way,
}


@lru_cache(maxsize=1)
def known_shapes() -> tuple[Shape, ...]:
    """Every shape with the bends at which it is weighed."""
    pools = _all_of(FAST_RATES, SLOW_RATES, FAST_SHARES)
    turns = _all_of(FAST_RATES, np.geomspace(0.12, 2.0, 6))
    return (
        Shape("no change", np.zeros((1, 0)), 0),
        Shape("plateau", _all_of(RATES, DEPTHS), 1),
        Shape("power", POWERS[:, None], 1),
        Shape("two pools", pools, 1),
        Shape("first another way", turns, 2),
    )


@lru_cache(maxsize=64)
def progress_of(model: FadingModel, doses: bytes) -> Floats:
    """As a known shape's `progress`, of the bytes of doses (n,): all swatches of a trial are asked
    at the same parts of their last dose."""
    shape = next(one for one in known_shapes() if one.model == model)
    return shape.progress(np.frombuffer(doses))


def _all_of(*ranges: Floats) -> Floats:
    return np.stack([axis.ravel() for axis in np.meshgrid(*ranges, indexing="ij")], axis=1)
