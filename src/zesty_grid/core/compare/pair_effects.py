"""Whether what one factor does depends on another."""

from collections.abc import Iterator, Sequence
from itertools import combinations

import numpy as np
from scipy.special import fdtrc

from zesty_grid.core.compare.compared import PairEffect
from zesty_grid.core.compare.crossed import Matrix
from zesty_grid.core.compare.directions import unit_2000
from zesty_grid.core.compare.equivalence import Estimate, furthest_de00
from zesty_grid.core.compare.mixed_model import Fitted
from zesty_grid.core.compare.strata import error_words, stratum
from zesty_grid.core.plan.pot_words import pot_words
from zesty_grid.core.plan.power import DIRECTIONS
from zesty_grid.core.plan.telling import CLOSE_TO_ZERO


def confounded_pair(pair: tuple[str, str], kind: str) -> PairEffect:
    return PairEffect(
        factors=pair,
        p=None,
        verdict="untold",
        error=error_words(kind),
        why=f"Each combination has a single {pot_words(kind)}, so whether they act on each other "
        "cannot be told from chance.",
    )


def pair_effect(fitted: Fitted, pair: tuple[str, str]) -> PairEffect:
    """The F test of all that two factors do together, in each direction of colour at the middle of
    all swatches, at a third of 5 %; degrees of freedom by Fai and Cornelius (1996)."""
    design = fitted.design
    i, j = (design.factors.index(one) for one in pair)
    crossings = list(_crossings(fitted, i, j))
    if not crossings:
        why = "No two levels of each are in with all four combinations."
        return PairEffect(factors=pair, p=None, verdict="untold", why=why)
    if fitted.freedom < 1:
        return PairEffect(factors=pair, p=None, verdict="untold", why="Nothing is left over to learn the noise from.")
    rows = np.array(crossings)
    values, vectors = np.linalg.eigh(rows @ fitted.inverse @ rows.T)
    some = values > CLOSE_TO_ZERO * values.max()
    apart = (vectors[:, some] / np.sqrt(values[some])).T @ rows
    unit = unit_2000(design.columns.mean(axis=0) @ fitted.beta)
    chances, freedoms = [], []
    for direction in unit:
        found = [fitted.variance(row, direction) for row in apart]
        if found[0].untold:
            kind = found[0].untold[0]
            return PairEffect(
                factors=pair, p=None, verdict="untold", why=f"Nothing says how much {pot_words(kind)}s differ."
            )
        squares = [
            float(row @ fitted.beta @ direction) ** 2 / one.variance for row, one in zip(apart, found, strict=True)
        ]
        freedom = _joint_freedom([np.inf if one.df is None else one.df for one in found])
        freedoms.append(freedom)
        chances.append(float(fdtrc(len(squares), freedom, np.mean(squares))))
    largest, furthest = _largest(fitted, crossings, unit)
    chance = min(1.0, DIRECTIONS * min(chances))
    kinds = [stratum(design, k, 0, 1).between for k in (i, j)]
    between = kinds[0] if kinds[0] == kinds[1] else None
    freedom = min(freedoms)
    return PairEffect(
        factors=pair,
        p=chance,
        p_alone=chance,
        verdict="untold",
        error=error_words(between),
        df=None if np.isinf(freedom) else freedom,
        largest_de00=largest,
        furthest_de00=furthest,
    )


def _joint_freedom(each: Sequence[float]) -> float:
    if len(each) == 1 or np.isinf(min(each)):
        return float(min(each))
    # Below 2 the mean of F does not exist.
    expected = sum(one / (one - 2) for one in each if one > 2)
    return float(2 * expected / (expected - len(each))) if expected > len(each) else 2.0


def _crossings(fitted: Fitted, i: int, j: int) -> Iterator[Matrix]:
    """Differences of differences: of two levels of one factor at two levels of the other, where all
    four are there."""
    design = fitted.design
    there = design.combinations_of(i, j)
    for a, b in combinations(range(len(design.levels[i])), 2):
        for c, d in combinations(range(len(design.levels[j])), 2):
            if not {(a, c), (a, d), (b, c), (b, d)} <= there:
                continue
            row = (
                design.row({i: b, j: d})
                - design.row({i: a, j: d})
                - design.row({i: b, j: c})
                + design.row({i: a, j: c})
            )
            if fitted.is_told(row):
                yield row


def _largest(fitted: Fitted, crossings: Sequence[Matrix], unit: Matrix) -> tuple[float, float]:
    """The largest difference of differences in ΔE00, and what all of them stay under."""
    largest, furthest = 0.0, 0.0
    for row in crossings:
        along = unit @ (row @ fitted.beta)
        seen = [fitted.variance(row, direction) for direction in unit]
        estimates = [
            Estimate(float(v), float(np.sqrt(one.variance)), one.df) for v, one in zip(along, seen, strict=True)
        ]
        largest = max(largest, float(np.linalg.norm(along)))
        furthest = max(furthest, furthest_de00(estimates))
    return largest, furthest
