"""How much colours differ when the same is done again, as the studies of the file teach it."""

import sqlite3

import numpy as np

from zesty_grid.core.compare.weighed import done_to, reading_error
from zesty_grid.core.noise.crossing import cross
from zesty_grid.core.noise.learning import learnt_from
from zesty_grid.core.noise.levels import USUAL, Noise, NoiseLevels, pooled, starting_at
from zesty_grid.store.compared_swatches import swatches_looked_at
from zesty_grid.store.kept import Kept
from zesty_grid.store.standing import StandingStudy, standing_study

# The newest that have repeats: what was dyed long ago adds little to these, and takes time.
MOST_STUDIES = 12
_lessons: Kept[Noise] = Kept(2 * MOST_STUDIES)


def noise_besides(connection: sqlite3.Connection, standing: StandingStudy) -> Noise:
    """From where the researcher starts, or from usual values, sharpened by the repeats of all other studies."""
    start = standing.plan.noise or USUAL
    rows = connection.execute(
        "SELECT DISTINCT study_id FROM place WHERE replicate > 1 AND study_id <> ? "
        "AND EXISTS (SELECT 1 FROM reading WHERE reading.swatch_id = place.swatch_id) "
        "ORDER BY study_id DESC LIMIT ?",
        (standing.stored.id, MOST_STUDIES),
    )
    return pooled(start, [_lesson(connection, row["study_id"], start) for row in rows.fetchall()])


def _lesson(connection: sqlite3.Connection, study_id: int, start: NoiseLevels) -> Noise:
    return _lessons.of_study(connection, study_id, start, lambda: _learnt(connection, study_id, start))


def _learnt(connection: sqlite3.Connection, study_id: int, start: NoiseLevels) -> Noise:
    looked = swatches_looked_at(connection, standing_study(connection, study_id))
    if len(looked.swatches) < 2:
        return starting_at(start)
    swatches = tuple(looked.swatches)
    crossing = cross([done_to(one) for one in swatches], looked.factors)
    return learnt_from(crossing, np.array([one.lab for one in swatches]), reading_error(swatches), starting_at(start))
