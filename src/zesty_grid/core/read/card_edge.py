"""How far a chart's card really reaches: its frame may be wider than the slot that is printed for it."""

import numpy as np

from zesty_grid.core.read.chart_finder import ChartPlace, place_points, slot_centre_mm
from zesty_grid.core.read.colour_space import Floats
from zesty_grid.core.read.light_field import printed_or_covered, words_under_slot
from zesty_grid.core.read.local_light import outside_mm
from zesty_grid.core.read.sheet_layout import RectMm, Sheet, corners_of

FURTHEST_MM, INNERMOST_MM, STEP_MM = 12.0, -2.5, 0.25
# The ends of a side are rounded, and what lies there belongs to the next.
SIDE_SHARE = 0.86
POINTS_ALONG = 70
FEWEST_OPEN = 12
# So much further the corners of a card reach that lies turned and off its slot.
TURNED_MM = 10.0
PRINT_MARGIN_MM, PAGE_EDGE_MM = 0.5, 3.0
# A step is told from what lies so close on both sides, and as far again beyond.
CLOSE_MM = 0.875
ODD_LOG = 0.15
LEAST_STEP = 0.02
# The edge of a card is sharp; that of a shadow is not.
STEEPEST_SHARE = 0.8


def beyond_slot_mm(
    log_light: Floats, origin_mm: Floats, px_per_mm: float, sheet: Sheet, place: ChartPlace, blur_mm: float
) -> tuple[float, float, float, float]:
    """How far the card reaches beyond its slot, left, top, right and below, in mm along the card.

    `log_light` (height, width) is the logarithm of the light around the slot, its top left corner
    at `origin_mm`. The outermost sharp step of the light along each side is the card's edge; 0
    where there is none. What is printed beside the card does not count.
    """
    slot = sheet.chart
    x0, y0, w, h = slot.rect_mm
    x1, y1 = x0 + w, y0 + h
    away = np.arange(INNERMOST_MM, FURTHEST_MM, STEP_MM)
    share = (np.linspace(-1, 1, POINTS_ALONG) * SIDE_SHARE + 1) / 2
    along_x, along_y = x0 + share * (x1 - x0), y0 + share * (y1 - y0)
    sides = (
        [(x0 - d, along_y) for d in away],
        [(along_x, y0 - d) for d in away],
        [(x1 + d, along_y) for d in away],
        [(along_x, y1 + d) for d in away],
    )
    near = FURTHEST_MM + TURNED_MM
    every = [rect for rect, _ in (*printed_or_covered(sheet), *words_under_slot(sheet))]
    printed = [rect for rect in every if outside_mm(np.array(corners_of(rect)), slot.rect_mm).min() < near]
    found = []
    for side in sides:
        line = np.array([np.column_stack(np.broadcast_arrays(x, y)) for x, y in side])
        at_mm = place_points(place, line.reshape(-1, 2), slot_centre_mm(slot)).reshape(line.shape)
        found.append(_outermost_step(_values(log_light, origin_mm, px_per_mm, at_mm, printed), away, blur_mm))
    left, top, right, below = found
    return left, top, right, below


def _values(log_light: Floats, origin_mm: Floats, px_per_mm: float, at_mm: Floats, printed: list[RectMm]) -> Floats:
    """Light at points (distances, points along, 2); NaN off the page, off the crop and on print."""
    index = np.floor((at_mm - origin_mm) * px_per_mm).astype(int)
    height, width = log_light.shape
    is_open = (index >= 0).all(axis=-1) & (index[..., 0] < width) & (index[..., 1] < height)
    is_open &= (at_mm > PAGE_EDGE_MM).all(axis=-1)
    for x, y, w, h in printed:
        off = at_mm - np.array([x, y])
        within = (off > -PRINT_MARGIN_MM) & (off < np.array([w, h]) + PRINT_MARGIN_MM)
        is_open &= ~within.all(axis=-1)
    row, column = np.clip(index[..., 1], 0, height - 1), np.clip(index[..., 0], 0, width - 1)
    return np.where(is_open, log_light[row, column], np.nan)


def _outermost_step(values: Floats, away_mm: Floats, blur_mm: float) -> float:
    """The furthest distance at which the light steps, more than lines on both sides foretell.

    Each point along the side is compared with itself, so that light which changes along it does not
    matter; `values` is (distances, points along).
    """
    half = 0.4 + blur_mm / 2
    steps = np.zeros(len(away_mm))
    for i, centre in enumerate(away_mm):
        near_in, near_out = (_mean_within(values, side * (away_mm - centre) - half, 0) for side in (-1, 1))
        near = near_in - near_out
        seen = ~np.isnan(near)
        if seen.sum() < FEWEST_OPEN or abs(near[seen].mean()) < LEAST_STEP / 2:
            continue
        far_in, far_out = (_mean_within(values, side * (away_mm - centre) - half, CLOSE_MM) for side in (-1, 1))
        onward = (half + CLOSE_MM / 2) / CLOSE_MM
        foretold = near + onward * ((near_in - far_in) - (near_out - far_out))
        seen &= ~np.isnan(foretold)
        if seen.sum() < FEWEST_OPEN:
            continue
        close, whole, step = (_usual(one[seen]) for one in (near, far_in - far_out, foretold))
        if abs(close) > STEEPEST_SHARE * abs(whole):
            steps[i] = min(abs(step), abs(close))
    found = np.flatnonzero(steps > LEAST_STEP)
    if not len(found):
        return 0.0
    around = slice(max(0, found[-1] - round(2 * half / STEP_MM)), found[-1] + 1)
    return float(away_mm[around][np.argmax(steps[around])])


def _mean_within(values: Floats, off_mm: Floats, low_mm: float) -> Floats:
    """Mean of the values within a millimetre from `low_mm` on, point by point."""
    within = (off_mm > low_mm) & (off_mm <= low_mm + CLOSE_MM)
    if not within.any():
        return np.full(values.shape[1], np.nan)
    return np.asarray(values[within].mean(axis=0))


def _usual(values: Floats) -> float:
    """The mean of what lies near the median: a photo's codes are too coarse for a median alone."""
    near = np.abs(values - np.median(values)) < ODD_LOG
    return float(values[near].mean() if near.any() else np.median(values))
