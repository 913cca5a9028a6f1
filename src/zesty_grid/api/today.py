"""What is due and what runs over all studies: questions to the tables."""

from datetime import UTC, datetime

from fastapi import APIRouter
from fastapi.responses import Response

from zesty_grid.api.answers import BenchNow, Timer
from zesty_grid.api.shared import Store, as_json
from zesty_grid.core.record.due import Task, tasks_of
from zesty_grid.store.due import newest_of_record, running_steps, study_counts

router = APIRouter(prefix="/api/today", tags=["today"])


@router.get("", response_model=list[Task])
def today(store: Store) -> Response:
    with store.connection() as connection:
        return as_json(list[Task], tasks_of(study_counts(connection, datetime.now(UTC))))


@router.get("/bench")
def bench_now(store: Store) -> BenchNow:
    """All that runs, so that every screen and device can show it."""
    with store.connection() as connection:
        running = running_steps(connection)
        newest = newest_of_record(connection)
    timers = (Timer.model_validate(step._asdict()) for step in running)
    return BenchNow(timers=tuple(timers), newest=newest, now=datetime.now(UTC))
