"""A window as light comes through it: where it looks, its glass, what stands before it."""

from datetime import date
from typing import Annotated, Literal

import numpy as np
from pydantic import ConfigDict, Field, model_validator

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.colour_space import Floats

Glass = Literal["none", "single", "double", "uv-filter"]
Sky = Literal["clear", "mixed", "overcast"]
Share = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]

# Visible light that passes at right angles. Source: glass makers' usual values, from memory.
PASSES: dict[Glass, float] = {"none": 1.0, "single": 0.89, "double": 0.80, "uv-filter": 0.82}
PANES: dict[Glass, int] = {"none": 0, "single": 1, "double": 2, "uv-filter": 1}
CURTAIN_PASSES = 0.5
MOST_DAYS = 1100


class Window(Frozen):
    """`faces_deg`: 0 north, 90 east; `tilt_deg`: 90 upright, 0 flat. `horizon_deg`: what stands all
    along the view, as an angle above level. `distance_m` from the pane, whose size then counts.
    """

    faces_deg: Annotated[float, Field(ge=0, le=360, allow_inf_nan=False)] = 180
    tilt_deg: Annotated[float, Field(ge=0, le=90, allow_inf_nan=False)] = 90
    glass: Glass = "single"
    horizon_deg: Annotated[float, Field(ge=0, lt=90, allow_inf_nan=False)] = 0
    curtain: bool = False
    distance_m: Annotated[float, Field(ge=0, le=20, allow_inf_nan=False)] = 0
    width_m: Annotated[float, Field(gt=0, le=30, allow_inf_nan=False)] = 1.2
    height_m: Annotated[float, Field(gt=0, le=30, allow_inf_nan=False)] = 1.4

    @property
    def has_uv(self) -> bool:
        """Whether ultraviolet that fades passes: single and double panes let UV-A through."""
        return self.glass != "uv-filter"


class WindowStay(Frozen):
    """Something that hung in a window from one day to another, both counted."""

    model_config = ConfigDict(populate_by_name=True)

    latitude: Annotated[float, Field(ge=-90, le=90, allow_inf_nan=False)]
    longitude: Annotated[float, Field(ge=-180, le=180, allow_inf_nan=False)]
    start: Annotated[date, Field(alias="from")]
    end: Annotated[date, Field(alias="to")]
    window: Window = Window()
    sky: Sky = "mixed"
    sun_share: Annotated[tuple[Share, ...], Field(max_length=12)] = ()

    @model_validator(mode="after")
    def _is_a_stay(self) -> "WindowStay":
        if self.end < self.start:
            raise ValueError("`to` comes before `from`")
        if (self.end - self.start).days >= MOST_DAYS:
            raise ValueError(f"a stay is at most {MOST_DAYS} days long")
        if not 1950 <= self.start.year <= self.end.year <= 2100:
            raise ValueError("days lie between 1950 and 2100")
        if len(self.sun_share) not in (0, 1, 12):
            raise ValueError("the share of sun is one number, or one for each month")
        return self


def glass_at(window: Window, aoi_deg: Floats) -> Floats:
    """The part of a beam that passes at an angle of incidence: Fresnel and absorption for each
    pane (pvlib's `iam.physical`: De Soto and others 2006), 1 for no glass."""
    from pvlib import iam

    panes = PANES[window.glass]
    if panes == 0:
        return np.ones_like(aoi_deg)
    angled = np.nan_to_num(np.asarray(iam.physical(aoi_deg), float))
    return np.asarray(PASSES[window.glass] * angled**panes)


def glass_for_diffuse(window: Window) -> tuple[float, float]:
    """The part that passes of the sky's light and of the ground's (Marion 2017, by pvlib)."""
    from pvlib import iam

    panes = PANES[window.glass]
    if panes == 0:
        return 1.0, 1.0
    parts = iam.marion_diffuse("physical", window.tilt_deg)
    ground = parts["ground"] if window.tilt_deg > 0 else 0.0
    sky, low = (PASSES[window.glass] * float(np.nan_to_num(p)) ** panes for p in (parts["sky"], ground))
    return sky, low


def open_sky(tilt_deg: float, horizon_deg: float) -> float:
    """The part of an even sky's light on a tilted plane that comes from above a level horizon
    line; 1 for an open view."""
    height, round_ = np.meshgrid(np.radians(np.arange(0.5, 90)), np.radians(np.arange(0, 360, 2.0)))
    tilt = np.radians(tilt_deg)
    toward = np.cos(tilt) * np.sin(height) + np.sin(tilt) * np.cos(height) * np.cos(round_)
    light = np.maximum(toward, 0) * np.cos(height)
    return float(light[height >= np.radians(horizon_deg)].sum() / light.sum())


def seen_through_pane(window: Window) -> float:
    """The part of the light on the pane that reaches a piece behind its middle, facing it: the
    configuration factor from a point to a parallel rectangle (Howell, catalogue B-3, times 4)."""
    if window.distance_m == 0:
        return 1.0
    a, b = (side / 2 / window.distance_m for side in (window.width_m, window.height_m))
    one, other = np.sqrt(1 + a * a), np.sqrt(1 + b * b)
    part = a / one * np.arctan(b / one) + b / other * np.arctan(a / other)
    return float(4 * part / (2 * np.pi))


def sun_reaches(window: Window, height_deg: Floats, azimuth_deg: Floats, aoi_deg: Floats) -> Floats:
    """1 where the sun's beam reaches the piece, else 0: before the pane, above what shades it, and
    through the pane where the piece stands back from it."""
    reaches = (aoi_deg < 90) & (height_deg > window.horizon_deg) & (height_deg > 0)
    if window.distance_m > 0 and window.tilt_deg > 0:
        aside = np.radians(azimuth_deg - window.faces_deg)
        across = window.distance_m * np.tan(aside)
        # Where the beam that ends at the piece has crossed the pane.
        rises = window.distance_m * np.tan(np.radians(height_deg)) / np.maximum(np.cos(aside), 1e-6)
        reaches &= (np.abs(across) < window.width_m / 2) & (rises < window.height_m / 2)
    return reaches.astype(float)
