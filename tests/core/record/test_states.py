"""States: which one a reading shows, their mean colours, and when a piece may be read."""

from datetime import timedelta

import numpy as np
import pytest
from tests.bench import START, bench_for

from zesty_grid.core.read.difference_uncertainty import Seen
from zesty_grid.core.record.ready import Rest, is_rested
from zesty_grid.core.record.states import (
    AS_IT_CAME,
    CountedReading,
    EndedBath,
    in_order,
    state_at,
    state_colour,
    state_name,
)


def at(hours: float):
    return START + timedelta(hours=hours)


DYED, IRONED = EndedBath(run=4, out_at=at(1)), EndedBath(run=9, out_at=at(48))


def test_a_reading_shows_the_state_after_the_last_bath_that_had_ended():
    assert state_at([], at(0)) == AS_IT_CAME
    assert state_at([DYED, IRONED], at(0.5)) == AS_IT_CAME
    assert state_at([DYED, IRONED], at(2)) == 4
    assert state_at([IRONED, DYED], at(50)) == 9
    assert in_order([IRONED, DYED]) == [AS_IT_CAME, 4, 9]


def seen(lab, photo=1, capture=1) -> Seen:
    return Seen(lab=lab, photo=photo, capture=capture, camera="Simulated camera")


def test_the_mean_of_all_readings_of_a_state_counts_and_their_scatter_is_shown():
    labs = [(60.0, 10.0, 30.0), (62.0, 10.0, 30.0)]
    found = state_colour(
        4,
        [CountedReading(seen=seen(lab), uncertainty_de00=0.6, taken_on=f"2026-09-1{i}") for i, lab in enumerate(labs)],
    )
    assert found.lab == pytest.approx((61.0, 10.0, 30.0))
    assert (found.readings, found.taken_on) == (2, "2026-09-11")
    # ΔL* of 1 to either side, at S_L of about 1.1 (CIE 142-2001): √2 × 0.9.
    assert found.scatter_de00 == pytest.approx(1.28, abs=0.1)
    alone = state_colour(0, [CountedReading(seen=seen(labs[0]), uncertainty_de00=0.6, taken_on="2026-09-10")])
    assert alone.scatter_de00 is None
    assert alone.uncertainty_de00 == pytest.approx(0.6)


def test_more_readings_of_one_photo_do_not_make_the_camera_better():
    """Only what differs from piece to piece falls with √n: the calibration's error stays."""
    rng = np.random.default_rng(1)

    def of(count: int) -> float:
        readings = [
            CountedReading(
                seen=seen(tuple(rng.normal((60, 10, 30), 0.05))), uncertainty_de00=0.8, taken_on="2026-09-10"
            )
            for _ in range(count)
        ]
        return state_colour(1, readings).uncertainty_de00

    assert of(1) == pytest.approx(0.8)
    assert 0.8 / np.sqrt(16) * 2 < of(16) < 0.8


def test_a_piece_may_be_read_when_it_has_rested():
    assert is_rested(Rest(in_work=False, ready_at=None), START)
    assert not is_rested(Rest(in_work=True, ready_at=None), START)
    resting = Rest(in_work=False, ready_at=at(36))
    assert not is_rested(resting, at(35))
    assert is_rested(resting, at(36))


def test_a_state_is_called_after_its_bath():
    bench = bench_for()
    assert state_name(3, 1, bench["D1"]).label == "as dyed"
    assert state_name(5, 1, bench["F1"]).label == "after iron"
    further = bench["F1"].vessel.model_copy(update={"treatment": "iron-1", "title": "Iron 2 %"})
    named = state_name(6, 1, bench["F1"].model_copy(update={"vessel": further}))
    assert (named.label, named.kind) == ("after Iron 2 %", "treatment:iron-1")


def test_baths_that_were_logged_with_one_time_follow_the_order_of_the_work():
    dyed = EndedBath(run=3, out_at=at(5), place=60)
    scoured = EndedBath(run=8, out_at=at(5), place=0)
    assert in_order([dyed, scoured]) == [AS_IT_CAME, 8, 3]
    assert state_at([dyed, scoured], at(6)) == 3
