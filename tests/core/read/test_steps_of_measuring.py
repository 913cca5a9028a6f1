"""Each step of measuring by itself, against scenes whose truth is known exactly."""

from dataclasses import replace

import cv2
import numpy as np
import pytest
from tests.cloth_spectra import cloths_on
from tests.photographs import photograph

from zesty_grid.core.read.chart_finder import ChartPlace, find_chart, place_points, slot_centre_mm
from zesty_grid.core.read.cloth_finder import find_cloth
from zesty_grid.core.read.colour_space import xyz_to_lab
from zesty_grid.core.read.light_field import PaperSamples, fit_light_field, sample_paper
from zesty_grid.core.read.page_finder import apply_homography, find_page
from zesty_grid.core.read.patch24 import patch24_xyz
from zesty_grid.core.read.picture import Picture, srgb_linear_by_code
from zesty_grid.core.read.sheet_layout import PAGES_MM, lay_out_sheet
from zesty_grid.core.read.uncertainty import (
    OTHER_MATERIAL_DE00,
    calibration_uncertainty,
    light_uncertainty,
    uncertainty_parts,
)
from zesty_grid.core.refusal import Refusal
from zesty_grid.formats.photo import open_photo
from zesty_grid.formats.sheet_page import sheet_image, sheet_pdf
from zesty_grid.standins.camera import Shot
from zesty_grid.standins.scene import Scene

pytestmark = pytest.mark.slow

SHEET = lay_out_sheet("STEPS")
SCALE = 6.0


def flat_page(matrix: np.ndarray, size: tuple[int, int] = (2200, 1600)) -> Picture:
    """The printed sheet seen through a known homography (photo pixels from mm), on grey."""
    page = np.asarray(sheet_image(sheet_pdf(SHEET), SCALE * 25.4))
    from_pixels = np.diag([1 / SCALE, 1 / SCALE, 1.0])
    photo = cv2.warpPerspective(page, matrix @ from_pixels, size, borderValue=(120, 120, 120))
    return Picture(photo, srgb_linear_by_code(256))


@pytest.mark.parametrize(
    "matrix",
    [
        np.array([[6.0, 0, 150], [0, 6.0, 120], [0, 0, 1]]),
        np.array([[5.8, 0.6, 100], [-0.5, 5.9, 260], [1e-5, 2e-5, 1]]),
        np.array([[-6.0, 0, 2000], [0, -6.0, 1450], [0, 0, 1]]),  # upside down
        np.array([[0, -5.0, 1500], [5.0, 0, 60], [0, 0, 1]]),  # a quarter turn
    ],
)
def test_the_page_is_found_to_a_tenth_of_a_millimetre(matrix):
    page = find_page(flat_page(matrix), SHEET)
    points = np.array([[20.0, 20], [150, 100], [280, 30], [60, 190], [270, 200]])
    error_px = np.linalg.norm(page.to_photo(points) - apply_homography(matrix, points), axis=1)
    assert error_px.max() / page.px_per_mm < 0.1
    assert page.edge_width_mm < 0.5


def test_two_hidden_markers_are_both_named():
    picture = flat_page(np.array([[6.0, 0, 150], [0, 6.0, 120], [0, 0, 1]]))
    picture.pixels[100:320, 100:400] = 120
    picture.pixels[1180:1500, 1700:2100] = 120
    with pytest.raises(Refusal, match="upper left and lower right corner markers are"):
        find_page(picture, SHEET)


def test_a_light_field_of_known_shape_is_recovered():
    rng = np.random.default_rng(1)
    at_mm = rng.uniform([6, 6], [291, 204], (900, 2))

    def truth(points):
        x, y = points[:, 0] / 297 - 0.5, points[:, 1] / 210 - 0.5
        return np.exp(0.5 * x - 0.2 * y - 0.6 * x**2 - 0.4 * y**2)

    seen = truth(at_mm)[:, None] * [0.5, 0.6, 0.4] * (1 + rng.normal(0, 0.002, (900, 3)))
    seen[::15] *= 0.4  # print and dirt
    field = fit_light_field(PaperSamples(at_mm, seen, np.zeros(len(at_mm), dtype=bool)), PAGES_MM["A4"])
    places = rng.uniform([20, 20], [277, 190], (100, 2))
    ratio = field.at(places) / (truth(places)[:, None] * [0.5, 0.6, 0.4])
    np.testing.assert_allclose(ratio, 1, atol=0.004)
    assert field.residual_ratio < 0.01
    assert 0.3 < field.evenness_ratio < 0.9


def test_without_paper_there_is_no_light_field():
    nothing = PaperSamples(np.zeros((20, 2)), np.ones((20, 3)), np.zeros(20, dtype=bool))
    with pytest.raises(Refusal, match="Too little blank paper"):
        fit_light_field(nothing, PAGES_MM["A4"])


def test_paper_samples_keep_off_cells_chart_and_markers():
    picture = open_photo(photograph(Scene(SHEET, cloths_on(SHEET, 8)), Shot(width_px=2400, height_px=1800)))
    samples = sample_paper(picture, find_page(picture, SHEET), SHEET)
    assert len(samples.at_mm) > 200
    for cell in SHEET.cells:
        x, y, w, h = cell.rect_mm
        inside = (samples.at_mm > [x, y]) & (samples.at_mm < [x + w, y + h])
        assert not inside.all(axis=1).any()


@pytest.mark.parametrize(("shift", "turn_deg"), [((0.0, 0.0), 0.0), ((3.0, -3.0), 3.0), ((-2.4, 1.7), -2.2)])
def test_the_card_is_found_where_it_lies(shift, turn_deg):
    slot = SHEET.chart
    scale, origin = 6.0, np.array([24.0, 4.0])
    light = np.full((82 * 6, 114 * 6, 3), 0.8)
    truth = ChartPlace(shift, turn_deg, 1.0)
    centre = slot_centre_mm(slot)
    card = np.array(slot.quad_mm)
    colours = patch24_xyz()
    half = np.array(slot.patches[0].size_mm) / 2
    squares = [np.array(p.centre_mm) + half * [[-1, -1], [1, -1], [1, 1], [-1, 1]] for p in slot.patches]
    for quad, colour in zip([card, *squares], [[0.04] * 3, *colours], strict=True):
        corners = (place_points(truth, quad, centre) - origin) * scale
        cv2.fillConvexPoly(light, np.round(corners).astype(np.int32), [float(c) for c in colour])
    found = find_chart(np.log(light + 1e-3), origin, scale, slot)
    centres = np.array([p.centre_mm for p in slot.patches])
    off = place_points(found, centres, centre) - place_points(truth, centres, centre)
    # A patch window takes the middle 60 % of 13.5 mm: 2.7 mm to spare on each side.
    assert np.linalg.norm(off, axis=1).max() < 1.0


def cell_crop(cloth_lab: tuple[float, float, float] | None, weave: float = 0.0) -> np.ndarray:
    """A made-up crop at 3 px/mm with 2 mm of paper around a 35 × 40 mm cell."""
    rng = np.random.default_rng(2)
    crop = np.full((44 * 3, 39 * 3, 3), [100.0, 0, 0]) + rng.normal(0, 0.15, (132, 117, 3))
    if cloth_lab:
        rows, columns = slice(27, 105), slice(24, 93)
        texture = weave * rng.normal(0, 1, (78, 69, 1)) * [1, 0, 0]
        crop[rows, columns] += np.array(cloth_lab) - [100, 0, 0] + texture
    return crop.astype(np.float32)


def test_cloth_is_outlined_and_its_edge_is_left_out():
    found = find_cloth(cell_crop((60, 20, 10)), 3.0, 2.0)
    assert found is not None
    assert found.width_share == pytest.approx(23 / 35, abs=0.05)
    rows, columns = np.nonzero(found.inner)
    assert rows.min() >= 27 + 4
    assert rows.max() <= 105 - 4
    assert columns.min() >= 24 + 4
    assert columns.max() <= 93 - 4


def test_cloth_of_the_papers_colour_is_found_by_its_weave_and_an_empty_cell_is_empty():
    assert find_cloth(cell_crop(None), 3.0, 2.0) is None
    assert find_cloth(cell_crop((100, 0, 0)), 3.0, 2.0) is None
    assert find_cloth(cell_crop((100, 0, 0), weave=1.5), 3.0, 2.0) is not None
    assert find_cloth(cell_crop((98.5, 0, 1)), 3.0, 2.0) is not None


def combined(lab, reference, errors, **more) -> float:
    facts = {"residual_ratio": 0.0, "levelness_de00": 0.0, "block_count": 20, "disagreement_de00": 0.0} | more
    return uncertainty_parts(lab, reference, errors, **facts).combined_de00


def test_uncertainty_grows_with_each_of_its_parts():
    reference = xyz_to_lab(patch24_xyz())
    lab, errors = np.array([60.0, 20, 10]), np.full(24, 0.6)
    least = combined(lab, reference, errors)
    assert least == pytest.approx(np.hypot(0.6, OTHER_MATERIAL_DE00), abs=1e-4)
    for more in (
        combined(lab, reference, errors * 2),
        combined(lab, reference, errors, residual_ratio=0.01),
        combined(lab, reference, errors, shadow_ratio=0.1),
        combined(lab, reference, errors, levelness_de00=2.0),
        combined(lab, reference, errors, disagreement_de00=3.0),
        combined(lab, reference, errors, leverage=2.0),
        combined(lab, reference, errors, rendering_de00=1.0),
        combined(lab, reference, errors, backing_de00=4.0),
    ):
        assert more > least


def test_uncertainty_is_that_of_patches_of_similar_colour():
    reference = xyz_to_lab(patch24_xyz())
    errors = np.where(reference[:, 2] > 30, 3.0, 0.3)  # the yellows and oranges fit badly
    yellow = calibration_uncertainty(np.array([80.0, 5, 75]), reference, errors)
    blue = calibration_uncertainty(np.array([40.0, 5, -40]), reference, errors)
    assert yellow > 2.0
    assert blue < 1.0


def test_one_per_cent_of_light_is_a_third_of_a_unit_of_lightness():
    # dL* = 116/3 · (Y/Yn)^(1/3) · dY/Y (CIE 15): at L* 84, 100/3 · 0.01.
    assert light_uncertainty(np.array([84.0, 0, 0]), 0.01) == pytest.approx(1 / 3)


def test_uneven_light_is_said_and_hopeless_light_refused():
    from zesty_grid.core.read.measure import measure_sheet

    scene = Scene(SHEET, cloths_on(SHEET, 9))
    shot = Shot(width_px=2400, height_px=1800, light_slope=0.9, falloff=0.1, exposure=0.5, seed=4)
    said = measure_sheet(open_photo(photograph(scene, shot)), SHEET).calibration.warnings
    assert any("Uneven light" in warning for warning in said)
    hopeless = replace(shot, falloff=3.0, light_slope=0.6, exposure=0.8)
    with pytest.raises(Refusal) as refused:
        measure_sheet(open_photo(photograph(scene, hopeless)), SHEET)
    assert refused.value.cure
