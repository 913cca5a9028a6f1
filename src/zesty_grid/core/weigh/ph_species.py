"""Aqueous species of dye baths and their formation constants at 25 °C.

Each species is written from the free components H+, the metals, and the fully charged ligands:
log K of its formation. Sources: acids and water, CRC Handbook of Chemistry and Physics (from
memory); hydrolysis, ion pairs and solids, the data file phreeqc.dat of the US Geological Survey,
looked up. Complexes of aluminium with citrate and tartrate are real and not in here: see docs.
"""

from dataclasses import dataclass

COMPONENTS = ("H", "Na", "K", "Ca", "N", "Al", "Fe", "Cl", "S", "C", "Ac", "Cit", "Tar")
CHARGE = {
    "H": 1,
    "Na": 1,
    "K": 1,
    "Ca": 2,
    "N": 1,
    "Al": 3,
    "Fe": 2,
    "Cl": -1,
    "S": -2,
    "C": -2,
    "Ac": -1,
    "Cit": -3,
    "Tar": -2,
}
LOG_KW = -13.995


@dataclass(frozen=True)
class Species:
    """`log_k` of formation from components; `of` counts each component (H may be below 0)."""

    name: str
    log_k: float
    of: tuple[tuple[str, int], ...]

    @property
    def charge(self) -> int:
        return sum(CHARGE[component] * n for component, n in self.of)


def _species(name: str, log_k: float, **of: int) -> Species:
    return Species(name, log_k, tuple(of.items()))


SPECIES = (
    *(_species(component, 0.0, **{component: 1}) for component in COMPONENTS),
    _species("OH", LOG_KW, H=-1),
    _species("HAc", 4.756, H=1, Ac=1),
    _species("HCit", 6.40, H=1, Cit=1),
    _species("H2Cit", 6.40 + 4.76, H=2, Cit=1),
    _species("H3Cit", 6.40 + 4.76 + 3.13, H=3, Cit=1),
    _species("HTar", 4.34, H=1, Tar=1),
    _species("H2Tar", 4.34 + 2.98, H=2, Tar=1),
    _species("HCO3", 10.33, H=1, C=1),
    _species("CO2", 10.33 + 6.35, H=2, C=1),
    _species("NH3", -9.25, H=-1, N=1),
    _species("HSO4", 1.99, H=1, S=1),
    _species("AlOH", -5.0, Al=1, H=-1),
    _species("Al(OH)2", -10.1, Al=1, H=-2),
    _species("Al(OH)3", -16.9, Al=1, H=-3),
    _species("Al(OH)4", -22.7, Al=1, H=-4),
    _species("AlSO4", 3.5, Al=1, S=1),
    _species("Al(SO4)2", 5.0, Al=1, S=2),
    _species("FeOH", -9.5, Fe=1, H=-1),
    _species("FeSO4", 2.25, Fe=1, S=1),
    _species("FeCO3", 4.38, Fe=1, C=1),
    _species("FeHCO3", 2.0 + 10.33, Fe=1, C=1, H=1),
    _species("KSO4", 0.85, K=1, S=1),
    _species("NaSO4", 0.7, Na=1, S=1),
    _species("NH4SO4", 1.11, N=1, S=1),
    _species("NaCO3", 1.27, Na=1, C=1),
    _species("NaHCO3", -0.25 + 10.33, Na=1, C=1, H=1),
    _species("CaCO3", 3.224, Ca=1, C=1),
    _species("CaHCO3", 11.435, Ca=1, C=1, H=1),
    _species("CaSO4", 2.25, Ca=1, S=1),
)

# Amorphous aluminium hydroxide: Al(OH)3 + 3 H+ = Al3+ + 3 H2O.
LOG_KS_ALUMINIUM_HYDROXIDE = 10.8
# Calcite: CaCO3 = Ca2+ + CO3 2-.
LOG_KS_CALCITE = -8.48
