"""The pixels behind a number: a cell enlarged, with what was used and what was left out."""

from dataclasses import dataclass
from enum import IntEnum

import cv2
import numpy as np
from numpy.typing import NDArray

from zesty_grid.core.read.cell_view import SEARCH_PX_PER_MM, Calibrated, view_cell
from zesty_grid.core.read.levelness import at_one_scale, levelness_map
from zesty_grid.core.read.picture import Pixels
from zesty_grid.core.read.piece import look_at_piece
from zesty_grid.core.read.said_by_hand import CellByHand
from zesty_grid.core.read.sheet_layout import SheetCell


class PixelUse(IntEnum):
    """What became of a pixel."""

    PAGE = 0
    USED = 1
    EDGE = 2
    BORDER = 3
    LEFT_OUT = 4


@dataclass(frozen=True)
class CellPixels:
    """`codes` (h, w, 3) as the photo has them; `use` (h, w) by `PixelUse`, `zone` (h, w) from 1.

    EDGE: threads at the edge; BORDER: between two zones; LEFT_OUT: glare, or in the shadow between
    strands. `map_de00` (h, w): how far each place lies from the mean of its piece, smoothed.
    """

    codes: Pixels
    use: NDArray[np.uint8]
    zone: NDArray[np.uint8]
    map_de00: NDArray[np.float32]


def cell_pixels(photo: Calibrated, cell: SheetCell, by_hand: CellByHand | None = None) -> CellPixels | None:
    """None where no cloth was found in the cell."""
    view = view_cell(photo, cell, by_hand)
    if view is None:
        return None
    piece = look_at_piece(photo, view, by_hand.zone_count if by_hand else 0)
    size = (view.codes.shape[1], view.codes.shape[0])

    def enlarged(mask: NDArray[np.bool_] | NDArray[np.int32]) -> NDArray[np.uint8]:
        return np.asarray(cv2.resize(mask.astype(np.uint8), size, interpolation=cv2.INTER_NEAREST), dtype=np.uint8)

    whole, inner = enlarged(view.cloth.whole) > 0, enlarged(view.cloth.inner) > 0
    zone = enlarged(piece.zones.labels)
    use = np.full(whole.shape, PixelUse.PAGE, dtype=np.uint8)
    use[whole] = PixelUse.EDGE
    use[inner] = PixelUse.LEFT_OUT
    use[inner & (piece.labels == 0)] = PixelUse.BORDER
    use[piece.used & (piece.labels > 0)] = PixelUse.USED
    small, inside = at_one_scale(photo.correction.lab(piece.reduced), view.cloth.whole, SEARCH_PX_PER_MM)
    away = cv2.resize(levelness_map(small, inside), size, interpolation=cv2.INTER_LINEAR)
    return CellPixels(view.codes, use, zone, np.asarray(away, dtype=np.float32))
