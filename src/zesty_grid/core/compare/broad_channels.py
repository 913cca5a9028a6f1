"""Absorption over scattering in three broad channels, from colour alone.

Kubelka and Munk's K/S holds at each wavelength; in three sharpened channels it holds nearly enough
for one dye in several depths. The channels are those of Bradford's adaptation (CIE 160), in which
white cloth reflects 1 in each.
"""

import numpy as np

from zesty_grid.core.read.colour_space import D50_XYZ, Floats, lab_to_xyz, xyz_to_lab
from zesty_grid.core.read.kubelka_munk import absorption_over_scattering, reflectance_of

BRADFORD: Floats = np.array([[0.8951, 0.2664, -0.1614], [-0.7502, 1.7135, 0.0367], [0.0389, -0.0685, 1.0296]])
_WHITE = BRADFORD @ D50_XYZ
DARKEST, LIGHTEST = 0.003, 0.999


def depth_of(lab: Floats) -> Floats:
    """Natural logarithm of K/S in each channel, of L*a*b* (..., 3)."""
    reflectance = (lab_to_xyz(np.asarray(lab, float)) @ BRADFORD.T) / _WHITE
    ratio = absorption_over_scattering(np.clip(reflectance, DARKEST, LIGHTEST))
    return np.asarray(np.log(ratio))


def colour_of(depth: Floats) -> Floats:
    """L*a*b* (..., 3) of the logarithms of K/S."""
    reflectance = reflectance_of(np.exp(np.asarray(depth, float)))
    return xyz_to_lab((reflectance * _WHITE) @ np.linalg.inv(BRADFORD).T)
