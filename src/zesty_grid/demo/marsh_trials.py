"""The trials of the demo study: a south window with blue wools and a logger, hanks that are half
covered, and washes with a ribbon of white fibres. All made up."""

from datetime import date, datetime, time, timedelta
from functools import lru_cache

import numpy as np

from zesty_grid.core.fade.conditions import Conditions
from zesty_grid.core.fade.light_record import LightSample
from zesty_grid.core.fade.trial import MULTIFIBRE, StagePlan, TrialPlan, WoolBeside
from zesty_grid.core.fade.trial_entry import LightSaid, LoggerLight, StageDone, WindowLight
from zesty_grid.core.fade.trial_state import stay_of
from zesty_grid.core.fade.window import Window
from zesty_grid.core.read.colour_space import Floats
from zesty_grid.core.read.kubelka_munk import absorption_over_scattering, reflectance_of
from zesty_grid.core.read.patch24 import WAVELENGTHS_NM
from zesty_grid.core.record.swatch import Levels
from zesty_grid.core.shelf.items import ReferenceCloth
from zesty_grid.core.shelf.light_place import LightPlace
from zesty_grid.standins.light_logger import Weather, log_window

NM = WAVELENGTHS_NM.astype(float)
STARTS_ON = date(2026, 9, 26)
DAYS = (2, 4, 8, 16, 32)
# Nobody was at the station on the day of the fourth stage.
LATE_STAGE, DAYS_LATE = 3, 3
LOGGED_DAYS = 22
SOUTH_WINDOW = WindowLight(
    name="Station window",
    latitude=53.6,
    longitude=8.1,
    sky="mixed",
    window=Window(faces_deg=170, glass="double", horizon_deg=4),
)
WEATHER = Weather(sun_share=0.48, seed=26)
READING_ROOM = LightPlace(
    key="reading-room",
    name="Station reading room",
    latitude=53.6,
    longitude=8.1,
    uv=True,
    window=Window(faces_deg=20, glass="double", distance_m=2.5),
    sky="mixed",
    note="Two and a half metres from a north window.",
)
WOOLS = tuple(
    ReferenceCloth(
        key=f"blue-wool-{n}",
        name=f"Blue wool {n}",
        source="bought reference",
        note="Lies beside the pieces in the south window.",
    )
    for n in (1, 2, 3, 4)
)
# Half of what can go of each wool is gone after so many lx·h: each lasts longer than the one below.
WOOL_HALF_LXH = {1: 0.6e6, 2: 1.7e6, 3: 4.2e6, 4: 10e6}
# What each white fibre takes from a fugitive dye, and from a fast one.
TAKES = {"acetate": 0.25, "cotton": 0.5, "polyamide": 1.0, "polyester": 0.1, "acrylic": 0.12, "wool": 0.8}
BLEEDS = {"elderberry": 0.05, "coreopsis": 0.018, "alder-cones": 0.008}
WHITE = 0.84 - 0.10 * np.exp(-(NM - 380) / 60)


def light_trial(codes: tuple[str, ...]) -> TrialPlan:
    stages = tuple(StagePlan(label=f"{d} days", days=d) for d in DAYS)
    return TrialPlan(
        kind="light",
        name="South window",
        swatches=codes,
        stages=stages,
        starts_on=STARTS_ON,
        wools=tuple(WoolBeside(number=n, cloth=w.key) for n, w in enumerate(WOOLS, 1)),
    )


def half_trial(codes: tuple[str, ...]) -> TrialPlan:
    """Hanks wound on card, one half of each under foil."""
    stages = tuple(StagePlan(label=f"{d} days", days=d) for d in DAYS)
    return TrialPlan(
        kind="light",
        name="Half-covered hanks",
        swatches=codes,
        stages=stages,
        mount="half covered",
        starts_on=STARTS_ON,
    )


def wash_trial(codes: tuple[str, ...]) -> TrialPlan:
    stages = tuple(StagePlan(label="1 wash" if n == 1 else f"{n} washes", washes=n) for n in (1, 3, 5))
    return TrialPlan(
        kind="wash",
        name="Neutral soap, 40 °C",
        swatches=codes,
        stages=stages,
        neighbours=MULTIFIBRE,
        conditions=Conditions(name="Hand wash", temperature_c=40, minutes=20, soap="neutral soap", dried="flat"),
    )


def light_of(log: int) -> LightSaid:
    """The window as it is described, and the logger that lay in it for three weeks."""
    return LightSaid(sources=(SOUTH_WINDOW, LoggerLight(name="Station logger", log=log)), counts=1)


def late_stage() -> StageDone:
    return StageDone(stage=LATE_STAGE, on=stage_day(LATE_STAGE))


def stage_day(stage: int) -> date:
    """The day on which a stage was really read."""
    late = DAYS_LATE if stage == LATE_STAGE else 0
    return STARTS_ON + timedelta(days=DAYS[stage] + late)


def stage_dose_lxh(stage: int) -> float:
    """The light that really fell in by then: as the simulated logger saw it."""
    until = datetime.combine(stage_day(stage), time())
    return sum(one.lux for one in weather_log() if one.at < until) / 6


@lru_cache(maxsize=1)
def weather_log() -> tuple[LightSample, ...]:
    """Every ten minutes of the light in the window, over the whole trial."""
    stay = stay_of(SOUTH_WINDOW, STARTS_ON, STARTS_ON + timedelta(days=max(DAYS)))
    return tuple(log_window(stay, WEATHER))


def wool_reflectance(wool: int, dose_lxh: float) -> Floats:
    left = 0.25 + 0.75 * 0.5 ** (dose_lxh / WOOL_HALF_LXH[wool])
    blue = 2.2 * np.exp(-(((NM - 610) / 75) ** 2)) + 0.35
    return reflectance_of(absorption_over_scattering(WHITE) + left * blue)


def ribbon(levels: Levels, washes: int, dyed: Floats) -> tuple[Floats, ...]:
    """The six fibres of a ribbon that was washed beside a dyed piece."""
    ratio = absorption_over_scattering(WHITE)
    bled = BLEEDS.get(levels.get("dye", ""), 0.0) * min(washes, 3)
    stain = absorption_over_scattering(dyed)
    return tuple(reflectance_of(ratio + bled * TAKES[fibre] * stain) for fibre in MULTIFIBRE)
