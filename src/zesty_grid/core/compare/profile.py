"""Two factors together: the colour at each of their combinations, averaged over all else."""

from collections.abc import Sequence

import numpy as np
from scipy.sparse import csr_matrix
from scipy.special import ndtri

from zesty_grid.core.compare.compared import CompareQuestion
from zesty_grid.core.compare.directions import unit_2000
from zesty_grid.core.compare.weighed import Weighed, weighed
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.noise.crossing import Matrix
from zesty_grid.core.noise.detecting import widened
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import lab_to_hex, lab_to_lch
from zesty_grid.core.read.measurement import Lab

# A mean of colours further from it than this would be seen as another colour than any of them (common practice).
MIXED_DE00 = 12.0


class ProfilePoint(Frozen):
    """The mean colour at a combination; the ranges hold 95 in 100 of how its L*, C* and hue angle lie against the
    middle of all, if they were dyed again. `hue_off_deg` None: too grey to have a hue. `hex` empty: its cells lie so
    far from their mean that it is the colour of none."""

    first: str
    second: str
    lab: Lab
    hex: str
    chroma: float
    hue_deg: float
    lightness_off: float
    chroma_off: float
    hue_off_deg: float | None


class Profile(Frozen):
    first: str
    second: str
    points: tuple[ProfilePoint, ...]


def profile(question: CompareQuestion, first: str, second: str) -> Profile:
    """Raises Refusal as `real_effects` does; empty where a factor has one level. Levels of the others count once
    each, those that every combination has where there are any."""
    of = weighed(question)
    factors = of.crossing.factors
    if first not in factors or second not in factors or first == second:
        return Profile(first=first, second=second, points=())
    pairs, rows = _rows(of, factors.index(first), factors.index(second))
    means = csr_matrix(rows @ of.weighing.of_cells)
    middle = csr_matrix(means.mean(axis=0))
    labs = np.asarray(means @ of.labs)
    names = [of.crossing.levels[factors.index(factor)] for factor in (first, second)]
    points = [
        _point(of, (names[0][a], names[1][b]), labs[k], csr_matrix(means[k] - middle), of.cell_labs[rows[k].indices])
        for k, (a, b) in enumerate(pairs)
    ]
    return Profile(first=first, second=second, points=tuple(points))


def _rows(of: Weighed, i: int, j: int) -> tuple[list[tuple[int, ...]], csr_matrix]:
    cells, at = of.crossing.cells, of.crossing.cells_by(i, j)
    pairs = sorted(at)
    common = set.intersection(*(set(own) for own in at.values()))
    rows = np.zeros((len(pairs), len(cells)))
    for row, pair in zip(rows, pairs, strict=True):
        own: Sequence[int] = [cell for key, cell in at[pair].items() if key in common or not common]
        row[own] = 1 / len(own)
    return pairs, csr_matrix(rows)


def _point(of: Weighed, levels: tuple[str, str], lab: Matrix, off: csr_matrix, cells: Matrix) -> ProfilePoint:
    """The ranges are those of the difference from the middle of all points: for comparing them."""
    lightness, chroma, hue = (float(value) for value in lab_to_lch(lab))
    error = of.weighing.error(off)
    wide = error.sd * widened(error.df, 1) * float(ndtri(0.975))
    to_lab = np.linalg.inv(unit_2000(lab))
    offs = [wide * float(np.linalg.norm(along @ to_lab)) for along in (np.eye(3)[0], *_towards(hue))]
    return ProfilePoint(
        first=levels[0],
        second=levels[1],
        lab=(lightness, float(lab[1]), float(lab[2])),
        hex=lab_to_hex(lab) if float(np.max(delta_e_2000(cells, lab[None]))) < MIXED_DE00 else "",
        chroma=chroma,
        hue_deg=hue,
        lightness_off=offs[0],
        chroma_off=offs[1],
        hue_off_deg=None if chroma < 1 else float(np.degrees(offs[2] / chroma)),
    )


def _towards(hue_deg: float) -> tuple[Matrix, Matrix]:
    """Along chroma and across it."""
    angle = np.radians(hue_deg)
    return np.array([0.0, np.cos(angle), np.sin(angle)]), np.array([0.0, -np.sin(angle), np.cos(angle)])
