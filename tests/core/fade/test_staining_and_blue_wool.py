"""Staining by ISO 105-A04, and light fastness against the blue wool references."""

import math

import numpy as np
import pytest

from zesty_grid.core.fade.blue_wool import dose_by_wools, fade_doses_lxh, fastness_by_dose, fastness_by_wools
from zesty_grid.core.fade.staining import half_step, rate_stain, stain_range, stain_rating


# ISO 105-A03: CIELAB differences of the staining scale's pairs, from memory. They are greys, so
# ΔEGS is ΔE, and each pair must be rated as the step that it defines.
@pytest.mark.parametrize(
    ("difference", "rating"),
    [
        (0, "5"),
        (2.2, "4-5"),
        (4.3, "4"),
        (6.0, "3-4"),
        (8.5, "3"),
        (12.0, "2-3"),
        (16.9, "2"),
        (24.0, "1-2"),
        (34.1, "1"),
    ],
)
def test_the_staining_scale_rates_itself(difference, rating):
    found = stain_rating(np.array([92.0, 0, 2]), np.array([92.0 - difference, 0, 2]))
    assert found.de_gs == pytest.approx(difference)
    assert found.rating == rating


def test_a_stain_without_loss_of_lightness_weighs_less():
    # By hand: ΔE 10, ΔL 6: ΔEGS = 10 − 0.4 · √(100 − 36) = 6.8; 6.1 − 1.45 · ln 6.8 = 3.32.
    found = rate_stain(10, -6)
    assert found.de_gs == pytest.approx(6.8)
    assert found.value == pytest.approx(6.1 - 1.45 * math.log(6.8))
    assert found.rating == "3-4"
    # Independent: the same by the printed formula, for small stains 5 − 0.23 ΔEGS.
    assert rate_stain(1.0, 1.0).value == pytest.approx(4.77)


# ISO 105-A04, table of the rating that belongs to a value; limits from memory.
@pytest.mark.parametrize(
    ("value", "rating"),
    [
        (5.0, "5"),
        (4.75, "5"),
        (4.74, "4-5"),
        (4.25, "4-5"),
        (4.24, "4"),
        (3.75, "4"),
        (3.74, "3-4"),
        (3.25, "3-4"),
        (2.75, "3"),
        (2.74, "2-3"),
        (2.25, "2-3"),
        (1.75, "2"),
        (1.25, "1-2"),
        (1.24, "1"),
        (1.0, "1"),
    ],
)
def test_the_edges_of_each_staining_rating(value, rating):
    assert half_step(value) == rating


def test_a_stain_that_may_be_none_may_be_a_5():
    white = np.array([92.0, 0, 2])
    worst, best = stain_range(white, white - [0.4, 0, 0], 1.5)
    assert best == "5"
    assert worst in ("4-5", "4")
    assert stain_range(white, white, 1.0)[1] == "5"


def test_each_wool_fades_at_its_own_dose():
    # CIE 157:2004, doses to a just noticeable fade, from memory.
    assert fade_doses_lxh(uv=True)[0] == 0.22e6
    assert fade_doses_lxh(uv=False)[7] == 1100e6
    for uv in (True, False):
        for number, dose in enumerate(fade_doses_lxh(uv), 1):
            found = fastness_by_dose(dose, dose / 1.4, dose * 1.4, dose, uv)
            assert found.value == pytest.approx(number)
            assert found.words == str(number)
            assert found.low <= number <= found.high


def test_between_two_wools_the_nearer_half_step_and_outside_no_number_is_made_up():
    between = math.sqrt(0.6e6 * 1.5e6)
    assert fastness_by_dose(between, between, between, between, True).words == "2-3"
    assert fastness_by_dose(0.05e6, 0.04e6, 0.06e6, 1e6, True).words == "below 1"
    lasts = fastness_by_dose(None, None, None, 2e6, True)
    assert lasts.words == "above 3-4" or lasts.words == "above 3"
    assert lasts.high == 8


def test_the_wool_that_changed_as_much_gives_the_number():
    """ISO 105-B02: the reference with a like change beside it."""
    wools = {1: 9.0, 2: 6.0, 3: 3.5, 4: 1.6, 5: 0.6}
    assert fastness_by_wools(3.5, wools).words == "3"
    assert fastness_by_wools(2.4, wools).words == "3-4"
    assert fastness_by_wools(30, wools).words == "below 1"
    assert fastness_by_wools(0.1, wools).words == "above 5"
    assert fastness_by_wools(3.0, {}) is None


def test_wools_are_a_meter_of_light():
    dose = dose_by_wools({1: 1.7}, {1: 0.2}, True)
    assert dose.dose_lxh == pytest.approx(0.22e6)
    assert dose.low_lxh < 0.22e6 < dose.high_lxh
    # Two wools tell more than one, and a wool without a change tells a limit only.
    both = dose_by_wools({1: 4.1, 2: 1.7}, {1: 0.3, 2: 0.3}, True)
    assert both.wools == (1, 2)
    assert both.high_lxh / both.low_lxh < dose.high_lxh / dose.low_lxh
    assert dose_by_wools({}, {}, True) is None
    unchanged = dose_by_wools({3: 0.2}, {3: 0.3}, True)
    assert unchanged.dose_lxh is None
    assert unchanged.high_lxh < 2 * 1.5e6
