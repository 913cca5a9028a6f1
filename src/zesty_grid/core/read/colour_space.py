"""CIE colour spaces under D50 and the 2° observer (CIE 15)."""

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]

# White of D50, 2° observer, Y = 1 (CIE 15; ICC profile connection space).
D50_XYZ: Floats = np.array([0.96422, 1.0, 0.82521])
# Where the cube root of CIE 15 gives way to a straight line, and how steep that is.
ROOT_FROM, STEEPNESS = (24 / 116) ** 3, (841 / 108)
# Linear sRGB from XYZ under D50, for row vectors; adapted to the screen's white as sRGB's own profile does (Bradford;
# ICC.1, annex E). Tested against the colour library, which worked it out.
SRGB_FROM_XYZ: Floats = np.array(
    [
        [3.133901389071577, -0.9784226481422373, 0.07201008121570812],
        [-1.6170045078904813, 1.915959085531735, -0.2289836730604119],
        [-0.49069037797086995, 0.03339119641805438, 1.405247815999044],
    ]
)


def brightness_of(light: Floats) -> Floats:
    """The mean of the three channels, (..., 3) to (...)."""
    return np.asarray(light @ np.full(3, 1 / 3, dtype=light.dtype))


def xyz_to_lab(xyz: Floats, white: Floats = D50_XYZ) -> Floats:
    """L*a*b* of XYZ with Y = 1 for the perfect diffuser, referred to a white, (3,); shape (..., 3). Source: CIE 15."""
    relative = np.asarray(xyz, dtype=float) / white
    root = np.where(relative > ROOT_FROM, np.cbrt(relative), STEEPNESS * relative + 16 / 116)
    x, y, z = root[..., 0], root[..., 1], root[..., 2]
    lab: Floats = np.stack([116 * y - 16, 500 * (x - y), 200 * (y - z)], axis=-1)
    return lab


def lab_to_xyz(lab: Floats) -> Floats:
    """XYZ (D50, Y = 1 for the perfect diffuser) of L*a*b*; shape (..., 3). Source: CIE 15."""
    lab = np.asarray(lab, dtype=float)
    y = (lab[..., 0] + 16) / 116
    root = np.stack([y + lab[..., 1] / 500, y, y - lab[..., 2] / 200], axis=-1)
    xyz: Floats = np.where(root > 24 / 116, root**3, (root - 16 / 116) / STEEPNESS) * D50_XYZ
    return xyz


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
    return linear_to_srgb(np.clip(lab_to_xyz(lab) @ SRGB_FROM_XYZ, 0, 1))


def hex_to_lab(code: str) -> Floats:
    """L*a*b* (D50) of an sRGB colour written as six hexadecimal digits. Source: IEC 61966-2-1."""
    rgb = np.array([int(code[i : i + 2], 16) / 255 for i in (0, 2, 4)])
    return xyz_to_lab(srgb_to_linear(rgb) @ np.linalg.inv(SRGB_FROM_XYZ))


def srgb_to_linear(coded: Floats) -> Floats:
    """Linear light of coded sRGB values; straight on beyond 0 to 1. Source: IEC 61966-2-1."""
    steep = np.maximum((coded + 0.055) / 1.055, 0) ** 2.4
    return np.asarray(np.where(coded <= 0.04045, coded / 12.92, steep))


def linear_to_srgb(linear: Floats) -> Floats:
    """Coded sRGB values of linear light; straight on beyond 0 to 1. Source: IEC 61966-2-1."""
    steep = 1.055 * np.maximum(linear, 0) ** (1 / 2.4) - 0.055
    return np.asarray(np.where(linear <= 0.0031308, 12.92 * linear, steep))
