"""The camera's tone curve, undone on the scale on which cameras draw it: that of the coded picture.

Cameras bend brightness after the screen's own curve (IEC 61966-2-1): contrast, lifted blacks,
rolled highlights. There the bend is smooth and small, so that few terms undo it.
"""

from dataclasses import dataclass

import numpy as np
from scipy.optimize import least_squares

from zesty_grid.core.read.colour_space import Floats, linear_to_srgb, srgb_to_linear

# How strongly each term is held to nothing, in L* for a bend of one; the lift of black last.
HOLD = np.array([0.3, 0.6, 1.0, 3.0])
LEAST_LIGHT = 1e-6


@dataclass(frozen=True)
class CameraTone:
    """Coded value c to c + c(1 − c)(p₀ + p₁(1 − 2c) + p₂(1 − 2c)²) − p₃(1 − c)."""

    terms: tuple[float, float, float, float]

    def straight(self, file_light: Floats) -> Floats:
        """Scene light, up to a factor, from the light that the file says (0 to 1)."""
        coded = linear_to_srgb(np.clip(file_light, 0, None))
        bend = coded * (1 - coded) * np.polyval(self.terms[2::-1], 1 - 2 * coded)
        return np.maximum(srgb_to_linear(coded + bend - self.terms[3] * (1 - coded)), 0)

    def rises(self) -> bool:
        """Whether more light always gives a higher code."""
        line = self.straight(srgb_to_linear(np.linspace(0.03, 1, 80)))
        return bool((np.diff(line) > 0).all())


def fit_camera_tone(grey_light: Floats, grey_y: Floats, on_greys: Floats) -> CameraTone:
    """From the chart's greys, lightest first or not: their light as the file says it, (n, 3), their
    luminance (n,), and the light that falls on them, (n, 3), up to a factor for each channel.

    Least squares of cube roots, as L* counts (Levenberg and Marquardt).
    """

    def residuals(values: Floats) -> Floats:
        tone = CameraTone((values[3], values[4], values[5], values[6]))
        seen = np.maximum(tone.straight(grey_light), LEAST_LIGHT) / (np.exp(values[:3]) * on_greys)
        off = 116 * (np.cbrt(seen) - np.cbrt(grey_y)[:, None])
        return np.concatenate([off.ravel(), HOLD * values[3:]])

    level = np.log(np.median(grey_light / (grey_y[:, None] * on_greys), axis=0))
    start = np.concatenate([level, np.zeros(4)])
    found = least_squares(residuals, start, method="lm").x
    return CameraTone((float(found[3]), float(found[4]), float(found[5]), float(found[6])))
