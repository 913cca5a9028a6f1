"""Differences between two colours."""

from typing import cast

import numpy as np
from pydantic import BaseModel, ConfigDict

from zesty_grid.core.read.colour_science import colour
from zesty_grid.core.read.colour_space import Floats, lab_to_lch


def delta_e_2000(lab_1: Floats, lab_2: Floats) -> Floats:
    """CIEDE2000 difference of L*a*b* arrays of shape (..., 3). Source: ISO/CIE 11664-6."""
    return cast(Floats, np.asarray(colour.difference.delta_E_CIE2000(lab_1, lab_2)))


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
    reference, sample = np.asarray(reference_lab, float), np.asarray(sample_lab, float)
    dl, da, db = (float(v) for v in sample - reference)
    lch_reference, lch_sample = lab_to_lch(reference), lab_to_lch(sample)
    dc = float(lch_sample[1] - lch_reference[1])
    turn_deg = (float(lch_sample[2] - lch_reference[2]) + 180) % 360 - 180
    dh = 2 * float(np.sqrt(lch_sample[1] * lch_reference[1]) * np.sin(np.radians(turn_deg) / 2))
    return ColourDifference(
        de00=float(delta_e_2000(reference, sample)),
        de_ab=float(np.sqrt(dl**2 + da**2 + db**2)),
        dl=dl,
        da=da,
        db=db,
        dc=dc,
        dh=dh,
    )
