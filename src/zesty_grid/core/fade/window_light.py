"""The light that something gets in a window, day by day, with its range.

Sun position, clear sky and transposition by pvlib (Holmgren and others 2018): the sun by the SPA
(Reda and Andreas 2004), the clear sky by Ineichen and Perez (2002) with the monthly turbidity of
the place, the light on a plane by Perez and others (1990), who also give lumens for watts.

A clear sky is worked out; cloud cannot be. Under cloud the sky has a part of the clear sky's light
without a beam; a mixed sky is clear for a share of the time. What is not known is kept as a range:
what the models leave open, and what the weather may have done, which evens out over many days.
"""

from dataclasses import dataclass
from datetime import date, timedelta

import numpy as np

from zesty_grid.core.fade.limits import LIMIT_90
from zesty_grid.core.fade.luminous_efficacy import efficacies_lm_w, sky_brightness, sky_clearness
from zesty_grid.core.fade.window import (
    CURTAIN_PASSES,
    Window,
    WindowStay,
    glass_at,
    glass_for_diffuse,
    open_sky,
    seen_through_pane,
    sun_reaches,
)
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.colour_space import Floats

STEP_MIN = 10
STEPS_A_DAY = 24 * 60 // STEP_MIN
WATER_CM = 1.5
# A day that is seen as clear has cleaner air than the month has on the whole.
CLEAR_DAY_TURBIDITY = 0.7
GROUND_REFLECTS = 0.2
# What a cloudy sky gives of a clear one. Source: the sunless end of Ångström–Prescott, from memory.
UNDER_CLOUD = 0.22
SUN_SHARE = {"clear": 1.0, "mixed": 0.5, "overcast": 0.0}
# Relative standard uncertainties; common practice for such models.
MODEL_U, GLASS_U, PLACE_U = 0.10, 0.05, 0.05
CLOUD_U = 0.30
DAILY_SHARE_SD = {"clear": 0.06, "mixed": 0.33, "overcast": 0.06}
MEAN_SHARE_SD = {"clear": 0.04, "mixed": 0.12, "overcast": 0.04}
KNOWN_SHARE_SD = 0.06
# Weather lasts: so many days tell as much as one that is free of the day before.
DAYS_ALIKE = 2.0


class DayOfLight(Frozen):
    """One day's dose; `direct_lxh`: the part of it that is the sun's own beam."""

    date: date
    dose_lxh: float
    direct_lxh: float
    low_lxh: float
    high_lxh: float


class DoseOfLight(Frozen):
    """The dose of a stay with its 90 % limits."""

    dose_lxh: float
    low_lxh: float
    high_lxh: float
    direct_lxh: float
    uv: bool
    days: tuple[DayOfLight, ...]
    warnings: tuple[str, ...] = ()


@dataclass(frozen=True)
class _Sun:
    height_deg: Floats
    zenith_deg: Floats
    azimuth_deg: Floats
    airmass: Floats
    extra_w_m2: Floats
    beam_w_m2: Floats
    sky_w_m2: Floats


def dose_in_window(stay: WindowStay) -> DoseOfLight:
    """The light of every day of a stay, and of all of it."""
    days = [stay.start + timedelta(n) for n in range((stay.end - stay.start).days + 1)]
    sun = _sun_over(stay, days)
    clear_beam, clear_sky = _on_piece(stay.window, sun, sun.beam_w_m2, sun.sky_w_m2)
    level = sun.beam_w_m2 * np.cos(np.radians(sun.zenith_deg)).clip(0) + sun.sky_w_m2
    no_beam, cloud = _on_piece(stay.window, sun, np.zeros_like(level), UNDER_CLOUD * level)
    hours = STEP_MIN / 60
    beam, sky, dull = (
        light.reshape(len(days), STEPS_A_DAY).sum(axis=1) * hours for light in (clear_beam, clear_sky, cloud + no_beam)
    )
    share = _share_of_sun(stay, days)
    dose = share * (beam + sky) + (1 - share) * dull
    known = _model_variance(stay.window)
    daily = _weather_variance(stay, share, beam + sky, dull, DAILY_SHARE_SD[stay.sky])
    total = float(dose.sum())
    apart = max(1.0, len(days) / DAYS_ALIKE)
    mean_sd = KNOWN_SHARE_SD if stay.sun_share else MEAN_SHARE_SD[stay.sky]
    steady = _weather_variance(stay, share.mean(), (beam + sky).sum(), dull.sum(), mean_sd)
    changing = float(daily.sum()) * len(days) / apart
    relative = np.sqrt(known + (float(steady) + changing) / max(total, 1e-9) ** 2)
    spread = float(np.exp(LIMIT_90 * relative))
    day_spread = np.exp(LIMIT_90 * np.sqrt(known + daily / np.maximum(dose, 1e-9) ** 2))
    return DoseOfLight(
        dose_lxh=total,
        low_lxh=total / spread,
        high_lxh=total * spread,
        direct_lxh=float((share * beam).sum()),
        uv=stay.window.has_uv,
        days=tuple(
            DayOfLight(
                date=day,
                dose_lxh=float(dose[i]),
                direct_lxh=float(share[i] * beam[i]),
                low_lxh=float(dose[i] / day_spread[i]),
                high_lxh=float(dose[i] * day_spread[i]),
            )
            for i, day in enumerate(days)
        ),
        warnings=_warnings(stay, total, float(beam.sum())),
    )


def illuminance_lx(stay: WindowStay) -> Floats:
    """Clear-sky illuminance on the piece through each day: (days, steps of ten minutes), from
    midnight by the sun."""
    days = [stay.start + timedelta(n) for n in range((stay.end - stay.start).days + 1)]
    sun = _sun_over(stay, days)
    beam, sky = _on_piece(stay.window, sun, sun.beam_w_m2, sun.sky_w_m2)
    return np.asarray((beam + sky).reshape(len(days), STEPS_A_DAY))


def _sun_over(stay: WindowStay, days: list[date]) -> _Sun:
    import pandas as pd
    from pvlib import atmosphere, clearsky, irradiance, solarposition

    # Days run from midnight to midnight by the sun, so that none is cut in two.
    start = pd.Timestamp(days[0], tz="UTC") - pd.Timedelta(hours=stay.longitude / 15)
    times = pd.date_range(
        start + pd.Timedelta(minutes=STEP_MIN / 2), periods=len(days) * STEPS_A_DAY, freq=f"{STEP_MIN}min"
    )
    place = solarposition.get_solarposition(times, stay.latitude, stay.longitude)
    zenith = place["apparent_zenith"].to_numpy()
    relative = np.nan_to_num(atmosphere.get_relative_airmass(zenith), nan=40.0)
    month = clearsky.lookup_linke_turbidity(times, stay.latitude, stay.longitude).to_numpy()
    turbidity = np.maximum(CLEAR_DAY_TURBIDITY * month, 2.0)
    extra = irradiance.get_extra_radiation(times).to_numpy()
    with np.errstate(divide="ignore", invalid="ignore"):
        clear = clearsky.ineichen(zenith, relative, turbidity, 0, extra)
    up = zenith < 90
    return _Sun(
        90 - zenith,
        zenith,
        place["azimuth"].to_numpy(),
        relative,
        extra,
        np.where(up, np.nan_to_num(clear["dni"]), 0.0),
        np.where(up, np.nan_to_num(clear["dhi"]), 0.0),
    )


def _on_piece(window: Window, sun: _Sun, beam: Floats, sky: Floats) -> tuple[Floats, Floats]:
    """Illuminance on the piece, of the sun's beam and of sky and ground, in lx."""
    from pvlib import irradiance

    clearness = sky_clearness(beam, sky, sun.zenith_deg)
    brightness = sky_brightness(sky, sun.airmass, sun.extra_w_m2)
    beam_lm, sky_lm = efficacies_lm_w(clearness, brightness, sun.zenith_deg.clip(max=89), WATER_CM)
    aoi = np.asarray(irradiance.aoi(window.tilt_deg, window.faces_deg, sun.zenith_deg, sun.azimuth_deg))
    parts = irradiance.perez(
        window.tilt_deg,
        window.faces_deg,
        sky,
        beam,
        sun.extra_w_m2,
        sun.zenith_deg,
        sun.azimuth_deg,
        sun.airmass,
        return_components=True,
    )
    even, bright, low = (
        np.nan_to_num(np.asarray(parts[f"poa_{name}"])) for name in ("isotropic", "circumsolar", "horizon")
    )
    reaches = sun_reaches(window, sun.height_deg, sun.azimuth_deg, aoi)
    through = glass_at(window, aoi.clip(max=90)) * reaches
    sky_through, ground_through = glass_for_diffuse(window)
    seen = open_sky(window.tilt_deg, window.horizon_deg)
    level_lx = beam * beam_lm * np.cos(np.radians(sun.zenith_deg)).clip(0) + sky * sky_lm
    ground = GROUND_REFLECTS * level_lx * (1 - np.cos(np.radians(window.tilt_deg))) / 2
    # What stands before the window sends back light as the ground does.
    shaded = GROUND_REFLECTS * (1 - seen) * level_lx * (1 + np.cos(np.radians(window.tilt_deg))) / 2
    at_the_pane = (even + np.where(window.horizon_deg > 0, 0.0, low)) * sky_lm * seen * sky_through
    diffuse = at_the_pane + ground * ground_through + shaded * sky_through
    curtain = CURTAIN_PASSES if window.curtain else 1.0
    direct = beam * beam_lm * np.cos(np.radians(aoi)).clip(0) * through
    halo = bright * sky_lm * through
    return curtain * direct, curtain * (np.maximum(diffuse, 0) * seen_through_pane(window) + halo)


def _share_of_sun(stay: WindowStay, days: list[date]) -> Floats:
    if not stay.sun_share:
        return np.full(len(days), SUN_SHARE[stay.sky])
    by_month = stay.sun_share * 12 if len(stay.sun_share) == 1 else stay.sun_share
    return np.array([by_month[day.month - 1] for day in days])


def _model_variance(window: Window) -> float:
    glass = 0.0 if window.glass == "none" else GLASS_U
    back = 0.15 if window.distance_m > 0 else 0.0
    shade = 0.08 if window.horizon_deg > 0 else 0.0
    return MODEL_U**2 + PLACE_U**2 + glass**2 + back**2 + shade**2


def _weather_variance(
    stay: WindowStay, share: Floats | float, clear: Floats | float, dull: Floats | float, sd: float
) -> Floats:
    by_share = sd * (np.asarray(clear) - dull)
    return np.asarray(by_share**2 + (CLOUD_U * (1 - np.asarray(share)) * dull) ** 2)


def _warnings(stay: WindowStay, total: float, beam: float) -> tuple[str, ...]:
    said = []
    if total <= 0:
        said.append("The sun does not rise on these days: there is no daylight to count.")
    elif beam < 0.02 * total:
        said.append("The sun itself never reaches this piece: all its light is the sky's.")
    if stay.sky == "mixed" and not stay.sun_share:
        said.append(
            "The weather is not known: half of the time is taken as sunny. Say the share "
            "of sun, or put a light meter beside the pieces."
        )
    if stay.window.distance_m > 0:
        said.append("Away from the pane the light is a guess: measure it there.")
    return tuple(said)
