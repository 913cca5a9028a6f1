"""What a study can tell, by what really happened as far as it has; and what Tell promised when its first bath began."""

import sqlite3

from zesty_grid.core.plan.bath import BathKind
from zesty_grid.core.plan.telling import promises, what_it_can_tell
from zesty_grid.core.plan.told import Promise, Telling
from zesty_grid.core.plan.vessels import vessels_of
from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.core.record.marks import do_not_count
from zesty_grid.store.noise import noise_besides
from zesty_grid.store.projecting import marks_for
from zesty_grid.store.runs import StoredRun, held_by_run, keep_run
from zesty_grid.store.standing import StandingStudy


def study_tells(connection: sqlite3.Connection, standing: StandingStudy) -> Telling:
    """Against the noise that all other studies taught: its own readings change nothing of what it promises."""
    held = held_by_run(connection, standing.stored.id)
    baths: list[tuple[BathKind, tuple[str, ...]]] = [
        (run.vessel.vessel.bath, held.get(run.id, ())) for run in standing.runs
    ]
    baths += [(vessel.bath, vessel.swatches) for vessel in vessels_of(standing.planned)]
    counted = [bath for bath in baths if bath[0] not in ("scour", "extract")]
    lost = do_not_count(marks_for(connection, standing.stored.id))
    told = what_it_can_tell(standing.planned, counted, noise_besides(connection, standing), lost)
    return told.model_copy(update={"promised": promised_in(standing)})


def promised_in(standing: StandingStudy) -> tuple[Promise, ...] | None:
    return next((run.vessel.promised for run in standing.runs if run.vessel.promised is not None), None)


def begin_bath(connection: sqlite3.Connection, standing: StandingStudy, vessel: BenchVessel) -> StoredRun:
    """Keeps a bath as it stands; with the first one, what Tell says now."""
    study = standing.stored.id
    if not connection.execute("SELECT 1 FROM run WHERE study_id = ? AND void = 0 LIMIT 1", (study,)).fetchone():
        vessel = vessel.model_copy(update={"promised": promises(study_tells(connection, standing))})
    return keep_run(connection, study, standing.stored.revision, vessel)
