"""The smallest difference in colour that a comparison shows 8 times in 10.

A colour has three directions: lightness, chroma and hue. Where the noise is learnt from the study,
a difference is tested in each of them by a t test at a third of 5 % (Bonferroni); where the noise
is known, in all at once by a chi-square test. Either holds however the spread of the directions
differs, and is worst for a difference that lies evenly between them.
"""

from functools import lru_cache

from scipy.optimize import brentq
from scipy.special import chdtri, chndtr, ndtri, stdtrit

SIGNIFICANCE = 0.05
POWER = 0.8
DIRECTIONS = 3


@lru_cache(maxsize=2048)
def detectable_standard_errors(
    degrees_of_freedom: int | None, significance: float = SIGNIFICANCE, power: float = POWER
) -> float:
    """How many standard errors a difference of one number needs to be shown, two-sided.

    Noncentral t (Cohen, Statistical Power Analysis, 2nd ed., ch. 2); None: the noise is known and
    the normal distribution serves. Raises ValueError below 1 degree of freedom.
    """
    if degrees_of_freedom is None:
        return float(ndtri(1 - significance / 2) + ndtri(power))
    if degrees_of_freedom < 1:
        raise ValueError("a comparison needs at least one degree of freedom")
    # The one that is not to be had without loading every distribution.
    from scipy.stats import nct

    critical = stdtrit(degrees_of_freedom, 1 - significance / 2)

    def shortfall(noncentrality: float) -> float:
        return float(nct.sf(critical, degrees_of_freedom, noncentrality)) - power

    # The tests of power near one half need less than the critical value itself.
    return float(brentq(shortfall, 0.0, 60.0 + 4 * critical, xtol=1e-6))


@lru_cache(maxsize=2048)
def detectable_colour_standard_errors(degrees_of_freedom: int | None) -> float:
    """How many standard errors (of one direction) a difference in colour needs.

    For a difference that lies evenly between the three directions, as it is the hardest to show:
    one of three independent tests must show a third of its square.
    """
    if degrees_of_freedom is None:
        critical = float(chdtri(DIRECTIONS, SIGNIFICANCE))

        def shortfall(size: float) -> float:
            return 1 - float(chndtr(critical, DIRECTIONS, size**2)) - POWER

        return float(brentq(shortfall, 0.5, 10.0, xtol=1e-6))
    each = 1 - (1 - POWER) ** (1 / DIRECTIONS)
    one = detectable_standard_errors(degrees_of_freedom, SIGNIFICANCE / DIRECTIONS, each)
    return float(DIRECTIONS**0.5 * one)
