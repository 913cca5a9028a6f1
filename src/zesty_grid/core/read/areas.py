"""Colours of areas that are drawn by hand on a photo that holds a chart and no sheet.

There is no paper to see the light by: an area is taken to be lit as the chart is, and the further
away it lies, the less sure that is.
"""

from collections.abc import Iterable

import cv2
import numpy as np

from zesty_grid import __version__
from zesty_grid.core.read.by_hand import check_cells, filled
from zesty_grid.core.read.cell_reader import BEYOND_CHART_LEVERAGE, CLIPPED_REFUSED_SHARE, CLIPPED_SHARE
from zesty_grid.core.read.chart_alone import ChartInPhoto, chart_in_photo
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import Floats, lab_to_hex
from zesty_grid.core.read.colour_words import colour_words
from zesty_grid.core.read.measurement import CellMeasurement, Measurement
from zesty_grid.core.read.picture import Picture, Pixels
from zesty_grid.core.read.said_by_hand import CellByHand
from zesty_grid.core.read.sheet_layout import Sheet
from zesty_grid.core.read.uncertainty import uncertainty_parts
from zesty_grid.core.refusal import Refusal

FEWEST_PX = 100
BLOCKS = 24
# Light of a room that is called even changes by some per cent over a chart's width (common
# practice: a tenth over a table top).
UNSEEN_LIGHT_RATIO = 0.03
UNSEEN_LIGHT_PER_CHART = 0.03


def measure_areas(picture: Picture, sheet: Sheet, by_hand: Iterable[CellByHand] = ()) -> Measurement:
    """Each cell is what was drawn for it, the others are empty; raises Refusal where the chart
    cannot be found or an area is too small."""
    said = check_cells(by_hand, (cell.cell for cell in sheet.cells))
    found = chart_in_photo(picture, sheet.chart.chart)
    cells = tuple(measure_area(found, said[cell.cell]) for cell in sheet.cells if cell.cell in said)
    return Measurement(
        software_version=__version__,
        by_hand=tuple(said.values()),
        sheet_id=sheet.id,
        photo_size_px=(picture.width, picture.height),
        calibration=found.calibration,
        cells=cells,
        patches=found.patches,
    )


def measure_area(found: ChartInPhoto, said: CellByHand) -> CellMeasurement:
    """What is drawn for one cell; raises Refusal where it is too small."""
    if said.empty or not said.areas:
        return CellMeasurement(cell=said.cell, status="empty", flags=("empty",))
    outlines = [np.array(area.outline_px) for area in said.areas]
    codes: Pixels = _codes_within(found.picture, outlines, [np.array(out) for out in said.left_out])
    drawn = said.areas[0].outline_px
    clipped = float((codes.max(axis=1) >= found.picture.top_code).mean())
    flags = ("clipped",) if clipped > CLIPPED_SHARE else ()
    if clipped > CLIPPED_REFUSED_SHARE:
        return CellMeasurement(cell=said.cell, status="refused", flags=flags, outline_px=drawn)
    light = found.picture.linear(codes[None])[0].astype(float)
    # Parts of the area one after the other, row by row, as a simple look at how even it is.
    blocks = np.array([part.mean(axis=0) for part in np.array_split(light, BLOCKS)])
    mean = light.mean(axis=0)
    correction = found.correction
    labs = correction.lab(np.vstack([mean, blocks]))
    lab = labs[0]
    levelness = float(delta_e_2000(labs[1:], np.broadcast_to(lab, blocks.shape)).mean())
    leverage = correction.leverage(mean)
    parts = uncertainty_parts(
        lab,
        found.chart.lab[list(correction.used)],
        correction.unseen_de00,
        residual_ratio=_unseen_light(found, np.vstack(outlines).mean(axis=0)),
        levelness_de00=levelness,
        block_count=BLOCKS,
        leverage=leverage,
        disagreement_de00=correction.disagreement_de00(mean, lab),
    )
    if leverage > BEYOND_CHART_LEVERAGE:
        flags = (*flags, "beyond the chart")
    return CellMeasurement(
        cell=said.cell,
        status="measured",
        lab=(float(lab[0]), float(lab[1]), float(lab[2])),
        hex=lab_to_hex(lab),
        colour_words=colour_words(lab),
        levelness_de00=levelness,
        uncertainty_de00=parts.combined_de00,
        parts=parts,
        flags=(*flags, "light not seen"),
        outline_px=drawn,
    )


def _codes_within(picture: Picture, outlines: list[Floats], left_out: list[Floats]) -> Pixels:
    """The pixels of the areas, (n, 3); raises Refusal where there are too few."""
    corners = np.vstack(outlines)
    low = np.clip(np.floor(corners.min(axis=0)).astype(int), 0, None)
    high = np.clip(np.ceil(corners.max(axis=0)).astype(int) + 1, 0, [picture.width, picture.height])
    crop = picture.pixels[low[1] : high[1], low[0] : high[0]]
    if crop.size == 0:
        inside = np.zeros((0, 0), dtype=bool)
    else:
        inside = filled([outline - low for outline in outlines], crop.shape[:2]) > 0
        inside &= filled([outline - low for outline in left_out], crop.shape[:2]) == 0
        # The drawn edge is never quite right.
        rim = max(1, round(0.03 * min(crop.shape[:2])))
        shrunk = cv2.erode(inside.astype(np.uint8), np.ones((2 * rim + 1, 2 * rim + 1))) > 0
        inside = shrunk if shrunk.sum() >= FEWEST_PX else inside
    if inside.sum() < FEWEST_PX:
        raise Refusal(
            "area-too-small",
            "What was drawn is too small to be measured.",
            "Draw a larger area, or take the photo from closer.",
        )
    return crop[inside]


def _unseen_light(found: ChartInPhoto, at_px: Floats) -> float:
    """How far the light there may be from the chart's, as a share of it."""
    corners = found.outlines_px.reshape(-1, 2)
    away = float(np.hypot(*(at_px - corners.mean(axis=0))))
    width = float(np.hypot(*np.ptp(corners, axis=0)))
    return UNSEEN_LIGHT_RATIO + UNSEEN_LIGHT_PER_CHART * away / width
