"""What the repeats of other studies teach of noise."""

import numpy as np
import pytest
from tests.seeded_readings import add_readings, new_study
from tests.small_study import small_plan

from zesty_grid.core.noise.levels import USUAL, starting_at
from zesty_grid.core.read.readings import ReadingChoice
from zesty_grid.store.noise import noise_besides
from zesty_grid.store.read import choose_reading, list_readings
from zesty_grid.store.standing import standing_study
from zesty_grid.store.telling import study_tells


def repeated(database, apart: float, pots: str = "apart", **reading) -> int:
    """A study of which every cell has two swatches, so far from each other in lightness."""
    study, codes = new_study(database, small_plan(replicates=2, replicate_vessels=pots, controls=[]))
    cells = sorted(cell for cell in codes if "#" not in cell)
    laid = [
        (codes[cell + again], "whole", (50.0 + 3 * k + away, 5.0, 10.0))
        for k, cell in enumerate(cells)
        for again, away in (("", 0.0), ("#2", apart))
    ]
    for start in range(0, len(laid), 12):
        add_readings(database, study, laid[start : start + 12], **reading)
    return study


def taught(database, study: int):
    with database.connection() as connection:
        return noise_besides(connection, standing_study(connection, study))


def test_without_repeats_usual_values_stand(database):
    study, codes = new_study(database, small_plan())
    add_readings(database, study, [(code, "whole", (50.0, 0.0, 0.0)) for code in list(codes.values())[:5]])
    other, _ = new_study(database, small_plan())
    assert taught(database, other) == starting_at(USUAL)


@pytest.mark.parametrize(("pots", "grows"), [("shared", "swatch"), ("apart", "vessel")])
def test_repeats_of_other_studies_teach_by_how_their_pots_were_shared(database, pots, grows):
    repeated(database, 12.0, pots)
    other, _ = new_study(database, small_plan())
    found = taught(database, other)
    assert getattr(found, grows).sd_de00 > 1.3 * getattr(starting_at(USUAL), grows).sd_de00
    assert getattr(found, grows).repeats > 1


def test_its_own_readings_change_nothing_of_what_a_study_promises(database):
    study = repeated(database, 6.0)
    assert taught(database, study) == starting_at(USUAL)
    with database.connection() as connection:
        told = study_tells(connection, standing_study(connection, study))
    assert told.noise == starting_at(USUAL)


def test_alike_repeats_make_it_smaller_and_another_study_more_so(database):
    repeated(database, 0.1)
    other, _ = new_study(database, small_plan())
    once = taught(database, other)
    assert once.vessel.sd_de00 < USUAL.vessel_de00
    repeated(database, 0.1)
    twice = taught(database, other)
    assert twice.vessel.sd_de00 < once.vessel.sd_de00
    assert twice.vessel.repeats > once.vessel.repeats


def test_damp_readings_teach_nothing_until_they_count(database):
    study = repeated(database, 6.0, damp=True)
    other, _ = new_study(database, small_plan())
    assert taught(database, other) == starting_at(USUAL)
    with database.transaction() as connection:
        for reading in list_readings(connection, study):
            choose_reading(connection, reading.id, ReadingChoice(counts=True))
    assert taught(database, other).vessel.repeats > 0


def test_the_researchers_own_start_is_where_learning_begins(database):
    repeated(database, 0.1)
    own = USUAL.model_copy(update={"vessel_de00": 6.0})
    other, _ = new_study(database, small_plan(noise=own.model_dump()))
    found = taught(database, other)
    assert USUAL.vessel_de00 < found.vessel.sd_de00 < 6.0
    assert np.isfinite(found.vessel.repeats)
