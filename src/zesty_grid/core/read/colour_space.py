"""CIE colour spaces under D50 and the 2° observer (CIE 15)."""

from functools import lru_cache
from typing import cast

import numpy as np
from numpy.typing import NDArray

from zesty_grid.core.read.colour_science import colour

Floats = NDArray[np.float64]

# White of D50, 2° observer, Y = 1 (CIE 15; ICC profile connection space).
D50_XYZ: Floats = np.array([0.96422, 1.0, 0.82521])
_D50_XY = D50_XYZ[:2] / D50_XYZ.sum()
_SRGB = colour.RGB_COLOURSPACES["sRGB"]


def brightness_of(light: Floats) -> Floats:
    """The mean of the three channels, (..., 3) to (...)."""
    return np.asarray(light @ np.full(3, 1 / 3, dtype=light.dtype))


def xyz_to_lab(xyz: Floats) -> Floats:
    """L*a*b* (D50) of XYZ with Y = 1 for the perfect diffuser; shape (..., 3). Source: CIE 15."""
    return cast(Floats, colour.XYZ_to_Lab(xyz, illuminant=_D50_XY))


def lab_to_xyz(lab: Floats) -> Floats:
    """XYZ (D50, Y = 1 for the perfect diffuser) of L*a*b*; shape (..., 3). Source: CIE 15."""
    return cast(Floats, colour.Lab_to_XYZ(lab, illuminant=_D50_XY))


def lab_to_lch(lab: Floats) -> Floats:
    """L*, chroma and hue angle in degrees (0 to 360); shape (..., 3). Source: CIE 15."""
    lab = np.asarray(lab, dtype=float)
    hue_deg = np.degrees(np.arctan2(lab[..., 2], lab[..., 1])) % 360
    return np.stack([lab[..., 0], np.hypot(lab[..., 1], lab[..., 2]), hue_deg], axis=-1)


def lab_to_hex(lab: Floats) -> str:
    """The nearest sRGB colour that a screen can show, as '#rrggbb'. Source: IEC 61966-2-1."""
    r, g, b = (round(255 * float(v)) for v in lab_to_srgb(lab))
    return f"#{r:02x}{g:02x}{b:02x}"


def lab_to_srgb(lab: Floats) -> Floats:
    """The nearest sRGB colours that a screen can show, (..., 3) from 0 to 1. Source: as above."""
    linear = lab_to_xyz(lab) @ _srgb_from_xyz()
    rgb = colour.models.eotf_inverse_sRGB(np.clip(linear, 0, 1))
    return np.asarray(np.clip(rgb, 0, 1), dtype=float)


def hex_to_lab(code: str) -> Floats:
    """L*a*b* (D50) of an sRGB colour written as six hexadecimal digits. Source: IEC 61966-2-1."""
    rgb = np.array([int(code[i : i + 2], 16) / 255 for i in (0, 2, 4)])
    linear = np.asarray(colour.models.eotf_sRGB(rgb))
    return xyz_to_lab(linear @ np.linalg.inv(_srgb_from_xyz()))


@lru_cache(maxsize=1)
def _srgb_from_xyz() -> Floats:
    """Linear sRGB from XYZ under D50, (3, 3), for row vectors; adapted to the screen's white as
    sRGB's own profile does (Bradford; ICC.1, annex E)."""
    adapted = colour.XYZ_to_RGB(np.eye(3), _SRGB, illuminant=_D50_XY, chromatic_adaptation_transform="Bradford")
    return np.asarray(adapted)
