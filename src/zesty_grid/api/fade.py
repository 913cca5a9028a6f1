"""Light and wash trials."""

from fastapi import APIRouter

from zesty_grid.api.answers import Created, TrialView
from zesty_grid.api.shared import RowId, Store
from zesty_grid.core.fade.trial import TrialPlan
from zesty_grid.store.fade import add_trial, list_points, list_trials
from zesty_grid.store.plan import load_study

router = APIRouter(prefix="/api/studies/{study_id}/trials", tags=["fade"])


@router.get("")
def get_trials(study_id: RowId, store: Store) -> list[TrialView]:
    with store.connection() as connection:
        load_study(connection, study_id)
        points = list_points(connection, study_id)
        return [
            TrialView(id=number, plan=plan, points=tuple(points.get(number, ())))
            for number, plan in list_trials(connection, study_id).items()
        ]


@router.post("", status_code=201)
def create_trial(study_id: RowId, plan: TrialPlan, store: Store) -> Created:
    with store.transaction() as connection:
        load_study(connection, study_id)
        return Created(id=add_trial(connection, study_id, plan))
