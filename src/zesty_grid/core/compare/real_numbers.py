"""Which differences are real in a single number of each swatch: its unevenness, or its fading.

As for colour, in one direction. Such numbers differ less than colours do when the same is done again: their noise
starts at half of it (common practice) and is learnt from repeats.
"""

from collections.abc import Mapping, Sequence

import numpy as np
from scipy.sparse import csr_matrix
from scipy.special import ndtri

from zesty_grid.core.compare.compared import ComparedSwatch, Verdict
from zesty_grid.core.compare.holm import holm_in_groups
from zesty_grid.core.compare.weighed import done_to
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.noise.contrast import Weighing
from zesty_grid.core.noise.crossing import Beside, Matrix, cross
from zesty_grid.core.noise.detecting import SIGNIFICANCE, chance, stays_under, widened
from zesty_grid.core.noise.learning import learnt_from
from zesty_grid.core.noise.levels import USUAL, NoiseLevels, starting_at
from zesty_grid.core.noise.reading_error import ReadingError

FEWEST = 3
LESS_NOISE = 0.5
START = starting_at(
    NoiseLevels(
        swatch_de00=LESS_NOISE * USUAL.swatch_de00,
        vessel_de00=LESS_NOISE * USUAL.vessel_de00,
        day_de00=LESS_NOISE * USUAL.day_de00,
    )
)


class NumberEffect(Frozen):
    """`to` less `from` in ΔE00 where all else is the same, with its 95 % range. `p` is corrected for all that were
    looked at (Holm)."""

    factor: str
    from_level: str
    to_level: str
    from_value: float
    to_value: float
    change: float
    low: float
    high: float
    p: float
    verdict: Verdict


def real_numbers(
    swatches: Sequence[ComparedSwatch],
    values: Mapping[str, float],
    factors: Sequence[str],
    margin: float,
    order: Mapping[str, Sequence[str]],
) -> list[NumberEffect]:
    """`values` by code; swatches without one are left out, and levels that nothing tells. Changes within `margin` are
    the same."""
    own = [one for one in swatches if one.code in values]
    crossing = cross([done_to(one) for one in own], factors, order)
    if len(own) < FEWEST or not crossing.factors:
        return []
    numbers = np.array([[values[one.code]] for one in own])
    exact = ReadingError(np.zeros(len(own)))
    of = Weighing(crossing, learnt_from(crossing, numbers, exact, START), exact)
    found = [_effect(of, numbers, one, margin) for one in crossing.pairs_of_levels() if one.how != "never"]
    corrected = holm_in_groups([one.p for one in found], [one.factor for one in found])
    return [one.model_copy(update={"p": p}) for one, p in zip(found, corrected, strict=True)]


def _effect(of: Weighing, numbers: Matrix, beside: Beside, margin: float) -> NumberEffect:
    row = csr_matrix(of.each(beside).mean(axis=0))
    error = of.error(row)
    change = float((row @ numbers)[0, 0])
    wide = error.sd * widened(error.df, 1) * float(ndtri(0.975))
    own = of.crossing.level_of[:, beside.factor]
    middle = float(numbers[(own == beside.first) | (own == beside.second)].mean())
    p = chance(abs(change), error.sd, error.df, 1)
    same = stays_under(abs(change), error.sd, error.df, 1) < margin
    names = of.crossing.levels[beside.factor]
    return NumberEffect(
        factor=of.crossing.factors[beside.factor],
        from_level=names[beside.first],
        to_level=names[beside.second],
        from_value=middle - change / 2,
        to_value=middle + change / 2,
        change=change,
        low=change - wide,
        high=change + wide,
        p=p,
        verdict="same" if same else "different" if p < SIGNIFICANCE else "untold",
    )
