"""The eight blue wool references: what light they stand, and what theirs says of a dye.

Source: CIE 157:2004, doses to a just noticeable fade, from memory; ISO 105-B02 for rating a dye by
the reference that changed as much beside it.
"""

from collections.abc import Mapping, Sequence

import numpy as np

from zesty_grid.core.fade.limits import LIMIT_90
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.colour_difference import cielab_difference
from zesty_grid.core.read.colour_space import Floats, lab_to_hex

WITH_UV_MLXH = (0.22, 0.6, 1.5, 3.5, 8.0, 20.0, 50.0, 120.0)
UV_FILTERED_MLXH = (0.3, 1.0, 3.0, 10.0, 30.0, 100.0, 300.0, 1100.0)
# Just noticeable is step 4 of the grey scale: CIELAB 1.7 (ISO 105-A02, from memory).
JUST_NOTICEABLE_DE = 1.7
# How a wool's change grows with dose at first, and what the table and a batch of wools leave open,
# as standard uncertainties of the logarithm.
POWER, POWER_U = 0.9, 0.15
TABLE_U = 0.25
LEAST_WOOL_U, SHARED_LEAVES = 0.3, 0.6


class LightFastness(Frozen):
    """A number of the blue wool scale, 1 to 8. `above` or `below`: no further than this is known.
    `low` and `high`: its 90 % limits."""

    value: float
    low: float
    high: float
    words: str


class WoolDose(Frozen):
    """The dose of light that blue wools beside the swatches tell, with 90 % limits; `dose_lxh` is
    None where they show no change yet, and `high_lxh` then is what they would have shown."""

    dose_lxh: float | None
    low_lxh: float
    high_lxh: float
    wools: tuple[int, ...]


class WoolReading(Frozen):
    """How a blue wool changed up to a stage of a trial, in CIELAB and CIEDE2000, and the standard
    uncertainty of that change."""

    wool: int
    stage: int
    de_ab: float
    de00: float
    uncertainty_de00: float
    hexes: tuple[str, str]


def wool_reading(wool: int, stage: int, first: Floats, now: Floats, uncertainty_de00: float) -> WoolReading:
    """`uncertainty_de00` of one reading: two of one cloth share a good part of their error."""
    found = cielab_difference(first, now)
    return WoolReading(
        wool=wool,
        stage=stage,
        de_ab=found.de_ab,
        de00=found.de00,
        uncertainty_de00=max(LEAST_WOOL_U, SHARED_LEAVES * uncertainty_de00),
        hexes=(lab_to_hex(first), lab_to_hex(now)),
    )


def doses_by_stage(readings: Sequence[WoolReading], uv: bool) -> dict[int, WoolDose]:
    """What all wools that were read at a stage tell of the dose up to it."""
    found = {}
    for stage in sorted({one.stage for one in readings}):
        own = [one for one in readings if one.stage == stage]
        dose = dose_by_wools({one.wool: one.de_ab for one in own}, {one.wool: one.uncertainty_de00 for one in own}, uv)
        if dose:
            found[stage] = dose
    return found


def fade_doses_lxh(uv: bool) -> tuple[float, ...]:
    """Doses to a just noticeable fade of wools 1 to 8, lx·h."""
    return tuple(1e6 * dose for dose in (WITH_UV_MLXH if uv else UV_FILTERED_MLXH))


def fastness_by_dose(
    dose_lxh: float | None, low_lxh: float | None, high_lxh: float | None, seen_lxh: float, uv: bool
) -> LightFastness:
    """The wool that would fade just noticeably at the same dose; `seen_lxh`: the dose up to which
    was looked, where no change came (`dose_lxh` None)."""
    least = _number(low_lxh if low_lxh else seen_lxh if dose_lxh is None else dose_lxh, uv)
    most = _number(high_lxh, uv) if high_lxh else 8.0
    if dose_lxh is None:
        value = _number(seen_lxh, uv)
        return LightFastness(value=value, low=min(least, value), high=8.0, words=f"above {_said(value)}")
    value = _number(dose_lxh, uv)
    words = "below 1" if dose_lxh < 0.7 * fade_doses_lxh(uv)[0] else _said(value)
    return LightFastness(value=value, low=min(least, value), high=max(most, value), words=words)


def fastness_by_wools(change_de00: float, wools_de00: Mapping[int, float]) -> LightFastness | None:
    """The wool that changed as much as the swatch, at the same stage (ISO 105-B02); None where no
    wool lay beside it. Changes in ΔE00; between two wools the half step that is nearer."""
    known = sorted((n, max(de, 1e-3)) for n, de in wools_de00.items())
    if not known:
        return None
    numbers = [n for n, _ in known]
    logs = np.log([de for _, de in known])
    own = float(np.log(max(change_de00, 1e-3)))
    if own >= logs[0]:
        first = float(numbers[0])
        words = _said(first) if own < logs[0] + 0.35 else f"below {numbers[0]}"
        return LightFastness(value=first, low=1.0, high=first, words=words)
    if own <= logs[-1]:
        last = float(numbers[-1])
        words = _said(last) if own > logs[-1] - 0.35 else f"above {numbers[-1]}"
        return LightFastness(value=last, low=last, high=8.0, words=words)
    value = float(np.interp(-own, -logs, numbers))
    return LightFastness(value=value, low=max(1.0, value - 0.5), high=min(8.0, value + 0.5), words=_said(value))


def dose_by_wools(changes: Mapping[int, float], uncertainties: Mapping[int, float], uv: bool) -> WoolDose | None:
    """The dose at which wools change as they did (CIELAB changes by wool number), all of them
    together; None where none was read. A change within twice its uncertainty tells a limit only.
    """
    doses = fade_doses_lxh(uv)
    logs, spreads, used, ceiling = [], [], [], np.inf
    for wool, change in sorted(changes.items()):
        unsure = max(uncertainties.get(wool, 0.3), 0.05)
        if change < 2 * unsure:
            limit = doses[wool - 1] * (2 * unsure / JUST_NOTICEABLE_DE) ** (1 / POWER)
            ceiling = min(ceiling, limit * np.exp(LIMIT_90 * TABLE_U))
            continue
        # Far beyond the step at which the table holds, a wool has slowed: it tells less.
        ratio = float(np.log(change / JUST_NOTICEABLE_DE))
        logs.append(float(np.log(doses[wool - 1])) + ratio / POWER)
        reading = unsure / change / POWER
        spreads.append(
            np.sqrt(TABLE_U**2 + reading**2 + (ratio * POWER_U / POWER**2) ** 2 + (0.3 * max(0.0, ratio - 1)) ** 2)
        )
        used.append(wool)
    if not logs:
        return None if ceiling == np.inf else WoolDose(dose_lxh=None, low_lxh=0.0, high_lxh=float(ceiling), wools=())
    weights = 1 / np.square(spreads)
    middle = float(np.average(logs, weights=weights))
    # What the table leaves open is shared by its wools in part: never better than half of it.
    spread = max(float(1 / np.sqrt(weights.sum())), TABLE_U / 2)
    return WoolDose(
        dose_lxh=float(np.exp(middle)),
        low_lxh=float(np.exp(middle - LIMIT_90 * spread)),
        high_lxh=float(np.exp(middle + LIMIT_90 * spread)),
        wools=tuple(used),
    )


def _number(dose_lxh: float, uv: bool) -> float:
    """Where a dose lies on the scale, between wools by the logarithm; 1 to 8."""
    known = np.log(fade_doses_lxh(uv))
    return float(np.interp(np.log(max(dose_lxh, 1.0)), known, np.arange(1, 9)))


def _said(value: float) -> str:
    half = round(value * 2) / 2
    return str(int(half)) if half == int(half) else f"{int(half)}-{int(half) + 1}"
