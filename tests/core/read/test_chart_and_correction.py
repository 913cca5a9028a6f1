"""The chart's reference and the colour correction, against colour-science and its data."""

import colour
import numpy as np
import pytest

from zesty_grid.core.read.chart import patch24
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import xyz_to_lab
from zesty_grid.core.read.correction import (
    choose_correction,
    fit_root_polynomial,
    fit_tone_curve,
    root_polynomial_terms,
)
from zesty_grid.core.read.kubelka_munk import absorption_over_scattering, reflectance_of
from zesty_grid.core.read.patch24 import PATCH_NAMES, patch24_spectra, patch24_xyz
from zesty_grid.core.refusal import Refusal

ALL = tuple(range(24))


def camera_rgb(seed: int = 0) -> np.ndarray:
    """Made-up linear camera values of the 24 patches."""
    rng = np.random.default_rng(seed)
    mixing = np.array([[1.6, 0.3, 0.1], [0.4, 1.1, 0.1], [0.1, 0.2, 1.2]])
    return np.abs(patch24_xyz() @ mixing) * (1 + rng.normal(0, 0.002, (24, 3)))


def test_chart_values_agree_with_the_published_chromaticities_of_the_same_average():
    data_sets = next(
        v for k, v in vars(colour.characterisation).items() if k.startswith("CCS_") and k.endswith("CHECKERS")
    )
    average = next(chart for key, chart in data_sets.items() if key.endswith("Average"))
    published = colour.xyY_to_XYZ(np.array(list(average.data.values())))
    difference = delta_e_2000(xyz_to_lab(published), xyz_to_lab(patch24_xyz()))
    assert difference.max() < 0.3


def test_chart_is_listed_from_dark_brown_with_the_greys_last_and_white_first_of_them():
    lab = xyz_to_lab(patch24_xyz())
    assert PATCH_NAMES[0] == "dark brown"
    assert PATCH_NAMES[18] == "white"
    assert PATCH_NAMES[23] == "black"
    assert lab[18, 0] > 95
    assert np.all(np.diff(lab[18:, 0]) < 0)
    assert np.hypot(lab[18:, 1], lab[18:, 2]).max() < 3
    assert patch24_spectra().shape == (24, 36)


@pytest.mark.parametrize("degree", [1, 2, 3])
def test_root_polynomial_terms_and_fit_are_those_of_colour_science(degree):
    rgb, xyz = camera_rgb(), patch24_xyz()
    theirs = colour.characterisation.polynomial_expansion_Finlayson2015(
        rgb, degree=degree, root_polynomial_expansion=True
    )
    ours = root_polynomial_terms(rgb, degree)
    assert ours.shape == theirs.shape
    for column in theirs.T:  # the same terms, in whatever order
        assert np.isclose(ours, column[:, None]).all(axis=0).any()
    matrix = colour.characterisation.matrix_colour_correction_Finlayson2015(
        rgb, xyz, degree=degree, root_polynomial_expansion=True
    )
    fitted = ours @ fit_root_polynomial(rgb, xyz, degree, perceptual=False)
    np.testing.assert_allclose(fitted, theirs @ matrix.T, atol=1e-6)


def test_weighing_as_the_eye_does_lowers_the_error_that_the_eye_sees():
    rgb, xyz = camera_rgb(), patch24_xyz() ** 1.03
    errors = []
    for perceptual in (True, False):
        matrix = fit_root_polynomial(rgb, xyz, 2, perceptual)
        fitted = xyz_to_lab(np.maximum(root_polynomial_terms(rgb, 2) @ matrix, 1e-5))
        errors.append(delta_e_2000(fitted, xyz_to_lab(xyz)).mean())
    assert errors[0] <= errors[1]


def test_exposure_does_not_change_the_colour_of_a_root_polynomial():
    rgb = camera_rgb()
    np.testing.assert_allclose(root_polynomial_terms(rgb * 0.37, 3), root_polynomial_terms(rgb, 3) * 0.37, rtol=1e-9)


def test_tone_curve_undoes_a_power():
    xyz = patch24_xyz()
    bent = camera_rgb() ** 0.8
    tone = fit_tone_curve(bent[18:], xyz[18:], 2)
    straight = tone.apply(bent[18:])
    ratio = straight / xyz[18:, 1:2]
    assert ratio.std() / ratio.mean() < 0.03
    assert tone.rises(bent)


def test_a_linear_camera_is_corrected_almost_perfectly_and_says_how_well():
    correction = choose_correction(camera_rgb(), patch24(), ALL)
    assert correction.unseen_de00.mean() < 0.5
    assert delta_e_2000(correction.patch_lab, xyz_to_lab(patch24_xyz())).mean() < 0.4


def test_a_bent_camera_gets_a_tone_curve():
    correction = choose_correction(camera_rgb() ** 0.75, patch24(), ALL)
    assert correction.model.tone_terms > 0
    assert correction.unseen_de00.mean() < 1


def test_too_few_patches_are_refused():
    with pytest.raises(Refusal, match="Too few chart patches"):
        choose_correction(camera_rgb(), patch24(), ALL[:17])


def test_kubelka_munk_worked_example():
    # (1 - 0.5)² / (2 · 0.5) = 0.25, and 1 + 0.25 - √(0.0625 + 0.5) = 0.5: by hand.
    assert absorption_over_scattering(np.array(0.5)) == pytest.approx(0.25)
    assert reflectance_of(np.array(0.25)) == pytest.approx(0.5)
    # Twice the dye doubles K/S: 0.5 gives 1.5 - √(0.25 + 1) = 0.3820, by hand.
    assert reflectance_of(np.array(0.5)) == pytest.approx(0.38197, abs=1e-5)
    with pytest.raises(ValueError, match="above 0"):
        absorption_over_scattering(np.array([0.0]))
    with pytest.raises(ValueError, match="negative"):
        reflectance_of(np.array([-0.1]))
