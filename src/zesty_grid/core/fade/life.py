"""How long a colour lives in a named place, or in a wash, and what it will look like then."""

from collections.abc import Mapping
from functools import lru_cache

import numpy as np

from zesty_grid.core.fade.fading_curve import DoseReached, Paths, Threshold, foretell_each
from zesty_grid.core.fade.window_light import dose_in_window
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.colour_space import lab_to_hex
from zesty_grid.core.read.measurement import Lab
from zesty_grid.core.shelf.light_place import LightPlace, stay_over_a_year

# No year of the sun matters more than another.
ANY_YEAR = 2026
# So many times the dose of the last stage, and no further, is a colour foretold.
FURTHEST = 5.0


class YearlyLight(Frozen):
    """lx·h a year, with 90 % limits."""

    dose_lxh: float
    low_lxh: float
    high_lxh: float
    uv: bool


class YearsTo(Frozen):
    """Years (or washes) to a change, with limits; `beyond`: further than the trial has seen, so by
    the shape alone; None: too far off to be said."""

    middle: float | None
    low: float | None
    high: float | None
    beyond: bool


class Aged(Frozen):
    """A swatch after some years or washes, as foretold; `hex_today` is its colour now. `too_far`:
    nothing can be foretold of such a dose; the colour is that of the furthest that can be."""

    swatch: str
    hex_today: str
    hex: str
    lab: Lab
    de00: float
    low_de00: float
    high_de00: float
    beyond: bool
    too_far: bool


class LifeInPlace(Frozen):
    place: str
    yearly: YearlyLight | None
    years: dict[str, dict[Threshold, YearsTo]]
    warnings: tuple[str, ...]


@lru_cache(maxsize=64)
def yearly_light(place: LightPlace) -> YearlyLight:
    """What a place gets in a year: its lux and hours, or the light of its window."""
    if place.window is not None:
        found = dose_in_window(stay_over_a_year(place, ANY_YEAR))
        return YearlyLight(dose_lxh=found.dose_lxh, low_lxh=found.low_lxh, high_lxh=found.high_lxh, uv=found.uv)
    dose = place.lux * place.hours_a_year
    return YearlyLight(dose_lxh=dose, low_lxh=dose / place.times_off, high_lxh=dose * place.times_off, uv=place.uv)


def life_in_place(place: LightPlace, paths: Mapping[str, Paths], trial_uv: bool) -> LifeInPlace:
    """Years to each threshold for every swatch; the place's own range widens the limits."""
    yearly = yearly_light(place)
    years = {
        swatch: {name: _years(reached, yearly, path.followed.last_dose) for name, reached in path.thresholds.items()}
        for swatch, path in paths.items()
    }
    said = []
    if trial_uv and not yearly.uv:
        said.append(
            "The trial had ultraviolet and this place has none: colours live longer here "
            "than is said, by up to twice (CIE 157)."
        )
    if yearly.uv and not trial_uv:
        said.append("This place has ultraviolet and the trial had none: colours live shorter here than is said.")
    return LifeInPlace(place=place.name, yearly=yearly, years=years, warnings=tuple(said))


def _years(reached: DoseReached, yearly: YearlyLight, last: float) -> YearsTo:
    spread = np.log(yearly.high_lxh / yearly.low_lxh) / 2
    middle = reached.dose
    if middle is None and reached.low is not None and reached.high is not None:
        # Foretold by the shape: halfway between its limits, on the scale on which they lie evenly.
        middle = float(np.sqrt(reached.low * reached.high))
    beyond = not reached.reached

    def at(limit: float | None, sign: int) -> float | None:
        if limit is None:
            return None
        if middle is None:
            return limit / yearly.dose_lxh * float(np.exp(sign * spread))
        own = abs(float(np.log(limit / middle)))
        return middle / yearly.dose_lxh * float(np.exp(sign * np.hypot(own, spread)))

    return YearsTo(
        middle=middle / yearly.dose_lxh if middle is not None else None,
        low=at(reached.low, -1),
        high=at(reached.high, 1),
        beyond=beyond or (middle or 0) > last,
    )


def aged(paths: Mapping[str, Paths], dose: float) -> list[Aged]:
    """Every swatch after a dose."""
    furthest = [FURTHEST * path.followed.last_dose for path in paths.values()]
    told = foretell_each(list(paths.values()), [min(dose, one) for one in furthest]).told
    return [
        Aged(
            swatch=swatch,
            hex_today=lab_to_hex(path.followed.dark_lab),
            hex=lab_to_hex(np.array(one.lab)),
            lab=one.lab,
            de00=one.de00,
            low_de00=one.low_de00,
            high_de00=one.high_de00,
            beyond=dose > path.followed.last_dose,
            too_far=dose > far,
        )
        for (swatch, path), one, far in zip(paths.items(), told, furthest, strict=True)
    ]
