"""Swatches by what was done to them: cells, vessels and days, and which levels can be set against each other."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import combinations
from typing import Literal, NamedTuple

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import csr_matrix, hstack

Matrix = NDArray[np.float64]
Numbers = NDArray[np.int64]
Pairs = tuple[tuple[tuple[int, ...], tuple[int, ...]], ...]
# What lies on one cloth shares the cloth's own deviation, which is that of a swatch.
CLOTH = "cloth"
# Where like lies beside like in less than this share of what there is, the sum of effects tells more.
ENOUGH_ALIKE = 0.5
# Eigenvalues and singular values below this share of the largest are none.
CLOSE_TO_ZERO = 1e-8


class Done(NamedTuple):
    """What was done to a swatch: its level of each factor, its vessel of each kind of bath, the day of its dyeing."""

    levels: Mapping[str, str]
    vessels: Mapping[str, str]
    day: str = ""


class Beside(NamedTuple):
    """Two levels of a factor beside each other: pairs of groups of cells that are otherwise alike, by number.

    `how`: "alike" in all else; "together" with levels of the factors in `others`, which always go with them; "summed":
    seldom or never alike, taken from what all factors do when it adds up; "never": nothing says it.
    """

    factor: int
    first: int
    second: int
    how: Literal["alike", "together", "summed", "never"]
    pairs: Pairs = ()
    others: tuple[int, ...] = ()


@dataclass(frozen=True)
class Crossing:
    """`levels[i]` are the names of the levels of factor i; `cells` (c, factors) their numbers in each combination that
    is there; `cell_of` (n,) the cell of each swatch; `vessel_of` by kind, and `day_of`, (n,), −1 for none."""

    factors: tuple[str, ...]
    levels: tuple[tuple[str, ...], ...]
    cells: Numbers
    cell_of: Numbers
    vessel_of: dict[str, Numbers]
    day_of: Numbers

    @property
    def level_of(self) -> Numbers:
        return self.cells[self.cell_of]

    @cached_property
    def shared(self) -> tuple[csr_matrix, csr_matrix, csr_matrix]:
        """Who shares a cloth, a vessel, a day: (n, cloths), (n, vessels), (n, days)."""
        cloths = [where for kind, where in self.vessel_of.items() if kind == CLOTH]
        vessels = [where for kind, where in self.vessel_of.items() if kind != CLOTH]
        many = len(self.cell_of)
        return _incidence(cloths, many), _incidence(vessels, many), _incidence([self.day_of], many)

    @cached_property
    def members(self) -> tuple[Numbers, ...]:
        """The swatches of each cell, by number."""
        order = np.argsort(self.cell_of, kind="stable")
        ends = np.cumsum(np.bincount(self.cell_of, minlength=len(self.cells)))[:-1]
        return tuple(np.split(order, ends))

    @cached_property
    def sum_of_factors(self) -> Matrix:
        """The cells as rows of what factors do when it adds up (c, p): the mean, then each level but the first."""
        columns = [np.ones((len(self.cells), 1))]
        for i, names in enumerate(self.levels):
            columns.append((self.cells[:, [i]] == np.arange(1, len(names))).astype(float))
        return np.hstack(columns)

    def pairs_of_levels(self) -> list[Beside]:
        """Every two levels of each factor; those that always go with others are there once."""
        found, said = [], set()
        for i, names in enumerate(self.levels):
            for first, second in combinations(range(len(names)), 2):
                beside = self.beside(i, first, second)
                if beside.how == "together":
                    name = frozenset(beside.pairs)
                    if name in said or frozenset((b, a) for a, b in beside.pairs) in said:
                        continue
                    said.add(name)
                found.append(beside)
        return found

    def beside(self, factor: int, first: int, second: int) -> Beside:
        own = self.cells[:, factor]
        sides = (np.flatnonzero(own == first), np.flatnonzero(own == second))
        others = [i for i in range(len(self.factors)) if i != factor]
        alike = self._alike(sides, others)
        fewest = min(len(side) for side in sides)
        if len(alike) >= ENOUGH_ALIKE * fewest:
            return Beside(factor, first, second, "alike", alike)
        apart = [i for i in others if not set(self.cells[sides[0], i]) & set(self.cells[sides[1], i])]
        if apart:
            together = self._alike(sides, [i for i in others if i not in apart])
            if together:
                return Beside(factor, first, second, "together", together, tuple(apart))
        if self._is_summed(factor, first, second):
            return Beside(factor, first, second, "summed")
        return Beside(factor, first, second, "alike", alike) if alike else Beside(factor, first, second, "never")

    def levels_with(self, beside: Beside, factor: int, side: int) -> tuple[str, ...]:
        """The levels of another factor on one side of two that are beside each other."""
        cells = [cell for pair in beside.pairs for cell in pair[side]]
        return tuple(self.levels[factor][k] for k in sorted(set(self.cells[cells, factor].tolist())))

    def cells_by(self, *factors: int) -> dict[tuple[int, ...], dict[tuple[int, ...], int]]:
        """The number of each cell, by its levels of some factors and then by those of the rest."""
        rest = [i for i in range(len(self.factors)) if i not in factors]
        found: dict[tuple[int, ...], dict[tuple[int, ...], int]] = {}
        for number, cell in enumerate(self.cells.tolist()):
            found.setdefault(tuple(cell[i] for i in factors), {})[tuple(cell[i] for i in rest)] = number
        return found

    def vessels_of_level(self, kind: str, factor: int, level: int) -> int:
        """How many vessels of a kind hold a level."""
        mine = self.level_of[:, factor] == level
        return len(set(self.vessel_of[kind][mine & (self.vessel_of[kind] >= 0)].tolist()))

    def _alike(self, sides: tuple[Numbers, Numbers], others: Sequence[int]) -> Pairs:
        by_rest: tuple[dict[tuple[int, ...], list[int]], ...] = ({}, {})
        for side, found in zip(sides, by_rest, strict=True):
            for cell in side.tolist():
                found.setdefault(tuple(self.cells[cell, list(others)].tolist()), []).append(cell)
        return tuple((tuple(by_rest[0][rest]), tuple(by_rest[1][rest])) for rest in by_rest[0] if rest in by_rest[1])

    def _is_summed(self, factor: int, first: int, second: int) -> bool:
        """Whether the sum of factors tells it, with cells to spare."""
        if len(self.cells) <= self._span.shape[1]:
            return False
        row = self.summed_row(factor, first, second)
        return bool(np.abs(self._span @ (self._span.T @ row) - row).max() < 1e-6)

    @cached_property
    def _span(self) -> Matrix:
        _, values, right = np.linalg.svd(self.sum_of_factors, full_matrices=False)
        return np.asarray(right[values > values[0] * CLOSE_TO_ZERO].T)

    def summed_row(self, factor: int, first: int, second: int) -> Matrix:
        start = 1 + sum(len(names) - 1 for names in self.levels[:factor])
        row = np.zeros(self.sum_of_factors.shape[1])
        for level, sign in ((first, -1.0), (second, 1.0)):
            if level:
                row[start + level - 1] = sign
        return row


def cross(
    done: Sequence[Done], factors: Sequence[str], level_order: Mapping[str, Sequence[str]] | None = None
) -> Crossing:
    """`level_order` has the levels of factors in the order in which they are told; others come as they are met.
    Factors with one level are left out."""
    kept, names, numbers = [], [], []
    for factor in factors:
        said = [one.levels.get(factor, "") for one in done]
        first = [level for level in (level_order or {}).get(factor, ()) if level in said]
        here = tuple(dict.fromkeys([*first, *said]))
        if len(here) > 1:
            kept.append(factor)
            names.append(here)
            place = {level: i for i, level in enumerate(here)}
            numbers.append([place[level] for level in said])
    level_of = np.array(numbers, np.int64).reshape(len(kept), len(done)).T
    cells, cell_of = np.unique(level_of, axis=0, return_inverse=True)
    return Crossing(
        factors=tuple(kept),
        levels=tuple(names),
        cells=cells,
        cell_of=np.asarray(cell_of).ravel(),
        vessel_of=_vessels([one.vessels for one in done]),
        day_of=_numbered([one.day for one in done]),
    )


def _vessels(vessels_of: Sequence[Mapping[str, str]]) -> dict[str, Numbers]:
    """By kind; kinds that part the swatches alike are one, named by both: each pot has one deviation."""
    found: dict[str, Numbers] = {}
    for kind in dict.fromkeys(kind for own in vessels_of for kind in own):
        where = _numbered([own.get(kind, "") for own in vessels_of])
        twin = next((k for k, there in found.items() if k != CLOTH != kind and np.array_equal(there, where)), None)
        if twin is not None:
            found[f"{twin} and {kind}"] = found.pop(twin)
        elif (where >= 0).any():
            found[kind] = where
    return found


def _numbered(names: Sequence[str]) -> Numbers:
    number = {name: i for i, name in enumerate(dict.fromkeys(name for name in names if name))}
    return np.array([number.get(name, -1) for name in names], np.int64)


def _incidence(wheres: Sequence[Numbers], swatches: int) -> csr_matrix:
    """Who was in which (n, all of them), 1 or 0."""
    parts = [
        incidence([[w] if w >= 0 else [] for w in where.tolist()], int(where.max(initial=-1)) + 1) for where in wheres
    ]
    return csr_matrix(hstack(parts)) if parts else csr_matrix((swatches, 0))


def incidence(groups_of: Sequence[Sequence[int]], many: int) -> csr_matrix:
    """Who is in which group (n, groups): the parts of each add to 1, or are none."""
    rows = [i for i, own in enumerate(groups_of) for _ in own]
    columns = [group for own in groups_of for group in own]
    parts = [1 / len(own) for own in groups_of for _ in own]
    return csr_matrix((parts, (rows, columns)), shape=(len(groups_of), many))
