"""The day plan of a study: made in the background, moved by hand, exported as a calendar."""

import sqlite3
from datetime import datetime, timedelta

from fastapi import APIRouter, Request
from fastapi.responses import Response

from zesty_grid.api.answers import DayPlanView, MadePlan, MoveWork, NewDayPlan, PinWork
from zesty_grid.api.planning_jobs import PlanningJobs
from zesty_grid.api.shared import RowId, Store
from zesty_grid.core.dye.protocol import Protocol
from zesty_grid.core.dye.scheduling.day_plan import DayPlan
from zesty_grid.core.dye.scheduling.from_bench import problem_of
from zesty_grid.core.dye.scheduling.planning import Work, move_by_hand
from zesty_grid.core.dye.scheduling.so_far import so_far_of
from zesty_grid.core.refusal import Refusal
from zesty_grid.formats.calendar import day_plan_ics
from zesty_grid.store.day_plan import load_day_plan, save_day_plan
from zesty_grid.store.dye import load_protocol, save_protocol, standing_entries
from zesty_grid.store.keeping import name_planned
from zesty_grid.store.plan import load_study
from zesty_grid.store.standing import StandingStudy, standing_study

FARTHEST = timedelta(days=2 * 365)
router = APIRouter(prefix="/api/studies/{study_id}/dye", tags=["dye"])


def jobs_of(request: Request) -> PlanningJobs:
    found: PlanningJobs = request.app.state.planning
    return found


@router.get("/protocol")
def get_protocol(study_id: RowId, store: Store) -> Protocol:
    with store.connection() as connection:
        return load_protocol(connection, study_id)


@router.put("/protocol")
def put_protocol(study_id: RowId, protocol: Protocol, store: Store) -> Protocol:
    with store.transaction() as connection:
        save_protocol(connection, study_id, protocol)
        name_planned(connection, study_id)
        return protocol


@router.get("/plan")
def get_day_plan(study_id: RowId, store: Store, request: Request) -> DayPlanView:
    # Asked first: a search that ends meanwhile has kept its plan before it says so.
    planning = jobs_of(request).state(study_id)
    with store.connection() as connection:
        study = standing_study(connection, study_id)
        plan = load_day_plan(connection, study_id)
        if plan:
            plan = _as_logged(connection, study_id, plan)
    return DayPlanView(plan=plan, outdated=plan is not None and _is_outdated(study, plan), planning=planning)


@router.post("/plan", status_code=202)
def make_plan(study_id: RowId, wanted: NewDayPlan, store: Store, request: Request) -> MadePlan:
    """Begins to plan from now, or from a later moment; what is done or runs stays."""
    _must_be_near(wanted.start)
    with store.connection() as connection:
        work = _work(connection, study_id, wanted.start)
    if not work.bench:
        raise Refusal("no-baths", "This study has no baths yet.", "Cross a mordant or a dye first.")
    work.problem()

    def keep(plan: DayPlan) -> None:
        with store.transaction() as connection:
            save_day_plan(connection, study_id, plan)

    jobs_of(request).start(study_id, work, wanted.seconds, wanted.with_cures, keep)
    return MadePlan(begun=True)


@router.post("/plan/stop", status_code=204)
def stop_planning(study_id: RowId, request: Request) -> None:
    """Ends the search; the best plan so far is kept."""
    jobs_of(request).stop(study_id)


@router.post("/plan/move")
def move_work(study_id: RowId, move: MoveWork, store: Store) -> MadePlan:
    """Moves one stretch of work, if all else can stay as it is; else says why not."""
    _must_be_near(move.starts_at)
    with store.transaction() as connection:
        old = _needed(connection, study_id)
        faults, moved = move_by_hand(_work(connection, study_id, None), old, move.task, move.starts_at)
        if moved:
            save_day_plan(connection, study_id, moved)
    return MadePlan(begun=moved is not None, faults=tuple(faults))


@router.post("/plan/pin", status_code=204)
def pin_work(study_id: RowId, pin: PinWork, store: Store) -> None:
    """Holds a stretch of work at a time for the next planning, or lets it go."""
    _must_be_near(pin.starts_at)
    with store.transaction() as connection:
        old = _needed(connection, study_id)
        if pin.task not in {one.task for one in old.work}:
            raise Refusal("cannot-move", "This step is not in the day plan.", "Plan anew first.")
        work = tuple(
            one.model_copy(update={"pinned": pin.starts_at is not None, "starts_at": pin.starts_at or one.starts_at})
            if one.task == pin.task
            else one
            for one in old.work
        )
        save_day_plan(connection, study_id, old.model_copy(update={"work": work}))


@router.get("/plan.ics")
def export_calendar(study_id: RowId, store: Store) -> Response:
    with store.connection() as connection:
        plan = _needed(connection, study_id)
        name = load_study(connection, study_id).plan.name
    headers = {"Content-Disposition": 'attachment; filename="day-plan.ics"'}
    return Response(day_plan_ics(plan, name, study_id), media_type="text/calendar", headers=headers)


def own_time(moment: datetime) -> datetime:
    """The bench's own time: the zone of the machine that keeps the data."""
    return moment.astimezone().replace(tzinfo=None)


def _must_be_near(moment: datetime | None) -> None:
    """A slip of the pen in the year would have the planner look through centuries."""
    if moment and abs(moment - own_time(datetime.now().astimezone())) > FARTHEST:
        raise Refusal(
            "too-far-off", f"{moment:%-d %b %Y} is too far off to plan.", "Choose a day within a year or two."
        )


def _needed(connection: sqlite3.Connection, study_id: int) -> DayPlan:
    plan = load_day_plan(connection, study_id)
    if plan is None:
        raise Refusal("no-day-plan", "There is no day plan yet.", "Make one in the Dye lens.")
    return plan


def _work(connection: sqlite3.Connection, study_id: int, start: datetime | None) -> Work:
    study = standing_study(connection, study_id)
    old = load_day_plan(connection, study_id)
    now = own_time(datetime.now().astimezone())
    begins = max(now, start) if start else now
    bare = problem_of(study.bench, study.shelf, study.protocol, begins)
    so_far = so_far_of(
        bare.stretches,
        standing_entries(connection, study_id),
        own_time,
        {stay.vessel: stay.kind for stay in old.stays} if old else {},
        {one.task: one.starts_at for one in old.work if one.pinned} if old else {},
    )
    return Work(bench=tuple(study.bench), shelf=study.shelf, protocol=study.protocol, start=begins, so_far=so_far)


def _is_outdated(study: StandingStudy, plan: DayPlan) -> bool:
    there = {(one.name, step.key) for one in study.bench for step in one.steps}
    planned = {(one.vessel, step) for one in plan.work for step in one.steps}
    missing = {vessel for vessel, _ in there} - {one.vessel for one in plan.work}
    return bool(missing) or not planned <= there


def _as_logged(connection: sqlite3.Connection, study_id: int, plan: DayPlan) -> DayPlan:
    """The plan with what the log says of each stretch since it was made."""
    log = standing_entries(connection, study_id)
    so_far = so_far_of(plan.stretches(), log, own_time, {}, {})
    work = tuple(
        one.model_copy(
            update={"state": "done" if one.task in so_far.done else "runs" if one.task in so_far.begun else "planned"}
        )
        for one in plan.work
    )
    return plan.model_copy(update={"work": work})
