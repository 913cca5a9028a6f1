"""How far a measured colour may be from the truth: a standard uncertainty in ΔE00."""

import numpy as np

from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import Floats

NEIGHBOURHOOD_DE00 = 18.0
# Cloth spectra differ from the chart's paints: what patches cannot show. Common practice.
OTHER_MATERIAL_DE00 = 0.35


def calibration_uncertainty(lab: Floats, patch_reference_lab: Floats, unseen_de00: Floats) -> float:
    """Root mean square error of unseen patches, those of similar colour counting most."""
    distance = delta_e_2000(patch_reference_lab, np.broadcast_to(lab, patch_reference_lab.shape))
    weights = np.exp(-0.5 * (distance / NEIGHBOURHOOD_DE00) ** 2) + 0.02
    # Errors are capped at the 90th percentile: one odd patch says little about other colours.
    errors = np.minimum(unseen_de00, np.percentile(unseen_de00, 90))
    return float(np.sqrt((weights * errors**2).sum() / weights.sum()))


def light_uncertainty(lab: Floats, residual_ratio: float) -> float:
    """ΔE00 that follows from light which the paper shows to be uneven by `residual_ratio`.

    Slope of L* over relative luminance, CIE 15: dL* = (L* + 16) / 3 · dY / Y.
    """
    return float((lab[0] + 16) / 3 * residual_ratio)


def combined_uncertainty(
    lab: Floats,
    patch_reference_lab: Floats,
    unseen_de00: Floats,
    residual_ratio: float,
    levelness_de00: float,
    block_count: int,
    disagreement_de00: float,
) -> float:
    """Standard uncertainty of one cell's colour: independent parts, added in quadrature."""
    parts = (
        calibration_uncertainty(lab, patch_reference_lab, unseen_de00),
        light_uncertainty(lab, residual_ratio),
        levelness_de00 / np.sqrt(max(block_count, 1)),
        disagreement_de00 / 3,
        OTHER_MATERIAL_DE00,
    )
    return float(np.sqrt(sum(part**2 for part in parts)))
