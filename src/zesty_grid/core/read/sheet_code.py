"""Reads from a photo which printed page it shows."""

import cv2
import numpy as np

from zesty_grid.core.read.page_finder import FoundPage, find_page
from zesty_grid.core.read.picture import Picture
from zesty_grid.core.read.sheet_layout import ID_RECT_MM, RectMm, lay_out_sheet
from zesty_grid.core.refusal import Refusal

QUIET_MM = 4.0
PREFIX = "ZG1:"


def read_sheet_id(picture: Picture) -> str:
    """The id of the sheet in the photo; raises Refusal where it cannot be read."""
    page = find_page(picture, lay_out_sheet("unknown"))
    text = _decode(picture, page)
    if not text.startswith(PREFIX):
        raise Refusal(
            "sheet-code",
            "The square code that says which sheet this is cannot be read.",
            "Uncover the code at the top right of the sheet and take the photo again.",
        )
    return text.removeprefix(PREFIX)


def _decode(picture: Picture, page: FoundPage) -> str:
    x, y, w, h = ID_RECT_MM
    rect: RectMm = (x - QUIET_MM, y - QUIET_MM, w + 2 * QUIET_MM, h + 2 * QUIET_MM)
    detector = cv2.QRCodeDetector()
    for px_per_mm in (8.0, 14.0, 5.0):
        crop = page.crop(picture, rect, px_per_mm)
        if crop.dtype == np.uint16:
            crop = (crop >> 8).astype(np.uint8)
        grey = cv2.cvtColor(crop, cv2.COLOR_RGB2GRAY)
        stretched = cv2.normalize(grey, np.empty_like(grey), 0, 255, cv2.NORM_MINMAX)
        text, _, _ = detector.detectAndDecode(stretched)
        if text:
            return str(text)
    return ""
