"""Swatches as rows of a linear model: levels of factors, pairs of factors, vessels, photos.

Levels are coded so that those of a factor sum to nothing; the difference of two levels is then
their mean over all levels of the factors that they act with, each counting once.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import product

import numpy as np
from numpy.typing import NDArray

Matrix = NDArray[np.float64]
Numbers = NDArray[np.int64]
Term = tuple[int, ...]


@dataclass(frozen=True)
class Crossed:
    """`levels[i]` are the names of the levels of factor i, `level_of` (n, factors) their numbers;
    `vessel_of` by kind of bath (n,), −1 for none. `terms`: the factors of each term after the mean,
    one or two, and `blocks` the columns of `columns` (n, p) that it has."""

    factors: tuple[str, ...]
    levels: tuple[tuple[str, ...], ...]
    level_of: Numbers
    vessel_of: dict[str, Numbers]
    terms: tuple[Term, ...]
    blocks: tuple[slice, ...]
    columns: Matrix

    def row(self, chosen: Mapping[int, int]) -> Matrix:
        """The row (p,) of the mean over all levels of the factors that are not `chosen`."""
        found = np.zeros(self.columns.shape[1])
        found[0] = 1
        for term, block in zip(self.terms, self.blocks, strict=True):
            if all(i in chosen for i in term):
                found[block] = _coded([self.levels[i] for i in term], [chosen[i] for i in term])
        return found

    def like_with_like(self, factor: int, first: int, second: int) -> Matrix | None:
        """The second level less the first (p,), over all combinations of the other factors in
        which both are there, each counting once; None: there is none."""
        others = [i for i in range(len(self.factors)) if i != factor]
        own = self.level_of[:, factor]
        at = [
            {tuple(self.level_of[i, others].tolist()): i for i in np.flatnonzero(own == level)}
            for level in (first, second)
        ]
        shared = sorted(at[0].keys() & at[1].keys())
        if not shared:
            return None
        # A swatch of each combination is there, and so is its row.
        before, after = ([one[combination] for combination in shared] for one in at)
        return np.asarray((self.columns[after] - self.columns[before]).mean(axis=0))

    def combinations_of(self, one: int, other: int) -> set[tuple[int, int]]:
        """The combinations of levels of two factors that are there."""
        return {(int(a), int(b)) for a, b in self.level_of[:, [one, other]]}


def cross_swatches(
    factors: Sequence[str],
    levels_of: Sequence[Mapping[str, str]],
    vessels_of: Sequence[Mapping[str, str]],
    pairs: Sequence[tuple[str, str]],
    order: Mapping[str, Sequence[str]] | None = None,
) -> Crossed:
    """`order` has the levels of factors in the order in which they are told; those that it does
    not have come as they are met. Factors with one level are left out, and pairs of them."""
    kept, names, numbers = [], [], []
    for factor in factors:
        said = [own.get(factor, "") for own in levels_of]
        first = [level for level in (order or {}).get(factor, ()) if level in said]
        here = tuple(dict.fromkeys([*first, *said]))
        if len(here) > 1:
            kept.append(factor)
            names.append(here)
            numbers.append([here.index(level) for level in said])
    level_of = np.array(numbers, np.int64).reshape(len(kept), len(levels_of)).T
    terms: list[Term] = [(i,) for i in range(len(kept))]
    terms += [(kept.index(a), kept.index(b)) for a, b in dict.fromkeys(pairs) if a in kept and b in kept]
    columns, blocks, at = [np.ones((len(levels_of), 1))], [], 1
    for term in terms:
        own = [names[i] for i in term]
        coded = {numbers: _coded(own, numbers) for numbers in product(*(range(len(one)) for one in own))}
        columns.append(np.array([coded[tuple(row)] for row in level_of[:, list(term)].tolist()]))
        blocks.append(slice(at, at + columns[-1].shape[1]))
        at = blocks[-1].stop
    return Crossed(
        factors=tuple(kept),
        levels=tuple(names),
        level_of=level_of,
        vessel_of=_vessels(vessels_of),
        terms=tuple(terms),
        blocks=tuple(blocks),
        columns=np.hstack(columns),
    )


def incidence(where: Numbers) -> Matrix:
    """Who was in which vessel (n, vessels), 1 or 0."""
    found = np.zeros((len(where), int(where.max()) + 1))
    inside = np.flatnonzero(where >= 0)
    found[inside, where[inside]] = 1
    return found


def _coded(levels: Sequence[Sequence[str]], numbers: Sequence[int]) -> Matrix:
    """Sum coding: the last level is less than nothing by all others; pairs are products."""
    row = np.ones(1)
    for names, number in zip(levels, numbers, strict=True):
        last = len(names) - 1
        own = -np.ones(last) if number == last else np.eye(last)[number]
        row = np.outer(row, own).ravel()
    return row


def _vessels(vessels_of: Sequence[Mapping[str, str]]) -> dict[str, Numbers]:
    """By kind; kinds that part the swatches alike are one, named by both."""
    found: dict[str, Numbers] = {}
    for kind in dict.fromkeys(kind for own in vessels_of for kind in own):
        named = [own.get(kind, "") for own in vessels_of]
        number = {name: i for i, name in enumerate(dict.fromkeys(n for n in named if n))}
        where = np.array([number.get(name, -1) for name in named], np.int64)
        twin = next((other for other, there in found.items() if np.array_equal(there, where)), None)
        if twin is not None:
            found[f"{twin} and {kind}"] = found.pop(twin)
        elif number:
            found[kind] = where
    return found
