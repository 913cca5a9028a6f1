"""Reflectances of dyed cloth for tests: spectra that no fit in the application has seen."""

import numpy as np
from numpy.typing import NDArray

from zesty_grid.core.read.colour_space import xyz_to_lab
from zesty_grid.core.read.kubelka_munk import absorption_over_scattering, reflectance_of
from zesty_grid.core.read.patch24 import WAVELENGTHS_NM, spectra_to_xyz
from zesty_grid.core.read.sheet_layout import Sheet
from zesty_grid.standins.cloth import Cloth

NM = WAVELENGTHS_NM.astype(float)
UNDYED = (
    0.82 - 0.32 * np.exp(-(NM - 380) / 90),
    0.85 - 0.18 * np.exp(-(NM - 380) / 85),
    0.88 - 0.05 * np.exp(-(NM - 380) / 60),
    0.71 - 0.30 * np.exp(-(NM - 380) / 120),
)


def dyed(rng: np.random.Generator) -> NDArray[np.float64]:
    """One to three dyes with the broad absorptions of plant dyes, on one of four fibres."""
    ratio = absorption_over_scattering(UNDYED[rng.integers(4)])
    for _ in range(rng.integers(1, 4)):
        centre_nm, width_nm = rng.uniform(370, 640), rng.uniform(50, 130)
        bell = np.exp(-(np.abs((NM - centre_nm) / width_nm) ** 1.7))
        edge = 1 / (1 + np.exp((NM - centre_nm) / (width_nm / 3)))
        ratio = ratio + 10 ** rng.uniform(-1.5, 0.8) * (bell if rng.random() < 0.5 else edge)
    return reflectance_of(ratio)


def cloths_on(sheet: Sheet, seed: int, undyed: int = 2) -> tuple[Cloth, ...]:
    """One cloth in every cell, the first few undyed; sizes and turns as a hand lays them."""
    rng = np.random.default_rng(seed)
    return tuple(
        Cloth(
            cell.cell,
            UNDYED[(seed + i) % 4] if i < undyed else dyed(rng),
            width_share=float(rng.uniform(0.65, 0.95)),
            turn_deg=float(rng.uniform(-8, 8)),
        )
        for i, cell in enumerate(sheet.cells)
    )


def true_lab(cloth: Cloth) -> NDArray[np.float64]:
    return xyz_to_lab(spectra_to_xyz(cloth.reflectance[None])[0])
