"""The colours that lie nearest to one that is wanted."""

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np

from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import Floats

# The uncertainty below which a difference has no standard error worth a name.
LEAST_DE00 = 0.05


class Near(NamedTuple):
    """`place` in what was searched. `same`: no further than two of one colour are often read."""

    place: int
    de00: float
    uncertainty_de00: float
    same: bool


def nearest(wanted: Sequence[float], wanted_uncertainty_de00: float, labs: Floats, uncertainties: Floats) -> list[Near]:
    """All colours `labs` (n, 3) by ΔE00 from the wanted one, the nearest first."""
    if len(labs) == 0:
        return []
    apart = np.asarray(delta_e_2000(np.broadcast_to(np.asarray(wanted, float), labs.shape), labs))
    off = np.sqrt(wanted_uncertainty_de00**2 + np.asarray(uncertainties, float) ** 2)
    return [
        Near(int(i), float(apart[i]), float(max(off[i], LEAST_DE00)), bool(apart[i] < 2 * off[i]))
        for i in np.argsort(apart, kind="stable")
    ]
