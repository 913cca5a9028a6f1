"""Reference colours of the common 24-patch chart (McCamy, Marcus and Davidson, 1976).

The values are the average of measured spectra of many charts, from the colour library's data
sets, integrated under D50 with the 2° observer (CIE 15).
"""

from functools import lru_cache

import numpy as np

from zesty_grid.core.read.colour_science import colour_science
from zesty_grid.core.read.colour_space import D50_XYZ, Floats

ROWS, COLUMNS = 4, 6
PATCH_NAMES = (
    "dark brown",
    "pale tan",
    "sky blue",
    "leaf green",
    "lavender blue",
    "aqua",
    "orange",
    "violet blue",
    "brick pink",
    "dark purple",
    "yellow green",
    "amber",
    "blue",
    "green",
    "red",
    "yellow",
    "magenta",
    "cyan",
    "white",
    "grey 8",
    "grey 6.5",
    "grey 5",
    "grey 3.5",
    "black",
)
WAVELENGTHS_NM = np.arange(380, 731, 10)


@lru_cache(maxsize=1)
def patch24_spectra() -> Floats:
    """Reflectance (0 to 1) of the 24 patches at 380 to 730 nm in steps of 10; shape (24, 36)."""
    colour = colour_science()
    charts = next(
        value
        for name, value in vars(colour.characterisation).items()
        if name.startswith("SDS_") and name.endswith("CHECKERS")
    )
    average = next(chart for key, chart in charts.items() if key.endswith("Average"))
    return np.array([spectrum.values for spectrum in average.values()], dtype=float)


@lru_cache(maxsize=1)
def patch24_xyz() -> Floats:
    """XYZ under D50 with Y = 1 for the perfect diffuser; shape (24, 3)."""
    return spectra_to_xyz(patch24_spectra())


def spectra_to_xyz(reflectance: Floats) -> Floats:
    """XYZ (D50, 2°) of reflectances sampled at `WAVELENGTHS_NM`; shape (n, 36) to (n, 3).

    Scaled so that the perfect diffuser has exactly the white that the L*a*b* here refer to.
    Source: CIE 15, summation at 10 nm intervals.
    """
    colour = colour_science()
    shape = colour.SpectralShape(380, 730, 10)
    observer = colour.MSDS_CMFS["CIE 1931 2 Degree Standard Observer"].copy().align(shape).values
    light = colour.SDS_ILLUMINANTS["D50"].copy().align(shape).values
    weights = observer * light[:, None]
    xyz: Floats = reflectance @ weights / weights.sum(axis=0) * D50_XYZ
    return xyz
