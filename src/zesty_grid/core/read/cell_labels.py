"""Square codes of swatch labels that lie in the cells of a sheet: they say who lies there."""

from collections.abc import Iterable

import cv2
import numpy as np

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.swatch_codes import LABEL_PREFIX
from zesty_grid.core.read.found_page import FoundPage
from zesty_grid.core.read.picture import Picture
from zesty_grid.core.read.sheet_layout import RectMm, SheetCell

PX_PER_MM = 6.0
MARGIN_MM = 2.0
# Without dark and light side by side there is no code to look for.
LEAST_CONTRAST = 60.0


class CellLabel(Frozen):
    cell: str
    code: str


def labels_in_cells(picture: Picture, page: FoundPage, cells: Iterable[SheetCell]) -> tuple[CellLabel, ...]:
    """The label in each cell, where there is one that can be read."""
    detector = cv2.QRCodeDetectorAruco()
    found = []
    for cell in cells:
        x, y, w, h = cell.rect_mm
        rect: RectMm = (x - MARGIN_MM, y - MARGIN_MM, w + 2 * MARGIN_MM, h + 2 * MARGIN_MM)
        crop = page.crop(picture, rect, min(PX_PER_MM, max(3.0, page.px_per_mm)))
        if crop.dtype == np.uint16:
            crop = (crop >> 8).astype(np.uint8)
        grey = cv2.cvtColor(crop, cv2.COLOR_RGB2GRAY)
        if not _may_hold_a_code(grey):
            continue
        _, texts, _, _ = detector.detectAndDecodeMulti(grey)
        code = next((text for text in texts if text.startswith(LABEL_PREFIX)), None)
        if code:
            found.append(CellLabel(cell=cell.cell, code=code.removeprefix(LABEL_PREFIX)))
    return tuple(found)


def _may_hold_a_code(grey: np.ndarray) -> bool:
    """Whether some place has black and white close together, as a printed code has and cloth has
    not."""
    small = cv2.resize(grey, None, fx=0.5, fy=0.5, interpolation=cv2.INTER_AREA)
    around = np.ones((5, 5), dtype=np.uint8)
    contrast = cv2.subtract(cv2.dilate(small, around), cv2.erode(small, around))
    return bool((contrast > LEAST_CONTRAST).mean() > 0.01)
