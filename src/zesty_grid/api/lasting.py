"""What trials say: curves, the doses that matter, what lasts, and life in a place."""

import sqlite3
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property
from time import monotonic
from typing import Annotated

from fastapi import APIRouter, Query
from fastapi.responses import Response

from zesty_grid.api.answers import AgedGrid, LastingView
from zesty_grid.api.shared import Codes, RowId, Store, as_json, codes_in
from zesty_grid.core.fade.fade_points import FadePoint
from zesty_grid.core.fade.fading_curve import Foretold, Paths, foretell_each
from zesty_grid.core.fade.group_fading import GroupFading, groups_fading
from zesty_grid.core.fade.lasting import SwatchLasting, TrialFading, trial_fading
from zesty_grid.core.fade.lasting_effects import FactorLasting, lasting_by_factor
from zesty_grid.core.fade.life import LifeInPlace, aged, life_in_place, yearly_light
from zesty_grid.core.fade.limits import LIMIT_90
from zesty_grid.core.fade.stage_advice import StageAdvice, advise_stages
from zesty_grid.core.fade.swatch_fading import SwatchFading, swatches_fading
from zesty_grid.core.fade.trial import TrialPlan
from zesty_grid.core.fade.trial_paths import WorkedAhead, fading_groups, last_dose_of, paths_of_trial, work_ahead
from zesty_grid.core.fade.trial_state import TrialState
from zesty_grid.core.plan.planned_study import PlannedStudy
from zesty_grid.core.shelf.light_place import LightPlace
from zesty_grid.store import fade as store_fade
from zesty_grid.store.kept import Kept
from zesty_grid.store.plan import NotFound
from zesty_grid.store.shelf import load_shelf
from zesty_grid.store.standing import standing_study

router = APIRouter(prefix="/api/studies/{study_id}/trials/{trial_id}", tags=["fade"])

AT_A_TIME_S = 1.0


@dataclass(frozen=True)
class _Known:
    plan: TrialPlan
    state: TrialState
    points: list[FadePoint]
    levels: dict[str, dict[str, str]]
    groups: dict[str, str]

    @cached_property
    def paths(self) -> dict[str, Paths]:
        return paths_of_trial(self.points, self.groups)


# With 2,000 swatches: 900 ms and 3 s of processor time, and every look at a place asks for one.
_trials_kept: Kept[_Known] = Kept(4)
_lasting_kept: Kept[LastingView] = Kept(4)


@router.get("/lasting", response_model=LastingView)
def lasting(study_id: RowId, trial_id: RowId, store: Store) -> Response:
    """The order of lasting, and what factors do to it."""
    with store.connection() as connection:
        known = _known(connection, study_id, trial_id)
        arms = [
            _known(connection, study_id, other)
            for other, plan in store_fade.list_trials(connection, study_id).items()
            if other != trial_id and plan.kind == known.plan.kind and plan.kind != "light"
        ]
        found = _lasting_kept.of_file(connection, trial_id, lambda: _lasting(known, arms))
    return as_json(LastingView, found)


def _lasting(known: _Known, arms: list[_Known]) -> LastingView:
    fading = trial_fading(known.plan.kind, known.points, known.paths)
    return LastingView(fading=fading, factors=tuple(_factors([known, *arms], fading)))


@router.get("/lasting/ahead")
def lasting_worked_ahead(
    study_id: RowId, trial_id: RowId, store: Store, after: Annotated[int, Query(ge=0, le=1_000_000)] = 0
) -> WorkedAhead:
    """Works for about a second at what the order of lasting needs, going on after so many steps;
    asked again until all is done. Of a trial of thousands it takes a minute."""
    with store.connection() as connection:
        known = _known(connection, study_id, trial_id)
    until = monotonic() + AT_A_TIME_S
    return work_ahead(known.points, known.groups, after, lambda: monotonic() < until)


@router.get("/lasting/swatches")
def lasting_of_swatches(study_id: RowId, trial_id: RowId, store: Store, codes: Codes = "") -> list[SwatchFading]:
    """The curves of some swatches with their limits, and the doses that matter."""
    with store.connection() as connection:
        known = _known(connection, study_id, trial_id)
        wools = store_fade.wool_readings(connection, trial_id, known.plan)
    wanted = codes_in(codes) or list(known.paths)
    return swatches_fading(known.plan.kind, known.points, known.paths, wanted, known.state.uv, wools)


@router.get("/lasting/groups")
def lasting_of_groups(study_id: RowId, trial_id: RowId, store: Store) -> list[GroupFading]:
    """The mean curve of each dye."""
    with store.connection() as connection:
        known = _known(connection, study_id, trial_id)
    return groups_fading(known.paths, known.groups)


@router.get("/lasting/advice")
def advice_on_stages(study_id: RowId, trial_id: RowId, store: Store) -> list[StageAdvice]:
    """Which stages still to come say something new, and where one is missing."""
    with store.connection() as connection:
        known = _known(connection, study_id, trial_id)
    if all(one.is_read or one.left_out for one in known.state.stages):
        return []
    return advise_stages(known.plan, known.state, known.paths)


def _factors(arms: list[_Known], first: TrialFading) -> list[FactorLasting]:
    """What factors do to lasting; where a treatment was tried in several ways, as trials of one
    kind, the way is a factor too, at the furthest dose that all of them have seen."""
    read = [arm for arm in arms if arm.paths]
    if not read:
        return []
    dose = min(last_dose_of(arm.paths) for arm in read)
    changes, levels, unsure = {}, {}, {}
    for number, arm in enumerate(read):
        at_dose: Mapping[str, SwatchLasting | Foretold]
        if arm is arms[0] and dose == first.last_dose:
            at_dose = {one.swatch: one for one in first.order}
        else:
            told = foretell_each(list(arm.paths.values()), [dose] * len(arm.paths)).told
            at_dose = dict(zip(arm.paths, told, strict=True))
        for code, one in at_dose.items():
            key = f"{code} {number}"
            changes[key] = one.de00
            unsure[key] = (one.high_de00 - one.low_de00) / (2 * LIMIT_90)
            own = {"conditions": arm.plan.name} if len(read) > 1 else {}
            levels[key] = arm.levels.get(code, {}) | own
    return lasting_by_factor(changes, levels, unsure)


@router.get("/life")
def life(study_id: RowId, trial_id: RowId, store: Store, place: str, codes: Codes = "") -> LifeInPlace:
    """Years to each change of some swatches in a place of the Shelf."""
    with store.connection() as connection:
        known = _known(connection, study_id, trial_id)
        where = _place(connection, place)
    wanted = codes_in(codes) or known.paths
    shown = {code: known.paths[code] for code in wanted if code in known.paths}
    return life_in_place(where, shown, known.state.uv)


@router.get("/aged")
def aged_grid(
    study_id: RowId, trial_id: RowId, store: Store, count: Annotated[float, Query(ge=0, le=1000)], place: str = ""
) -> AgedGrid:
    """The colours after so many years in a place, or so many washes: as foretold."""
    with store.connection() as connection:
        known = _known(connection, study_id, trial_id)
        where = _place(connection, place) if known.plan.kind == "light" else None
    yearly = yearly_light(where) if where else None
    dose = count * (yearly.dose_lxh if yearly else 1.0)
    return AgedGrid(place=where.name if where else "", count=count, dose=dose, swatches=tuple(aged(known.paths, dose)))


def _known(connection: sqlite3.Connection, study_id: int, trial_id: int) -> _Known:
    owner, plan = store_fade.load_trial(connection, trial_id)
    if owner != study_id:
        raise NotFound("trial")
    return _trials_kept.of_study(connection, study_id, trial_id, lambda: _read(connection, study_id, trial_id, plan))


def _read(connection: sqlite3.Connection, study_id: int, trial_id: int, plan: TrialPlan) -> _Known:
    levels = _levels(standing_study(connection, study_id).planned, plan)
    return _Known(
        plan,
        store_fade.state_of(connection, trial_id),
        store_fade.points_of(connection, trial_id),
        levels,
        fading_groups(levels),
    )


def _levels(planned: PlannedStudy, plan: TrialPlan) -> dict[str, dict[str, str]]:
    by_code = planned.by_code
    return {code: planned.level_words(planned.levels(by_code[code])) for code in plan.swatches if code in by_code}


def _place(connection: sqlite3.Connection, key: str) -> LightPlace:
    found = next((one for one in load_shelf(connection).light_places if one.key == key), None)
    if found is None:
        raise NotFound("place of light on the Shelf")
    return found
