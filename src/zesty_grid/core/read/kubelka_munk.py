"""Colour of dyed cloth from what absorbs in it (Kubelka and Munk, 1931, opaque layer)."""

import numpy as np

from zesty_grid.core.read.colour_space import Floats


def absorption_over_scattering(reflectance: Floats) -> Floats:
    """K/S = (1 − R)² / 2R of reflectance (0 to 1] of an opaque layer."""
    r = np.asarray(reflectance, dtype=float)
    if ((r <= 0) | (r > 1)).any():
        raise ValueError("reflectance must lie above 0 and not above 1")
    ratio: Floats = (1 - r) ** 2 / (2 * r)
    return ratio


def reflectance_of(absorption_ratio: Floats) -> Floats:
    """R = 1 + K/S − √((K/S)² + 2 K/S) of an opaque layer; K/S of dyes and base add up."""
    ratio = np.asarray(absorption_ratio, dtype=float)
    if (ratio < 0).any():
        raise ValueError("K/S cannot be negative")
    reflectance: Floats = 1 + ratio - np.sqrt(ratio**2 + 2 * ratio)
    return reflectance
