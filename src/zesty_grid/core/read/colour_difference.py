"""Differences between two colours."""

import numpy as np
from pydantic import BaseModel, ConfigDict

from zesty_grid.core.read.colour_space import Floats, lab_to_lch


def delta_e_2000(lab_1: Floats, lab_2: Floats) -> Floats:
    """CIEDE2000 difference of L*a*b* arrays of shape (..., 3). Source: ISO/CIE 11664-6."""
    return np.asarray(np.linalg.norm(directions_2000(lab_1, lab_2), axis=-1))


def directions_2000(lab_1: Floats, lab_2: Floats) -> Floats:
    """CIEDE2000 difference as a vector (..., 3): lightness, chroma, hue, of colour 2 less 1.

    Its length is ΔE00: the rotation term is halved between chroma and hue. Source: ISO/CIE
    11664-6, the terms under the root.
    """
    first, second = np.asarray(lab_1, float), np.asarray(lab_2, float)
    chroma_mean = (np.hypot(first[..., 1], first[..., 2]) + np.hypot(second[..., 1], second[..., 2])) / 2
    seventh = chroma_mean**7
    stretch = 1.5 - 0.5 * np.sqrt(seventh / (seventh + 25.0**7))
    a_1, a_2 = first[..., 1] * stretch, second[..., 1] * stretch
    c_1, c_2 = np.hypot(a_1, first[..., 2]), np.hypot(a_2, second[..., 2])
    h_1 = np.degrees(np.arctan2(first[..., 2], a_1)) % 360
    h_2 = np.degrees(np.arctan2(second[..., 2], a_2)) % 360
    grey = c_1 * c_2 == 0
    apart = h_2 - h_1
    turn = np.where(grey, 0.0, apart - 360 * np.sign(apart) * (np.abs(apart) > 180))
    hue = 2 * np.sqrt(c_1 * c_2) * np.sin(np.radians(turn) / 2)
    h_mean = np.where(grey, h_1 + h_2, (h_1 + turn / 2) % 360)
    l_mean, c_mean = (first[..., 0] + second[..., 0]) / 2, (c_1 + c_2) / 2
    t = (
        1
        - 0.17 * np.cos(np.radians(h_mean - 30))
        + 0.24 * np.cos(np.radians(2 * h_mean))
        + 0.32 * np.cos(np.radians(3 * h_mean + 6))
        - 0.20 * np.cos(np.radians(4 * h_mean - 63))
    )
    s_l = 1 + 0.015 * (l_mean - 50) ** 2 / np.sqrt(20 + (l_mean - 50) ** 2)
    s_c, s_h = 1 + 0.045 * c_mean, 1 + 0.015 * c_mean * t
    theta = np.radians(30 * np.exp(-(((h_mean - 275) / 25) ** 2)))
    r_t = -2 * np.sqrt(c_mean**7 / (c_mean**7 + 25.0**7)) * np.sin(2 * theta)
    x, y = (c_2 - c_1) / s_c, hue / s_h
    # x² + y² + r·x·y as a sum of squares that treats both alike.
    root = np.sqrt(np.maximum(1 - (r_t / 2) ** 2, 0))
    wide, narrow = np.sqrt((1 + root) / 2), r_t / 2 / np.sqrt(2 * (1 + root))
    return np.stack([(second[..., 0] - first[..., 0]) / s_l, wide * x + narrow * y, narrow * x + wide * y], axis=-1)


class ColourDifference(BaseModel):
    """How a sample differs from its reference: sample minus reference, CIELAB and CIEDE2000."""

    model_config = ConfigDict(frozen=True)

    de00: float
    de_ab: float
    dl: float
    da: float
    db: float
    dc: float
    dh: float


def cielab_difference(reference_lab: Floats, sample_lab: Floats) -> ColourDifference:
    """All CIELAB differences of one pair; ΔH carries the sign of the hue change. Source: CIE 15."""
    one = np.asarray(reference_lab, float)[None], np.asarray(sample_lab, float)[None]
    return cielab_differences(*one)[0]


def cielab_differences(reference_labs: Floats, sample_labs: Floats) -> list[ColourDifference]:
    """As `cielab_difference`, of pairs (n, 3)."""
    if not len(reference_labs):
        return []
    apart = sample_labs - reference_labs
    lch_reference, lch_sample = lab_to_lch(reference_labs), lab_to_lch(sample_labs)
    dc = lch_sample[:, 1] - lch_reference[:, 1]
    turn_deg = (lch_sample[:, 2] - lch_reference[:, 2] + 180) % 360 - 180
    dh = 2 * np.sqrt(lch_sample[:, 1] * lch_reference[:, 1]) * np.sin(np.radians(turn_deg) / 2)
    de00 = np.asarray(delta_e_2000(reference_labs, sample_labs))
    de_ab = np.sqrt((apart**2).sum(axis=1))
    return [
        ColourDifference(
            de00=float(de00[i]),
            de_ab=float(de_ab[i]),
            dl=float(apart[i, 0]),
            da=float(apart[i, 1]),
            db=float(apart[i, 2]),
            dc=float(dc[i]),
            dh=float(dh[i]),
        )
        for i in range(len(apart))
    ]
