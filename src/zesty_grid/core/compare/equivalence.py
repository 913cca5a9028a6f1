"""Whether two things are shown to be the same: by two one-sided tests, not by finding nothing."""

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from scipy.special import ndtr, ndtri, stdtr, stdtrit

from zesty_grid.core.plan.power import SIGNIFICANCE as SIGNIFICANCE

# About 1 ΔE00 is just visible side by side (common practice).
SAME_DE00 = 1.0


class Estimate(NamedTuple):
    """A number with its standard error; `df` None: the error is known."""

    value: float
    error: float
    df: float | None


def equivalence_p(one: Estimate, margin: float) -> float:
    """The larger chance of two one-sided tests that |value| is `margin` or more (Schuirmann 1987).

    0 where the error is nothing and the value lies within.
    """
    if one.error <= 0:
        return 0.0 if abs(one.value) < margin else 1.0
    ratio = (margin - abs(one.value)) / one.error
    return beyond(ratio, one.df)


def furthest_de00(directions: Sequence[Estimate], significance: float = SIGNIFICANCE) -> float:
    """What a difference in colour stays under, from its directions, each with its own error.

    The corner of the box of the one-sided limits. If it lies within `SAME_DE00`, then in every
    direction of colour both one-sided tests hold: the error of a sum is no more than the sum of
    errors.
    """
    return float(np.sqrt(sum(limit(one, 1 - significance) ** 2 for one in directions)))


def limit(one: Estimate, chance: float) -> float:
    """What |value| stays under with that chance."""
    return abs(one.value) + one.error * quantile(chance, one.df)


def chance_of(one: Estimate) -> float:
    """The chance of a value as far from nothing, two-sided; 1 where nothing says the error."""
    if one.df is not None and one.df <= 0:
        return 1.0
    return 2 * beyond(abs(one.value) / one.error, one.df)


def beyond(ratio: float, df: float | None) -> float:
    """The chance that Student's t is larger; the normal distribution's for `df` None."""
    return float(ndtr(-ratio) if df is None else stdtr(df, -ratio))


def quantile(chance: float, df: float | None) -> float:
    """What Student's t stays under with that chance; infinite below any degree of freedom."""
    if df is not None and df <= 0:
        return float("inf")
    return float(ndtri(chance) if df is None else stdtrit(df, chance))
