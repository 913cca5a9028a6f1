"""Two ways against what both started from: which keeps more of its colour."""

from typing import NamedTuple

import numpy as np
from scipy.sparse import csr_matrix, vstack
from scipy.special import ndtri

from zesty_grid.core.compare.compared import CompareQuestion, Verdict
from zesty_grid.core.compare.weighed import Weighed, weighed
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.noise.crossing import Crossing, Matrix, Numbers
from zesty_grid.core.noise.detecting import SIGNIFICANCE, chance, widened
from zesty_grid.core.read.colour_difference import directions_2000
from zesty_grid.core.read.colour_space import lab_to_hex


class WaysAt(Frozen):
    """How far either way went, with these levels of the others."""

    levels: dict[str, str]
    start_hex: str
    one_hex: str
    other_hex: str
    one_de00: float
    other_de00: float


class Ways(Frozen):
    """How far either way lies from the start in the mean, in ΔE00; `further_de00` is by how much the other goes further
    than the one, with its range (95 in 100). `verdict` "different": one of them keeps more of it, if it were dyed
    again. No combinations: nowhere are all three there with all else the same."""

    factor: str
    start: str
    one: str
    other: str
    combinations: int = 0
    one_de00: float = 0.0
    other_de00: float = 0.0
    further_de00: float = 0.0
    low_de00: float = 0.0
    high_de00: float = 0.0
    verdict: Verdict = "untold"
    at: tuple[WaysAt, ...] = ()


class _Three(NamedTuple):
    start: int
    one: int
    other: int


def which_keeps_more(question: CompareQuestion, factor: str, start: str, one: str, other: str) -> Ways:
    """All three are levels of the factor. Raises Refusal as `real_effects` does."""
    of = weighed(question)
    named = Ways(factor=factor, start=start, one=one, other=other)
    threes = _beside(of.crossing, factor, (start, one, other))
    if not threes:
        return named
    cells = np.array(threes)
    labs = of.cell_labs[cells]
    ways = [np.asarray(directions_2000(labs[:, 0], labs[:, k])) for k in (1, 2)]
    sizes = [np.linalg.norm(way, axis=1) for way in ways]
    further = float((sizes[1] - sizes[0]).mean())
    error, df = _error(of, cells, ways, sizes)
    wide = error * widened(df, 1) * float(ndtri(0.975))
    return named.model_copy(
        update={
            "combinations": len(threes),
            "one_de00": float(sizes[0].mean()),
            "other_de00": float(sizes[1].mean()),
            "further_de00": further,
            "low_de00": further - wide,
            "high_de00": further + wide,
            "verdict": "different" if chance(abs(further), error, df, 1) < SIGNIFICANCE else "untold",
            "at": tuple(
                WaysAt(
                    levels=_rest(of.crossing, factor, three),
                    start_hex=lab_to_hex(labs[k, 0]),
                    one_hex=lab_to_hex(labs[k, 1]),
                    other_hex=lab_to_hex(labs[k, 2]),
                    one_de00=float(sizes[0][k]),
                    other_de00=float(sizes[1][k]),
                )
                for k, three in enumerate(threes)
            ),
        }
    )


def _beside(crossing: Crossing, factor: str, levels: tuple[str, str, str]) -> list[_Three]:
    """The cells of start and of either way, wherever all else is the same."""
    if factor not in crossing.factors:
        return []
    i = crossing.factors.index(factor)
    numbers = [crossing.levels[i].index(one) if one in crossing.levels[i] else -1 for one in levels]
    by_level = crossing.cells_by(i)
    sides = [by_level.get((number,), {}) for number in numbers]
    return [_Three(*(side[rest] for side in sides)) for rest in sides[0] if rest in sides[1] and rest in sides[2]]


def _error(of: Weighed, cells: Numbers, ways: list[Matrix], sizes: list[Matrix]) -> tuple[float, float | None]:
    """Of how much further the other goes: small errors of a colour count along the way that it went."""
    along = [way / np.maximum(size, 1e-9)[:, None] for way, size in zip(ways, sizes, strict=True)]
    weights = (along[0] - along[1], -along[0], along[1])
    rows = []
    for direction in range(along[0].shape[1]):
        row = np.zeros(len(of.crossing.cells))
        for side, weight in enumerate(weights):
            np.add.at(row, cells[:, side], weight[:, direction] / len(cells))
        rows.append(csr_matrix(row) @ of.weighing.of_cells)
    variance = float(np.trace(of.weighing.covariance(csr_matrix(vstack(rows)))))
    return float(np.sqrt(variance)), of.weighing.error(csr_matrix(rows[0])).df


def _rest(crossing: Crossing, factor: str, three: _Three) -> dict[str, str]:
    return {
        name: crossing.levels[i][crossing.cells[three.start, i]]
        for i, name in enumerate(crossing.factors)
        if name != factor
    }
