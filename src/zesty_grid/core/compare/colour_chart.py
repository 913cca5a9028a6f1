"""Where colours lie in the planes of a* and b*, and of chroma and lightness, with their doubt, what
a factor does to each of them, and the way that they fade."""

from collections.abc import Iterable, Mapping, Sequence
from itertools import pairwise

import numpy as np

from zesty_grid.core.compare.directions import unit_2000
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.noise.detecting import DIRECTIONS
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import Floats
from zesty_grid.core.read.measurement import Lab

# Twice the uncertainty holds about 95 in 100 (JCGM 100).
COVERAGE = 2.0


class Ellipse(Frozen):
    """Half axes in the units of the plane, and the angle of the first from its x axis, degrees."""

    first: float
    second: float
    angle_deg: float


class ChartPoint(Frozen):
    """A swatch, or a zone of one, at its place. `ab` and `cl` are the ellipses of its doubt in the
    plane of a* (x) and b* (y), and of C* (x) and L* (y)."""

    cell: str
    code: str
    zone: str = ""
    lab: Lab
    hex: str
    colour_words: str
    ab: Ellipse
    cl: Ellipse


class ChartArrow(Frozen):
    """What a factor does to one cell, all else being the same. Codes of swatches."""

    factor: str
    from_level: str
    to_level: str
    from_code: str
    to_code: str


class FadingWay(Frozen):
    """A swatch from its kept-dark piece through a trial's stages; `change_de00` by the last."""

    code: str
    trial: str
    stages: tuple[str, ...]
    labs: tuple[Lab, ...]
    hexes: tuple[str, ...]
    change_de00: float


class ColourChart(Frozen):
    points: tuple[ChartPoint, ...]
    arrows: tuple[ChartArrow, ...]
    fading: tuple[FadingWay, ...]


def doubt(lab: Lab, uncertainty_de00: float) -> tuple[Ellipse, Ellipse]:
    """The ellipses that hold 95 in 100, of a doubt that is as large in every direction."""
    at = np.array(lab)
    back = np.linalg.inv(unit_2000(at)) * COVERAGE * uncertainty_de00 / DIRECTIONS**0.5
    spread = back @ back.T
    chroma = float(np.hypot(at[1], at[2]))
    along = np.array([0.0, at[1], at[2]]) / chroma if chroma > 0 else np.array([0.0, 1.0, 0.0])
    to_ab = np.eye(3)[1:]
    to_cl = np.array([along, [1.0, 0.0, 0.0]])
    return _ellipse(to_ab @ spread @ to_ab.T), _ellipse(to_cl @ spread @ to_cl.T)


def arrows(cells: Mapping[str, Mapping[str, str]], levels: Mapping[str, Sequence[str]]) -> list[ChartArrow]:
    """Of each factor, from each level to the next one, between the cells that are the same in all
    else. `cells` has the levels of each code; one code stands for repeats."""
    found = []
    for factor, order in levels.items():
        there: dict[tuple[tuple[str, str], ...], dict[str, str]] = {}
        for code, own in cells.items():
            rest = tuple(sorted((k, v) for k, v in own.items() if k != factor))
            there.setdefault(rest, {}).setdefault(own.get(factor, ""), code)
        for at in there.values():
            known = [level for level in order if level in at]
            found += [
                ChartArrow(factor=factor, from_level=a, to_level=b, from_code=at[a], to_code=at[b])
                for a, b in pairwise(known)
            ]
    return found


def _ellipse(covariance: Floats) -> Ellipse:
    values, vectors = np.linalg.eigh(covariance)
    first = vectors[:, 1]
    return Ellipse(
        first=float(np.sqrt(max(values[1], 0))),
        second=float(np.sqrt(max(values[0], 0))),
        angle_deg=float(np.degrees(np.arctan2(first[1], first[0]))),
    )


def fading_ways(
    trial: str, labels: Sequence[str], points: Iterable[tuple[str, int, Lab, str, Lab, str]]
) -> list[FadingWay]:
    """`points`: code, stage, dark L*a*b* and hex, exposed L*a*b* and hex, by stage."""
    by_code: dict[str, list[tuple[str, int, Lab, str, Lab, str]]] = {}
    for point in points:
        by_code.setdefault(point[0], []).append(point)
    return [
        FadingWay(
            code=code,
            trial=trial,
            stages=("kept dark", *(labels[p[1]] if p[1] < len(labels) else "" for p in own)),
            labs=(own[0][2], *(p[4] for p in own)),
            hexes=(own[0][3], *(p[5] for p in own)),
            change_de00=float(delta_e_2000(np.array(own[-1][2]), np.array(own[-1][4]))),
        )
        for code, own in by_code.items()
    ]
