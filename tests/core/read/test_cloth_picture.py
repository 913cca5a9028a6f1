"""The cloth that is shown is the cloth that was measured."""

from dataclasses import replace

import numpy as np
import pytest
from tests.cloth_spectra import cloths_on
from tests.photographs import photograph

from zesty_grid.core.read.cloth_picture import cloth_picture, upright_part, with_mean
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.measure import calibrate, measure_sheet
from zesty_grid.core.read.sheet_layout import lay_out_sheet
from zesty_grid.formats.photo import open_photo
from zesty_grid.standins.camera import Shot
from zesty_grid.standins.scene import Scene

SHEET = lay_out_sheet("TEST-7")
SHOT = Shot(width_px=2400, height_px=1800)


@pytest.fixture(scope="module")
def seen():
    """A photo ready to be measured, and its measurement."""
    scene = Scene(SHEET, cloths_on(SHEET, 4), (0.5, -0.5), 0.5)
    picture = open_photo(photograph(scene, replace(SHOT, seed=4)))
    return calibrate(picture, SHEET).photo, measure_sheet(picture, SHEET)


def test_its_mean_is_the_colour_that_was_measured(seen):
    photo, measurement = seen
    apart = []
    for spot, cell in zip(SHEET.cells, measurement.cells, strict=True):
        lab = cloth_picture(photo, spot)
        assert lab is not None
        # Ravelled edges and page are far lighter or darker: they would show in the mean.
        apart.append(float(delta_e_2000(lab.mean(axis=(0, 1)), np.array(cell.lab))))
    assert np.median(apart) < 0.5
    assert max(apart) < 1.5


def test_nothing_but_cloth_is_in_it(seen):
    photo, measurement = seen
    for spot, cell in list(zip(SHEET.cells, measurement.cells, strict=True))[:6]:
        lab = cloth_picture(photo, spot)
        assert lab is not None
        wide, high = lab.shape[1], lab.shape[0]
        _, _, w, h = spot.rect_mm
        assert wide * high > 0.3 * (w * h) * photo.page.px_per_mm**2
        edges = np.concatenate([lab[0], lab[-1], lab[:, 0], lab[:, -1]])
        assert np.median(delta_e_2000(edges, np.broadcast_to(cell.lab, edges.shape))) < 4


def test_a_piece_that_lies_turned_gives_the_upright_part_within_it():
    rows, columns = np.indices((60, 80))
    turned = np.abs((columns - 40) * 0.99 + (rows - 30) * 0.14) < 25
    turned &= np.abs((rows - 30) * 0.99 - (columns - 40) * 0.14) < 18
    part = upright_part(turned)
    assert turned[part].mean() > 0.98
    assert turned[part].size > 0.6 * turned.sum()
    assert turned[upright_part(np.zeros((4, 4), dtype=bool))].size == 0


def test_it_is_moved_to_an_accepted_colour_and_keeps_its_weave(seen):
    photo, _ = seen
    lab = cloth_picture(photo, SHEET.cells[0])
    assert lab is not None
    moved = with_mean(lab, (60.0, 5.0, -20.0))
    assert moved.mean(axis=(0, 1)) == pytest.approx([60.0, 5.0, -20.0])
    assert moved.std(axis=(0, 1)) == pytest.approx(lab.std(axis=(0, 1)))
