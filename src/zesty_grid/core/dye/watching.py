"""A bath's temperature and pH against what they should be, and what is said at once when not.

Bands and limits are common practice: some degrees about the recipe, 0.3 about a set pH, and for
wool no change faster than about 2 °C a minute.
"""

from datetime import datetime, timedelta
from itertools import pairwise

from zesty_grid.core.dye.bench import BenchVessel
from zesty_grid.core.dye.bench_entry import BenchEntry
from zesty_grid.core.dye.step import Step
from zesty_grid.core.frozen import Frozen

WARM_BELOW_C, WARM_ABOVE_C = 6.0, 4.0
PH_OFF = 0.3
BOILS_C = 97.0
FAST_C_PER_MIN = 2.0
JUMP_C = 20.0
SLOPE_OVER = timedelta(minutes=5)
JUMP_OVER = timedelta(minutes=2)


class BathReading(Frozen):
    """`probe` empty: read by hand."""

    at: datetime
    temperature_c: float | None
    ph: float | None
    probe: str = ""


class Band(Frozen):
    """Between which values a step runs; None: it does not matter."""

    low_c: float | None = None
    high_c: float | None = None
    low_ph: float | None = None
    high_ph: float | None = None


class Watch(Frozen):
    """The readings of a bath with their band, and what is wrong now, in words."""

    vessel: str
    band: Band
    readings: tuple[BathReading, ...]
    alarms: tuple[str, ...]


def band_of(one: BenchVessel, step: Step | None) -> Band:
    """What a step should keep to; a vessel with a pH keeps it in every step that wants it."""
    warm = step.temperature_c if step and step.heat else None
    steam = one.vessel.process == "bundle-print"
    ph = one.vessel.ph if step and step.wants_ph else None
    return Band(
        low_c=None if warm is None or steam else warm - WARM_BELOW_C,
        high_c=None if warm is None or steam else warm + WARM_ABOVE_C,
        low_ph=None if ph is None else ph - PH_OFF,
        high_ph=None if ph is None else ph + PH_OFF,
    )


def readings_by_hand(log: list[BenchEntry], vessel: str) -> list[BathReading]:
    return [
        BathReading(at=entry.at, temperature_c=entry.temperature_c, ph=entry.ph)
        for entry in log
        if entry.vessel == vessel and entry.kind == "record"
        and (entry.temperature_c is not None or entry.ph is not None)
    ]  # fmt: skip


def alarms_of(
    readings: list[BathReading], band: Band, protein: bool, may_boil: bool, now: datetime
) -> list[str]:
    """What is wrong with a bath by its newest readings; nothing where they are old."""
    fresh = [one for one in readings if now - one.at <= 2 * SLOPE_OVER]
    warm = [(one.at, one.temperature_c) for one in fresh if one.temperature_c is not None]
    acid = [one.ph for one in fresh if one.ph is not None]
    said = []
    if warm:
        newest = warm[-1][1]
        if newest >= BOILS_C and not may_boil:
            said.append(f"It boils ({newest:.0f} °C): off the heat.")
        elif band.high_c is not None and newest > band.high_c:
            said.append(f"Too hot: {newest:.0f} °C, at most {band.high_c:.0f} °C. Turn it down.")
        if protein:
            said += _too_steep(warm)
    if acid and band.low_ph is not None and band.high_ph is not None:
        if acid[-1] < band.low_ph:
            said.append(f"pH {acid[-1]:.1f} is below {band.low_ph:.1f}: a little alkali.")
        elif acid[-1] > band.high_ph:
            said.append(f"pH {acid[-1]:.1f} is above {band.high_ph:.1f}: a little acid.")
    return said


def _too_steep(warm: list[tuple[datetime, float]]) -> list[str]:
    last_at, last = warm[-1]
    for (at, before), (then, after) in pairwise(warm):
        if abs(after - before) > JUMP_C and then - at <= JUMP_OVER:
            return [f"A jump of {abs(after - before):.0f} °C: wool felts. Let it come slowly."]
    earlier = [(at, value) for at, value in warm if last_at - at <= SLOPE_OVER]
    minutes = (last_at - earlier[0][0]).total_seconds() / 60
    if minutes < 1:
        return []
    slope = (last - earlier[0][1]) / minutes
    if slope < -FAST_C_PER_MIN:
        return [f"It cools by {-slope:.1f} °C a minute: too steep for wool, it felts. Lid on, "
                "leave it in the bath."]  # fmt: skip
    if slope > FAST_C_PER_MIN:
        return [f"It warms by {slope:.1f} °C a minute: too steep for wool. Turn it down."]
    return []
