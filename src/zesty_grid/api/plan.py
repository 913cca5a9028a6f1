"""Studies and their plans."""

import sqlite3
from datetime import datetime
from typing import Annotated

from fastapi import APIRouter, Query
from fastapi.responses import Response

from zesty_grid.api.answers import (
    Created,
    Guest,
    QuestionAnswers,
    Revision,
    SavePlan,
    StudySummary,
    StudyView,
    VersionLine,
)
from zesty_grid.api.shared import RowId, Store, as_json
from zesty_grid.core.dye.swatch_record import Relative
from zesty_grid.core.plan.choices import OtherChoice, other_choices
from zesty_grid.core.plan.copying import next_study
from zesty_grid.core.plan.effects import PlanEffect
from zesty_grid.core.plan.on_shelf import check_levels
from zesty_grid.core.plan.planned_study import PlannedStudy
from zesty_grid.core.plan.questions import Question, plan_from_question, ready_questions
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.thinning import Budget, Thinned, thin_out
from zesty_grid.core.plan.told import Telling
from zesty_grid.core.plan.working_out import WorkedPlan, work_out
from zesty_grid.core.words.telling import with_words
from zesty_grid.store import plan as studies
from zesty_grid.store.due import study_lines
from zesty_grid.store.keeping import create_study as keep_new_study
from zesty_grid.store.keeping import name_planned, save_plan, try_plan
from zesty_grid.store.noise import noise_besides
from zesty_grid.store.relatives import studies_after, studies_before
from zesty_grid.store.shelf import load_shelf
from zesty_grid.store.standing import StandingStudy, standing_study
from zesty_grid.store.swatches import home_of
from zesty_grid.store.telling import study_tells

router = APIRouter(prefix="/api/studies", tags=["plan"])
questions_router = APIRouter(prefix="/api/questions", tags=["plan"])


@router.get("")
def list_studies(
    store: Store,
    text: Annotated[str, Query(max_length=200)] = "",
    after: Annotated[int, Query(ge=0, le=2**53)] = 0,
    most: Annotated[int | None, Query(ge=1, le=1000)] = None,
) -> list[StudySummary]:
    """Those with `text` in their name or question; by pages where `most` is said, of which the next
    begins `after` the last number of the one before."""
    with store.connection() as connection:
        return [
            StudySummary(
                id=line.id, name=line.name, question=line.question, swatch_count=line.swatches, read_count=line.read
            )
            for line in study_lines(connection, text.strip(), after, most or -1)
        ]


@router.post("", status_code=201)
def create_study(plan: StudyPlan, store: Store) -> Created:
    with store.transaction() as connection:
        check_levels(plan, load_shelf(connection))
        return Created(id=keep_new_study(connection, plan))


@router.get("/{study_id}", response_model=StudyView)
def get_study(study_id: RowId, store: Store) -> Response:
    with store.connection() as connection:
        return as_json(StudyView, view_of(connection, standing_study(connection, study_id)))


@router.get("/{study_id}/revision")
def get_revision(study_id: RowId, store: Store) -> Revision:
    """So that a tab that only looks can tell that another one has saved."""
    with store.connection() as connection:
        return Revision(revision=studies.load_study(connection, study_id).revision)


@router.put("/{study_id}", response_model=StudyView)
def save_study(study_id: RowId, change: SavePlan, store: Store) -> Response:
    """Saves a plan; what has begun stays as it is."""
    with store.transaction() as connection:
        check_levels(change.plan, load_shelf(connection))
        standing = save_plan(connection, study_id, change.revision, change.plan)
        return as_json(StudyView, view_of(connection, standing))


@router.post("/{study_id}/effect")
def try_change(study_id: RowId, plan: StudyPlan, store: Store) -> PlanEffect:
    """What saving a plan would do to what was begun and what is planned; nothing is changed."""
    with store.connection() as connection:
        check_levels(plan, load_shelf(connection))
        return try_plan(connection, study_id, plan)


@router.get("/{study_id}/versions")
def list_versions(study_id: RowId, store: Store) -> list[VersionLine]:
    """Every saved version of the plan, the newest first."""
    with store.connection() as connection:
        return [
            VersionLine(revision=one.revision, words=one.words, saved_at=datetime.fromisoformat(one.saved_at))
            for one in studies.list_versions(connection, study_id)
        ]


@router.get("/{study_id}/versions/{revision}")
def get_version(study_id: RowId, revision: RowId, store: Store) -> StudyPlan:
    with store.connection() as connection:
        return studies.load_version(connection, study_id, revision)


@router.post("/{study_id}/recipes", response_model=StudyView)
def take_recipes_of_today(study_id: RowId, store: Store) -> Response:
    """What has not begun follows the Shelf as it is now; what has begun keeps its recipe."""
    with store.transaction() as connection:
        stored = studies.load_study(connection, study_id)
        if stored.kept_shelf is not None:
            studies.take_recipes_of_today(connection, study_id, load_shelf(connection))
            standing = name_planned(connection, study_id)
        else:
            standing = standing_study(connection, study_id)
        return as_json(StudyView, view_of(connection, standing))


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
        standing = standing_study(connection, study_id)
        following = next_study(standing.plan, (one.vessel for one in standing.bench))
        return Created(id=keep_new_study(connection, following, f"copied from “{standing.plan.name}”"))


@router.get("/{study_id}/choices")
def weigh_choices(study_id: RowId, store: Store) -> list[OtherChoice]:
    with store.connection() as connection:
        standing = standing_study(connection, study_id)
    return other_choices(standing.planned, standing.ahead)


@router.get("/{study_id}/telling")
def tell(study_id: RowId, store: Store) -> Telling:
    with store.connection() as connection:
        return with_words(study_tells(connection, standing_study(connection, study_id)))


@router.post("/{study_id}/budget")
def fit_budget(study_id: RowId, budget: Budget, store: Store) -> Thinned:
    """Which cells to leave out; nothing is changed until the plan is saved with them."""
    with store.connection() as connection:
        standing = standing_study(connection, study_id)
        planned, noise = standing.planned, noise_besides(connection, standing)
    return thin_out(planned.plan, planned.cells, planned.shelf, budget, noise)


@questions_router.get("")
def list_questions(store: Store) -> list[Question]:
    with store.connection() as connection:
        return ready_questions(load_shelf(connection))


@questions_router.post("/{key}")
def answer_question(key: str, chosen: QuestionAnswers, store: Store) -> StudyPlan:
    """The plan that the choices make; it is not saved yet."""
    with store.connection() as connection:
        return plan_from_question(key, chosen.answers, load_shelf(connection))


def view_of(connection: sqlite3.Connection, standing: StandingStudy) -> StudyView:
    ahead = standing.ahead
    worked = work_out(standing.planned, ahead)
    own = [one.vessel for one in standing.begun if one.vessel.bath not in ("scour", "extract")]
    names = studies.study_names(connection)
    facts = {field: getattr(worked, field) for field in WorkedPlan.model_fields}
    return StudyView(
        **facts | {"vessels": (*own, *ahead)},
        id=standing.stored.id,
        revision=standing.stored.revision,
        plan=standing.plan,
        begun=tuple(one.name for one in standing.begun),
        recipes_kept=standing.stored.kept_shelf is not None,
        entered_from=studies.entered_from(connection, standing.stored.id),
        guests=tuple(_guests(connection, standing, names)),
        comes_from=tuple(
            Relative(study=one, study_name=names[one]) for one in studies_before(connection, standing.stored.id)
        ),
        goes_into=tuple(
            Relative(study=one, study_name=names[one]) for one in studies_after(connection, standing.stored.id)
        ),
    )


def _guests(connection: sqlite3.Connection, standing: StandingStudy, names: dict[int, str]) -> list[Guest]:
    """Swatches of other studies in this one's treatments, in the words of their own study."""
    own = {swatch.code for swatch in standing.planned.swatches}
    homes: dict[int, PlannedStudy] = {}
    found = []
    for code, swatch in standing.planned.guests.items():
        if code in own:
            continue
        home = home_of(connection, code)
        if home not in homes:
            homes[home] = standing_study(connection, home).planned
        words = homes[home].words(homes[home].by_code[code])
        found.append(Guest(swatch=swatch, study=home, study_name=names[home], words=words))
    return found
