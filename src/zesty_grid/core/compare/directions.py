"""What a difference in colour is: lighter or darker, clearer or duller, and how the hue turns."""

import numpy as np
from scipy.special import ndtri

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.noise.detecting import SIGNIFICANCE, chance, widened
from zesty_grid.core.read.colour_difference import directions_2000
from zesty_grid.core.read.colour_space import Floats

NAMES = ("lightness", "chroma", "hue")
STEP = 0.05
# A grey has no hue to turn.
LEAST_CHROMA = 5.0
# Hue angles of the unique hues in CIELAB, rounded; from memory of the literature.
UNIQUE_HUES = ((24, "redder"), (90, "yellower"), (162, "greener"), (246, "bluer"))


class DirectionChange(Frozen):
    """A change along one direction of colour in ΔE00, with its 95 % range and a word for it."""

    direction: str
    change_de00: float
    low_de00: float
    high_de00: float
    word: str
    real: bool


def unit_2000(lab: Floats) -> Floats:
    """The matrix (3, 3) that takes a small change in L*a*b* at a colour to lightness, chroma and
    hue, each in ΔE00."""
    steps = STEP * np.eye(3)
    here = np.broadcast_to(np.asarray(lab, float), (3, 3))
    return np.asarray(directions_2000(here - steps / 2, here + steps / 2).T / STEP)


def changes_along(before: Floats, after: Floats, error: float, df: float | None) -> list[DirectionChange]:
    """The mean change of pairs of colours (k, 3) in each direction; `error` is its standard deviation there."""
    change = np.asarray(directions_2000(before, after)).mean(axis=0)
    words = [direction_words(first, second) for first, second in zip(before, after, strict=True)]
    wide = error * widened(df, 1) * float(ndtri(0.975))
    found = []
    for k, name in enumerate(NAMES):
        said = {own[k] for own in words}
        found.append(
            DirectionChange(
                direction=name,
                change_de00=float(change[k]),
                low_de00=float(change[k]) - wide,
                high_de00=float(change[k]) + wide,
                word=said.pop() if len(said) == 1 else _mean_word(k, float(change[k])),
                real=chance(abs(float(change[k])), error, df, 1) < SIGNIFICANCE,
            )
        )
    return found


def _mean_word(direction: int, change: float) -> str:
    if direction == 2:
        return "of another hue"
    return (("darker", "lighter"), ("duller", "clearer"))[direction][change > 0]


def direction_words(first: Floats, second: Floats) -> tuple[str, str, str]:
    """How the second colour differs from the first in lightness, chroma and hue."""
    first, second = np.asarray(first, float), np.asarray(second, float)
    chroma = [float(np.hypot(one[1], one[2])) for one in (first, second)]
    return (
        "lighter" if second[0] > first[0] else "darker",
        "clearer" if chroma[1] > chroma[0] else "duller",
        _turn(first, second) if min(chroma) > LEAST_CHROMA else "of another hue",
    )


def _turn(first: Floats, second: Floats) -> str:
    hues = [float(np.degrees(np.arctan2(one[2], one[1]))) for one in (first, second)]
    turned = (hues[1] - hues[0] + 180) % 360 - 180
    middle, way = hues[0] + turned / 2, 1 if turned > 0 else -1
    # The next unique hue on the way from the middle of the two.
    return min(UNIQUE_HUES, key=lambda one: (way * (one[0] - middle)) % 360)[1]
