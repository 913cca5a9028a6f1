"""The swatches of a trial from what lasts best to what lasts least, and which gaps are real."""

from collections.abc import Mapping, Sequence
from itertools import pairwise

import numpy as np

from zesty_grid.core.fade.fade_points import FadePoint
from zesty_grid.core.fade.fading_curve import HIGH, LOW, Paths, foretell_each
from zesty_grid.core.fade.trial_paths import last_dose_of
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.colour_space import Floats


class SwatchLasting(Frozen):
    """A swatch in the order of lasting: its change at the last stage of the trial, with 90 %
    limits."""

    swatch: str
    de00: float
    low_de00: float
    high_de00: float


class Gap(Frozen):
    """Whether one swatch lasts better than another: how sure that is, and by how much."""

    better: str
    worse: str
    difference_de00: float
    low_de00: float
    high_de00: float
    real: bool


class TrialFading(Frozen):
    """`order` from what lasts best to what lasts least; `gaps` between neighbours in it."""

    kind: str
    last_dose: float
    order: tuple[SwatchLasting, ...]
    gaps: tuple[Gap, ...]
    warnings: tuple[str, ...]


def trial_fading(kind: str, points: Sequence[FadePoint], paths: Mapping[str, Paths]) -> TrialFading:
    """All that were read, by their change at the last dose of the trial."""
    last, codes = last_dose_of(paths), list(paths)
    found = foretell_each(list(paths.values()), [last] * len(paths))
    places = sorted(range(len(codes)), key=lambda i: (found.told[i].de00, codes[i]))
    ranked = [(codes[i], found.told[i]) for i in places]
    order = tuple(
        SwatchLasting(swatch=code, de00=one.de00, low_de00=one.low_de00, high_de00=one.high_de00)
        for code, one in ranked
    )
    return TrialFading(
        kind=kind,
        last_dose=last,
        order=order,
        gaps=tuple(_gaps(order, found.apart[places])),
        warnings=_unknown_doses(points),
    )


def _gaps(order: Sequence[SwatchLasting], changes: Floats) -> list[Gap]:
    """By how much each changes more than the one before it; `changes` (n, draws) in order."""
    if len(order) < 2:
        return []
    # Swatches err apart from each other: their draws are matched by chance.
    by_chance = np.random.default_rng(7).permutation(changes.shape[1])
    limits = np.percentile(changes[1:, by_chance] - changes[:-1], [LOW, 50, HIGH], axis=1).T
    return [
        Gap(
            better=first.swatch,
            worse=second.swatch,
            difference_de00=float(middle),
            low_de00=float(low),
            high_de00=float(high),
            real=bool(low > 0),
        )
        for (first, second), (low, middle, high) in zip(pairwise(order), limits, strict=True)
    ]


def _unknown_doses(points: Sequence[FadePoint]) -> tuple[str, ...]:
    said = []
    if any(point.dose is None for point in points):
        said.append("Some stages have no dose: say where the pieces hung and since when.")
    turned = sorted({point.swatch for point in points if point.turned_round})
    if turned:
        said.append(
            f"{', '.join(turned[:6])}: the covered half changed and the exposed did not. "
            "The piece lay the other way round in its photo."
        )
    return tuple(said)
