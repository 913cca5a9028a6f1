"""Light on one thing, as paper around it shows it; and contrast, as printed greys do."""

import numpy as np
import pytest

from zesty_grid.core.read.chart_finder import ChartPlace, place_points
from zesty_grid.core.read.local_light import Ring, fit_local_light, outside_mm
from zesty_grid.core.read.printed_greys import UNTOLD, Contrast, GreyReadings

CENTRE = (50.0, 40.0)


def ring(light) -> Ring:
    """Paper around a 34 × 43 mm cell at every 1.25 mm, lit by `light` of places."""
    x, y = np.meshgrid(np.arange(25, 75, 1.25), np.arange(10, 70, 1.25))
    at = np.column_stack([x.ravel(), y.ravel()])
    away = outside_mm(at, (33, 18.5, 34, 43))
    near = (away > 0) & (away < 7)
    noise = np.random.default_rng(1).normal(0, 0.004, (near.sum(), 3))
    return Ring(at[near], np.log(light(at[near]))[:, None] + noise, away[near])


def test_even_light_is_left_alone():
    found = fit_local_light(ring(lambda at: np.ones(len(at))), CENTRE)
    assert abs(found.shift_ratio) < 0.002
    assert found.doubt_ratio < 0.002


def test_a_shadow_all_over_is_measured():
    found = fit_local_light(ring(lambda at: np.full(len(at), 0.8)), CENTRE)
    assert found.shift_ratio == pytest.approx(-0.2, abs=0.003)
    np.testing.assert_allclose(found.at(np.array([[50.0, 40], [40, 30]])), 0.8, atol=0.004)


def test_a_slope_is_followed_and_an_edge_leaves_doubt():
    sloped = fit_local_light(ring(lambda at: np.exp(0.004 * (at[:, 0] - 50))), CENTRE)
    assert sloped.at(np.array([[60.0, 40]]))[0, 0] == pytest.approx(np.exp(0.04), abs=0.006)
    assert sloped.doubt_ratio < 0.006
    edge = fit_local_light(ring(lambda at: np.where(at[:, 0] > 50, 0.7, 1.0)), CENTRE)
    assert edge.doubt_ratio > 0.02


def test_dirt_and_print_count_little():
    clean = ring(lambda at: np.full(len(at), 0.9))
    dirty = clean.log_ratio.copy()
    dirty[::11] -= 0.5
    found = fit_local_light(Ring(clean.at_mm, dirty, clean.away_mm), CENTRE)
    assert found.shift_ratio == pytest.approx(-0.1, abs=0.008)


def test_too_little_paper_says_nothing():
    few = Ring(np.zeros((5, 2)), np.full((5, 3), -0.5), np.zeros(5))
    assert fit_local_light(few, CENTRE).shift_ratio == 0


def test_a_place_of_the_card_can_be_undone():
    place = ChartPlace((2.0, -1.5), 2.5, 1.02)
    points = np.random.default_rng(0).uniform(0, 100, (20, 2))
    centre = np.array([50.0, 30.0])
    there = place_points(place, points, centre)
    np.testing.assert_allclose(place_points(place.undone(), there, centre), points, atol=1e-9)


def test_contrast_is_told_from_brightness_by_the_greys():
    usual = np.log(np.tile([0.33, 0.57, 0.79], 4))
    at = np.column_stack([np.arange(12) * 10.0, np.zeros(12)])
    seen = usual.copy()
    seen[:3] = 1.2 * usual[:3] + 0.05  # stronger contrast, and a little more light
    greys = GreyReadings(at, seen, usual)
    assert greys.contrast_near((0, 0, 20, 5), 2).ratio == pytest.approx(1.2, abs=0.08)
    assert greys.contrast_near((60, 0, 50, 5), 2).ratio == pytest.approx(1.0, abs=0.01)
    assert greys.contrast_near((500, 500, 5, 5), 2) == UNTOLD


def test_contrast_is_put_right_only_where_greys_left_out_agree():
    rng = np.random.default_rng(2)
    usual = np.log(np.tile([0.33, 0.57, 0.79], 4))
    at = np.column_stack([np.arange(12) * 10.0, np.zeros(12)])
    noisy = GreyReadings(at, usual + rng.normal(0, 0.06, 12), usual)
    found = [noisy.contrast_near((60.0 * part, 0, 50, 5), 2) for part in (0, 1)]
    assert all(one.ratio == 1.0 and one.doubt > 0 for one in found)


def test_no_more_is_put_right_than_the_darkest_grey_tells():
    stronger = Contrast(1.2, 0.01, float(np.log(0.33)))
    light = np.array([0.6, 0.33, 0.01])
    changed = UNTOLD.to_that_of(stronger)
    assert changed.ratio == pytest.approx(1.2)
    there = Contrast(1.0, 0.0, float(np.log(0.33))).to_that_of(stronger).put_right(light)
    np.testing.assert_allclose(there / light, [0.6**0.2, 0.33**0.2, 0.33**0.2], rtol=1e-6)
