"""What a camera would see of dyed cloth, worked out from what it sees of the chart's paints.

Where the spectra of the patches are known, their light tells roughly how sensitive camera and
light together are at each wavelength (a Gaussian process over wavelength; Rasmussen and Williams
2006, chapter 2). With that, cloth of known spectra can be sent through the camera on paper. Such
cloths, each counting little, keep a correction that is fitted on paint from going astray on cloth.
"""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from zesty_grid.core.read.colour_space import Floats
from zesty_grid.core.read.kubelka_munk import absorption_over_scattering, reflectance_of
from zesty_grid.core.read.patch24 import WAVELENGTHS_NM, spectra_to_xyz

CLOTHS, WEIGHT_OF_EACH = 300, 0.02
# How far sensitivity at one wavelength tells of that at another, where it lies, and how well light
# of patches follows from spectra that are the average of many charts.
REACH_NM, MIDDLE_NM, WIDTH_NM = 60.0, 550.0, 90.0
NOISE_SHARE = 1e-4
LEAST_LIGHT = 1e-4
# The patches' light must follow from their spectra within this share, or the camera does something
# to colours that no sensitivity explains.
WORST_RESIDUAL_RATIO = 0.03
DARK_LIGHT = 0.02


@dataclass(frozen=True)
class Support:
    """Cloths that were not photographed: linear RGB as the camera would see them, (n, 3), and their
    XYZ, (n, 3); `weight` of each, where a patch has 1."""

    rgb: Floats
    xyz: Floats
    weight: float = WEIGHT_OF_EACH


@lru_cache(maxsize=1)
def cloth_library() -> tuple[Floats, Floats]:
    """Reflectances (n, 36) and XYZ (n, 3) of made-up dyed cloths: one to three dyes with bands of
    absorption over a yellowish fibre, by Kubelka and Munk. Always the same ones."""
    rng = np.random.default_rng(0)
    nm = WAVELENGTHS_NM.astype(float)
    made = []
    for _ in range(CLOTHS):
        yellow = rng.uniform(0.03, 0.35) * np.exp(-(nm - 380) / rng.uniform(50, 130))
        absorbs = absorption_over_scattering(rng.uniform(0.65, 0.92) - yellow)
        for _ in range(rng.integers(1, 4)):
            centre_nm, width_nm = rng.uniform(370, 660), rng.uniform(25, 75)
            band = np.exp(-0.5 * ((nm - centre_nm) / width_nm) ** 2)
            absorbs = absorbs + 10 ** rng.uniform(-1.3, 0.9) * band
        made.append(reflectance_of(absorbs))
    spectra = np.array(made)
    return spectra, spectra_to_xyz(spectra)


def cloth_as_seen(patch_rgb: Floats, patch_spectra: Floats) -> Support | None:
    """The library as the camera would see it, from linear RGB (n, 3) and reflectances (n, 36) of
    patches; None where no sensitivity explains what it saw."""
    sensitivity = camera_sensitivity(patch_rgb, patch_spectra)
    apart = patch_spectra @ sensitivity - patch_rgb
    if np.sqrt((apart**2).mean() / (patch_rgb**2).mean()) > WORST_RESIDUAL_RATIO:
        return None
    spectra, xyz = cloth_library()
    return Support(np.maximum(spectra @ sensitivity, LEAST_LIGHT), xyz)


def camera_sensitivity(patch_rgb: Floats, patch_spectra: Floats) -> Floats:
    """Of camera and light together, (36, 3): the most likely smooth one, dark patches counting by
    their share of light as light ones do."""
    share = 1 / np.maximum(patch_rgb.mean(axis=1), DARK_LIGHT)[:, None]
    spectra, light = patch_spectra * share, patch_rgb * share
    nm = WAVELENGTHS_NM.astype(float)
    extent = np.exp(-0.5 * ((nm - MIDDLE_NM) / WIDTH_NM) ** 2) + 0.02
    alike = np.exp(-0.5 * ((nm[:, None] - nm) / REACH_NM) ** 2)
    prior = alike * extent[:, None] * extent
    told = spectra @ prior @ spectra.T
    noise = NOISE_SHARE * np.trace(told) / len(told) * np.eye(len(told))
    return np.asarray(prior @ spectra.T @ np.linalg.solve(told + noise, light))
