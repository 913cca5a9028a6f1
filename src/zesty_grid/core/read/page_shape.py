"""How a lens bends a page and how far it lies from flat: from its markers and its printed greys.

The lens is fitted on the markers' corners; each grey is then looked for where it should lie, and
what is left is drawn smoothly between them. Both are kept only where greys that were left out are
foretold better with them.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray
from scipy.interpolate import RBFInterpolator
from scipy.optimize import least_squares

from zesty_grid.core.read.colour_space import Floats
from zesty_grid.core.read.found_page import FoundPage, Lens, Relief, apply_homography
from zesty_grid.core.read.picture import Picture
from zesty_grid.core.read.sheet_layout import GreySpot, RectMm, Sheet
from zesty_grid.core.refusal import Refusal

SEARCH_MM = 4.5
SEARCH_PX_PER_MM = 4.0
RIM_MM = 0.9
LIKE_A_GREY = 0.75
FEWEST_GREYS = 12
RELIEF_STEP_MM = 4.0
# Thin-plate splines bend so little for a millimetre: the noise of a found grey is a tenth of it.
SMOOTHING = 30.0
FOLDS = 6
ODD_MM = 1.2
SLIGHT_MM = 0.25
WORTHWHILE_SHARE = 0.7
MOST_LEFT_MM = 0.8
LEAST_K1, MOST_K1 = 0.004, 0.25


@dataclass(frozen=True)
class _Seen:
    """Greys found: where they are printed and how far off they are seen, (n, 2) in mm each."""

    at_mm: Floats
    off_mm: Floats


NOTHING_SEEN = _Seen(np.zeros((0, 2)), np.zeros((0, 2)))


def shape_of_page(picture: Picture, page: FoundPage, sheet: Sheet) -> FoundPage:
    """The page of a known sheet with its lens and relief, where it has any; raises Refusal where it
    is bent too far. A page without markers is what it is."""
    if not len(page.corners_mm):
        return page
    flat = _with_relief(picture, page, sheet)
    shaped, left_mm = flat
    bent = page if left_mm < SLIGHT_MM else fit_lens(picture, page)
    if bent.lens:
        curved = _with_relief(picture, bent, sheet)
        shaped, left_mm = min((curved, flat), key=lambda one: one[1])
    if left_mm > MOST_LEFT_MM:
        raise Refusal(
            "page-not-flat",
            f"The page is not flat, or a lens bends it: its print lies {2 * left_mm:.0f} mm from where it should.",
            "Lay the page flat, step back and zoom in, and take the photo again.",
        )
    return shaped


def fit_lens(picture: Picture, page: FoundPage) -> FoundPage:
    """The page seen through the lens that its markers ask for; as it was where they ask for none,
    or where it has no markers.

    Least squares of the corners' distances (Levenberg and Marquardt).
    """
    if not len(page.corners_mm):
        return page
    middle = ((picture.width - 1) / 2, (picture.height - 1) / 2)
    reach = float(np.hypot(*middle))

    def placed(values: Floats) -> tuple[Floats, Lens]:
        return np.append(values[:8], 1.0).reshape(3, 3), Lens(
            float(np.clip(values[8], -MOST_K1, MOST_K1)), middle, reach
        )

    def off(values: Floats) -> Floats:
        matrix, lens = placed(values)
        return np.asarray((lens.bend(apply_homography(matrix, page.corners_mm)) - page.corners_px).ravel())

    start = np.append((page.photo_from_page / page.photo_from_page[2, 2]).ravel()[:8], 0.0)
    scale = np.append(np.maximum(np.abs(start[:8]), 1e-6), 0.02)
    found = least_squares(off, start, method="lm", x_scale=scale).x
    without, left = (float(np.sqrt((off(values) ** 2).mean())) for values in (start, found))
    matrix, lens = placed(found)
    if abs(lens.k1) < LEAST_K1 or left > WORTHWHILE_SHARE * without:
        return page
    return replace(page, photo_from_page=matrix, lens=lens)


def _with_relief(picture: Picture, page: FoundPage, sheet: Sheet) -> tuple[FoundPage, float]:
    """The page with what its greys say of its shape, and how far greys that were left out are then
    seen from where they should be (root mean square, mm)."""
    seen = _without_odd(_find_greys(picture, page, sheet.greys)) if sheet.greys else NOTHING_SEEN
    if len(seen.at_mm) < FEWEST_GREYS:
        # Cloth may cover them: nothing is known against the page as the markers show it.
        return page, MOST_LEFT_MM
    as_is = _rms(seen.off_mm)
    if as_is < SLIGHT_MM or (left := _rms(_left_out(seen))) > WORTHWHILE_SHARE * as_is:
        return page, as_is
    spline = _spline(seen.at_mm, seen.off_mm)
    columns, rows = (int(side / RELIEF_STEP_MM) + 2 for side in sheet.page_mm)
    x, y = np.meshgrid(np.arange(columns) * RELIEF_STEP_MM, np.arange(rows) * RELIEF_STEP_MM)
    shift = spline(np.column_stack([x.ravel(), y.ravel()])).reshape(rows, columns, 2)
    return replace(page, relief=Relief(RELIEF_STEP_MM, shift)), left


def _find_greys(picture: Picture, page: FoundPage, greys: Sequence[GreySpot]) -> _Seen:
    """Each grey that is seen near where it should be: the best match of a dark field on light paper."""
    at, off = [], []
    (left, top), (right, foot) = _corners(greys)
    rect: RectMm = (left - SEARCH_MM, top - SEARCH_MM, right - left + 2 * SEARCH_MM, foot - top + 2 * SEARCH_MM)
    seen = cv2.cvtColor(page.crop(picture, rect, SEARCH_PX_PER_MM), cv2.COLOR_RGB2GRAY).astype(np.float32)
    origin = np.array(rect[:2])
    for spot in greys:
        x, y, w, h = spot.rect_mm
        drawn = _drawn(w, h)
        middle = np.array([x + w / 2, y + h / 2])
        size = np.array(drawn.shape[::-1])
        # The window in which it is looked for begins at a whole pixel.
        first = np.round((middle - origin - SEARCH_MM) * SEARCH_PX_PER_MM - size / 2).astype(int).clip(0)
        last = first + size + round(2 * SEARCH_MM * SEARCH_PX_PER_MM)
        found = cv2.matchTemplate(seen[first[1] : last[1], first[0] : last[0]], drawn, cv2.TM_CCOEFF_NORMED)
        _, likeness, _, (column, row) = cv2.minMaxLoc(found)
        if likeness < LIKE_A_GREY or not (0 < column < found.shape[1] - 1 and 0 < row < found.shape[0] - 1):
            continue
        fine = (column + _peak(found[row, column - 1 : column + 2]), row + _peak(found[row - 1 : row + 2, column]))
        at.append(middle)
        off.append((first + np.array(fine) + size / 2) / SEARCH_PX_PER_MM + origin - middle)
    return _Seen(np.array(at).reshape(-1, 2), np.array(off).reshape(-1, 2))


def _corners(greys: Sequence[GreySpot]) -> tuple[Floats, Floats]:
    """The corners of what holds all greys and the rim that is looked at with them."""
    rects = np.array([spot.rect_mm for spot in greys])
    return rects[:, :2].min(axis=0) - RIM_MM, (rects[:, :2] + rects[:, 2:]).max(axis=0) + RIM_MM


def _drawn(w_mm: float, h_mm: float) -> np.ndarray:
    """A grey with light paper round it, as it is looked for."""
    inner = [round(side * SEARCH_PX_PER_MM) for side in (h_mm, w_mm)]
    rim = round(RIM_MM * SEARCH_PX_PER_MM)
    return np.pad(np.zeros(inner, dtype=np.float32), rim, constant_values=1.0)


def _peak(three: NDArray[Any]) -> float:
    """Where a parabola through three values at −1, 0 and 1 is highest."""
    before, here, after = (float(value) for value in three)
    bend = before - 2 * here + after
    return float(np.clip(0.5 * (before - after) / bend, -0.5, 0.5)) if bend < 0 else 0.0


def _without_odd(seen: _Seen) -> _Seen:
    """Without what was taken for a grey and is none: far from where the others say that it lies."""
    kept = np.ones(len(seen.at_mm), dtype=bool)
    for _ in range(3):
        if kept.sum() < FEWEST_GREYS:
            break
        terms = _quadratic(seen.at_mm)
        coefficients = np.linalg.lstsq(terms[kept], seen.off_mm[kept], rcond=None)[0]
        left = np.linalg.norm(seen.off_mm - terms @ coefficients, axis=1)
        kept = left < max(ODD_MM, 3 * float(np.median(left)))
    return _Seen(seen.at_mm[kept], seen.off_mm[kept])


def _quadratic(at_mm: Floats) -> Floats:
    x, y = (at_mm - at_mm.mean(axis=0)).T / 100
    return np.stack([np.ones_like(x), x, y, x * y, x**2, y**2], axis=-1)


def _spline(at_mm: Floats, off_mm: Floats) -> RBFInterpolator:
    """Thin-plate spline (Duchon, 1977), smoothed."""
    return RBFInterpolator(at_mm, off_mm, kernel="thin_plate_spline", smoothing=SMOOTHING)


def _left_out(seen: _Seen) -> Floats:
    """How far each grey lies from where those of the other parts say, (n, 2)."""
    part = np.arange(len(seen.at_mm)) % FOLDS
    left = seen.off_mm.copy()
    for number in range(FOLDS):
        own = part == number
        left[own] -= _spline(seen.at_mm[~own], seen.off_mm[~own])(seen.at_mm[own])
    return left


def _rms(off_mm: Floats) -> float:
    return float(np.sqrt((off_mm**2).sum(axis=1).mean()))
