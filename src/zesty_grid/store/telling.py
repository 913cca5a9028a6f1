"""What a study can tell, by what really happened as far as it has."""

import sqlite3

from zesty_grid.core.plan.bath import BathKind
from zesty_grid.core.plan.noise import NoiseEstimate
from zesty_grid.core.plan.telling import what_it_can_tell
from zesty_grid.core.plan.told import Telling
from zesty_grid.core.plan.vessels import vessels_of
from zesty_grid.core.record.marks import do_not_count
from zesty_grid.store.projecting import marks_for
from zesty_grid.store.runs import held_by_run
from zesty_grid.store.standing import StandingStudy


def study_tells(connection: sqlite3.Connection, standing: StandingStudy, noise: NoiseEstimate) -> Telling:
    held = held_by_run(connection, standing.stored.id)
    baths: list[tuple[BathKind, tuple[str, ...]]] = [
        (run.vessel.vessel.bath, held.get(run.id, ())) for run in standing.runs
    ]
    baths += [(vessel.bath, vessel.swatches) for vessel in vessels_of(standing.planned)]
    counted = [bath for bath in baths if bath[0] not in ("scour", "extract")]
    lost = do_not_count(marks_for(connection, standing.stored.id))
    return what_it_can_tell(standing.planned, counted, noise, lost)
