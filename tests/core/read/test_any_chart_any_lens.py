"""A chart with any frame, a lens that bends lines, a page that is not flat: the colours stay.

The truth is that of the simulated camera, which works from spectra; the camera is one that nothing
in the application was fitted on.
"""

import numpy as np
import pytest
from tests.cloth_spectra import cloths_on, true_lab
from tests.made_up_camera import UNSEEN
from tests.photographs import photograph

from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.found_page import FoundPage, Lens, Relief
from zesty_grid.core.read.measure import measure_sheet
from zesty_grid.core.read.measurement import Measurement
from zesty_grid.core.read.sheet_code import read_sheet_id
from zesty_grid.core.read.sheet_layout import lay_out_sheet
from zesty_grid.core.refusal import Refusal
from zesty_grid.formats.photo import open_photo
from zesty_grid.standins.bent import Bend, seen_through_lens
from zesty_grid.standins.camera import Shot
from zesty_grid.standins.scene import Scene

pytestmark = pytest.mark.slow

SHEET = lay_out_sheet("ANYLENS")
CLOTHS = cloths_on(SHEET, 5)
GREY_FRAME, WHITE_FRAME = np.full(36, 0.5), np.full(36, 0.82)


def read(k1: float = 0.0, **scene: object) -> Measurement:
    shot = Shot(UNSEEN, "daylight D65", 3000, 2250, lens_k1=k1, seed=5)
    return measure_sheet(open_photo(photograph(Scene(SHEET, CLOTHS, **scene), shot)), SHEET)  # type: ignore[arg-type]


def labs(measured: Measurement) -> np.ndarray:
    return np.array([cell.lab for cell in measured.cells])


def errors(measured: Measurement) -> np.ndarray:
    return np.asarray(delta_e_2000(np.array([true_lab(cloth) for cloth in CLOTHS]), labs(measured)))


@pytest.fixture(scope="module")
def plain() -> Measurement:
    return read()


@pytest.mark.parametrize("frame", [None, GREY_FRAME, WHITE_FRAME], ids=["black", "grey", "white"])
@pytest.mark.parametrize(
    ("beyond_mm", "shift_mm", "turn_deg"), [(1.5, (1.0, -0.8), 1.2), (3.0, (3.5, -2.0), 4.0), (3.0, (0.5, 4.0), -4.0)]
)
def test_the_frame_of_a_chart_moves_no_swatch(plain, frame, beyond_mm, shift_mm, turn_deg):
    lying = {"chart_shift_mm": shift_mm, "chart_turn_deg": turn_deg}
    own = {} if frame is None else {"card_frame": frame}
    fits, reaches_out = read(**lying, **own), read(**lying, **own, card_beyond_mm=beyond_mm)
    moved = delta_e_2000(labs(fits), labs(reaches_out))
    # Where two tone curves fit about equally well, either may be taken: that moves some by 0.3.
    assert moved.max() < 0.4
    assert moved.mean() < 0.2
    assert errors(reaches_out).mean() < errors(plain).mean() + 0.15
    assert reaches_out.calibration.warnings == plain.calibration.warnings == ()


@pytest.mark.parametrize("k1", [-0.1, -0.04, 0.04, 0.1])
def test_a_lens_that_bends_lines_is_read_through(plain, k1):
    bent = read(k1)
    assert errors(bent).mean() < min(1.0, errors(plain).mean() + 0.1)
    assert not any(cell.flags for cell in bent.cells)


@pytest.mark.parametrize("bend", [Bend("curl", "right", 8.0), Bend("curl", "foot", 8.0), Bend("fold", "right", 3.0)])
def test_a_page_that_is_not_flat_is_read(plain, bend):
    assert errors(read(bend=bend)).mean() < min(1.0, errors(plain).mean() + 0.2)


@pytest.mark.parametrize("cells", [4, 24])
@pytest.mark.parametrize("k1", [0.0, -0.1, 0.1])
def test_a_sheet_that_is_known_by_its_code_alone_is_read(cells, k1):
    """The greys lie otherwise on each kind of page: its shape is found once it is known which it is."""
    sheet = lay_out_sheet(f"CODE{cells}", cells)
    scene = Scene(sheet, cloths_on(sheet, 5))
    picture = open_photo(photograph(scene, Shot(UNSEEN, "daylight D65", 3000, 2250, lens_k1=k1, seed=5)))
    name, page = read_sheet_id(picture)
    assert name == sheet.id
    seen = np.array([cell.lab for cell in measure_sheet(picture, sheet, page).cells])
    assert delta_e_2000(np.array([true_lab(cloth) for cloth in scene.cloths]), seen).mean() < 1.1


def test_a_page_bent_beyond_measure_is_refused_in_words():
    with pytest.raises(Refusal) as refused:
        read(bend=Bend("fold", "right", 45.0))
    assert refused.value.code in ("page-not-flat", "chart-missing", "marker-hidden")


def test_a_lens_is_undone_where_it_was_done():
    lens = Lens(-0.08, (1500.0, 1125.0), 1875.0)
    points = np.array([[10.0, 20.0], [1500.0, 1125.0], [2900.0, 2200.0], [700.0, 1900.0]])
    assert np.abs(lens.straighten(lens.bend(points)) - points).max() < 1e-3


def test_the_stand_in_and_the_reader_mean_the_same_lens():
    view = np.zeros((300, 400, 3), dtype=np.float32)
    view[30, 60] = 1.0
    row, column = np.unravel_index(seen_through_lens(view, 0.08)[..., 0].argmax(), (300, 400))
    lens = Lens(0.08, (199.5, 149.5), float(np.hypot(199.5, 149.5)))
    assert np.abs(lens.bend(np.array([[60.0, 30.0]]))[0] - [column, row]).max() < 1.0


def test_points_of_a_page_come_back_from_the_photo():
    rng = np.random.default_rng(3)
    relief = Relief(20.0, rng.normal(0, 0.6, (12, 16, 2)))
    page = FoundPage(np.diag([9.0, 9.0, 1.0]), 9.0, 0.3, Lens(0.05, (1400.0, 1000.0), 1720.0), relief)
    points = rng.uniform([5, 5], [290, 200], (40, 2))
    assert np.abs(page.to_page(page.to_photo(points)) - points).max() < 0.02
