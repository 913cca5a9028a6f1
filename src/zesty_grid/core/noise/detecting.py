"""How large a difference in colour must be to be shown, and what a difference that was found may be.

A colour has three directions, and noise is taken as alike in each. The square of a difference over its variance is
then a noncentral χ² with three degrees of freedom (Johnson, Kotz, Balakrishnan, Continuous Univariate Distributions 2,
1995, ch. 29). Where the noise is learnt from repeats, F takes its place: the error counts as so much wider as F asks.
"""

from functools import lru_cache

import numpy as np
from scipy.optimize import brentq
from scipy.special import chdtrc, chdtri, chndtr, fdtrc, fdtri, ndtri

DIRECTIONS = 3
# A difference is called real where noise alone makes one as large 4 times in 100; its range holds 95 in 100, so that
# the two never contradict each other.
SIGNIFICANCE = 0.04
ABOVE_RANGE = 0.01
POWER = 0.8
# From so many standard deviations on the size is as good as a number of one direction.
FAR = 12.0


def chance(size: float, error: float, df: float | None, directions: int = DIRECTIONS) -> float:
    """That noise alone makes a difference of `size` or more. `error`: its standard deviation in each direction; `df`
    None: known."""
    if error <= 0:
        return 0.0 if size > 0 else 1.0
    square = (size / error) ** 2
    if df is None:
        return float(chdtrc(directions, square))
    return float(fdtrc(directions, df, square / directions))


def size_range(size: float, error: float, df: float | None, directions: int = DIRECTIONS) -> tuple[float, float]:
    """What the true size is 95 times in 100: from more than nothing exactly where `chance` is below 4 in 100."""
    wide = error * widened(df, directions)
    low = _true_size(size, wide, 1 - SIGNIFICANCE, directions)
    return low, _true_size(max(size, _usual_size(wide, directions)), wide, ABOVE_RANGE, directions)


def stays_under(size: float, error: float, df: float | None, directions: int = DIRECTIONS) -> float:
    """What the true size stays under 95 times in 100."""
    wide = error * widened(df, directions)
    return _true_size(max(size, _usual_size(wide, directions)), wide, 0.05, directions)


def _usual_size(error: float, directions: int) -> float:
    """What noise alone makes of it half of the time: smaller by luck says no more."""
    return error * float(np.sqrt(chdtri(directions, 0.5)))


def errors_to_show(df: float | None = None, directions: int = DIRECTIONS) -> float:
    """How many standard deviations (of one direction) a difference must have to be shown 8 times in 10."""
    return widened(df, directions) * _known_errors_to_show(directions)


@lru_cache(maxsize=4096)
def widened(df: float | None, directions: int = DIRECTIONS) -> float:
    """How much wider an error counts for being learnt with `df` degrees of freedom."""
    if df is None:
        return 1.0
    limit = directions * float(fdtri(directions, df, 1 - SIGNIFICANCE))
    return float(np.sqrt(limit / chdtri(directions, SIGNIFICANCE)))


@lru_cache(maxsize=8)
def _known_errors_to_show(directions: int) -> float:
    critical = float(chdtri(directions, SIGNIFICANCE))
    return float(brentq(lambda s: 1 - POWER - chndtr(critical, directions, s * s), 0.1, FAR, xtol=1e-6))


def _true_size(size: float, error: float, below: float, directions: int) -> float:
    """The true size with which one as small as was found, or smaller, has the chance `below`."""
    if error <= 0:
        return size
    if size > FAR * error:
        least = float(np.sqrt(size**2 - (directions - 1) * error**2))
        return least + error * float(ndtri(1 - below))
    square = (size / error) ** 2

    def reached(true: float) -> float:
        return float(chndtr(square, directions, true * true)) - below

    if reached(0.0) <= 0:
        return 0.0
    return error * float(brentq(reached, 0.0, size / error + FAR, xtol=1e-5))
