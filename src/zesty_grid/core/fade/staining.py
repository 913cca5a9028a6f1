"""Instrumental rating of staining of a white neighbour cloth. Source: ISO 105-A04."""

import numpy as np

from zesty_grid.core.fade.grey_scale import GRADES
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.colour_space import Floats

LEAST_GS = 1e-9
# A curve from 5 down for the faintest stains, a logarithm for all others.
FAINT_SLOPE, FAINT_UNTIL = 0.23, 4.0
AT_ONE, PER_LOG = 6.1, 1.45


class StainRating(Frozen):
    """ΔEGS, the rating as a number and as the half step of the grey scale for staining."""

    de_gs: float
    value: float
    rating: str


def stain_rating(clean_lab: Floats, stained_lab: Floats) -> StainRating:
    """Rates a white cloth before and after it lay with a dyed one. Source: ISO 105-A04."""
    step = np.asarray(stained_lab, float) - np.asarray(clean_lab, float)
    return rate_stain(float(np.linalg.norm(step)), float(step[0]))


def rate_stain(de_ab: float, dl: float) -> StainRating:
    """The rating that belongs to a CIELAB difference and its part in lightness. Source: ISO
    105-A04."""
    de_gs = max(0.0, de_ab - 0.4 * float(np.sqrt(max(0.0, de_ab**2 - dl**2))))
    value = AT_ONE - PER_LOG * float(np.log(max(de_gs, LEAST_GS)))
    faint = 5 - FAINT_SLOPE * de_gs
    if faint > FAINT_UNTIL:
        value = faint
    value = float(np.clip(value, 1, 5))
    return StainRating(de_gs=de_gs, value=value, rating=half_step(value))


def half_step(value: float) -> str:
    """The nearest half step of a grey scale, '5' to '1'."""
    return GRADES[int(np.clip(np.ceil(round((5 - value) * 2 - 0.5, 9)), 0, len(GRADES) - 1))]


def stain_range(clean_lab: Floats, stained_lab: Floats, limit_de00: float) -> tuple[str, str]:
    """The worst and best rating that the uncertainty of reading leaves open, at 95 in 100, along
    the way from clean to stained."""
    clean, stained = np.asarray(clean_lab, float), np.asarray(stained_lab, float)
    step = stained - clean
    length = float(np.linalg.norm(step))
    if length < 1e-6:
        step, length = np.array([-1.0, 0.0, 0.0]), 1.0
    direction = step / length
    seen = float(np.linalg.norm(stained - clean))
    worst = stain_rating(clean, clean + direction * (seen + limit_de00))
    best = stain_rating(clean, clean + direction * max(0.0, seen - limit_de00))
    return worst.rating, best.rating
