"""Studies and their plans."""

import sqlite3

from fastapi import APIRouter
from fastapi.responses import Response

from zesty_grid.api.answers import (
    Created,
    QuestionAnswers,
    Revision,
    SavePlan,
    StudySummary,
    StudyView,
)
from zesty_grid.api.shared import RowId, Store, WorkedStudy, shelf_of, worked_plan, worked_study
from zesty_grid.core.plan.cells import Cell
from zesty_grid.core.plan.choices import OtherChoice, other_choices
from zesty_grid.core.plan.controls import all_cells
from zesty_grid.core.plan.noise import NoiseEstimate, estimate_noise
from zesty_grid.core.plan.questions import Question, plan_from_question, ready_questions
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.swatches import swatches_of
from zesty_grid.core.plan.telling import Telling, what_it_can_tell
from zesty_grid.core.plan.thinning import Budget, Thinned, thin_out
from zesty_grid.core.plan.working_out import WorkedPlan, what_follows
from zesty_grid.core.read.readings import as_dyed
from zesty_grid.core.refusal import Fault, Refusal
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.store import plan as studies
from zesty_grid.store.noise import colours_that_should_be_alike
from zesty_grid.store.read import list_readings
from zesty_grid.store.shelf import load_shelf

router = APIRouter(prefix="/api/studies", tags=["plan"])
questions_router = APIRouter(prefix="/api/questions", tags=["plan"])


@router.get("")
def list_studies(store: Store) -> list[StudySummary]:
    with store.connection() as connection:
        shelf = load_shelf(connection)
        return [_summary(connection, one, shelf) for one in studies.list_studies(connection)]


@router.post("", status_code=201)
def create_study(plan: StudyPlan, store: Store) -> Created:
    with store.transaction() as connection:
        cells = _checked_cells(plan, load_shelf(connection))
        return Created(id=studies.create_study(connection, plan, cells))


@router.get("/{study_id}", response_model=StudyView)
def get_study(study_id: RowId, store: Store) -> Response:
    with store.connection() as connection:
        return _as_json(_view(connection, worked_study(connection, study_id)))


@router.get("/{study_id}/revision")
def get_revision(study_id: RowId, store: Store) -> Revision:
    """So that a tab that only looks can tell that another one has saved."""
    with store.connection() as connection:
        return Revision(revision=studies.load_study(connection, study_id).revision)


@router.put("/{study_id}", response_model=StudyView)
def save_study(study_id: RowId, change: SavePlan, store: Store) -> Response:
    with store.transaction() as connection:
        shelf = shelf_of(connection, studies.load_study(connection, study_id))
        cells = _checked_cells(change.plan, shelf)
        saved = studies.save_study(connection, study_id, change.revision, change.plan, cells)
        return _as_json(_view(connection, worked_plan(saved, shelf, cells)))


@router.delete("/{study_id}", status_code=204)
def delete_study(study_id: RowId, store: Store) -> None:
    with store.transaction() as connection:
        studies.set_deleted(connection, study_id, True)


@router.post("/{study_id}/restore", status_code=204)
def restore_study(study_id: RowId, store: Store) -> None:
    with store.transaction() as connection:
        studies.set_deleted(connection, study_id, False)


@router.post("/{study_id}/copy", status_code=201)
def copy_study(study_id: RowId, store: Store) -> Created:
    """The plan of a study as the start of the next; its swatches get codes of their own."""
    with store.transaction() as connection:
        worked = worked_study(connection, study_id)
        name = f"{worked.stored.plan.name[:105]}, next"
        plan = worked.stored.plan.model_copy(update={"name": name})
        return Created(id=studies.create_study(connection, plan, worked.cells))


@router.get("/{study_id}/choices")
def weigh_choices(study_id: RowId, store: Store) -> list[OtherChoice]:
    with store.connection() as connection:
        worked = worked_study(connection, study_id)
    return other_choices(worked.stored.plan, worked.cells, worked.vessels, worked.shelf)


@router.get("/{study_id}/telling")
def tell(study_id: RowId, store: Store) -> Telling:
    with store.connection() as connection:
        worked = worked_study(connection, study_id)
        noise = _noise(connection)
    return what_it_can_tell(worked.stored.plan, worked.cells, worked.vessels, noise)


@router.post("/{study_id}/budget")
def fit_budget(study_id: RowId, budget: Budget, store: Store) -> Thinned:
    """Which cells to leave out; nothing is changed until the plan is saved with them."""
    with store.connection() as connection:
        worked = worked_study(connection, study_id)
        noise = _noise(connection)
    return thin_out(worked.stored.plan, worked.cells, worked.shelf, budget, noise)


@questions_router.get("")
def list_questions(store: Store) -> list[Question]:
    with store.connection() as connection:
        return ready_questions(load_shelf(connection))


@questions_router.post("/{key}")
def answer_question(key: str, chosen: QuestionAnswers, store: Store) -> StudyPlan:
    """The plan that the choices make; it is not saved yet."""
    with store.connection() as connection:
        return plan_from_question(key, chosen.answers, load_shelf(connection))


def _as_json(view: StudyView) -> Response:
    """Written once by Pydantic: a large plan is not walked through a second time."""
    return Response(view.model_dump_json(), media_type="application/json")


def _noise(connection: sqlite3.Connection) -> NoiseEstimate:
    return estimate_noise(*colours_that_should_be_alike(connection))


def _summary(
    connection: sqlite3.Connection, study: studies.StoredStudy, shelf: Shelf
) -> StudySummary:
    cells = all_cells(study.plan, shelf)
    return StudySummary(
        id=study.id,
        name=study.plan.name,
        question=study.plan.question,
        swatch_count=len(swatches_of(cells, study.plan.replicates)),
        read_count=len(as_dyed(list_readings(connection, study.id))),
    )


def _view(connection: sqlite3.Connection, worked: WorkedStudy) -> StudyView:
    plan = worked.stored.plan
    follows = what_follows(plan, worked.cells, worked.vessels, worked.shelf)
    return StudyView(
        **{field: getattr(follows, field) for field in WorkedPlan.model_fields},
        id=worked.stored.id,
        revision=worked.stored.revision,
        plan=plan,
        codes=studies.swatch_codes(connection, worked.stored.id),
        recipes_kept=worked.stored.kept_shelf is not None,
    )


def _checked_cells(plan: StudyPlan, shelf: Shelf) -> list[Cell]:
    cells = all_cells(plan, shelf)
    _check_levels(plan, shelf)
    return cells


def _check_levels(plan: StudyPlan, shelf: Shelf) -> None:
    lots = {item.key for item in shelf.dye_lots}
    on_shelf = {
        "fibre": {item.key for item in shelf.fibres},
        "mordant": {item.key for item in shelf.mordant_routes},
        "dye": lots,
        "second_dye": lots | {"none"},
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
