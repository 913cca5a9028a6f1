"""Two factors together: the colour at each of their combinations, averaged over all else."""

import numpy as np

from zesty_grid.core.compare.compared import CompareQuestion
from zesty_grid.core.compare.crossed import Matrix
from zesty_grid.core.compare.equivalence import SIGNIFICANCE, quantile
from zesty_grid.core.compare.mixed_model import Fitted
from zesty_grid.core.compare.real_effects import fitted_to
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.colour_space import lab_to_hex, lab_to_lch
from zesty_grid.core.read.measurement import Lab


class ProfilePoint(Frozen):
    """The mean colour at a combination; the ranges hold 95 in 100 of how its L*, C* and hue
    angle lie against the middle of all. None: pots and levels cannot be told apart there."""

    first: str
    second: str
    lab: Lab
    hex: str
    chroma: float
    hue_deg: float
    lightness_off: float | None
    chroma_off: float | None
    hue_off_deg: float | None


class Profile(Frozen):
    first: str
    second: str
    points: tuple[ProfilePoint, ...]


def profile(question: CompareQuestion, first: str, second: str) -> Profile:
    """Raises Refusal as `real_effects` does; empty where a factor has one level."""
    fitted = fitted_to(question, [(first, second)])
    design = fitted.design
    if first not in design.factors or second not in design.factors:
        return Profile(first=first, second=second, points=())
    i, j = design.factors.index(first), design.factors.index(second)
    rows = {pair: _row(fitted, i, j, *pair) for pair in sorted(design.combinations_of(i, j))}
    middle = np.mean(list(rows.values()), axis=0)
    points = [_point(fitted, i, j, pair, row, middle) for pair, row in rows.items()]
    return Profile(first=first, second=second, points=tuple(points))


def _row(fitted: Fitted, i: int, j: int, a: int, b: int) -> Matrix:
    """All levels of the others counting once, or those that are there."""
    design = fitted.design
    row = design.row({i: a, j: b})
    if fitted.is_told(row):
        return row
    here = (design.level_of[:, i] == a) & (design.level_of[:, j] == b)
    return np.asarray(design.columns[here].mean(axis=0))


def _point(fitted: Fitted, i: int, j: int, pair: tuple[int, int], row: Matrix, middle: Matrix) -> ProfilePoint:
    """The ranges are those of the difference from the middle of all points: for comparing them."""
    design = fitted.design
    lab = row @ fitted.beta
    lightness, chroma, hue = (float(value) for value in lab_to_lch(lab))
    off = []
    for k in range(3):
        direction = np.eye(3)[0] if k == 0 else _towards(hue, k)
        seen = fitted.variance(row - middle, direction)
        wide = quantile(1 - SIGNIFICANCE / 2, seen.df) * seen.variance**0.5
        off.append(None if seen.untold or not np.isfinite(wide) else float(wide))
    degrees = None if off[2] is None or chroma < 1 else float(np.degrees(off[2] / chroma))
    return ProfilePoint(
        first=design.levels[i][pair[0]],
        second=design.levels[j][pair[1]],
        lab=(lightness, float(lab[1]), float(lab[2])),
        hex=lab_to_hex(lab),
        chroma=chroma,
        hue_deg=hue,
        lightness_off=off[0],
        chroma_off=off[1],
        hue_off_deg=degrees,
    )


def _towards(hue_deg: float, k: int) -> Matrix:
    """Along chroma (1) or across it (2)."""
    angle = np.radians(hue_deg) + (np.pi / 2 if k == 2 else 0.0)
    return np.array([0.0, np.cos(angle), np.sin(angle)])
