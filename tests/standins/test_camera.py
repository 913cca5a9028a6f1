"""The simulated camera keeps to physics, so that what is measured on it means something."""

import io
from dataclasses import replace

import numpy as np
import pytest
from PIL import Image
from tests.cloth_spectra import cloths_on

from zesty_grid.core.read.patch24 import patch24_spectra
from zesty_grid.core.read.sheet_layout import lay_out_sheet
from zesty_grid.standins.camera import CAMERAS, LIGHTS, Shot, expose, photograph, rendering_matrix
from zesty_grid.standins.scene import Scene, page_reflected

SHEET = lay_out_sheet("CAM")
SMALL = Shot(width_px=1200, height_px=900)


def test_there_are_two_cameras_and_four_lights():
    assert len(CAMERAS) >= 2
    assert {"daylight D50", "daylight D65", "LED", "tungsten"} == set(LIGHTS)


@pytest.mark.parametrize("camera", CAMERAS)
@pytest.mark.parametrize("light", LIGHTS)
def test_a_white_surface_comes_out_nearly_neutral_after_white_balance(camera, light):
    white = np.ones(36) @ rendering_matrix(camera, light)
    assert white[1] == pytest.approx(1, abs=0.05)
    assert np.ptp(white) < 0.25


def test_a_camera_balanced_for_daylight_sees_tungsten_warm():
    red, _, blue = np.ones(36) @ rendering_matrix("A", "tungsten", "daylight D65")
    assert red > 1.5 * blue


def test_lights_and_cameras_see_the_chart_differently():
    seen = [patch24_spectra() @ rendering_matrix(c, light) for c in CAMERAS for light in LIGHTS]
    for i, one in enumerate(seen):
        for other in seen[i + 1 :]:
            assert np.abs(one - other).max() > 0.01


def test_the_same_seed_gives_the_same_photo_and_another_gives_another():
    scene = Scene(SHEET, cloths_on(SHEET, 1)[:2])
    assert photograph(scene, SMALL) == photograph(scene, SMALL)
    assert photograph(scene, SMALL) != photograph(scene, replace(SMALL, seed=2))


def test_weave_keeps_the_mean_colour_of_the_cloth():
    cloth = replace(cloths_on(SHEET, 2)[0], turn_deg=0.0, uneven=0.0, width_share=0.8)
    render = rendering_matrix("A", "daylight D50")
    rng = np.random.default_rng(0)
    page, scale = page_reflected(Scene(SHEET, (cloth,)), lambda s: s @ render, rng)
    x, y, w, h = (v * scale for v in SHEET.cells[0].rect_mm)
    middle = page[int(y + 0.25 * h) : int(y + 0.75 * h), int(x + 0.25 * w) : int(x + 0.75 * w)]
    np.testing.assert_allclose(middle.mean(axis=(0, 1)), cloth.reflectance @ render, rtol=0.02)
    assert middle[..., 1].std() > 0.02 * middle[..., 1].mean()


def test_more_exposure_is_brighter_and_blur_is_softer():
    scene = Scene(SHEET)
    dark, bright = (expose(scene, replace(SMALL, exposure=e)) for e in (0.3, 0.6))
    assert bright.mean() > 1.2 * dark.mean()
    sharp, soft = (expose(scene, replace(SMALL, blur_px=b)) for b in (0.5, 4.0))
    assert np.abs(np.diff(soft, axis=1)).max() < 0.5 * np.abs(np.diff(sharp, axis=1)).max()


@pytest.mark.parametrize(("kind", "name"), [("JPEG", "JPEG"), ("PNG", "PNG"), ("TIFF16", "TIFF")])
def test_photos_come_in_three_formats(kind, name):
    data = photograph(Scene(SHEET), SMALL, kind)
    if name == "TIFF":
        assert data[:4] in (b"II*\0", b"MM\0*")
        return
    image = Image.open(io.BytesIO(data))
    assert image.format == name
    assert image.size == (1200, 900)
    assert image.info["icc_profile"]
