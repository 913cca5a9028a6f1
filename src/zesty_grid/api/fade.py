"""Light and wash trials."""

import sqlite3

from fastapi import APIRouter

from zesty_grid.api.answers import Created, TrialView
from zesty_grid.api.shared import RowId, Store
from zesty_grid.core.fade.trial import StageReading, TrialPlan, fade_points
from zesty_grid.store.fade import add_trial, list_trials
from zesty_grid.store.plan import load_study
from zesty_grid.store.read import list_readings

router = APIRouter(prefix="/api/studies/{study_id}/trials", tags=["fade"])


@router.get("")
def get_trials(study_id: RowId, store: Store) -> list[TrialView]:
    with store.connection() as connection:
        load_study(connection, study_id)
        return _views(connection, study_id)


@router.post("", status_code=201)
def create_trial(study_id: RowId, plan: TrialPlan, store: Store) -> Created:
    with store.transaction() as connection:
        load_study(connection, study_id)
        return Created(id=add_trial(connection, study_id, plan))


def _views(connection: sqlite3.Connection, study_id: int) -> list[TrialView]:
    readings = list_readings(connection, study_id)
    views = []
    for trial_id, plan in list_trials(connection, study_id).items():
        own = [
            StageReading(
                swatch=r.swatch, piece=r.piece, stage=r.stage, lab=r.lab,
                uncertainty_de00=r.uncertainty_de00,
            )
            for r in readings
            if r.trial in (None, trial_id)
        ]  # fmt: skip
        views.append(TrialView(id=trial_id, plan=plan, points=tuple(fade_points(plan, own))))
    return views
