"""Where the colours of a strip, or of a box's printed scale, lie in a photo."""

import cv2
import numpy as np

from zesty_grid.core.read.colour_space import Floats
from zesty_grid.core.read.picture import Picture
from zesty_grid.core.read.said_by_hand import Area

# Within this many codes of 255 of its middle a place is of one colour.
SAME_COLOUR = 9
REACH_SHARE = 0.55
SMALLEST_SHARE = 0.15
MOST_POINTS = 40
KEPT_SHARE = 0.8


def pads_between(first_px: Floats, last_px: Floats, count: int) -> Floats:
    """Middles of pads that lie evenly from the first to the last, (count, 2) in pixels."""
    along = np.linspace(0, 1, count)[:, None] if count > 1 else np.zeros((1, 1))
    return np.asarray(first_px + along * (last_px - first_px))


def scale_between(first_px: Floats, tip_end_px: Floats, last_px: Floats, steps: int, pads: int) -> Floats:
    """Middles of a printed scale's colours, (steps, pads, 2): from the first pad of the lowest pH to its
    last pad, and from there to the last pad of the highest pH."""
    rows = pads_between(np.zeros(2), last_px - tip_end_px, steps)
    return rows[:, None] + pads_between(first_px, tip_end_px, pads)[None]


def reach_of(middles_px: Floats, alone_px: float) -> float:
    """How far from its middle a colour may reach: about half of the way to the next one; `alone_px` where
    there is no other."""
    flat = middles_px.reshape(-1, 2)
    if len(flat) < 2:
        return alone_px
    apart = np.hypot(*(flat[:, None] - flat[None]).transpose(2, 0, 1))
    return float(REACH_SHARE * apart[apart > 0].min()) if (apart > 0).any() else alone_px


def area_around(picture: Picture, middle_px: Floats, reach_px: float) -> Area:
    """The even colour around a place, a little within its edge; a small square where none is even."""
    half = max(3, round(reach_px))
    left, top = (int(v) for v in np.round(middle_px) - half)
    x0, y0 = max(0, left), max(0, top)
    crop = picture.pixels[y0 : top + 2 * half + 1, x0 : left + 2 * half + 1]
    seed = (round(float(middle_px[0])) - x0, round(float(middle_px[1])) - y0)
    if not (0 <= seed[0] < crop.shape[1] and 0 <= seed[1] < crop.shape[0]):
        return _square(middle_px, half * 0.4)
    codes = np.asarray(crop.astype(float) * 255 / picture.top_code, dtype=np.uint8)
    smooth = np.asarray(cv2.GaussianBlur(codes, (0, 0), max(1.0, half / 12)), dtype=np.uint8)
    mask = np.zeros((crop.shape[0] + 2, crop.shape[1] + 2), dtype=np.uint8)
    flags = 4 | cv2.FLOODFILL_MASK_ONLY | cv2.FLOODFILL_FIXED_RANGE | (1 << 8)
    cv2.floodFill(smooth, mask, seed, (0, 0, 0), (SAME_COLOUR,) * 3, (SAME_COLOUR,) * 3, flags)
    even = mask[1:-1, 1:-1]
    if even.sum() < SMALLEST_SHARE * half * half:
        return _square(middle_px, half * 0.4)
    contours, _ = cv2.findContours(even, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    hull = cv2.convexHull(max(contours, key=cv2.contourArea)).reshape(-1, 2).astype(float)
    middle = hull.mean(axis=0)
    within = middle + KEPT_SHARE * (hull[:: max(1, len(hull) // MOST_POINTS)] - middle) + [x0, y0]
    return _area(within)


def _square(middle_px: Floats, half_px: float) -> Area:
    return _area(middle_px + half_px * np.array([[-1, -1], [1, -1], [1, 1], [-1, 1]]))


def _area(points_px: Floats) -> Area:
    return Area(outline_px=tuple((round(float(x), 1), round(float(y), 1)) for x, y in points_px))
