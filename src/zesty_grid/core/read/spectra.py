"""Colours of measured spectra, for any illuminant and observer (CIE 15; ASTM E308)."""

from collections.abc import Sequence
from typing import Literal

import numpy as np

from zesty_grid.core.read.colour_science import colour_science
from zesty_grid.core.read.colour_space import D50_XYZ, Floats, xyz_to_lab
from zesty_grid.core.refusal import Refusal

Illuminant = Literal["D50", "D55", "D65", "D75", "A", "C", "E", "FL2", "FL7", "FL11"]
Observer = Literal["2", "10"]
OBSERVERS: dict[Observer, str] = {
    "2": "CIE 1931 2 Degree Standard Observer",
    "10": "CIE 1964 10 Degree Standard Observer",
}
FEWEST_NM, COARSEST_NM = (430.0, 660.0), 20.5


def spectrum_xyz(
    wavelengths_nm: Sequence[float],
    reflectance: Sequence[float],
    illuminant: Illuminant = "D50",
    observer: Observer = "2",
) -> Floats:
    """XYZ, (3,), with Y = 1 for the perfect diffuser, by the method of ASTM E308.

    `reflectance` (0 to 1) at rising wavelengths. Raises Refusal for a spectrum that covers too
    little of what is visible, or too coarsely.
    """
    nm = np.asarray(wavelengths_nm, dtype=float)
    if len(nm) < 2 or nm[0] > FEWEST_NM[0] or nm[-1] < FEWEST_NM[1]:
        raise Refusal(
            "spectrum-too-narrow",
            "The spectrum does not cover what is visible.",
            f"Give it from {FEWEST_NM[0]:.0f} to {FEWEST_NM[1]:.0f} nm at least.",
        )
    if np.diff(nm).min() <= 0 or np.diff(nm).max() > COARSEST_NM:
        raise Refusal(
            "spectrum-too-coarse",
            "The spectrum's wavelengths are too far apart or not in order.",
            "Give it in steps of 20 nm or finer.",
        )
    step = 5 if np.diff(nm).max() <= 5 else 10 if np.diff(nm).max() <= 10 else 20
    grid = np.arange(np.ceil(nm[0] / step) * step, nm[-1] + 0.1, step)
    values = np.interp(grid, nm, np.asarray(reflectance, dtype=float))
    colour = colour_science()
    spectrum = colour.SpectralDistribution(values, grid)
    # The library tells of wavelengths that it leaves out; what may be left out is checked above.
    with colour.utilities.suppress_warnings(colour_runtime_warnings=True):
        xyz = colour.sd_to_XYZ(
            spectrum, colour.MSDS_CMFS[OBSERVERS[observer]], colour.SDS_ILLUMINANTS[illuminant], method="ASTM E308"
        )
    return np.asarray(xyz, dtype=float) / 100


def spectrum_lab(
    wavelengths_nm: Sequence[float],
    reflectance: Sequence[float],
    illuminant: Illuminant = "D50",
    observer: Observer = "2",
) -> tuple[float, float, float]:
    """L*a*b* under the illuminant, referred to its own white."""
    xyz = spectrum_xyz(wavelengths_nm, reflectance, illuminant, observer)
    return xyz_lab(xyz, white_point_xyz(illuminant, observer))


def xyz_lab(xyz: Floats, white: Floats) -> tuple[float, float, float]:
    """L*a*b* of XYZ, (3,), referred to a white, (3,)."""
    lab = xyz_to_lab(xyz, white)
    return (float(lab[0]), float(lab[1]), float(lab[2]))


def white_point_xyz(illuminant: Illuminant, observer: Observer) -> Floats:
    """XYZ of the perfect diffuser, Y = 1."""
    if (illuminant, observer) == ("D50", "2"):
        return D50_XYZ
    colour = colour_science()
    xy = np.array(colour.CCS_ILLUMINANTS[OBSERVERS[observer]][illuminant])
    return np.asarray(colour.xy_to_XYZ(xy), dtype=float)
