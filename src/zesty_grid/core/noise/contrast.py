"""A difference of two levels as weights on swatches, and its variance by what colours differ by.

A cell's colour is the mean of its swatches, weighed by how they share vessels (generalised least squares within the
cell). Nothing that factors do is taken for noise: each combination of levels has a mean of its own.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import NamedTuple

import numpy as np
from scipy.sparse import csr_matrix

from zesty_grid.core.noise.crossing import CLOTH, Beside, Crossing, Matrix, Numbers
from zesty_grid.core.noise.detecting import DIRECTIONS
from zesty_grid.core.noise.levels import Noise
from zesty_grid.core.noise.reading_error import ReadingError

MOST_AT_ONCE = 250
NEXT_TO_NOTHING = 1e-9


@dataclass(frozen=True)
class Error:
    """The standard deviation of a difference in each direction, with its degrees of freedom (None: known).
    `parts`: what swatch, vessel and day have of its variance; `reading` what reading has."""

    sd: float
    df: float | None
    parts: tuple[float, float, float]
    reading: float

    @property
    def largest(self) -> int:
        """Of swatch, vessel and day, by number."""
        return int(np.argmax(self.parts))


def error_of(parts: tuple[float, float, float], reading: float, noise: Noise) -> Error:
    """Of the variances of swatch, vessel and day in each direction, and of reading, with Satterthwaite's degrees of
    freedom."""
    total = sum(parts) + reading
    doubt = sum(
        part**2 * one.repeats / (DIRECTIONS * one.df**2)
        for part, one in zip(parts, noise.components, strict=True)
        if not one.known
    )
    return Error(float(np.sqrt(total)), total**2 / doubt if doubt > 0 else None, parts, reading)


class Between(NamedTuple):
    """The kind of bath whose vessels a difference lies between, most of all; None: it lies between swatches. How many
    of them are on either side."""

    kind: str | None
    first: int
    second: int


class Weighing:
    """Swatches weighed against each other."""

    def __init__(self, crossing: Crossing, noise: Noise, reading: ReadingError) -> None:
        self.crossing, self.noise, self.reading = crossing, noise, reading

    @cached_property
    def of_cells(self) -> csr_matrix:
        """The weights of swatches in the mean of their cell (c, n)."""
        rows, columns, weights = [], [], []
        for cell, members in enumerate(self.crossing.members):
            rows += [cell] * len(members)
            columns += members.tolist()
            weights += self._within(members).tolist()
        shape = (len(self.crossing.cells), len(self.crossing.cell_of))
        return csr_matrix((weights, (rows, columns)), shape=shape)

    def each(self, beside: Beside) -> csr_matrix:
        """The second level less the first in each of their pairs (pairs, n); of a sum one row."""
        cells = len(self.crossing.cells)
        if beside.how == "summed":
            return csr_matrix(self._summed(beside) @ self.of_cells)
        rows: list[int] = []
        columns: list[int] = []
        weights: list[float] = []
        for row, pair in enumerate(beside.pairs):
            for side, sign in zip(pair, (-1, 1), strict=True):
                rows += [row] * len(side)
                columns += side
                weights += [sign / len(side)] * len(side)
        return csr_matrix(csr_matrix((weights, (rows, columns)), shape=(len(beside.pairs), cells)) @ self.of_cells)

    def error(self, row: csr_matrix) -> Error:
        """Of one contrast (1, n)."""
        shares = self._shares(row)
        own = (float(shares[0][0, 0]), float(shares[1][0, 0]), float(shares[2][0, 0]))
        v = self.noise.variances
        parts = (own[0] * v[0], own[1] * v[1], own[2] * v[2])
        reading = float(self.reading.covariance(row)[0, 0])
        return error_of(parts, reading, self.noise)

    def between(self, row: csr_matrix) -> Between:
        """What a contrast (1, n) lies between: vessels, where they make more of its error than swatches do."""
        weights = row.toarray().ravel()
        of_swatches = float(np.sum(weights**2)) * self.noise.variances[0]
        shares: dict[str, Matrix] = {}
        for kind, where in self.crossing.vessel_of.items():
            inside = where >= 0
            own: Matrix = np.bincount(where[inside], weights[inside]).astype(float)
            if kind != CLOTH and float(np.sum(own**2)) * self.noise.variances[1] > of_swatches:
                shares[kind] = own
        if not shares:
            return Between(None, *_sides(weights))
        kind = max(shares, key=lambda one: float(np.sum(shares[one] ** 2)))
        return Between(kind, *_sides(shares[kind]))

    def covariance(self, rows: csr_matrix) -> Matrix:
        """Of several contrasts (k, n), in each direction (k, k)."""
        shares = zip(self._shares(rows), self.noise.variances, strict=True)
        return np.asarray(sum(share * variance for share, variance in shares) + self.reading.covariance(rows))

    def _shares(self, rows: csr_matrix) -> tuple[Matrix, Matrix, Matrix]:
        cloth, vessel, day = ((rows @ z) for z in self.crossing.shared)
        own = (rows @ rows.T + cloth @ cloth.T).toarray()
        return own, (vessel @ vessel.T).toarray(), (day @ day.T).toarray()

    def _within(self, members: Numbers) -> Matrix:
        if len(members) == 1:
            return np.ones(1)
        v = self.noise.variances
        covariance = v[0] * np.eye(len(members)) + v[2] * _same(self.crossing.day_of[members])
        for kind, where in self.crossing.vessel_of.items():
            covariance += v[0 if kind == CLOTH else 1] * _same(where[members])
        solved = np.linalg.solve(covariance + np.diag(self.reading.own[members] + 1e-9), np.ones(len(members)))
        return np.asarray(solved / solved.sum())

    def _summed(self, beside: Beside) -> csr_matrix:
        inverse, weighed = self._sum_of_factors
        row = self.crossing.summed_row(beside.factor, beside.first, beside.second)
        return csr_matrix((row @ inverse) @ weighed)

    @cached_property
    def _sum_of_factors(self) -> tuple[Matrix, Matrix]:
        """By generalised least squares over the cells: (XᵀV⁻¹X)⁻¹ and XᵀV⁻¹."""
        rows = self.crossing.sum_of_factors
        weighed = np.linalg.solve(self.covariance(self.of_cells) + 1e-9 * np.eye(len(rows)), rows).T
        return np.asarray(np.linalg.pinv(weighed @ rows, hermitian=True)), np.asarray(weighed)


def _sides(weights: Matrix) -> tuple[int, int]:
    return int((weights < -NEXT_TO_NOTHING).sum()), int((weights > NEXT_TO_NOTHING).sum())


def _same(where: Numbers) -> Matrix:
    return np.asarray((where[:, None] == where) & (where >= 0), float)


def error_with_more(counts: Sequence[int], more: int) -> float:
    """What is left of an error with so many more vessels (or swatches) of each level that has any."""
    now = sum(1 / one for one in counts if one)
    return float(np.sqrt(sum(1 / (one + more) for one in counts if one) / now)) if now else 1.0


def some_of(pairs: Sequence[object]) -> list[int]:
    """Evenly chosen numbers of at most as many as are weighed at once."""
    if len(pairs) <= MOST_AT_ONCE:
        return list(range(len(pairs)))
    return [int(k) for k in np.linspace(0, len(pairs) - 1, MOST_AT_ONCE).round()]
