"""Figures of unevenness, on patterns of known size and direction."""

import numpy as np
import pytest

from zesty_grid.core.read.levelness import levelness_map, unevenness

WHOLE = np.ones((120, 120), dtype=bool)
PX_PER_MM = 3.0


def lab_with(deviation: np.ndarray) -> np.ndarray:
    return np.stack([60 + deviation, np.full_like(deviation, 10.0), np.full_like(deviation, 30.0)], axis=-1)


def waves(period_mm: float, angle_deg: float) -> np.ndarray:
    """Stripes that run at an angle from the horizontal, anticlockwise as they are seen."""
    y, x = np.mgrid[:120, :120] / PX_PER_MM
    angle = np.radians(angle_deg)
    across = x * np.sin(angle) + y * np.cos(angle)
    return np.sin(2 * np.pi * across / period_mm)


def test_an_even_piece_has_no_blotches():
    noise = np.random.default_rng(0).normal(0, 0.4, (120, 120))
    found = unevenness(lab_with(noise), WHOLE, PX_PER_MM)
    assert found.rms_de00 < 0.35
    assert found.blotch_mm is None


@pytest.mark.parametrize("period_mm", [12, 20, 30])
def test_the_size_of_blotches_is_about_half_their_period(period_mm):
    chequers = waves(period_mm, 0) * waves(period_mm, 90)
    found = unevenness(lab_with(4 * chequers), WHOLE, PX_PER_MM)
    assert found.blotch_mm == pytest.approx(period_mm / 2.7, abs=3)
    assert found.streaks < 0.4


@pytest.mark.parametrize("angle_deg", [0, 30, 90, 135])
def test_streaks_are_known_by_their_direction(angle_deg):
    found = unevenness(lab_with(3 * waves(14, angle_deg)), WHOLE, PX_PER_MM)
    assert found.streaks > 0.8
    off = (found.streak_angle_deg - angle_deg + 90) % 180 - 90
    assert abs(off) < 6


def test_figures_are_the_same_from_photo_to_photo():
    fine = lab_with(3 * waves(18, 0))
    coarse = fine[::2, ::2]
    one = unevenness(fine, WHOLE, PX_PER_MM)
    other = unevenness(coarse, WHOLE[::2, ::2], PX_PER_MM / 2)
    assert other.rms_de00 == pytest.approx(one.rms_de00, rel=0.15)
    # A wave of amplitude 3 in L* at L* 60 is 3 / S_L ≈ 2.6 ΔE00 high (CIEDE2000), rms 1.9.
    assert one.rms_de00 == pytest.approx(1.9, rel=0.2)


def test_the_map_says_how_far_each_place_lies_from_the_mean():
    lab = lab_with(np.where(np.arange(120)[None] < 60, -2.0, 2.0) * np.ones((120, 1)))
    away = levelness_map(lab, WHOLE)
    assert away.min() == pytest.approx(away.max(), rel=0.1)
    outside = WHOLE.copy()
    outside[:10] = False
    assert (levelness_map(lab, outside)[:10] == 0).all()


def test_too_little_cloth_has_no_figures():
    speck = np.zeros((120, 120), dtype=bool)
    speck[50:60, 50:60] = True
    assert unevenness(lab_with(np.zeros((120, 120))), speck, PX_PER_MM) is None
