"""Weights and volumes."""

from fastapi import APIRouter

from zesty_grid.api.answers import WeighView
from zesty_grid.api.shared import RowId, Store, worked_study
from zesty_grid.core.weigh.amounts import iron_stock, weigh_vessel
from zesty_grid.core.weigh.cautions import weighing_cautions

router = APIRouter(prefix="/api/studies/{study_id}/weigh", tags=["weigh"])


@router.get("")
def weigh(study_id: RowId, store: Store) -> WeighView:
    with store.connection() as connection:
        study = worked_study(connection, study_id)
    amounts = [weigh_vessel(study.stored.plan, v, study.shelf) for v in study.vessels]
    return WeighView(
        vessels=tuple(amounts),
        iron_stock=iron_stock(amounts),
        cautions=weighing_cautions(amounts),
    )
