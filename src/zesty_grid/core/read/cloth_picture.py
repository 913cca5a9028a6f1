"""A piece of cloth as it was measured: the colours of a photo's cell, without page and ravels."""

import cv2
import numpy as np

from zesty_grid.core.read.cell_view import Calibrated, view_cell
from zesty_grid.core.read.cloth_finder import Mask
from zesty_grid.core.read.colour_space import Floats
from zesty_grid.core.read.measurement import Lab
from zesty_grid.core.read.piece import look_at_piece
from zesty_grid.core.read.said_by_hand import CellByHand
from zesty_grid.core.read.sheet_layout import SheetCell

LEAST_SHARE = 0.97
LEAST_SIDE_PX = 8
MOST_SIDE_PX = 240


def cloth_picture(photo: Calibrated, cell: SheetCell, by_hand: CellByHand | None = None) -> Floats | None:
    """L*a*b* (h, w, 3) of the largest upright rectangle of cloth in a cell, as fine as the photo,
    at most 6 pixels a millimetre; weave, blotches and zones are those of the photo. None where no
    cloth was found."""
    view = view_cell(photo, cell, by_hand)
    if view is None:
        return None
    rows, columns = upright_part(view.cloth.inner)
    light = look_at_piece(photo, view).light
    finer = light.shape[0] / view.cloth.inner.shape[0]
    part = light[_times(rows, finer), _times(columns, finer)]
    if min(part.shape[:2]) < LEAST_SIDE_PX:
        return None
    return photo.correction.lab(_no_larger(part))


def _no_larger(light: Floats) -> Floats:
    """As large as the largest cell of a grid is drawn, and no larger."""
    share = MOST_SIDE_PX / max(light.shape[:2])
    if share >= 1:
        return light
    return np.asarray(cv2.resize(light, None, fx=share, fy=share, interpolation=cv2.INTER_AREA), dtype=float)


def _times(part: slice, factor: float) -> slice:
    return slice(round(part.start * factor), round(part.stop * factor))


def upright_part(inner: Mask) -> tuple[slice, slice]:
    """The rows and columns of a rectangle that lies (but for 3 % of each side) within a mask:
    from its bounding box the side that holds most of what is none of it is taken in, again and
    again."""
    rows, columns = np.flatnonzero(inner.any(axis=1)), np.flatnonzero(inner.any(axis=0))
    if len(rows) == 0:
        return slice(0, 0), slice(0, 0)
    top, bottom, left, right = rows[0], rows[-1] + 1, columns[0], columns[-1] + 1
    while bottom - top > 1 and right - left > 1:
        part = inner[top:bottom, left:right]
        shares = [part[0].mean(), part[-1].mean(), part[:, 0].mean(), part[:, -1].mean()]
        worst = int(np.argmin(shares))
        if shares[worst] >= LEAST_SHARE:
            break
        top, bottom = top + (worst == 0), bottom - (worst == 1)
        left, right = left + (worst == 2), right - (worst == 3)
    return slice(top, bottom), slice(left, right)


def with_mean(lab: Floats, wanted: Lab) -> Floats:
    """The same cloth moved to a mean that was accepted for it: by another day's calibration, or
    the mean of several photos."""
    mean: Floats = lab.mean(axis=(0, 1))
    return lab + (np.array(wanted) - mean)
