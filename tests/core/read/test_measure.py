"""Measuring photographs of the simulated camera, which knows the truth."""

from dataclasses import replace

import cv2
import numpy as np
import pytest
from tests.cloth_spectra import cloths_on, true_lab
from tests.photographs import photograph

from zesty_grid.core.read.chart_alone import measure_chart
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.measure import measure_sheet
from zesty_grid.core.read.sheet_code import read_sheet_id
from zesty_grid.core.read.sheet_layout import lay_out_sheet
from zesty_grid.core.refusal import Refusal
from zesty_grid.formats.photo import open_photo
from zesty_grid.standins.camera import CAMERAS, LIGHTS, Shot
from zesty_grid.standins.cloth import Cloth
from zesty_grid.standins.scene import Scene

pytestmark = pytest.mark.slow

SHEET = lay_out_sheet("TEST-7")
SMALL = Shot(width_px=2400, height_px=1800)


def measured(scene: Scene, shot: Shot):
    return measure_sheet(open_photo(photograph(scene, shot)), scene.sheet)


@pytest.fixture(scope="module")
def errors_and_uncertainties():
    """ΔE00 from the truth, and the stated uncertainty, over two cameras and four lights."""
    found = []
    for camera in CAMERAS:
        for n, light in enumerate(LIGHTS):
            seed = 10 * n + ord(camera)
            rng = np.random.default_rng(seed)
            shift = (float(rng.uniform(-3, 3)), float(rng.uniform(-3, 3)))
            scene = Scene(SHEET, cloths_on(SHEET, seed), shift, float(rng.uniform(-3, 3)))
            result = measured(scene, replace(SMALL, camera=camera, light=light, seed=seed))
            for cloth, cell in zip(scene.cloths, result.cells, strict=True):
                assert cell.status == "measured", (camera, light, cell)
                error = float(delta_e_2000(true_lab(cloth), np.array(cell.lab)))
                found.append((error, cell.uncertainty_de00))
    return np.array(found)


def test_colours_are_right_on_spectra_that_the_fit_never_saw(errors_and_uncertainties):
    errors = errors_and_uncertainties[:, 0]
    assert len(errors) == 96
    assert errors.mean() <= 1.5
    assert np.percentile(errors, 95) <= 3.5


def test_the_truth_lies_within_twice_the_stated_uncertainty(errors_and_uncertainties):
    errors, uncertainties = errors_and_uncertainties.T
    assert (errors <= 2 * uncertainties).mean() >= 0.85
    # And the uncertainty is no blanket: it is of the size of the errors.
    assert uncertainties.mean() < 2.5 * errors.mean()


def test_pale_cloth_is_found_on_white_paper_and_empty_cells_are_empty():
    pale = 0.89 - 0.03 * np.exp(-(np.arange(380, 731, 10) - 380) / 60)
    laid = [cell.cell for cell in SHEET.cells[::2]]
    scene = Scene(SHEET, tuple(Cloth(cell, pale, 0.7) for cell in laid))
    for seed, light in enumerate(LIGHTS):
        result = measured(scene, replace(SMALL, light=light, seed=seed))
        status = {cell.cell: cell.status for cell in result.cells}
        assert {cell for cell, said in status.items() if said == "measured"} == set(laid)
        assert {said for cell, said in status.items() if cell not in laid} == {"empty"}


def test_levelness_tells_an_even_piece_from_a_blotchy_one():
    cloths = [replace(cloth, uneven=0.005) for cloth in cloths_on(SHEET, 3)]
    cloths[5] = replace(cloths[4], cell=cloths[5].cell, uneven=0.25)
    cells = measured(Scene(SHEET, tuple(cloths)), SMALL).cells
    assert cells[5].levelness_de00 > 3 * cells[4].levelness_de00


def test_glare_and_small_cloth_are_flagged():
    cloths = list(cloths_on(SHEET, 4))
    cloths[6] = replace(cloths[6], glare=True, width_share=0.9)
    cloths[7] = replace(cloths[7], width_share=0.4)
    cells = measured(Scene(SHEET, tuple(cloths)), SMALL).cells
    assert "glare" in cells[6].flags or "clipped" in cells[6].flags
    assert "cloth too small" in cells[7].flags
    assert cells[8].flags == ()


def test_the_same_cloth_in_16_bits_and_in_jpeg_agrees():
    scene = Scene(SHEET, cloths_on(SHEET, 5))
    jpeg = measured(scene, SMALL)
    tiff = measure_sheet(open_photo(photograph(scene, SMALL, "TIFF16")), SHEET)
    difference = delta_e_2000(np.array([cell.lab for cell in jpeg.cells]), np.array([cell.lab for cell in tiff.cells]))
    assert difference.mean() < 0.5
    assert difference.max() < 1.5


@pytest.mark.parametrize(
    ("cells", "kind", "paper"),
    [
        (4, "cuttings", "A4"),
        (24, "cuttings", "Letter"),
        (6, "hanks", "A4"),
        (1, "large", "Letter"),
        (1, "window", "A4"),
    ],
)
def test_other_kinds_of_sheets(cells, kind, paper):
    sheet = lay_out_sheet("OTHER", cells, kind, paper)
    cloths = cloths_on(sheet, 6)
    if kind == "window":
        cloths = (replace(cloths[0], width_share=1.05, turn_deg=0.0),)
    scene = Scene(sheet, cloths)
    result = measured(scene, replace(SMALL, width_px=3000, height_px=2250))
    errors = [
        delta_e_2000(true_lab(cloth), np.array(cell.lab))
        for cloth, cell in zip(scene.cloths, result.cells, strict=True)
    ]
    assert np.mean(errors) < 1.5


@pytest.mark.parametrize("sheet_id", ["TEST-7", "CWEPEN"])
def test_which_page_it_is_can_be_read_from_the_photo(sheet_id):
    """The second is a name whose code one of the two detectors misses at most sizes."""
    sheet = lay_out_sheet(sheet_id)
    picture = open_photo(photograph(Scene(sheet, cloths_on(sheet, 2)), SMALL))
    assert read_sheet_id(picture)[0] == sheet_id


FAULTS = {
    "marker": (Scene(SHEET, cloths_on(SHEET, 1), hidden_marker=3), {}, "lower left corner marker"),
    "no chart": (Scene(SHEET, cloths_on(SHEET, 1), chart_present=False), {}, "No 24-patch chart"),
    "upside down": (Scene(SHEET, cloths_on(SHEET, 1), chart_upside_down=True), {}, "upside down"),
    "clipped": (Scene(SHEET, cloths_on(SHEET, 1)), {"exposure": 3.0}, "clipped"),
    "blurred": (Scene(SHEET, cloths_on(SHEET, 1)), {"blur_px": 4.0}, "blurred"),
    "very blurred": (Scene(SHEET, cloths_on(SHEET, 1)), {"blur_px": 12.0}, "blurred"),
    "small": (Scene(SHEET, cloths_on(SHEET, 1)), {"width_px": 1000, "height_px": 750}, "too small"),
    "nothing": (Scene(SHEET, paper_present=False, chart_present=False), {}, "No sheet was found"),
}


@pytest.mark.parametrize("fault", FAULTS)
def test_what_cannot_be_measured_is_refused_with_the_cure(fault):
    scene, change, words = FAULTS[fault]
    with pytest.raises(Refusal, match=words) as refused:
        measured(scene, replace(SMALL, **change))
    assert len(refused.value.cure) > 20


@pytest.mark.parametrize("turn_deg", [0.0, 25.0, 90.0, 170.0])
def test_a_chart_alone_at_an_angle_in_warm_light_is_found_and_corrected(turn_deg):
    scene = Scene(SHEET, paper_present=False, chart_turn_deg=turn_deg, chart_shift_mm=(60.0, 60.0))
    shot = replace(SMALL, light="tungsten", balanced_for="daylight D50", tilt=0.15, fill=1.3, exposure=0.35)
    result = measure_chart(open_photo(photograph(scene, shot)))
    errors = [float(delta_e_2000(np.array(patch.lab), np.array(patch.reference_lab))) for patch in result.patches]
    assert len(errors) == 24
    assert result.cells == ()
    assert np.mean(errors) < 2.5
    assert result.calibration.residual_de00.mean < 4


def test_a_photo_without_a_chart_is_refused():
    with pytest.raises(Refusal, match="No 24-patch chart"):
        measure_chart(open_photo(photograph(FAULTS["nothing"][0], SMALL)))


def laid_and_turned(seed: int) -> Scene:
    """The card 3 mm and 3° off, each way in turn: the most that the sheet allows."""
    off = 3.0 if seed % 2 else -3.0
    return Scene(SHEET, cloths_on(SHEET, 50 + seed), (off, -off), off)


def mean_error(result, scene: Scene) -> float:
    return float(
        np.mean(
            [
                delta_e_2000(true_lab(cloth), np.array(cell.lab))
                for cloth, cell in zip(scene.cloths, result.cells, strict=True)
            ]
        )
    )


@pytest.mark.parametrize(
    "change",
    [
        {"turn_deg": 20.0, "fill": 0.75},
        {"tilt": 0.15, "fill": 0.85},
        {"exposure": 0.2},
        {"light_slope": 0.6},
        {"blur_px": 1.5},
    ],
)
def test_hands_and_rooms_are_not_perfect(change):
    scene = laid_and_turned(len(str(change)))
    result = measured(scene, replace(SMALL, seed=3, **change))
    assert {cell.status for cell in result.cells} == {"measured"}
    assert mean_error(result, scene) < 1.5


@pytest.mark.parametrize("reflectance", [0.1, 0.85])
def test_cards_of_another_make_lie_in_another_frame(monkeypatch, reflectance):
    monkeypatch.setattr("zesty_grid.standins.scene.CARD_BLACK", np.full(36, reflectance))
    scene = laid_and_turned(1)
    assert mean_error(measured(scene, SMALL), scene) < 1.5


def test_a_photo_upside_down_or_from_a_lens_that_bends_is_measured_all_the_same():
    scene = laid_and_turned(2)
    picture = open_photo(photograph(scene, SMALL))
    turned = replace(picture, pixels=np.ascontiguousarray(picture.pixels[::-1, ::-1]))
    width, height = picture.width, picture.height
    lens = np.array([[width, 0, width / 2], [0, width, height / 2], [0, 0, 1.0]])
    bent = cv2.undistort(picture.pixels, lens, np.array([0.04, 0, 0, 0]))
    for seen in (turned, replace(picture, pixels=bent)):
        assert mean_error(measure_sheet(seen, SHEET), scene) < 1.5


def test_what_was_found_can_be_drawn_on_the_photo():
    scene = laid_and_turned(3)
    result = measured(scene, SMALL)
    width, height = result.photo_size_px
    for outlined in (*result.cells, *result.patches):
        assert len(outlined.outline_px) == 4
        assert all(0 < x < width and 0 < y < height for x, y in outlined.outline_px)
    assert result.sheet_id == "TEST-7"
    assert result.software_version
