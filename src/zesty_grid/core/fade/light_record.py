"""Light as it was measured: by a logger, by single looks at a light meter, or under a lamp."""

from collections.abc import Sequence
from datetime import date, datetime, timedelta
from itertools import pairwise
from typing import Annotated, NamedTuple

import numpy as np
from pydantic import Field

from zesty_grid.core.fade.limits import LIMIT_90
from zesty_grid.core.fade.window import WindowStay
from zesty_grid.core.fade.window_light import DayOfLight, DoseOfLight, dose_in_window, illuminance_lx
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.colour_space import Floats
from zesty_grid.core.refusal import Refusal

# Relative standard uncertainties of a meter (its cosine, its calibration) and of a lamp as stated.
METER_U, LAMP_U = 0.08, 0.12
WATTS_U = 0.12
LM_PER_W = 110.0
# A hole of more than so many usual intervals, and at least so long, is a gap.
GAP_INTERVALS, GAP_MINUTES = 3.0, 30.0
FILLED_U = 0.5
A_DAY_MIN = 24 * 60


class LightSample(Frozen):
    at: datetime
    lux: Annotated[float, Field(ge=0, le=1e6, allow_inf_nan=False)]


class LightLog(NamedTuple):
    """What a logger's file says; `watts`: it was given in W/m² and is taken at 110 lm/W."""

    column: str
    watts: bool
    samples: tuple[LightSample, ...]
    notes: tuple[str, ...]


class LoggedGap(Frozen):
    """A hole in a log, and what was put in it from the same hours of other days."""

    start: datetime
    end: datetime
    filled_lxh: float


class LoggedLight(Frozen):
    """What a logger saw from `start` to `end`; its gaps are named."""

    dose: DoseOfLight
    start: datetime
    end: datetime
    gaps: tuple[LoggedGap, ...]


class Lamp(Frozen):
    lux: Annotated[float, Field(gt=0, le=500_000, allow_inf_nan=False)]
    hours_a_day: Annotated[float, Field(gt=0, le=24, allow_inf_nan=False)]
    uv: bool = False


def lamp_dose(lamp: Lamp, days: Sequence[date]) -> DoseOfLight:
    """Illuminance times hours, each day alike."""
    spread = float(np.exp(LIMIT_90 * LAMP_U))
    one = lamp.lux * lamp.hours_a_day
    return DoseOfLight(
        dose_lxh=one * len(days),
        low_lxh=one * len(days) / spread,
        high_lxh=one * len(days) * spread,
        direct_lxh=0,
        uv=lamp.uv,
        days=tuple(
            DayOfLight(date=day, dose_lxh=one, direct_lxh=0, low_lxh=one / spread, high_lxh=one * spread)
            for day in days
        ),
    )


def logged_dose(
    samples: Sequence[LightSample], start: datetime, end: datetime, from_watts: bool = False, uv: bool = True
) -> LoggedLight:
    """The dose between two moments, by trapezes between samples; raises Refusal for fewer than two
    samples in that time. Gaps are filled with the mean of their hours on other days, and count as
    uncertain by half of what was filled in."""
    own = sorted((one for one in samples if start <= one.at <= end), key=lambda one: one.at)
    if len(own) < 2:
        raise Refusal(
            "nothing-logged",
            "The log says nothing of these days.",
            "Give the log of the days on which the pieces hung there.",
        )
    minutes = np.array([(one.at - start).total_seconds() / 60 for one in own])
    lux = np.array([one.lux for one in own])
    steps = np.diff(minutes)
    usual = float(np.median(steps[steps > 0])) if (steps > 0).any() else 1.0
    longest = max(GAP_INTERVALS * usual, GAP_MINUTES)
    edges = np.concatenate([[0.0], minutes, [(end - start).total_seconds() / 60]])
    holes = [(float(a), float(b)) for a, b in pairwise(edges) if b - a > longest]
    by_hour = _mean_by_hour(start, minutes, lux)
    count = (end.date() - start.date()).days + 1
    days = [start.date() + timedelta(n) for n in range(count)]
    measured, filled = np.zeros(count), np.zeros(count)
    for a, b, first, second in zip(minutes, minutes[1:], lux, lux[1:], strict=False):
        if 0 < b - a <= longest:
            _spread(measured, start, a, b, (first + second) / 2)
    gaps = []
    for a, b in holes:
        before = filled.sum()
        at = a
        while at < b:
            upto = min(b, at + usual)
            hour = (start + timedelta(minutes=(at + upto) / 2)).hour
            _spread(filled, start, at, upto, by_hour[hour])
            at = upto
        gaps.append(
            LoggedGap(
                start=start + timedelta(minutes=a),
                end=start + timedelta(minutes=b),
                filled_lxh=float(filled.sum() - before),
            )
        )
    relative = np.hypot(METER_U, WATTS_U if from_watts else 0.0)
    doses = measured + filled
    unsure = np.hypot(relative * doses, FILLED_U * filled) * LIMIT_90
    # Each gap was its own chance; the meter's error is the same all along.
    apart = float(np.sqrt(sum((FILLED_U * gap.filled_lxh) ** 2 for gap in gaps)))
    total, limit = float(doses.sum()), LIMIT_90 * float(np.hypot(relative * doses.sum(), apart))
    dose = DoseOfLight(
        dose_lxh=total,
        low_lxh=max(0.0, total - limit),
        high_lxh=total + limit,
        direct_lxh=0,
        uv=uv,
        days=tuple(
            DayOfLight(date=day, dose_lxh=float(d), direct_lxh=0, low_lxh=max(0.0, float(d - u)), high_lxh=float(d + u))
            for day, d, u in zip(days, doses, unsure, strict=True)
        ),
        warnings=_gap_words(gaps, total),
    )
    return LoggedLight(dose=dose, start=start, end=end, gaps=tuple(gaps))


def metered_dose(samples: Sequence[LightSample], stay: WindowStay) -> DoseOfLight:
    """Single looks at a light meter: what each says of that moment's clear sky, held for all hours
    of the stay. Times are by the sun there, or near it."""
    days = [stay.start + timedelta(n) for n in range((stay.end - stay.start).days + 1)]
    clear = dose_in_window(stay.model_copy(update={"sky": "clear", "sun_share": ()}))
    ratios = []
    for one in samples:
        if not stay.start <= one.at.date() <= stay.end:
            continue
        day = stay.model_copy(update={"start": one.at.date(), "end": one.at.date()})
        at = (one.at.hour * 60 + one.at.minute) * 144 // A_DAY_MIN
        there = float(illuminance_lx(day)[0, at])
        if there > 200:
            ratios.append(min(one.lux / there, 1.5))
    if not ratios:
        raise Refusal(
            "nothing-metered",
            "No reading of the light meter lies in the daylight of these days.",
            "Read the meter by day, beside the pieces, and say when.",
        )
    part = float(np.mean(ratios))
    scatter = float(np.std(ratios, ddof=1)) if len(ratios) > 1 else 0.4 * max(part, 0.3)
    relative = np.hypot(max(scatter, 0.1) / max(part, 0.05) / np.sqrt(len(ratios)), 0.15)
    spread = float(np.exp(LIMIT_90 * relative))
    daily = float(np.exp(LIMIT_90 * np.hypot(max(scatter, 0.1) / max(part, 0.05), 0.15)))
    total = part * clear.dose_lxh
    return DoseOfLight(
        dose_lxh=total,
        low_lxh=total / spread,
        high_lxh=total * spread,
        direct_lxh=part * clear.direct_lxh,
        uv=clear.uv,
        days=tuple(
            DayOfLight(
                date=day,
                dose_lxh=part * known.dose_lxh,
                direct_lxh=part * known.direct_lxh,
                low_lxh=part * known.dose_lxh / daily,
                high_lxh=part * known.dose_lxh * daily,
            )
            for day, known in zip(days, clear.days, strict=True)
        ),
        warnings=(f"{len(ratios)} looks at the meter stand for {len(days)} days.",),
    )


def _mean_by_hour(start: datetime, minutes: Floats, lux: Floats) -> Floats:
    """Mean light in each hour of the day, (24,); hours that were never seen take what lies about
    them."""
    hours = np.array([(start + timedelta(minutes=float(m))).hour for m in minutes])
    seen = np.array([lux[hours == h].mean() if (hours == h).any() else np.nan for h in range(24)])
    known = ~np.isnan(seen)
    around = np.arange(24)
    return np.asarray(np.interp(around, around[known], seen[known], period=24))


def _spread(doses: Floats, start: datetime, a: float, b: float, lux: float) -> None:
    """Adds the light from minute a to minute b to its days, cut at midnight."""
    first = start.hour * 60 + start.minute + start.second / 60
    at = a
    while at < b:
        day = int((first + at) // A_DAY_MIN)
        upto = min(b, (day + 1) * A_DAY_MIN - first)
        if upto <= at:
            break
        doses[min(day, len(doses) - 1)] += lux * (upto - at) / 60
        at = upto


def _gap_words(gaps: Sequence[LoggedGap], total: float) -> tuple[str, ...]:
    if not gaps:
        return ()
    filled = sum(gap.filled_lxh for gap in gaps)
    part = filled / total if total else 0.0
    first = gaps[0]
    named = f"{first.start:%-d %b %H:%M} to {first.end:%-d %b %H:%M}"
    more = f" and {len(gaps) - 1} more" if len(gaps) > 1 else ""
    return (
        f"The log has gaps ({named}{more}). {part:.0%} of the dose is filled in from the same hours of other days.",
    )


def agreement_words(first: tuple[str, DoseOfLight], second: tuple[str, DoseOfLight]) -> str:
    """Whether two sources of one dose agree, in words."""
    (name, one), (other, two) = first, second
    if min(one.dose_lxh, two.dose_lxh) <= 0:
        return f"{name} and {other} cannot be compared: one of them saw no light."
    ratio = two.dose_lxh / one.dose_lxh
    meets = one.low_lxh <= two.high_lxh and two.low_lxh <= one.high_lxh
    times = f"{ratio:.2g} times" if ratio >= 1 else f"1/{1 / ratio:.2g} of"
    if meets:
        return f"{other} tells {times} what {name} tells: they agree within what both leave open."
    return (
        f"{other} tells {times} what {name} tells, more than both leave open: look whether the "
        "meter lay beside the pieces, and at the window's glass and shade."
    )
