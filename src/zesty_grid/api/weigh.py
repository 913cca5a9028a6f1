"""Weights and volumes, pH, and the bench papers."""

from fastapi import APIRouter

from zesty_grid.api.answers import WeighView
from zesty_grid.api.shared import RowId, Store, worked_study
from zesty_grid.core.weigh.cut_list import cut_list
from zesty_grid.core.weigh.ph_bath import PhAnswer, PhQuestion, dose_for_ph
from zesty_grid.core.weigh.ph_dose import NextDose, TwoReadings, next_dose
from zesty_grid.core.weigh.weighing import weigh_study

router = APIRouter(prefix="/api/studies/{study_id}/weigh", tags=["weigh"])
ph_router = APIRouter(prefix="/api/ph", tags=["weigh"])


@router.get("")
def weigh(study_id: RowId, store: Store) -> WeighView:
    with store.connection() as connection:
        study = worked_study(connection, study_id)
    plan = study.stored.plan
    return WeighView(
        weighing=weigh_study(plan, study.cells, study.vessels, study.shelf),
        cut_list=cut_list(plan, study.cells, study.shelf),
    )


@ph_router.post("")
def dose(question: PhQuestion) -> PhAnswer:
    """How much of an adjuster brings a bath to a pH."""
    return dose_for_ph(question)


@ph_router.post("/next")
def dose_after_two_readings(readings: TwoReadings) -> NextDose:
    return next_dose(readings)
