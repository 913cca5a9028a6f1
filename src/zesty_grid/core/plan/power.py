"""The smallest difference that a comparison shows 8 times in 10."""

from functools import lru_cache

from scipy.optimize import brentq
from scipy.stats import nct, norm, t

SIGNIFICANCE = 0.05
POWER = 0.8


@lru_cache(maxsize=2048)
def detectable_standard_errors(degrees_of_freedom: int | None) -> float:
    """How many standard errors a difference needs, two-sided 5 %, to be shown 8 times in 10.

    Noncentral t (Cohen, Statistical Power Analysis, 2nd ed., ch. 2); None: the noise is known and
    the normal distribution serves. Raises ValueError below 1 degree of freedom.
    """
    if degrees_of_freedom is None:
        return float(norm.ppf(1 - SIGNIFICANCE / 2) + norm.ppf(POWER))
    if degrees_of_freedom < 1:
        raise ValueError("a comparison needs at least one degree of freedom")
    critical = t.ppf(1 - SIGNIFICANCE / 2, degrees_of_freedom)

    def shortfall(noncentrality: float) -> float:
        return float(nct.sf(critical, degrees_of_freedom, noncentrality)) - POWER

    return float(brentq(shortfall, 0.5, 60.0, xtol=1e-6))
