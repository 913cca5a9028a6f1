"""What a camera is taught by swatches that an instrument measured, and what that is worth."""

from dataclasses import replace

import numpy as np
import pytest
from tests.cloth_spectra import dyed, true_lab
from tests.photographs import photograph

from zesty_grid.core.read.camera_profile import FEWEST_SWATCHES, teach, with_profile
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.measure import measure_sheet
from zesty_grid.core.read.sheet_layout import lay_out_sheet
from zesty_grid.formats.photo import open_photo
from zesty_grid.standins.camera import Shot
from zesty_grid.standins.cloth import Cloth
from zesty_grid.standins.scene import Scene

pytestmark = pytest.mark.slow

SHOT = Shot("B", "daylight D65", width_px=2000, height_px=1500)


def some_labs(seed: int, count: int) -> list:
    rng = np.random.default_rng(seed)
    return [tuple(lab) for lab in rng.uniform((30, -20, -20), (85, 40, 60), (count, 3))]


def test_few_swatches_teach_nothing():
    labs = some_labs(1, FEWEST_SWATCHES - 1)
    assert teach("A", labs, labs) is None


def test_what_is_only_chance_is_not_held_to_be_worth_it():
    rng = np.random.default_rng(5)
    seen = some_labs(2, 24)
    true = [tuple(np.array(lab) + rng.normal(0, 0.8, 3)) for lab in seen]
    profile = teach("A", seen, true)
    assert not profile.is_worth_it


def test_an_error_that_goes_with_the_colour_is_learnt_and_fades_away_from_it():
    true = some_labs(3, 24)
    seen = [(lab[0] + 1.5, lab[1] * 0.93, lab[2] * 0.95) for lab in true]
    profile = teach("A", seen, true)
    assert profile.after_de00 < 0.5 * profile.before_de00
    others = some_labs(4, 30)
    taught = [profile.taught_lab((o[0] + 1.5, o[1] * 0.93, o[2] * 0.95))[0] for o in others]
    before = delta_e_2000(np.array([(o[0] + 1.5, o[1] * 0.93, o[2] * 0.95) for o in others]), np.array(others)).mean()
    assert delta_e_2000(np.array(taught), np.array(others)).mean() < 0.6 * before
    far = (5.0, 120.0, -120.0) if profile.reach < 50 else (5.0, 500.0, -500.0)
    assert profile.taught_lab(far)[0] == pytest.approx(far, abs=0.3)


@pytest.fixture(scope="module")
def pages() -> list:
    """Four pages of dyed cloth through the camera that sees cloth worst, and their true colours."""
    found = []
    for page in range(4, 8):
        rng = np.random.default_rng(40 + page)
        sheet = lay_out_sheet("TEACH", 12)
        cloths = tuple(Cloth(cell.cell, dyed(rng), 0.8) for cell in sheet.cells)
        data = photograph(Scene(sheet, cloths), replace(SHOT, seed=page))
        found.append((measure_sheet(open_photo(data), sheet), [true_lab(c) for c in cloths]))
    return found


def test_twenty_four_swatches_make_photos_of_others_truer_as_was_said(pages):
    seen = [cell.lab for measured, _ in pages[:2] for cell in measured.cells]
    true = [tuple(lab) for _, labs in pages[:2] for lab in labs]
    profile = teach("B", seen, true)
    assert profile.is_worth_it
    before, after, sure = [], [], []
    for measured, labs in pages[2:]:
        taught = with_profile(measured, profile)
        assert taught.calibration.taught.swatches == 24
        for cell, first, truth in zip(taught.cells, measured.cells, labs, strict=True):
            assert cell.untaught_lab == first.lab
            before.append(delta_e_2000(np.array(first.lab), truth))
            after.append(delta_e_2000(np.array(cell.lab), truth))
            sure.append(after[-1] <= 2 * cell.uncertainty_de00)
    assert np.mean(after) < 0.85 * np.mean(before)
    # What was said of it from swatches left out holds for swatches of other pages.
    assert np.mean(after) == pytest.approx(profile.after_de00, abs=0.35)
    assert np.mean(sure) >= 0.85


def test_teaching_twice_changes_nothing_more(pages):
    seen = [cell.lab for cell in pages[0][0].cells]
    profile = teach("B", seen, [tuple(lab) for lab in pages[0][1]])
    once = with_profile(pages[1][0], profile)
    assert with_profile(once, profile).cells[0].lab == once.cells[0].lab
