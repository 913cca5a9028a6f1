"""The uncertainty of a difference, on pairs of simulated readings whose truth is known: the same
cloth is seldom called different, and a true difference of 2 in one photo is seldom missed."""

import numpy as np
import pytest
from tests.depth import depth
from tests.pairs_of_cloth import false_for_means, rates, simulate

from zesty_grid.core.read.difference_uncertainty import (
    Seen,
    difference_uncertainty,
    mean_lab,
    mean_uncertainty,
    same_response,
)

pytestmark = pytest.mark.slow

MOST_FALSE, MOST_MISSED = 0.06, 0.10
PALE, STRONG = (88.0, 1.0, 12.0), (45.0, 40.0, 30.0)


@pytest.fixture(scope="module")
def reads():
    # Other sets than those that the constants were fitted on (`bench/differences.py`).
    return simulate(range(900, depth(904, 908)), width_px=1200)


def test_within_a_photo(reads):
    found = rates(reads, lambda a, b: a.seen.photo == b.seen.photo)
    assert found.same >= depth(60, 100)
    assert found.near >= depth(120, 200)
    assert found.false <= MOST_FALSE
    assert found.missed <= MOST_MISSED
    assert found.held >= 0.93


def test_between_photos_of_one_camera_and_light(reads):
    found = rates(
        reads, lambda a, b: a.seen.photo != b.seen.photo and (a.seen.camera, a.light) == (b.seen.camera, b.light)
    )
    assert found.false <= MOST_FALSE
    assert found.held >= 0.93


def test_between_lights(reads):
    found = rates(reads, lambda a, b: a.seen.camera == b.seen.camera and a.light != b.light)
    assert found.false <= MOST_FALSE
    assert found.held >= 0.93


def test_between_cameras(reads):
    found = rates(reads, lambda a, b: a.seen.camera != b.seen.camera)
    assert found.false <= MOST_FALSE
    assert found.held >= 0.93


def test_means_of_repeats_in_another_camera_are_not_called_different_for_their_number(reads):
    found, pairs = false_for_means(reads, ("A", "B"))
    assert pairs >= 100
    assert found <= MOST_FALSE


def seen(lab, photo=1, capture=1, camera="A") -> Seen:
    return Seen(lab=lab, photo=photo, capture=capture, camera=camera, evenness_de00=0.2)


def limit(one: Seen, other: Seen) -> float:
    return difference_uncertainty([[one]], [[other]]).limit_de00


def test_the_less_is_shared_the_larger_the_limit():
    base = seen(PALE)
    sorts = [seen(PALE), seen(PALE, 2), seen(PALE, 2, 2), seen(PALE, 2, 2, "B")]
    limits = [limit(base, other) for other in sorts]
    assert limits == sorted(limits)
    assert limits[0] < 1.2
    assert limits[3] > 2.5


def test_only_what_is_a_pieces_own_falls_with_the_number_of_pieces():
    one = difference_uncertainty([[seen(PALE)]], [[seen(PALE, 2, 2, "B")]]).limit_de00
    many = difference_uncertainty([[seen(PALE)]] * 16, [[seen(PALE, 2, 2, "B")]] * 16).limit_de00
    assert 0.9 * one < many < one
    here = difference_uncertainty([[seen(PALE)]] * 16, [[seen(PALE)]] * 16).limit_de00
    assert here == pytest.approx(limit(seen(PALE), seen(PALE)) / 4)


def test_colours_far_apart_share_less_of_their_error():
    near = difference_uncertainty([[seen(PALE)]], [[seen((86.0, 1.0, 12.0))]])
    far = difference_uncertainty([[seen(PALE)]], [[seen(STRONG)]])
    assert near.uncertainty_de00 < far.uncertainty_de00


def test_a_piece_counts_once_by_the_mean_of_its_readings():
    twice = [[seen((60.0, 0, 0)), seen((62.0, 0, 0), 2)], [seen((70.0, 0, 0))]]
    assert np.allclose(mean_lab(twice), (65.5, 0, 0))


def test_the_mean_of_readings_is_never_surer_than_what_they_share():
    alone = mean_uncertainty([seen(PALE)], [0.8])
    assert alone == pytest.approx(0.8)
    same = mean_uncertainty([seen(PALE)] * 9, [0.8] * 9)
    other = mean_uncertainty([seen(PALE, n, n) for n in range(9)], [0.8] * 9)
    assert other < same < alone


def test_photos_that_saw_the_chart_alike_are_of_one_camera_and_light():
    white = [(1.0, 1.0, 1.0), (0.5, 0.4, 0.3)]
    assert same_response(white, [(1.0, 1.0, 1.0), (0.501, 0.4, 0.3)])
    assert not same_response(white, [(1.0, 1.0, 1.0), (0.55, 0.4, 0.25)])
    assert not same_response(white, [])
