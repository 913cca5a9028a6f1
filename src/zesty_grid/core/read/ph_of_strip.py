"""The pH that a strip shows: where its pads lie on the colours that its box prints."""

from typing import Literal

import numpy as np
from scipy.interpolate import PchipInterpolator
from scipy.stats import chi2

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import Floats

GRID_STEP = 0.02
# Print resembles a dipped pad and is not its colour. Common practice: a careful eye sees it beside.
PRINT_DE00 = 4.0
# A strip that has dried, or waited, is paler and has taken up air.
LATE_DE00 = 4.0
# A strip and its scale may lie in more or less light than the chart beside them: all pads alike.
LIGHT_OFF = 0.08
LIGHT_RATIOS = np.linspace(0.8, 1.2, 9)
BELOW_BLACK = np.array([16.0, 0, 0])
# Beyond this often the best place on a scale would fit by chance alone, it is taken to fit.
FITS_CHANCE = 0.002
SHARE_IN_RANGE = 0.9


class PhRange(Frozen):
    """`ph` with nine chances of ten from `low` to `high`; None where the strip fits no point of the
    scale. `beyond`: it fits the end of the scale, and the pH may lie past it. `away_de00`: how far
    the pads are from the scale at its best place, the root of their mean square."""

    ph: float | None
    low: float | None
    high: float | None
    beyond: Literal["below", "above"] | None = None
    best_ph: float
    away_de00: float


def ph_of_strip(phs: Floats, scale_lab: Floats, pads_lab: Floats, uncertainty_de00: Floats, late: bool) -> PhRange:
    """Where the colours `pads_lab`, (pads, 3), lie along the scale.

    `phs`, (n,), rising; `scale_lab`, (n, pads, 3): the colour of each pad at each of them;
    `uncertainty_de00`, (pads,): of a pad and of its scale together, without that of the light on
    both. Between the printed values the colours run along shape-preserving cubics (Fritsch and
    Carlson, 1980). Each pad is off by its uncertainty, by what print differs from pads, and where
    read late by what that changes; all alike by the light that lies on them. The range is the
    narrowest that holds nine tenths of the likelihood over the scale; a misfit that is larger than
    foretold widens it in proportion (Birge's ratio).
    """
    grid = np.arange(phs[0], phs[-1] + GRID_STEP / 2, GRID_STEP)
    path = PchipInterpolator(phs, scale_lab, axis=0)(grid)
    variance = uncertainty_de00**2 + PRINT_DE00**2 + (LATE_DE00**2 if late else 0.0)
    lit = [_lit(pads_lab, ratio) for ratio in LIGHT_RATIOS]
    away = np.stack([delta_e_2000(path, np.broadcast_to(one, path.shape)) for one in lit])
    # The errors of print and paper run along one or two of the three directions, seldom along all.
    misfits = (1.5 * away**2 / variance).sum(axis=2) + ((LIGHT_RATIOS - 1) / LIGHT_OFF)[:, None] ** 2
    misfit = misfits.min(axis=0)
    best = int(np.argmin(misfit))
    away_de00 = float(np.sqrt((away[np.argmin(misfits[:, best]), best] ** 2).mean()))
    freedom = 1.5 * len(pads_lab)
    best_ph = float(grid[best])
    if chi2.sf(misfit[best], freedom) < FITS_CHANCE:
        return PhRange(ph=None, low=None, high=None, best_ph=best_ph, away_de00=away_de00)
    widened = max(1.0, float(misfit[best]) / freedom)
    likely = np.exp(-(misfit - misfit[best]) / (2 * widened))
    low, high = _narrowest(grid, likely / likely.sum())
    beyond: Literal["below", "above"] | None = None
    if low <= grid[0] + GRID_STEP / 2:
        beyond = "below"
    elif high >= grid[-1] - GRID_STEP / 2:
        beyond = "above"
    return PhRange(ph=best_ph, low=low, high=high, beyond=beyond, best_ph=best_ph, away_de00=away_de00)


def _lit(lab: Floats, ratio: float) -> Floats:
    """The colours, were there so many times as much light: L* + 16, a* and b* go with its cube root (CIE 15)."""
    result: Floats = (lab + BELOW_BLACK) * np.cbrt(ratio) - BELOW_BLACK
    return result


def _narrowest(grid: Floats, share: Floats) -> tuple[float, float]:
    """The ends of what holds `SHARE_IN_RANGE`, the likeliest first."""
    order = np.argsort(share)[::-1]
    count = int(np.searchsorted(np.cumsum(share[order]), SHARE_IN_RANGE)) + 1
    inside = grid[order[:count]]
    return float(inside.min()), float(inside.max())
