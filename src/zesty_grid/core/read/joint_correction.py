"""One correction from the channels of several photos of one chart.

Two lights of different kinds show a camera more than three channels: what is alike under one lamp
differs under the other. The fit is ridge regression with weights that make residuals perceptual;
how many terms and how much ridge is chosen by leaving each patch out in turn.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import Floats, xyz_to_lab
from zesty_grid.core.read.correction import DARKEST, perceptual_weights

RIDGES = (1e-6, 1e-5, 1e-4, 1e-3)
ROOTS = (False, True)
# At most so many photos' channels: a chart of 24 patches cannot tell more terms apart.
MOST_LIGHTS = 3


@dataclass(frozen=True)
class JointCorrection:
    """Coefficients (terms, 3) on the channels of all lights; `unseen_de00` of the used patches."""

    roots: bool
    ridge: float
    coefficients: Floats
    inverse: Floats
    unseen_de00: Floats
    reference_lab: Floats

    def lab(self, lights: Sequence[Floats]) -> Floats:
        """L*a*b* (D50) of light over that of paper, one (n, 3) for each photo's light."""
        xyz = _terms(lights, self.roots) @ self.coefficients
        return xyz_to_lab(np.maximum(xyz, DARKEST))

    def leverage(self, lights: Sequence[Floats]) -> float:
        """How far a single colour lies outside of what the patches span."""
        terms = _terms(lights, self.roots)
        weights = perceptual_weights(np.maximum(terms @ self.coefficients, DARKEST))[:, 0]
        own = np.einsum("i,cij,j->c", terms[0], self.inverse, terms[0])
        return float((weights * own).max())


def fit_joint_correction(patch_lights: Sequence[Floats], reference_xyz: Floats) -> JointCorrection:
    """`patch_lights`: for each light the patches' light over that of paper, (n, 3), linear."""
    fits = [_fit(_terms(patch_lights, roots), reference_xyz, roots, ridge) for roots in ROOTS for ridge in RIDGES]
    return min(fits, key=lambda one: float(one.unseen_de00.mean()))


def _terms(lights: Sequence[Floats], roots: bool) -> Floats:
    """Every channel, and for each light the geometric means of its pairs of channels."""
    columns = [np.maximum(light, 0)[:, i] for light in lights for i in range(3)]
    if roots:
        for light in lights:
            r, g, b = np.maximum(light, 0).T
            columns += [np.sqrt(r * g), np.sqrt(g * b), np.sqrt(r * b)]
    return np.stack(columns, axis=-1)


def _fit(terms: Floats, xyz: Floats, roots: bool, ridge: float) -> JointCorrection:
    """Ridge regression, each patch judged by the fit without it: for a linear smoother that is its
    residual over one less its leverage (Hastie, Tibshirani and Friedman, 2009, 7.10)."""
    weights = perceptual_weights(xyz)
    normal = np.swapaxes(weights[..., None] * terms, 1, 2) @ terms
    scale = np.trace(normal, axis1=1, axis2=2)[:, None, None] / terms.shape[1]
    inverse = np.linalg.inv(normal + ridge * scale * np.eye(terms.shape[1]))
    right = (weights * xyz.T)[:, None] @ terms
    coefficients = (inverse @ np.swapaxes(right, 1, 2))[..., 0].T
    leverage = weights * np.einsum("ni,cij,nj->cn", terms, inverse, terms)
    predicted = xyz - (xyz - terms @ coefficients) / np.maximum(1 - leverage.T, 1e-6)
    unseen = delta_e_2000(xyz_to_lab(np.maximum(predicted, DARKEST)), xyz_to_lab(xyz))
    return JointCorrection(roots, ridge, np.asarray(coefficients), np.asarray(inverse), unseen, xyz_to_lab(xyz))
