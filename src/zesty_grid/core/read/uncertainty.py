"""How far a measured colour may be from the truth: a standard uncertainty in ΔE00."""

import numpy as np

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import Floats

NEIGHBOURHOOD_DE00 = 18.0
# Cloth spectra differ from the chart's paints: what patches cannot show. Common practice.
OTHER_MATERIAL_DE00 = 0.35
USUAL_LEVERAGE = 0.35
# What is left of a shadow, and of what shows through, after they were taken off.
SHADOW_LEFT = 0.25
BACKING_LEFT = 0.3


def calibration_uncertainty(lab: Floats, patch_reference_lab: Floats, unseen_de00: Floats) -> float:
    """Root mean square error of unseen patches, those of similar colour counting most."""
    distance = delta_e_2000(patch_reference_lab, np.broadcast_to(lab, patch_reference_lab.shape))
    weights = np.exp(-0.5 * (distance / NEIGHBOURHOOD_DE00) ** 2) + 0.02
    # Errors are capped at the 90th percentile: one odd patch says little about other colours.
    errors = np.minimum(unseen_de00, np.percentile(unseen_de00, 90))
    return float(np.sqrt((weights * errors**2).sum() / weights.sum()))


def extrapolation(leverage: float) -> float:
    """How much more uncertain a colour is that lies outside of the chart's.

    The variance of a prediction grows with its leverage (Cook and Weisberg, 1982); held to 4, since
    the fit bends no further than its least terms.
    """
    return float(min(4.0, np.sqrt(1 + 2.5 * max(0.0, leverage - USUAL_LEVERAGE))))


def light_uncertainty(lab: Floats, residual_ratio: float) -> float:
    """ΔE00 that follows from light which the paper shows to be uneven by `residual_ratio`.

    Slope of L* over relative luminance, CIE 15: dL* = (L* + 16) / 3 · dY / Y.
    """
    return float((lab[0] + 16) / 3 * residual_ratio)


class UncertaintyParts(Frozen):
    """Standard uncertainties of one colour in ΔE00, by where they come from.

    `chart`: how badly unseen patches were predicted, and how far two corrections disagree;
    `light`: how patchy the paper stayed; `evenness`: of the piece itself; `material`: cloth is no
    paint; `rendering`: other light there than on the chart, brightness changed from place to place,
    a doubtful page; `backing`: what shows through the cloth. Chart and material are shared by
    pieces of one photo, light and evenness are not.
    """

    chart_de00: float
    light_de00: float
    evenness_de00: float
    material_de00: float = OTHER_MATERIAL_DE00
    rendering_de00: float = 0.0
    backing_de00: float = 0.0

    @property
    def combined_de00(self) -> float:
        """Independent parts, added in quadrature."""
        parts = (
            self.chart_de00,
            self.light_de00,
            self.evenness_de00,
            self.material_de00,
            self.rendering_de00,
            self.backing_de00,
        )
        return float(np.sqrt(sum(part**2 for part in parts)))


def uncertainty_parts(
    lab: Floats,
    patch_reference_lab: Floats,
    unseen_de00: Floats,
    *,
    residual_ratio: float,
    levelness_de00: float,
    block_count: int,
    disagreement_de00: float,
    shadow_ratio: float = 0.0,
    leverage: float = 0.0,
    rendering_de00: float = 0.0,
    backing_de00: float = 0.0,
) -> UncertaintyParts:
    """The parts of the uncertainty of one cell's colour.

    `leverage`: how far the colour lies outside of what the chart spans; `backing_de00`: by how much
    what shows through was taken off.
    """
    chart = calibration_uncertainty(lab, patch_reference_lab, unseen_de00)
    chart *= extrapolation(leverage)
    uneven = float(np.hypot(residual_ratio, SHADOW_LEFT * shadow_ratio))
    return UncertaintyParts(
        chart_de00=round(float(np.hypot(chart, disagreement_de00 / 3)), 4),
        light_de00=round(light_uncertainty(lab, uneven), 4),
        evenness_de00=round(levelness_de00 / float(np.sqrt(max(block_count, 1))), 4),
        rendering_de00=round(rendering_de00, 4),
        backing_de00=round(BACKING_LEFT * backing_de00, 4),
    )
