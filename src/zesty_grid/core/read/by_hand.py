"""What a person says of a cell against what was found: drawn outlines, zones, parts left out."""

from collections.abc import Iterable

import cv2
import numpy as np
from numpy.typing import NDArray

from zesty_grid.core.read.cloth_finder import FoundCloth, Mask
from zesty_grid.core.read.colour_space import Floats
from zesty_grid.core.read.said_by_hand import CellByHand
from zesty_grid.core.read.zones import ZoneMap
from zesty_grid.core.refusal import Fault, Refusal

DRAWN_EDGE_MM = 0.4
SMALLEST_AREA_MM2 = 4.0


def said_last(before: Iterable[CellByHand], now: Iterable[CellByHand]) -> tuple[CellByHand, ...]:
    """What stands of what was said of the cells: the newest word on each."""
    return tuple({one.cell: one for one in (*before, *now)}.values())


def check_cells(by_hand: Iterable[CellByHand], cells: Iterable[str]) -> dict[str, CellByHand]:
    """By cell; raises Refusal for a cell that the sheet does not have."""
    known = set(cells)
    found = {one.cell: one for one in by_hand}
    for name in found:
        if name not in known:
            raise Refusal(
                "no-such-cell",
                f"The sheet has no cell {name}.",
                "Choose one of its cells.",
                (
                    Fault(
                        field="cells",
                        given=name,
                        allowed=", ".join(sorted(known)),
                        cure="Choose one of the sheet's cells.",
                    ),
                ),
            )
    return found


def filled(outlines: Iterable[Floats], shape: tuple[int, int]) -> NDArray[np.int32]:
    """Which outline (in pixels of the crop) each pixel lies in, from 1; later ones lie on top."""
    labels = np.zeros(shape, dtype=np.int32)
    for number, outline in enumerate(outlines, 1):
        cv2.fillPoly(labels, [np.round(outline).astype(np.int32)], number)
    return labels


def drawn_cloth(labels: NDArray[np.int32], px_per_mm: float, margin_mm: float) -> FoundCloth:
    """The piece as drawn; raises Refusal where next to nothing was drawn in the cell."""
    whole = labels > 0
    if whole.sum() < SMALLEST_AREA_MM2 * px_per_mm**2:
        raise Refusal(
            "area-too-small",
            "What was drawn is too small to be measured, or lies outside of its cell.",
            "Draw at least two millimetres across, within the cell.",
        )
    rows, columns = np.nonzero(whole)
    box = cv2.minAreaRect(np.column_stack([columns, rows]).astype(np.float32))
    width = labels.shape[1] - 2 * margin_mm * px_per_mm
    return FoundCloth(
        inner=_shrunk(whole, px_per_mm),
        whole=whole,
        corners_px=cv2.boxPoints(box).astype(float),
        width_share=float(min(box[1]) / width),
    )


def drawn_zones(labels: NDArray[np.int32], px_per_mm: float) -> tuple[ZoneMap, tuple[int, ...]]:
    """Zones as drawn, from the largest, and the number of the area that each is."""
    numbers = [int(n) for n in np.unique(labels) if n > 0]
    sizes = {n: int((labels == n).sum()) for n in numbers}
    order = sorted(numbers, key=lambda n: -sizes[n])
    ranked = np.zeros_like(labels)
    core = np.zeros(labels.shape, dtype=bool)
    for rank, number in enumerate(order, 1):
        own = labels == number
        ranked[own] = rank
        core |= _shrunk(own, px_per_mm)
    total = sum(sizes.values())
    return ZoneMap(ranked, core, tuple(sizes[n] / total for n in order)), tuple(order)


def _shrunk(mask: Mask, px_per_mm: float) -> Mask:
    """Without the drawn edge, which is never quite right; small areas stay as they are."""
    depth = cv2.distanceTransform(np.pad(mask.astype(np.uint8), 1), cv2.DIST_L2, 5)[1:-1, 1:-1]
    kept = np.asarray(depth > DRAWN_EDGE_MM * px_per_mm)
    return kept if kept.any() else mask
