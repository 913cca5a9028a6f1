"""Chemical equilibrium of a bath at 25 °C, closed to the air.

At a given pH the mass balances are the gradient of a convex function of the logarithms of the
free concentrations, so that Newton's method with a line search always arrives. Activities are
Davies' (Ion Association, 1962), neutral species have activity 1 per mol/L.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import brentq

from zesty_grid.core.weigh.ph_species import COMPONENTS, LOG_KS_ALUMINIUM_HYDROXIDE, LOG_KS_CALCITE, SPECIES

Vector = NDArray[np.float64]
LN10 = float(np.log(10))
DAVIES_A = 0.509
LEAST_MOL_L = 1e-14
LOWEST_PH, HIGHEST_PH = -0.5, 14.5
_INDEX = {component: i for i, component in enumerate(COMPONENTS)}
_COUNTS = np.zeros((len(SPECIES), len(COMPONENTS)))
for _row, _one in enumerate(SPECIES):
    for _component, _n in _one.of:
        _COUNTS[_row, _INDEX[_component]] = _n
_CHARGES = np.array([float(one.charge) for one in SPECIES])
_LN_K = np.array([one.log_k for one in SPECIES]) * LN10
_NAMES = [one.name for one in SPECIES]


@dataclass(frozen=True)
class Equilibrium:
    """Concentrations in mol/L; solids in mol for each litre of bath."""

    ph: float
    ionic_strength: float
    concentration: dict[str, float]
    aluminium_hydroxide_mol_l: float
    undissolved_chalk_mol_l: float
    charge_mol_l: float


def equilibrium(totals: dict[str, float], chalk_mol_l: float = 0.0) -> Equilibrium:
    """The pH at which the charges balance. `totals` mol/L by component, without H.

    `chalk_mol_l` dissolves as far as calcite does. Raises ValueError where no pH balances.
    """
    solver = _Solver(totals, chalk_mol_l)

    def imbalance(ph: float) -> float:
        return solver.at(ph).charge_mol_l

    if imbalance(LOWEST_PH) < 0 or imbalance(HIGHEST_PH) > 0:
        raise ValueError("no pH between -0.5 and 14.5 balances the charges")
    return solver.at(float(brentq(imbalance, LOWEST_PH, HIGHEST_PH, xtol=1e-4)))


def at_ph(totals: dict[str, float], ph: float, chalk_mol_l: float = 0.0) -> Equilibrium:
    """The same at a given pH; `charge_mol_l` says what strong base or acid is missing."""
    return _Solver(totals, chalk_mol_l).at(ph)


class _Solver:
    """Keeps the last answer as the start of the next: neighbouring pH values lie close."""

    def __init__(self, totals: dict[str, float], chalk_mol_l: float) -> None:
        self.totals = totals
        self.chalk = chalk_mol_l
        there = [c for c in COMPONENTS[1:] if totals.get(c, 0.0) > LEAST_MOL_L]
        if chalk_mol_l > LEAST_MOL_L:
            there += [c for c in ("Ca", "C") if c not in there]
        self.there = there
        columns = [_INDEX[c] for c in there]
        absent = [i for i in range(1, len(COMPONENTS)) if i not in columns]
        self.rows = ~np.any(_COUNTS[:, absent] != 0, axis=1)
        self.counts = _COUNTS[np.ix_(self.rows, columns)]
        self.h_count = _COUNTS[self.rows, 0]
        self.charges = _CHARGES[self.rows]
        self.ln_k = _LN_K[self.rows]
        self.names = [name for name, keep in zip(_NAMES, self.rows, strict=True) if keep]
        self.total = np.array([totals.get(c, 0.0) for c in there])
        self.ln_free = np.log(np.maximum(self.total, 1e-9))
        self.strength = 0.01

    def at(self, ph: float) -> Equilibrium:
        dissolved = self.chalk
        found, solid = self._speciate(ph, self._with_chalk(dissolved))
        if self.chalk > LEAST_MOL_L and self._calcite_index(found) > 0:
            # Only so much chalk dissolves that calcite is just saturated.
            def excess(part: float) -> float:
                return self._calcite_index(self._speciate(ph, self._with_chalk(part))[0])

            least = self.chalk * 1e-6
            dissolved = float(brentq(excess, least, self.chalk, xtol=1e-9)) if excess(least) < 0 else 0.0
            found, solid = self._speciate(ph, self._with_chalk(dissolved))
        return Equilibrium(
            ph=ph,
            ionic_strength=self.strength,
            concentration=dict(zip(self.names, found.tolist(), strict=True)),
            aluminium_hydroxide_mol_l=solid,
            undissolved_chalk_mol_l=self.chalk - dissolved,
            charge_mol_l=float(self.charges @ found),
        )

    def _with_chalk(self, dissolved: float) -> Vector:
        added = np.array([dissolved if c in ("Ca", "C") else 0.0 for c in self.there])
        return np.asarray(self.total + added)

    def _calcite_index(self, found: Vector) -> float:
        ln_gamma = self._ln_gamma()
        calcium, carbonate = self.names.index("Ca"), self.names.index("C")
        activity = np.log(np.maximum(found, 1e-300)) + ln_gamma
        return float((activity[calcium] + activity[carbonate]) / LN10 - LOG_KS_CALCITE)

    def _ln_gamma(self) -> Vector:
        root = np.sqrt(self.strength)
        davies = root / (1 + root) - 0.3 * self.strength
        return np.asarray(-DAVIES_A * LN10 * self.charges**2 * davies)

    def _speciate(self, ph: float, total: Vector) -> tuple[Vector, float]:
        """Concentration of each species (mol/L) and of solid aluminium hydroxide."""
        solid = 0.0
        found = np.zeros(len(self.charges))
        for _ in range(40):
            before = self.strength
            found = self._balance(ph, total, fixed={})
            solid = 0.0
            if "Al" in self.there:
                found, solid = self._precipitate(ph, total, found)
            self.strength = float(min(0.5 * (self.charges**2 @ found), 1.0))
            if abs(self.strength - before) < 1e-6 + 1e-4 * self.strength:
                break
        return found, solid

    def _precipitate(self, ph: float, total: Vector, found: Vector) -> tuple[Vector, float]:
        ln_gamma = self._ln_gamma()
        aluminium = self.there.index("Al")
        row = self.names.index("Al")
        saturated = (LOG_KS_ALUMINIUM_HYDROXIDE - 3 * ph) * LN10 - ln_gamma[row]
        if np.log(max(found[row], 1e-300)) <= saturated:
            return found, 0.0
        start = self.ln_free.copy()
        found = self._balance(ph, total, fixed={aluminium: float(saturated)})
        solid = float(total[aluminium] - self.counts[:, aluminium] @ found)
        self.ln_free = start
        return found, max(0.0, solid)

    def _balance(self, ph: float, total: Vector, fixed: dict[int, float]) -> Vector:
        ln_gamma = self._ln_gamma()
        # Activity of H+ is given; free concentrations of the components are sought.
        own = np.array([self.names.index(c) for c in self.there], int)
        constant = self.ln_k - self.h_count * ph * LN10 - ln_gamma + self.counts @ ln_gamma[own]
        x = self.ln_free.copy()
        for i, value in fixed.items():
            x[i] = value
        free = [i for i in range(len(x)) if i not in fixed]
        counts = self.counts[:, free]
        value = self._potential(constant, x, total, free)
        for _ in range(80):
            found = np.exp(np.clip(constant + self.counts @ x, -700, 50))
            gradient = counts.T @ found - total[free]
            if np.all(np.abs(gradient) <= 1e-9 * np.maximum(total[free], 1e-12)):
                break
            curvature = counts.T @ (counts * found[:, None])
            curvature[np.diag_indices_from(curvature)] += 1e-300
            step = np.linalg.solve(curvature, -gradient)
            step = np.clip(step, -8, 8)
            share = 1.0
            while share > 1e-6:
                trial = x.copy()
                trial[free] += share * step
                reached = self._potential(constant, trial, total, free)
                if reached <= value + 1e-18:
                    x, value = trial, reached
                    break
                share /= 2
            else:
                break
        self.ln_free = x
        return np.asarray(np.exp(np.clip(constant + self.counts @ x, -700, 50)))

    def _potential(self, constant: Vector, x: Vector, total: Vector, free: list[int]) -> float:
        found = np.exp(np.clip(constant + self.counts @ x, -700, 50))
        # A species without the sought components does not depend on them.
        return float(found[np.any(self.counts[:, free] != 0, axis=1)].sum() - total[free] @ x[free])
