"""Instrumental rating of change in colour. Source: ISO 105-A05."""

import numpy as np

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.colour_space import Floats, lab_to_lch

# Upper limits of ΔEF for each grey-scale rating; anything larger is rated 1.
LIMITS = (
    (0.40, "5"),
    (1.25, "4-5"),
    (2.10, "4"),
    (2.95, "3-4"),
    (4.10, "3"),
    (5.80, "2-3"),
    (8.20, "2"),
    (11.60, "1-2"),
)
GRADES = (*(rating for _, rating in LIMITS), "1")
BLUE_HUE_DEG = 280.0


class GreyScaleRating(Frozen):
    """ΔEF and the rating from 5 (no change) to 1."""

    def_a05: float
    rating: str


def rating_of(def_a05: float) -> str:
    """The grey-scale rating that belongs to a ΔEF. Source: ISO 105-A05, table of limits."""
    if def_a05 < 0:
        raise ValueError("ΔEF cannot be negative")
    return next((rating for limit, rating in LIMITS if def_a05 < limit), "1")


def grey_scale_change(reference_lab: Floats, sample_lab: Floats) -> GreyScaleRating:
    """Rates the change from an unexposed reference to a sample. Source: ISO 105-A05."""
    found = float(def_a05(np.asarray(reference_lab, float), np.asarray(sample_lab, float)))
    return GreyScaleRating(def_a05=found, rating=rating_of(found))


def def_a05(reference_lab: Floats, sample_lab: Floats) -> Floats:
    """ΔEF of pairs of colours (..., 3) to (...). Source: ISO 105-A05."""
    reference, sample = lab_to_lch(reference_lab), lab_to_lch(sample_lab)
    dl, dc = (sample[..., i] - reference[..., i] for i in (0, 1))
    turn_deg = (sample[..., 2] - reference[..., 2] + 180) % 360 - 180
    dh = 2 * np.sqrt(reference[..., 1] * sample[..., 1]) * np.sin(np.radians(turn_deg) / 2)
    mean_chroma = (reference[..., 1] + sample[..., 1]) / 2
    mean_hue_deg = (reference[..., 2] + turn_deg / 2) % 360
    distance_deg = np.abs(mean_hue_deg - BLUE_HUE_DEG)
    x = (np.minimum(distance_deg, 360 - distance_deg) / 30) ** 2
    d = dc * mean_chroma * np.exp(-x) / 100
    dcf = (dc - d) / (1 + (20 * mean_chroma / 1000) ** 2)
    dhf = (dh - d) / (1 + (10 * mean_chroma / 1000) ** 2)
    return np.asarray(np.sqrt(dl**2 + dcf**2 + dhf**2))
