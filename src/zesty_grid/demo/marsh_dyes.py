"""What the demo's dyes do to the demo's fibres: the truth that the simulated camera sees.

Made up, after common practice: dyer's coreopsis turns redder in alkali, alder cones with iron go
grey-brown, elderberry shifts with pH and fades fast.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from zesty_grid.core.plan.factors import FactorKind
from zesty_grid.core.read.kubelka_munk import absorption_over_scattering, reflectance_of
from zesty_grid.core.read.patch24 import WAVELENGTHS_NM

Spectrum = NDArray[np.float64]
NM = WAVELENGTHS_NM.astype(float)


@dataclass(frozen=True)
class Exposure:
    """What a piece went through: light in lx·h and washes."""

    dose_lxh: float = 0.0
    washes: int = 0


KEPT_DARK = Exposure()
UNDYED = {
    "wool": 0.80 - 0.30 * np.exp(-(NM - 380) / 95),
    "silk": 0.84 - 0.20 * np.exp(-(NM - 380) / 80),
    "cotton": 0.87 - 0.07 * np.exp(-(NM - 380) / 70),
    "linen": 0.70 - 0.28 * np.exp(-(NM - 380) / 130),
}
UPTAKE = {
    "wool": {"none": 0.45, "alum-hot": 1.0, "tannin-alum": 1.05},
    "silk": {"none": 0.4, "alum-hot": 0.85, "tannin-alum": 0.95},
    "cotton": {"none": 0.12, "alum-hot": 0.25, "tannin-alum": 0.6},
    "linen": {"none": 0.14, "alum-hot": 0.3, "tannin-alum": 0.65},
}
# Half-life in light (lx·h) of the part that goes, the share that goes, and loss a wash.
FASTNESS = {"coreopsis": (2.5e6, 0.5, 0.02), "alder-cones": (6.0e6, 0.3, 0.012), "elderberry": (0.35e6, 0.9, 0.10)}


def piece_reflectance(
    levels: dict[FactorKind, str], exposure: Exposure, rng: np.random.Generator, pot_share: float = 1.0
) -> Spectrum:
    """Reflectance (36,) of a piece; `rng` gives what differs from swatch to swatch, `pot_share`
    how much its pot gave."""
    fibre = levels["fibre"]
    ratio = absorption_over_scattering(UNDYED[fibre])
    mordant = levels.get("mordant")
    if mordant == "tannin-alum":
        ratio = ratio + 0.10 * _falling(420, 60)
    dye = levels.get("dye")
    if dye is None or mordant is None:
        return reflectance_of(ratio * rng.normal(1, 0.01))
    amount = pot_share * UPTAKE[fibre][mordant] * rng.normal(1, 0.03)
    half_life_lxh, share, wash_loss = FASTNESS[dye]
    left = (1 - share + share * 0.5 ** (exposure.dose_lxh / half_life_lxh)) * (1 - wash_loss) ** exposure.washes
    ph = {"ph-4.5": 4.5, "ph-7": 7.0, "ph-9": 9.0}[levels["ph"]]
    dyed = amount * left * _absorption(dye, ph, mordant)
    if levels["iron"] == "iron-1":
        tannic = {"coreopsis": 0.5, "alder-cones": 1.0, "elderberry": 0.6}[dye]
        dyed = 0.8 * dyed + amount * tannic * (1.1 * _band(560, 170) + 0.35 * _falling(400, 80))
    browning = 0.03 * exposure.dose_lxh / 1e6 * _falling(400, 50)
    return reflectance_of(ratio + dyed + browning)


def wet(reflectance: Spectrum) -> Spectrum:
    """The same piece while it is damp: darker and stronger."""
    return reflectance_of(1.6 * absorption_over_scattering(reflectance))


def _absorption(dye: str, ph: float, mordant: str) -> Spectrum:
    alkali = (ph - 7) / 2
    if dye == "coreopsis":
        deeper = 22 if mordant != "none" else 0
        return 4.2 * _band(405 + deeper + 26 * max(alkali, -0.6), 62) + 0.5 * max(alkali + 0.3, 0.1) * _band(495, 45)
    if dye == "alder-cones":
        return (1.9 + 0.35 * alkali) * _falling(395, 75) + 0.16 * _band(500, 110)
    mordanted = 14 if mordant != "none" else 0
    return (
        1.7 * (1 - 0.25 * alkali) * _band(528 + mordanted + 28 * alkali, 48)
        + 0.55 * _falling(400, 45)
        + 0.5 * max(alkali, 0) * _band(610, 50)
    )


def _band(peak_nm: float, width_nm: float) -> Spectrum:
    return np.exp(-(((NM - peak_nm) / width_nm) ** 2))


def _falling(from_nm: float, width_nm: float) -> Spectrum:
    return np.exp(-np.clip(NM - from_nm, 0, None) / width_nm)
