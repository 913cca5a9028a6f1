"""A bath's temperature and pH against what they should be, and what is said at once when not.

Bands and limits are common practice: some degrees about the recipe, 0.3 about a set pH, and for
wool no change faster than about 2 °C a minute.
"""

from datetime import datetime, timedelta
from itertools import pairwise

from zesty_grid.core.dye.step import Step
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.record.addition import words_of
from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.core.record.entry import BenchEntry
from zesty_grid.core.weigh.cautions import JUMP_C

WARM_BELOW_C, WARM_ABOVE_C = 6.0, 4.0
PH_OFF = 0.3
BOILS_C = 97.0
FAST_C_PER_MIN = 2.0
SLOPE_OVER = timedelta(minutes=5)
JUMP_OVER = timedelta(minutes=2)
# The steps in which a pH is set or kept. At cooling and rinsing it falls, as it should.
SETTING, KEEPING = ("set-ph", "hold"), ("hold",)


class BathReading(Frozen):
    """`probe` empty: read by hand."""

    at: datetime
    temperature_c: float | None
    ph: float | None
    probe: str = ""


class Band(Frozen):
    """Between which values a step runs; None: it does not matter. `keeps_ph`: it is to stay in its
    band now; else it is only shown."""

    low_c: float | None = None
    high_c: float | None = None
    low_ph: float | None = None
    high_ph: float | None = None
    keeps_ph: bool = False


class PutIn(Frozen):
    """What went into a bath, or was done to it, at a moment of its curve."""

    at: datetime
    words: str


class Watch(Frozen):
    """The readings of a bath with their band, what was put in, and what is wrong now, in words."""

    vessel: str
    band: Band
    readings: tuple[BathReading, ...]
    put_in: tuple[PutIn, ...]
    alarms: tuple[str, ...]


def band_of(one: BenchVessel, step: Step | None) -> Band:
    """What a step should keep to; a vessel with a pH keeps it while its pieces are in."""
    warm = step.temperature_c if step and step.heat else None
    steam = one.vessel.process == "bundle-print"
    ph = one.vessel.ph if step and step.key in SETTING else None
    return Band(
        low_c=None if warm is None or steam else warm - WARM_BELOW_C,
        high_c=None if warm is None or steam else warm + WARM_ABOVE_C,
        low_ph=None if ph is None else ph - PH_OFF,
        high_ph=None if ph is None else ph + PH_OFF,
        keeps_ph=ph is not None and step is not None and step.key in KEEPING,
    )


def is_off(ph: float, low_ph: float, high_ph: float) -> bool:
    """Whether a pH lies outside of a band, as far as it is read: to one place."""
    return round(ph, 1) < round(low_ph, 1) or round(ph, 1) > round(high_ph, 1)


def readings_by_hand(log: list[BenchEntry], vessel: str) -> list[BathReading]:
    return [
        BathReading(at=entry.at, temperature_c=entry.temperature_c, ph=entry.ph)
        for entry in log
        if entry.vessel == vessel
        and entry.kind == "record"
        and (entry.temperature_c is not None or entry.ph is not None)
    ]


def put_in_by_hand(log: list[BenchEntry], vessel: str) -> list[PutIn]:
    """Additions and reheats of a vessel, in the order of the log."""
    return [
        PutIn(at=entry.at, words=words_of(entry.addition) if entry.addition else "heated again")
        for entry in log
        if entry.vessel == vessel and entry.kind in ("addition", "reheat")
    ]


def alarms_of(readings: list[BathReading], band: Band, protein: bool, may_boil: bool, now: datetime) -> list[str]:
    """What is wrong with a bath by its newest readings; nothing where they are old."""
    fresh = [one for one in readings if now - one.at <= 2 * SLOPE_OVER]
    warm = [(one.at, one.temperature_c) for one in fresh if one.temperature_c is not None]
    acid = [one.ph for one in fresh if one.ph is not None]
    said = []
    if warm:
        newest = warm[-1][1]
        if newest >= BOILS_C and not may_boil:
            said.append(f"It boils ({newest:.0f} °C): off the heat.")
        elif band.high_c is not None and round(newest) > round(band.high_c):
            said.append(f"Too hot: {newest:.0f} °C, at most {band.high_c:.0f} °C. Turn it down.")
        if protein:
            said += _too_steep(warm)
    if acid and band.keeps_ph and band.low_ph is not None and band.high_ph is not None:
        way = "above" if acid[-1] > band.high_ph else "below"
        limit, cure = (band.high_ph, "acid") if way == "above" else (band.low_ph, "alkali")
        if is_off(acid[-1], band.low_ph, band.high_ph):
            said.append(f"pH {acid[-1]:.1f} is {way} {limit:.1f}: a little {cure}.")
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
        return [f"It cools by {-slope:.1f} °C a minute: too steep for wool, it felts. Lid on, leave it in the bath."]
    if slope > FAST_C_PER_MIN:
        return [f"It warms by {slope:.1f} °C a minute: too steep for wool. Turn it down."]
    return []
