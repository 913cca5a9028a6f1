"""Whether what one factor does depends on another."""

from collections.abc import Sequence
from itertools import combinations

import numpy as np
from scipy.sparse import csr_matrix

from zesty_grid.core.compare.compared import PairEffect, Verdict
from zesty_grid.core.compare.directions import unit_2000
from zesty_grid.core.compare.holm import holm
from zesty_grid.core.compare.weighed import Weighed
from zesty_grid.core.noise.contrast import some_of
from zesty_grid.core.noise.crossing import CLOSE_TO_ZERO, Matrix
from zesty_grid.core.noise.detecting import DIRECTIONS, SIGNIFICANCE, chance


def pair_effects(of: Weighed, pairs: Sequence[tuple[str, str]]) -> list[PairEffect]:
    """Of the pairs in which both factors vary; those that come out real by Holm's correction are `different`."""
    factors = of.crossing.factors
    there = [(a, b) for a, b in dict.fromkeys(pairs) if a in factors and b in factors and a != b]
    found = [_pair_effect(of, factors.index(a), factors.index(b)) for a, b in there]
    tested = [i for i, one in enumerate(found) if one.p_alone is not None]
    for i, p in zip(tested, holm([found[i].p_alone or 0.0 for i in tested]), strict=True):
        verdict: Verdict = "different" if p < SIGNIFICANCE else "untold"
        found[i] = found[i].model_copy(update={"p": p, "verdict": verdict})
    return found


def _pair_effect(of: Weighed, i: int, j: int) -> PairEffect:
    """A χ² test of all differences of differences at once, about the middle of all colours; of very many some."""
    named = PairEffect(factors=(of.crossing.factors[i], of.crossing.factors[j]), verdict="untold")
    crossings = _crossings(of, i, j)
    if crossings.shape[0] == 0:
        return named
    rows = csr_matrix(crossings @ of.weighing.of_cells)
    along = (rows @ of.labs) @ unit_2000(of.labs.mean(axis=0)).T
    values, vectors = np.linalg.eigh(of.weighing.covariance(rows))
    some = values > CLOSE_TO_ZERO * values.max()
    apart = (vectors[:, some] / np.sqrt(values[some])).T @ along
    df = of.weighing.error(rows[int(np.argmax(np.linalg.norm(along, axis=1)))]).df
    p = chance(float(np.linalg.norm(apart)), 1.0, df, DIRECTIONS * len(apart))
    largest = float(np.linalg.norm(along, axis=1).max())
    return named.model_copy(update={"p": p, "p_alone": p, "largest_de00": largest})


def _crossings(of: Weighed, i: int, j: int) -> csr_matrix:
    """Of two levels of one factor at two of the other, over all that the rest has in all four (k, cells)."""
    cells, at = of.crossing.cells, of.crossing.cells_by(i, j)
    quads = [
        ((a, c), (a, d), (b, c), (b, d))
        for a, b in combinations(range(len(of.crossing.levels[i])), 2)
        for c, d in combinations(range(len(of.crossing.levels[j])), 2)
        if {(a, c), (a, d), (b, c), (b, d)} <= at.keys()
    ]
    rows: list[Matrix] = []
    for k in some_of(quads):
        corners = [at[corner] for corner in quads[k]]
        common = set.intersection(*(set(corner) for corner in corners))
        if not common:
            continue
        row = np.zeros(len(cells))
        for corner, sign in zip(corners, (1, -1, -1, 1), strict=True):
            row[[corner[key] for key in common]] += sign / len(common)
        rows.append(row)
    return csr_matrix(np.array(rows).reshape(len(rows), len(cells)))
