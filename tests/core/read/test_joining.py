"""Several photos of one sheet read as one, against the truth of the simulated camera."""

from itertools import combinations

import numpy as np
import pytest
from tests.cloth_spectra import UNDYED, cloths_on, dyed, true_lab
from tests.photographs import photograph

from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import xyz_to_lab
from zesty_grid.core.read.joining import join
from zesty_grid.core.read.joint_correction import fit_joint_correction
from zesty_grid.core.read.measure import measure_sheet
from zesty_grid.core.read.measurement import Measurement
from zesty_grid.core.read.patch24 import patch24_spectra, patch24_xyz, spectra_to_xyz
from zesty_grid.core.read.sheet_layout import lay_out_sheet
from zesty_grid.core.refusal import Refusal
from zesty_grid.formats.photo import open_photo
from zesty_grid.standins.camera import LIGHTS, Shot, rendering_matrix
from zesty_grid.standins.scene import Scene

pytestmark = pytest.mark.slow

SHEET = lay_out_sheet("JOINED")
SCENE = Scene(SHEET, cloths_on(SHEET, 71))


def read(light: str, kind: str = "DNG", seed: int = 1, camera: str = "A") -> Measurement:
    shot = Shot(camera, light, 2400, 1800, seed=seed)
    return measure_sheet(open_photo(photograph(SCENE, shot, kind)), SHEET)


@pytest.fixture(scope="module")
def photos() -> dict[str, Measurement]:
    return {light: read(light, seed=n) for n, light in enumerate(LIGHTS)}


def errors_of(measured: Measurement) -> np.ndarray:
    pairs = zip(SCENE.cloths, measured.cells, strict=True)
    return np.array([float(delta_e_2000(true_lab(c), np.array(m.lab))) for c, m in pairs])


def test_daylight_and_lamp_together_tell_more_than_either(photos):
    one, other = photos["daylight D65"], photos["LED"]
    joined = join([one, other], ["window.dng", "lamp.dng"])
    assert "6 channels" in joined.calibration.model
    assert errors_of(joined).mean() < 0.8 * min(errors_of(one).mean(), errors_of(other).mean())
    assert errors_of(joined).max() < 1.0
    assert [photo.name for photo in joined.photos] == ["window.dng", "lamp.dng"]
    assert [photo.light for photo in joined.photos] == [1, 2]


def test_the_truth_lies_within_twice_the_uncertainty_of_joined_photos(photos):
    held = []
    for pair in combinations(photos.values(), 2):
        joined = join(pair)
        said = np.array([cell.uncertainty_de00 for cell in joined.cells])
        held += list(errors_of(joined) <= 2 * said)
    assert np.mean(held) >= 0.85


def test_photos_of_one_light_are_averaged_and_their_agreement_is_said():
    twice = [read("daylight D65", "JPEG", seed) for seed in (5, 6)]
    joined = join(twice)
    assert "channels" not in joined.calibration.model
    assert {photo.light for photo in joined.photos} == {1}
    for cell, *own in zip(joined.cells, *(one.cells for one in twice), strict=True):
        apart = float(delta_e_2000(np.array(own[0].lab), np.array(own[1].lab)))
        # Two colours lie half their distance from their mean.
        assert cell.agreement_de00 == pytest.approx(apart / 2, abs=0.15)
        assert cell.uncertainty_de00 <= max(one.uncertainty_de00 for one in own) + 0.01


def test_photos_of_different_sheets_are_not_joined(photos):
    other = photos["LED"].model_copy(update={"sheet_id": "OTHER"})
    with pytest.raises(Refusal, match="different sheets"):
        join([photos["LED"], other])


def test_measurements_of_an_older_kind_are_not_joined(photos):
    one = photos["LED"]
    old = one.model_copy(update={"calibration": one.calibration.model_copy(update={"patch_light": ()})})
    with pytest.raises(Refusal, match="older version"):
        join([one, old])


def test_six_channels_without_noise_take_most_of_the_error_away():
    """Over four pairs of lights: what three channels cannot see, six mostly can."""
    rng = np.random.default_rng(3)
    cloths = np.array([*UNDYED, *(dyed(rng) for _ in range(60))])
    truth = xyz_to_lab(spectra_to_xyz(cloths))
    for pair in (("daylight D65", "LED"), ("daylight D50", "tungsten")):
        render = [rendering_matrix("A", light) for light in pair]
        patches = [patch24_spectra() @ one for one in render]
        fitted = fit_joint_correction(patches, patch24_xyz())
        found = fitted.lab([cloths @ one for one in render])
        assert delta_e_2000(found, truth).mean() < 0.52
        assert fitted.leverage([one[:1] for one in patches]) < 1.0
