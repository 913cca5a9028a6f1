"""What is noted of a trial while it runs. Nothing noted is changed; the newest word stands."""

from datetime import date
from typing import Annotated, Literal

from pydantic import Field

from zesty_grid.core.fade.light_record import Lamp, LightSample
from zesty_grid.core.fade.trial import StagePlan
from zesty_grid.core.fade.window import Share, Sky, Window
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.row_number import RowNumber

Name = Annotated[str, Field(min_length=1, max_length=80)]
StageIndex = Annotated[int, Field(ge=0, lt=60)]


class WindowLight(Frozen):
    kind: Literal["window"] = "window"
    name: Name = "Window"
    latitude: Annotated[float, Field(ge=-90, le=90, allow_inf_nan=False)]
    longitude: Annotated[float, Field(ge=-180, le=180, allow_inf_nan=False)]
    window: Window = Window()
    sky: Sky = "mixed"
    sun_share: Annotated[tuple[Share, ...], Field(max_length=12)] = ()


class LampLight(Frozen):
    kind: Literal["lamp"] = "lamp"
    name: Name = "Lamp"
    lamp: Lamp


class MeterLight(Frozen):
    """Single looks at a light meter, in the window that is named beside it."""

    kind: Literal["meter"] = "meter"
    name: Name = "Light meter"
    samples: Annotated[tuple[LightSample, ...], Field(min_length=1, max_length=500)]


class LoggerLight(Frozen):
    """`log`: a logger's file that was kept for this trial; `watts`: it was given in W/m²."""

    kind: Literal["logger"] = "logger"
    name: Name = "Logger"
    log: RowNumber
    watts: bool = False
    uv: bool = True


LightSource = Annotated[WindowLight | LampLight | MeterLight | LoggerLight, Field(discriminator="kind")]


class LightSaid(Frozen):
    """All sources of the dose of a light trial, and which of them counts (`counts`: its place; the
    blue wools where it lies past the last)."""

    kind: Literal["light"] = "light"
    sources: Annotated[tuple[LightSource, ...], Field(min_length=1, max_length=6)]
    counts: Annotated[int, Field(ge=0, le=6)] = 0


class Started(Frozen):
    kind: Literal["started"] = "started"
    on: date


class StageDone(Frozen):
    """Pieces were taken for a stage on a day; a dose or a number of washes where it was another
    than planned."""

    kind: Literal["stage"] = "stage"
    stage: StageIndex
    on: date
    dose_lxh: Annotated[float, Field(gt=0, le=1e10, allow_inf_nan=False)] | None = None
    washes: Annotated[int, Field(ge=0, le=1000)] | None = None


class StageLeftOut(Frozen):
    kind: Literal["left out"] = "left out"
    stage: StageIndex
    left_out: bool = True


class StageAdded(Frozen):
    kind: Literal["added"] = "added"
    stage: StagePlan


class Turned(Frozen):
    """The cards were turned, because a window is not even."""

    kind: Literal["turned"] = "turned"
    on: date


TrialEntry = Annotated[
    LightSaid | Started | StageDone | StageLeftOut | StageAdded | Turned, Field(discriminator="kind")
]
