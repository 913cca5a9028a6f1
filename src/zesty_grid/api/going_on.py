"""Going on from swatches that are there: further treatments, and studies on their cloth."""

import sqlite3

from fastapi import APIRouter
from fastapi.responses import Response

from zesty_grid.api.answers import Created, GoingOnTried, GoOn, NewStudyFrom, StudyView
from zesty_grid.api.plan import view_of
from zesty_grid.api.shared import RowId, Store, as_json
from zesty_grid.core.plan.going_on import Dealt, GoingOn, deal_out, study_from, with_treatments
from zesty_grid.core.plan.on_shelf import check_levels
from zesty_grid.store.keeping import create_study, must_be_known, save_plan, try_plan
from zesty_grid.store.plan import load_study, study_names
from zesty_grid.store.runs import past_treatments
from zesty_grid.store.shelf import load_shelf
from zesty_grid.store.standing import standing_study
from zesty_grid.store.swatches import home_of, load_by_code

router = APIRouter(prefix="/api/studies", tags=["plan"])


@router.post("/{study_id}/go-on/effect")
def try_going_on(study_id: RowId, wanted: GoingOn, store: Store) -> GoingOnTried:
    """Who would get which treatment, and what that does; nothing is saved."""
    with store.connection() as connection:
        dealt = _dealt(connection, study_id, wanted)
        plan = with_treatments(load_study(connection, study_id).plan, dealt.treatments)
        check_levels(plan, load_shelf(connection))
        return GoingOnTried(dealt=dealt, effect=try_plan(connection, study_id, plan))


@router.post("/{study_id}/go-on", response_model=StudyView)
def go_on(study_id: RowId, asked: GoOn, store: Store) -> Response:
    """Plans the treatments: as a new version of the plan, like any other change."""
    with store.transaction() as connection:
        dealt = _dealt(connection, study_id, asked.wanted)
        plan = with_treatments(load_study(connection, study_id).plan, dealt.treatments)
        check_levels(plan, load_shelf(connection))
        standing = save_plan(connection, study_id, asked.revision, plan)
        return as_json(StudyView, view_of(connection, standing))


@router.post("/from-swatches", status_code=201)
def start_from_swatches(asked: NewStudyFrom, store: Store) -> Created:
    """A study whose fibres are the cloth of earlier swatches, taken whole or cut."""
    with store.transaction() as connection:
        words, swatches = {}, []
        names = study_names(connection)
        found = load_by_code(connection, asked.swatches)
        must_be_known(asked.swatches, found)
        for code, swatch in found.items():
            home = home_of(connection, code)
            planned = standing_study(connection, home).planned
            words[code] = f"{planned.words(swatch)} ({names[home][:30]})"
            swatches.append(swatch)
        in_order = sorted(swatches, key=lambda one: asked.swatches.index(one.code))
        plan = study_from(asked.name, in_order, words, asked.cut, asked.mass_g)
        return Created(id=create_study(connection, plan, "begun from earlier swatches"))


def _dealt(connection: sqlite3.Connection, study_id: int, wanted: GoingOn) -> Dealt:
    planned = standing_study(connection, study_id).planned
    others = load_by_code(connection, set(wanted.swatches) - set(planned.by_code))
    alike = {code: planned.cell(planned.by_code[code]) for code in wanted.swatches if code in planned.by_code}
    alike |= {code: str(sorted(swatch.levels.items())) for code, swatch in others.items()}
    taken = {one.key for one in planned.plan.treatments} | past_treatments(connection, study_id)
    return deal_out(wanted, alike, taken)
