"""Studies and their plans."""

import sqlite3

from fastapi import APIRouter

from zesty_grid.api.answers import Created, SavePlan, StudySummary, StudyView
from zesty_grid.api.shared import RowId, Store, worked_study
from zesty_grid.core.plan.advice import advice_on
from zesty_grid.core.plan.cells import cross, missing_controls
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.read.readings import as_dyed
from zesty_grid.core.refusal import Fault, Refusal
from zesty_grid.core.shelf.items import Shelf
from zesty_grid.store import plan as studies
from zesty_grid.store.read import list_readings
from zesty_grid.store.shelf import load_shelf

router = APIRouter(prefix="/api/studies", tags=["plan"])


@router.get("")
def list_studies(store: Store) -> list[StudySummary]:
    with store.connection() as connection:
        return [_summary(connection, study) for study in studies.list_studies(connection)]


@router.post("", status_code=201)
def create_study(plan: StudyPlan, store: Store) -> Created:
    cells = cross(plan)
    with store.transaction() as connection:
        _check_levels(plan, load_shelf(connection))
        return Created(id=studies.create_study(connection, plan, cells))


@router.get("/{study_id}")
def get_study(study_id: RowId, store: Store) -> StudyView:
    with store.connection() as connection:
        return _view(connection, study_id)


@router.put("/{study_id}")
def save_study(study_id: RowId, change: SavePlan, store: Store) -> StudyView:
    cells = cross(change.plan)
    with store.transaction() as connection:
        _check_levels(change.plan, load_shelf(connection))
        studies.save_study(connection, study_id, change.revision, change.plan, cells)
        return _view(connection, study_id)


@router.delete("/{study_id}", status_code=204)
def delete_study(study_id: RowId, store: Store) -> None:
    with store.transaction() as connection:
        studies.set_deleted(connection, study_id, True)


@router.post("/{study_id}/restore", status_code=204)
def restore_study(study_id: RowId, store: Store) -> None:
    with store.transaction() as connection:
        studies.set_deleted(connection, study_id, False)


def _summary(connection: sqlite3.Connection, study: studies.StoredStudy) -> StudySummary:
    return StudySummary(
        id=study.id,
        name=study.plan.name,
        question=study.plan.question,
        swatch_count=sum(cell.included for cell in cross(study.plan)),
        read_count=len(as_dyed(list_readings(connection, study.id))),
    )


def _view(connection: sqlite3.Connection, study_id: int) -> StudyView:
    study = worked_study(connection, study_id)
    plan = study.stored.plan
    return StudyView(
        id=study_id,
        revision=study.stored.revision,
        plan=plan,
        cells=tuple(study.cells),
        codes=studies.swatch_codes(connection, study_id),
        vessels=tuple(study.vessels),
        advice=tuple(advice_on(plan, study.cells, study.shelf)),
        missing_controls=tuple(missing_controls(plan)),
    )


def _check_levels(plan: StudyPlan, shelf: Shelf) -> None:
    on_shelf = {
        "fibre": {item.key for item in shelf.fibres},
        "mordant": {item.key for item in shelf.mordant_routes},
        "dye": {item.key for item in shelf.dye_lots},
    }
    faults = tuple(
        Fault(field=f"factors.{factor.kind}", given=level.key, allowed="an item on the Shelf",
              cure="Add it to the Shelf first, or choose another.")
        for factor in plan.factors
        for level in factor.levels
        if factor.kind in on_shelf and level.key not in on_shelf[factor.kind]
    )  # fmt: skip
    if faults:
        raise Refusal(
            "not-on-shelf", f"“{faults[0].given}” is not on the Shelf.", faults[0].cure, faults
        )
