"""Weights and volumes, pH, and the bench papers."""

import sqlite3

from fastapi import APIRouter
from fastapi.responses import Response

from zesty_grid.api.answers import WeighView
from zesty_grid.api.shared import RowId, Store
from zesty_grid.core.dye.bench import liquors_of
from zesty_grid.core.dye.preparing import scours_ahead
from zesty_grid.core.read.sheet_layout import Paper
from zesty_grid.core.weigh.bench_papers import BenchPapers, bench_papers
from zesty_grid.core.weigh.cut_list import cut_list
from zesty_grid.core.weigh.ph_bath import PhAnswer, PhQuestion, dose_for_ph
from zesty_grid.core.weigh.ph_dose import NextDose, TwoReadings, next_dose
from zesty_grid.core.weigh.weighing import weigh_study
from zesty_grid.formats.bench_csv import amounts_csv, cut_list_csv, swatches_csv
from zesty_grid.formats.bench_pdf import bench_pdf
from zesty_grid.store.standing import standing_study

router = APIRouter(prefix="/api/studies/{study_id}/weigh", tags=["weigh"])
ph_router = APIRouter(prefix="/api/ph", tags=["weigh"])


@router.get("")
def weigh(study_id: RowId, store: Store) -> WeighView:
    with store.connection() as connection:
        study = standing_study(connection, study_id)
    return WeighView(
        weighing=weigh_study(study.planned, study.weighed, liquors_of(study.begun), scours_ahead(study.planned)),
        cut_list=cut_list(study.planned),
    )


@router.get("/bench.json")
def papers_as_json(study_id: RowId, store: Store) -> BenchPapers:
    with store.connection() as connection:
        return papers_of(connection, study_id)


@router.get("/bench.pdf", response_class=Response)
def papers_as_pdf(study_id: RowId, store: Store, paper: Paper = "A4") -> Response:
    with store.connection() as connection:
        papers = papers_of(connection, study_id)
    return Response(bench_pdf(papers, paper), media_type="application/pdf")


@router.get("/swatches.csv", response_class=Response)
def swatches_as_csv(study_id: RowId, store: Store) -> Response:
    with store.connection() as connection:
        return _csv(swatches_csv(papers_of(connection, study_id)), "swatches")


@router.get("/amounts.csv", response_class=Response)
def amounts_as_csv(study_id: RowId, store: Store) -> Response:
    with store.connection() as connection:
        return _csv(amounts_csv(papers_of(connection, study_id)), "amounts")


@router.get("/cut-list.csv", response_class=Response)
def cut_list_as_csv(study_id: RowId, store: Store) -> Response:
    with store.connection() as connection:
        return _csv(cut_list_csv(papers_of(connection, study_id)), "cut-list")


def papers_of(connection: sqlite3.Connection, study_id: int) -> BenchPapers:
    study = standing_study(connection, study_id)
    return bench_papers(study.planned, study.weighed, liquors_of(study.begun), scours_ahead(study.planned))


def _csv(text: str, name: str) -> Response:
    headers = {"Content-Disposition": f'attachment; filename="{name}.csv"'}
    return Response(text, media_type="text/csv; charset=utf-8", headers=headers)


@ph_router.post("")
def dose(question: PhQuestion) -> PhAnswer:
    """How much of an adjuster brings a bath to a pH."""
    return dose_for_ph(question)


@ph_router.post("/next")
def dose_after_two_readings(readings: TwoReadings) -> NextDose:
    return next_dose(readings)
