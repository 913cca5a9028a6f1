"""A plain-words name for a colour, so that colour is never the only carrier."""

from functools import lru_cache

import numpy as np

from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import Floats, hex_to_lab
from zesty_grid.core.read.iscc_nbs import named_centroids


def colour_words(lab: Floats) -> str:
    """The name of the ISCC-NBS block whose centroid is nearest by CIEDE2000, for L*a*b* (D50).

    The blocks themselves are bounded in Munsell's notation; next to a bound the nearest centroid
    may be that of the neighbour.
    """
    names, labs = _centroids()
    here = np.broadcast_to(np.asarray(lab, float), labs.shape)
    return names[int(np.argmin(delta_e_2000(here, labs)))]


@lru_cache(maxsize=1)
def _centroids() -> tuple[tuple[str, ...], Floats]:
    table = named_centroids()
    return tuple(name for name, _ in table), np.array([hex_to_lab(code) for _, code in table])
