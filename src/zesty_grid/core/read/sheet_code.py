"""Reads from a photo which printed page it shows."""

from itertools import product

import cv2
import numpy as np

from zesty_grid.core.read.found_page import FoundPage
from zesty_grid.core.read.page_finder import find_any_page
from zesty_grid.core.read.page_shape import fit_lens
from zesty_grid.core.read.picture import Picture
from zesty_grid.core.read.sheet_layout import RectMm, id_rect_mm
from zesty_grid.core.refusal import Refusal

QUIET_MM = 4.0
PREFIX = "ZG1:"


def read_sheet_id(picture: Picture) -> tuple[str, FoundPage]:
    """The id of the sheet in the photo, and where the page lies in it; raises Refusal where
    either cannot be found."""
    page, page_mm = find_any_page(picture)
    sheet_id = sheet_id_on(picture, page, page_mm)
    if sheet_id is None:
        raise Refusal(
            "sheet-code",
            "The square code that says which sheet this is cannot be read.",
            "Uncover the code at the top right of the sheet and take the photo again.",
        )
    return sheet_id, page


def sheet_id_on(picture: Picture, page: FoundPage, page_mm: tuple[float, float]) -> str | None:
    """What the square code says; None where it cannot be read."""
    text = _decode(picture, fit_lens(picture, page), id_rect_mm(page_mm))
    return text.removeprefix(PREFIX) if text.startswith(PREFIX) else None


def _decode(picture: Picture, page: FoundPage, code_mm: RectMm) -> str:
    x, y, w, h = code_mm
    rect: RectMm = (x - QUIET_MM, y - QUIET_MM, w + 2 * QUIET_MM, h + 2 * QUIET_MM)
    # Each of the two misses a few codes that the other reads.
    detectors = (cv2.QRCodeDetectorAruco(), cv2.QRCodeDetector())
    for px_per_mm, detector in product((8.0, 14.0, 6.0, 5.0), detectors):
        crop = page.crop(picture, rect, px_per_mm)
        if crop.dtype == np.uint16:
            crop = (crop >> 8).astype(np.uint8)
        grey = cv2.cvtColor(crop, cv2.COLOR_RGB2GRAY)
        stretched = cv2.normalize(grey, np.empty_like(grey), 0, 255, cv2.NORM_MINMAX)
        text, _, _ = detector.detectAndDecode(stretched)
        if text:
            return str(text)
    return ""
