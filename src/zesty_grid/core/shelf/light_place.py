"""A named place in which a textile may live, and the light that it has there."""

from datetime import date
from typing import Annotated, Literal

from pydantic import Field

from zesty_grid.core.fade.window import Share, Sky, Window, WindowStay
from zesty_grid.core.shelf.items import OnShelf


class LightPlace(OnShelf):
    """Either a window, or an illuminance for so many hours a year. `times_off`: how many times more
    or less light it may have."""

    kind: Literal["light_place"] = "light_place"
    lux: Annotated[float, Field(gt=0, le=200_000, allow_inf_nan=False)] = 50
    hours_a_year: Annotated[float, Field(gt=0, le=8784, allow_inf_nan=False)] = 3000
    uv: bool = False
    times_off: Annotated[float, Field(ge=1, le=10, allow_inf_nan=False)] = 1.5
    latitude: Annotated[float, Field(ge=-90, le=90, allow_inf_nan=False)] = 50
    longitude: Annotated[float, Field(ge=-180, le=180, allow_inf_nan=False)] = 8
    window: Window | None = None
    sky: Sky = "mixed"
    sun_share: Annotated[tuple[Share, ...], Field(max_length=12)] = ()


def stay_over_a_year(place: LightPlace, year: int) -> WindowStay:
    """A whole year in the place's window."""
    return WindowStay(
        latitude=place.latitude,
        longitude=place.longitude,
        start=date(year, 1, 1),
        end=date(year, 12, 31),
        window=place.window or Window(),
        sky=place.sky,
        sun_share=place.sun_share,
    )


# CIE 157:2004 for the gallery; the others are common practice, from memory.
KNOWN_PLACES = (
    LightPlace(
        key="museum",
        name="Museum case",
        lux=50,
        hours_a_year=3000,
        uv=False,
        times_off=1.2,
        note="50 lx for 3000 h a year, without ultraviolet (CIE 157).",
    ),
    LightPlace(
        key="bright-room",
        name="Bright room",
        lux=500,
        hours_a_year=3000,
        uv=True,
        times_off=2.0,
        note="About 500 lx away from the window.",
    ),
    LightPlace(
        key="sunny-sill",
        name="Sunny sill",
        latitude=50,
        longitude=8,
        uv=True,
        window=Window(faces_deg=180),
        note="A south window at 50° N, single glass.",
    ),
    LightPlace(
        key="outdoors",
        name="Worn outdoors",
        lux=20_000,
        hours_a_year=700,
        uv=True,
        times_off=2.0,
        note="Two hours a day under the open sky.",
    ),
)
