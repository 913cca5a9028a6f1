"""Looks for a strip in a photo that holds a chart: even colours in a row, as many as the strip has pads."""

import itertools

import cv2
import numpy as np

from zesty_grid.core.read.chart_alone import SEARCH_PX, ChartInPhoto, EvenPlace, even_places
from zesty_grid.core.read.colour_space import Floats
from zesty_grid.core.read.picture import Pixels

# What pads are on strips of all makes (common practice: 4 to 8 mm), with room for a photo's slant.
PAD_MM = (2.5, 15.0)
STEP_IN_SIDES = (0.9, 3.0)
OFF_THE_ROW = 0.2
EDGE_LEVELS = (10.0, 22.0)


def rows_of_pads(found: ChartInPhoto, count: int) -> list[Floats]:
    """Middles of what may be a strip's pads, from one end to the other, each (count, 2) in pixels; each
    row in both directions."""
    scale = min(1.0, SEARCH_PX / max(found.picture.width, found.picture.height))
    small: Pixels = cv2.resize(  # type: ignore[assignment]
        found.picture.pixels, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA
    )
    linear = found.picture.linear(small)
    side_px = _px_per_mm(found) * scale * np.array(PAD_MM)
    rows: list[Floats] = []
    for level in EDGE_LEVELS:
        places = [
            one
            for one in even_places(linear, level)
            if side_px[0] <= one.side_px <= side_px[1] and not _on_chart(found, one.centre / scale)
        ]
        rows += _rows(places, count)
    return [(row + 0.5) / scale - 0.5 for row in rows]


def _rows(places: list[EvenPlace], count: int) -> list[Floats]:
    if count == 1:
        return [one.centre[None] for one in places]
    centres = np.array([one.centre for one in places]).reshape(-1, 2)
    rows = []
    for first, second in itertools.permutations(range(len(places)), 2):
        side = min(places[first].side_px, places[second].side_px)
        step = centres[second] - centres[first]
        length = float(np.hypot(*step))
        if not STEP_IN_SIDES[0] * side <= length <= STEP_IN_SIDES[1] * side:
            continue
        row = [first, second]
        while len(row) < count:
            off = np.hypot(*(centres - centres[row[-1]] - step).T)
            nearest = int(np.argmin(off))
            if off[nearest] > OFF_THE_ROW * length or nearest in row:
                break
            row.append(nearest)
        if len(row) == count:
            rows.append(centres[row])
    return rows


def _px_per_mm(found: ChartInPhoto) -> float:
    middles = found.outlines_px.mean(axis=1)
    pitch_px = float(np.hypot(*(middles[1] - middles[0])))
    return pitch_px / found.chart.pitch_mm[0]


def _on_chart(found: ChartInPhoto, at_px: Floats) -> bool:
    hull = cv2.convexHull(found.outlines_px.reshape(-1, 1, 2).astype(np.float32))
    return cv2.pointPolygonTest(hull, (float(at_px[0]), float(at_px[1])), False) >= 0
