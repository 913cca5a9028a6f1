"""Swatch labels that lie in the cells are read, and say when another swatch lies there."""

import cv2
import numpy as np
import pytest
import segno
from tests.cloth_spectra import dyed, true_lab
from tests.photographs import photograph

from zesty_grid.core.plan.swatch_codes import label_code_text, swatch_code
from zesty_grid.core.read.cell_labels import CellLabel
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.measure import calibrate, measure_sheet
from zesty_grid.core.read.odd_ones import by_labels
from zesty_grid.core.read.picture import Picture
from zesty_grid.core.read.sheet_layout import Sheet, lay_out_sheet
from zesty_grid.formats.photo import open_photo
from zesty_grid.standins.camera import Shot
from zesty_grid.standins.cloth import Cloth
from zesty_grid.standins.scene import Scene

SHEET = lay_out_sheet("LABEL", 6)
CODE_MM = 11.5  # as the application prints its labels
CLOTHS = tuple(Cloth(one.cell, dyed(np.random.default_rng(seed)), 0.8) for seed, one in enumerate(SHEET.cells))


def with_label(picture: Picture, sheet: Sheet, cell: str, code: str) -> bytes:
    """The photo with a printed label laid into the upper left of a cell."""
    matrix = np.array([list(row) for row in segno.make(label_code_text(code), micro=False, error="m").matrix])
    card = np.pad(1 - matrix, 4, constant_values=1).astype(np.float32)
    side_mm = CODE_MM * card.shape[0] / matrix.shape[0]
    card = cv2.resize(card, None, fx=16, fy=16, interpolation=cv2.INTER_NEAREST)
    page = calibrate(picture, sheet).photo.page
    x, y, _, _ = next(one.rect_mm for one in sheet.cells if one.cell == cell)
    corners = np.array([[x, y], [x + side_mm, y], [x + side_mm, y + side_mm], [x, y + side_mm]])
    size = card.shape[0]
    place = cv2.getPerspectiveTransform(
        np.array([[0, 0], [size, 0], [size, size], [0, size]], dtype=np.float32),
        page.to_photo(corners).astype(np.float32),
    )
    shape = (picture.width, picture.height)
    laid = cv2.warpPerspective(card, place, shape, flags=cv2.INTER_AREA)[..., None]
    covers = cv2.warpPerspective(np.ones_like(card), place, shape)[..., None]
    mixed = picture.pixels * (1 - covers) + covers * (30 + 190 * laid)
    return cv2.imencode(".png", mixed.astype(np.uint8)[..., ::-1])[1].tobytes()


@pytest.fixture(scope="module")
def picture() -> Picture:
    return open_photo(photograph(Scene(SHEET, CLOTHS), Shot(width_px=2600, height_px=1950)))


def test_a_sheet_without_labels_has_none(picture):
    assert measure_sheet(picture, SHEET).labels == ()


def test_a_label_in_a_cell_is_read_and_the_cloth_beside_it_too(picture):
    code = swatch_code(77)
    found = measure_sheet(open_photo(with_label(picture, SHEET, "A2", code)), SHEET)
    assert found.labels == (CellLabel(cell="A2", code=code),)
    cell = next(one for one in found.cells if one.cell == "A2")
    assert delta_e_2000(np.array(cell.lab), true_lab(CLOTHS[1])) < 3 or cell.flags


def test_a_label_of_another_swatch_is_asked_about():
    labels = (CellLabel(cell="A1", code="JTMY"), CellLabel(cell="A2", code="RF3X"), CellLabel(cell="B9", code="MKTA"))
    (asked,) = by_labels(labels, {"A1": "JTMY", "A2": "4E3F"})
    assert (asked.cell, asked.swatch, asked.looks_like) == ("A2", "4E3F", "RF3X")
    assert asked.words == "The label in A2 says RF3X, the sheet 4E3F."
