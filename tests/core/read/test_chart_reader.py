"""Which patches may be used, and what is no chart."""

import numpy as np
import pytest

from zesty_grid.core.read.camera_tone import CameraTone, fit_camera_tone
from zesty_grid.core.read.chart import patch24
from zesty_grid.core.read.chart_reader import PatchReadings, check_chart
from zesty_grid.core.read.correction import choose_correction
from zesty_grid.core.read.measure import describe_calibration, straighten
from zesty_grid.core.read.patch24 import patch24_xyz
from zesty_grid.core.read.picture import Picture, srgb_linear_by_code
from zesty_grid.core.refusal import Refusal

LIGHT = patch24_xyz() @ np.array([[1.4, 0.1, 0.0], [0.2, 0.9, 0.1], [0.1, 0.1, 1.1]])


def readings(*clipped: int) -> PatchReadings:
    return PatchReadings(LIGHT, clipped)


def test_all_patches_are_used_when_none_is_clipped():
    assert check_chart(readings(), LIGHT, patch24()) == tuple(range(24))


def test_one_or_two_clipped_patches_are_left_out_and_that_is_said():
    used = check_chart(readings(15, 18), LIGHT, patch24())
    assert set(range(24)) - set(used) == {15, 18}
    correction = choose_correction(LIGHT, patch24(), used)
    said = describe_calibration(correction, patch24(), ("From the file.",), "").warnings
    assert said == ("From the file.", "Left out of the fit because it is clipped: yellow, white.")


def test_three_clipped_patches_are_refused_by_name():
    with pytest.raises(Refusal, match=r"3 chart patches are clipped \(orange, yellow, white\)"):
        check_chart(readings(6, 15, 18), LIGHT, patch24())


def test_a_chart_upside_down_is_told_from_no_chart():
    with pytest.raises(Refusal) as upside_down:
        check_chart(readings(), LIGHT[::-1], patch24())
    assert upside_down.value.code == "chart-upside-down"
    paper = np.full((24, 3), 0.9) + np.random.default_rng(1).normal(0, 0.01, (24, 3))
    with pytest.raises(Refusal) as missing:
        check_chart(readings(), paper, patch24())
    assert missing.value.code == "chart-missing"


def test_an_upside_dstation_chart_is_named_even_when_it_is_clipped_too():
    with pytest.raises(Refusal) as refused:
        check_chart(readings(3, 4, 5), LIGHT[::-1], patch24())
    assert refused.value.code == "chart-upside-down"


def test_straightening_puts_the_greys_on_a_line_with_their_light():
    codes = srgb_linear_by_code(256)
    picture = Picture(np.zeros((2, 2, 3), np.uint8), codes**0.8)
    straight = straighten(picture, LIGHT**0.8, tuple(range(24)), patch24())
    ratio = straight.linear_by_code[0, 60:] / codes[0, 60:]
    assert ratio.std() / ratio.mean() < 0.03


def test_a_badly_fitting_chart_is_warned_about():
    rng = np.random.default_rng(3)
    spoiled = LIGHT * np.exp(rng.normal(0, 0.15, (24, 3)))
    correction = choose_correction(spoiled, patch24(), tuple(range(24)))
    assert any("fits badly" in w for w in describe_calibration(correction, patch24(), (), "").warnings)
    assert correction.unseen_de00.mean() > 3


@pytest.mark.parametrize("terms", [(0.0, 0.0, 0.0, 0.0), (0.3, 0.0, 0.0, 0.0), (0.1, 0.2, 0.0, 0.01)])
def test_the_bend_that_a_camera_gave_its_codes_is_undone(terms):
    """Greys rendered through a known bend come back as they were, in light that falls off too."""
    grey_y = patch24_xyz()[18:, 1]
    fall = np.linspace(0.6, 1.0, 6)[:, None] * [0.9, 1.0, 0.8]
    scene = grey_y[:, None] * fall * 0.8
    line = np.linspace(0, 1, 4001)
    bent = CameraTone(terms).straight(line)
    rendered = np.interp(scene, bent, line)
    found = fit_camera_tone(rendered, grey_y, fall)
    straight = found.straight(rendered)
    ratio = straight / scene
    assert (ratio.max(axis=0) / ratio.min(axis=0) < 1.02).all()
    assert found.rises()
