"""A trial as it stands: its stages with the days and doses that they really had."""

from collections.abc import Mapping, Sequence
from datetime import date, datetime, time, timedelta
from functools import lru_cache

from zesty_grid.core.fade.blue_wool import WoolDose
from zesty_grid.core.fade.light_record import LightSample, lamp_dose, logged_dose, metered_dose
from zesty_grid.core.fade.trial import StagePlan, TrialPlan, planned_dose
from zesty_grid.core.fade.trial_entry import (
    LampLight,
    LightSaid,
    LightSource,
    LoggerLight,
    StageAdded,
    StageDone,
    StageLeftOut,
    Started,
    TrialEntry,
    Turned,
    WindowLight,
)
from zesty_grid.core.fade.window import WindowStay
from zesty_grid.core.fade.window_light import DoseOfLight, dose_in_window
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.refusal import Refusal

# A dose that was only reckoned from hours and a mean illuminance may be so many times off.
RECKONED_FACTOR = 1.6
LOOK_AHEAD_DAYS = 400
Logs = Mapping[int, Sequence[LightSample]]


class StageDose(Frozen):
    """lx·h, washes or days, with 90 % limits; `source` says where it comes from."""

    dose: float
    low: float
    high: float
    source: str


class StageState(Frozen):
    """`due_on`: the day on which it should be read; `on`: the day on which it was."""

    index: int
    plan: StagePlan
    due_on: date | None
    on: date | None
    is_read: bool
    left_out: bool
    dose: StageDose | None


class TrialState(Frozen):
    starts_on: date | None
    light: LightSaid | None
    stages: tuple[StageState, ...]
    turned_on: tuple[date, ...]
    uv: bool


def trial_state(
    plan: TrialPlan,
    entries: Sequence[TrialEntry],
    read_on: Mapping[int, date],
    logs: Logs,
    wools: Mapping[int, WoolDose] | None = None,
) -> TrialState:
    """`read_on`: the day of each stage's readings; `wools`: what blue wools tell at a stage."""
    stages = [*plan.stages, *(one.stage for one in entries if isinstance(one, StageAdded))]
    done = {one.stage: one for one in entries if isinstance(one, StageDone)}
    out = {one.stage: one.left_out for one in entries if isinstance(one, StageLeftOut)}
    said = [one for one in entries if isinstance(one, LightSaid)]
    light = said[-1] if said else None
    begun = [one.on for one in entries if isinstance(one, Started)]
    starts_on = begun[-1] if begun else plan.starts_on
    found = []
    for index, stage in enumerate(stages):
        own = done.get(index)
        on = own.on if own else read_on.get(index)
        dose = None
        if plan.kind == "light":
            dose = _light_at(stage, own, on, starts_on, light, logs, (wools or {}).get(index))
        else:
            dose = _counted(plan, stage, own, on, starts_on)
        found.append(
            StageState(
                index=index,
                plan=stage,
                due_on=_due(stage, starts_on, light),
                on=on,
                is_read=index in read_on,
                left_out=out.get(index, False) and index not in read_on,
                dose=dose,
            )
        )
    return TrialState(
        starts_on=starts_on,
        light=light,
        stages=tuple(found),
        turned_on=tuple(one.on for one in entries if isinstance(one, Turned)),
        uv=has_uv(light),
    )


def has_uv(light: LightSaid | None) -> bool:
    """Whether the light that counts holds ultraviolet; so long as nobody says, it is taken to."""
    if light is None:
        return True
    source = light.sources[min(light.counts, len(light.sources) - 1)]
    if isinstance(source, WindowLight):
        return source.window.has_uv
    if isinstance(source, LampLight):
        return source.lamp.uv
    if isinstance(source, LoggerLight):
        return source.uv
    window = next((one for one in light.sources if isinstance(one, WindowLight)), None)
    return window.window.has_uv if window else True


def doses_by_source(light: LightSaid, start: date, end: date, logs: Logs) -> list[tuple[str, DoseOfLight | None, str]]:
    """The dose from `start` to the day before `end` by each source: its name, its dose, and why
    there is none where there is none."""
    found: list[tuple[str, DoseOfLight | None, str]] = []
    for source in light.sources:
        try:
            found.append((source.name, _dose_of(source, light, start, end, logs), ""))
        except Refusal as refusal:
            found.append((source.name, None, refusal.reason))
    return found


def _dose_of(source: LightSource, light: LightSaid, start: date, end: date, logs: Logs) -> DoseOfLight:
    last = max(start, end - timedelta(1))
    if isinstance(source, WindowLight):
        return _window_dose(source, start, last)
    if isinstance(source, LampLight):
        days = [start + timedelta(n) for n in range((last - start).days + 1)]
        return lamp_dose(source.lamp, days)
    if isinstance(source, LoggerLight):
        first, until = datetime.combine(start, time()), datetime.combine(last, time(23, 59))
        return logged_dose(logs.get(source.log, ()), first, until, source.watts, source.uv).dose
    window = next((one for one in light.sources if isinstance(one, WindowLight)), None)
    if window is None:
        raise Refusal(
            "no-window", "Looks at a light meter need the window that they were made in.", "Describe the window too."
        )
    return metered_dose(source.samples, stay_of(window, start, last))


def stay_of(window: WindowLight, start: date, last: date) -> WindowStay:
    return WindowStay(
        latitude=window.latitude,
        longitude=window.longitude,
        start=start,
        end=last,
        window=window.window,
        sky=window.sky,
        sun_share=window.sun_share,
    )


@lru_cache(maxsize=128)
def _window_dose(window: WindowLight, start: date, last: date) -> DoseOfLight:
    return dose_in_window(stay_of(window, start, last))


def _light_at(
    stage: StagePlan,
    done: StageDone | None,
    on: date | None,
    starts_on: date | None,
    light: LightSaid | None,
    logs: Logs,
    wools: WoolDose | None,
) -> StageDose | None:
    if done and done.dose_lxh:
        return _reckoned(done.dose_lxh, "as noted")
    if light and light.counts >= len(light.sources) and wools and wools.dose_lxh:
        return StageDose(dose=wools.dose_lxh, low=wools.low_lxh, high=wools.high_lxh, source="blue wools")
    if light and starts_on and on and on > starts_on:
        for source in (*light.sources[light.counts :], *light.sources[: light.counts]):
            try:
                dose = _dose_of(source, light, starts_on, on, logs)
            except Refusal:
                continue
            if dose.dose_lxh > 0:
                return StageDose(dose=dose.dose_lxh, low=dose.low_lxh, high=dose.high_lxh, source=source.name)
    return _reckoned(stage.dose_lxh, "as planned") if stage.dose_lxh else None


def _reckoned(dose: float, source: str) -> StageDose:
    return StageDose(dose=dose, low=dose / RECKONED_FACTOR, high=dose * RECKONED_FACTOR, source=source)


def _counted(
    plan: TrialPlan, stage: StagePlan, done: StageDone | None, on: date | None, starts_on: date | None
) -> StageDose | None:
    if plan.kind == "store":
        days = float((on - starts_on).days) if on and starts_on else stage.days
        return StageDose(dose=days, low=days, high=days, source="days") if days > 0 else None
    counted = done.washes if done and done.washes is not None else stage.washes
    count = float(counted)
    return StageDose(dose=count, low=count, high=count, source="counted") if count else None


def _due(stage: StagePlan, starts_on: date | None, light: LightSaid | None) -> date | None:
    if starts_on is None:
        return None
    if stage.days:
        return starts_on + timedelta(days=round(stage.days))
    if stage.dose_lxh and light and isinstance(light.sources[0], WindowLight):
        ahead = _window_dose(light.sources[0], starts_on, starts_on + timedelta(LOOK_AHEAD_DAYS))
        total = 0.0
        for day in ahead.days:
            total += day.dose_lxh
            if total >= stage.dose_lxh:
                return day.date + timedelta(1)
    return None


def expected_dose(state: TrialState, plan: TrialPlan, stage: StageState) -> float | None:
    """The dose that a stage has or, where it is still to come, is expected to have."""
    if stage.dose:
        return stage.dose.dose
    if plan.kind == "light" and state.light and state.starts_on and stage.due_on:
        source = state.light.sources[0]
        last = stage.due_on - timedelta(1)
        if isinstance(source, WindowLight) and last >= state.starts_on:
            return _window_dose(source, state.starts_on, last).dose_lxh
        if isinstance(source, LampLight):
            days = (stage.due_on - state.starts_on).days
            return source.lamp.lux * source.lamp.hours_a_day * days
    return planned_dose(plan.kind, stage.plan)
