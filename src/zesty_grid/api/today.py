"""What is due over all studies."""

import sqlite3
from datetime import UTC, datetime

from fastapi import APIRouter

from zesty_grid.api.answers import BenchNow, Task
from zesty_grid.api.benches import StudyBench, study_bench
from zesty_grid.api.shared import Store
from zesty_grid.core.dye.bench import BenchVessel
from zesty_grid.core.dye.log import ready_at, ticked_at, timers_of
from zesty_grid.core.plan.swatches import swatches_of
from zesty_grid.core.read.readings import as_dyed
from zesty_grid.store.dye import newest_entry
from zesty_grid.store.fade import list_trials
from zesty_grid.store.plan import StoredStudy, list_studies, swatch_codes
from zesty_grid.store.read import list_photos, list_readings

router = APIRouter(prefix="/api/today", tags=["today"])


@router.get("")
def today(store: Store) -> list[Task]:
    with store.connection() as connection:
        return [task for study in list_studies(connection) for task in _tasks(connection, study)]


@router.get("/bench")
def bench_now(store: Store) -> BenchNow:
    """All that runs, so that every screen and device can show it."""
    with store.connection() as connection:
        benches = [(s.id, study_bench(connection, s.id)) for s in list_studies(connection)]
        timers = [t for number, one in benches for t in timers_of(number, one.bench, one.log)]
        newest = newest_entry(connection)
    in_order = sorted(timers, key=lambda timer: timer.due_at or timer.begun_at)
    return BenchNow(timers=tuple(in_order), newest=newest, now=datetime.now(UTC))


def _unfinished(at_bench: StudyBench) -> list[str]:
    return [
        one.vessel.key
        for one in at_bench.bench
        if not ticked_at(at_bench.log, one.vessel.key, one.steps[-1].key)
    ]


def _rested(at_bench: StudyBench) -> set[str]:
    """Codes of the swatches whose last bath is behind them, and that have dried and rested."""
    last_of: dict[str, BenchVessel] = {}
    for one in at_bench.bench:
        last_of |= dict.fromkeys(one.vessel.swatches, one)
    now = datetime.now(UTC)
    moments = {
        one.vessel.key: ready_at(one, at_bench.log, at_bench.protocol) for one in last_of.values()
    }
    return {
        at_bench.codes[swatch]
        for swatch, one in last_of.items()
        if (moment := moments[one.vessel.key]) and moment <= now
    }


def _tasks(connection: sqlite3.Connection, study: StoredStudy) -> list[Task]:
    at_bench = study_bench(connection, study.id)
    worked = at_bench.study
    swatches = swatches_of(worked.cells, worked.stored.plan.replicates)
    codes = swatch_codes(connection, study.id)
    readings = list_readings(connection, study.id)
    read = as_dyed(readings)
    undyed = _unfinished(at_bench)
    ready = _rested(at_bench) - set(read)
    waiting = [photo for photo in list_photos(connection, study.id) if not photo.accepted]
    found = [
        ("dye", "vessel is not finished", "vessels are not finished", len(undyed)),
        ("read", "swatch is dry and rested: ready to read",
         "swatches are dry and rested: ready to read", len(ready)),
        ("read", "swatch has no reading yet", "swatches have no reading yet",
         sum(codes.get(s.key) not in read for s in swatches) - len(ready)),
        ("read", "photo waits to be accepted", "photos wait to be accepted", len(waiting)),
    ]  # fmt: skip
    for trial_id, trial in list_trials(connection, study.id).items():
        stages = {r.stage for r in readings if r.trial == trial_id}
        due = [stage for i, stage in enumerate(trial.stages) if i not in stages]
        if due:
            words = f"left in “{trial.name}”; next: {due[0].label}"
            found.append(("fade", f"stage {words}", f"stages {words}", len(due)))
    return [
        Task(study=study.id, study_name=study.plan.name, lens=lens, count=count,
             words=one if count == 1 else many)
        for lens, one, many, count in found
        if count
    ]  # fmt: skip
