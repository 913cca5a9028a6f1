"""Finds and reads a chart in a photo that holds no sheet, at any angle."""

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray
from scipy.optimize import minimize

from zesty_grid import __version__
from zesty_grid.core.read.chart import Chart, patch24
from zesty_grid.core.read.chart_finder import find_chart, patch_window_points
from zesty_grid.core.read.chart_reader import check_chart, read_patches, seen_misfit
from zesty_grid.core.read.colour_space import Floats
from zesty_grid.core.read.correction import Correction, choose_correction
from zesty_grid.core.read.found_page import FoundPage, apply_homography
from zesty_grid.core.read.measure import describe_calibration, describe_patches, straighten
from zesty_grid.core.read.measurement import Calibration, Measurement, PatchMeasurement
from zesty_grid.core.read.picture import Picture, Pixels
from zesty_grid.core.read.sheet_layout import ChartSlot, RectMm, lay_out_sheet
from zesty_grid.core.refusal import Refusal

SEARCH_PX = 1400
EDGE_LEVELS = (10.0, 18.0, 30.0, 6.0)
MISFIT_DE00 = 9.0
CROP_PX_PER_MM = 6.0
MARGIN_MM = 4.0


@dataclass(frozen=True)
class EvenPlace:
    """The middle of an evenly coloured area, and the side of a square as large."""

    centre: Floats
    side_px: float


@dataclass(frozen=True)
class ChartInPhoto:
    """A chart found in a photo: the picture on the chart's scale of light, the correction that
    follows, where the patches lie, (n, 4, 2) in pixels, and their light, (n, 3)."""

    picture: Picture
    chart: Chart
    correction: Correction
    outlines_px: Floats
    patch_light: Floats

    @property
    def calibration(self) -> Calibration:
        return describe_calibration(
            self.correction, self.chart, self.picture.notes, self.picture.camera, self.patch_light
        )

    @property
    def patches(self) -> tuple[PatchMeasurement, ...]:
        return describe_patches(self.correction, self.chart, self.outlines_px)


def measure_chart(picture: Picture, chart: Chart | None = None) -> Measurement:
    """The chart's patches as measured; raises Refusal where no chart can be found or used."""
    found = chart_in_photo(picture, chart or patch24())
    return Measurement(
        software_version=__version__,
        photo_size_px=(picture.width, picture.height),
        calibration=found.calibration,
        patches=found.patches,
    )


def chart_in_photo(picture: Picture, chart: Chart) -> ChartInPhoto:
    """Raises Refusal where no chart can be found or used."""
    photo_from_page = _find_card(picture, chart)
    page = FoundPage(photo_from_page, CROP_PX_PER_MM, 0.0)
    slot = _slot_of(chart)
    x, y, w, h = slot.rect_mm
    rect: RectMm = (x - MARGIN_MM, y - MARGIN_MM, w + 2 * MARGIN_MM, h + 2 * MARGIN_MM)
    crop = page.crop(picture, rect, CROP_PX_PER_MM)
    origin_mm = np.array(rect[:2])
    log_light = np.log(picture.linear(crop).astype(float) + 1e-3)
    place = find_chart(log_light, origin_mm, CROP_PX_PER_MM, slot)
    readings = read_patches(picture, crop, origin_mm, CROP_PX_PER_MM, slot, place)
    used = check_chart(readings, readings.linear, chart)
    straight = straighten(picture, readings.linear, used, chart)
    readings = read_patches(straight, crop, origin_mm, CROP_PX_PER_MM, slot, place)
    evened = _even_light(readings.linear, used, chart)
    correction = choose_correction(evened, chart, used, already_linear=picture.raw)
    outlines = patch_window_points(slot, place, per_side=2)[:, [0, 1, 3, 2]]
    outlines_px = page.to_photo(outlines.reshape(-1, 2)).reshape(-1, 4, 2)
    return ChartInPhoto(straight, chart, correction, outlines_px, evened)


def _slot_of(chart: Chart) -> ChartSlot:
    """Millimetres on the card itself, as if it lay in a sheet's slot."""
    return lay_out_sheet("chart-alone", 1, chart=chart).chart


def _even_light(patch_linear: Floats, used: tuple[int, ...], chart: Chart) -> Floats:
    """Patch light without the slope and falloff of the light that fit the chart best.

    There is no paper to see the light on: three terms in log light are fitted on the chart itself.
    """
    row, column = np.divmod(np.arange(len(chart.patches)), chart.columns)
    x, y = column / (chart.columns - 1) - 0.5, row / (chart.columns - 1) - 0.3
    terms = np.stack([x, y, x**2 + y**2], axis=-1)

    def misfit(slopes: Floats) -> float:
        evened = patch_linear / np.exp(terms @ slopes)[:, None]
        return seen_misfit(evened, used, chart) + 0.5 * float(np.abs(slopes).sum())

    slopes = minimize(misfit, np.zeros(3), method="Powell", options={"maxfev": 200}).x
    evened: Floats = patch_linear / np.exp(terms @ slopes)[:, None]
    return evened


def _find_card(picture: Picture, chart: Chart) -> Floats:
    """Photo pixels from page millimetres, as if the card lay exactly in the sheet's slot."""
    scale = min(1.0, SEARCH_PX / max(picture.width, picture.height))
    small: Pixels = cv2.resize(  # type: ignore[assignment]
        picture.pixels, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA
    )
    linear = picture.linear(small)
    best: tuple[float, Floats] | None = None
    for level in EDGE_LEVELS:
        found = _card_at_level(linear, level, chart)
        if found and (best is None or found[0] < best[0]):
            best = found
        if best and best[0] < MISFIT_DE00 / 2:
            break
    if best is None or best[0] > MISFIT_DE00:
        raise Refusal(
            "chart-missing",
            f"No {chart.label} was found in this photo.",
            "Let the chart fill a third of the picture, flat, sharp and free of reflections.",
        )
    half_pixel = np.array([[1 / scale, 0, 0.5 / scale - 0.5], [0, 1 / scale, 0.5 / scale - 0.5], [0, 0, 1]])
    result: Floats = half_pixel @ best[1]
    return result


def _card_at_level(linear: NDArray[np.float32], level: float, chart: Chart) -> tuple[float, Floats] | None:
    """Misfit and small-picture pixels from page mm, with edges stronger than `level`."""
    blobs = even_places(linear, level)
    best: tuple[float, Floats] | None = None
    tried: set[int] = set()
    for seed in range(len(blobs)):
        if seed in tried:
            continue
        lattice = _grow_lattice(blobs, seed)
        tried |= set(lattice)
        if len(lattice) < len(chart.patches) / 2:
            continue
        found = _best_window(linear, blobs, lattice, chart)
        if found and (best is None or found[0] < best[0]):
            best = found
    return best


def even_places(linear: NDArray[np.float32], level: float) -> list[EvenPlace]:
    """Evenly coloured, nearly rectangular areas."""
    encoded = (255 * np.cbrt(np.clip(linear, 0, 1))).astype(np.float32)
    smooth = cv2.GaussianBlur(encoded, (0, 0), 1.2)
    slope_x, slope_y = cv2.Sobel(smooth, cv2.CV_32F, 1, 0), cv2.Sobel(smooth, cv2.CV_32F, 0, 1)
    slope = np.hypot(slope_x, slope_y).max(axis=-1) / 4
    calm = (slope < level / 3).astype(np.uint8)
    count, labels, stats, centres = cv2.connectedComponentsWithStats(calm, connectivity=4)
    whole = calm.size
    blobs = []
    for i in range(1, count):
        x, y, w, h, area = (int(v) for v in stats[i])
        if not 0.0001 * whole < area < 0.03 * whole or max(w, h) > 4 * min(w, h):
            continue
        part = (labels[y : y + h, x : x + w] == i).astype(np.uint8)
        contours, _ = cv2.findContours(part, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
        box_w, box_h = cv2.minAreaRect(max(contours, key=cv2.contourArea))[1]
        if min(box_w, box_h) > 0.5 * max(box_w, box_h) and area > 0.75 * box_w * box_h:
            blobs.append(EvenPlace(np.array(centres[i], dtype=float), float(np.sqrt(box_w * box_h))))
    return blobs


def _grow_lattice(blobs: list[EvenPlace], seed: int) -> dict[int, tuple[int, int]]:
    """Blob index to (column, row) counted from the seed, along its two nearest directions."""
    centres = np.array([blob.centre for blob in blobs])
    sides = np.array([blob.side_px for blob in blobs])
    alike = (sides > 0.6 * sides[seed]) & (sides < 1.6 * sides[seed])
    offsets = centres - centres[seed]
    distance = np.hypot(*offsets.T)
    near = np.flatnonzero(alike & (distance > 0) & (distance < 2.2 * sides[seed]))
    if len(near) < 2:
        return {seed: (0, 0)}
    near = near[np.argsort(distance[near])]
    along = offsets[near[0]]
    across = None
    for other in near[1:]:
        cross = along[0] * offsets[other][1] - along[1] * offsets[other][0]
        if abs(cross) > 0.75 * distance[near[0]] * distance[other]:
            across = offsets[other] * np.sign(cross)
            break
    if across is None:
        return {seed: (0, 0)}
    lattice = {seed: (0, 0)}
    steps = {seed: (along, across)}
    queue = [seed]
    while queue:
        here = queue.pop(0)
        for column, row in ((1, 0), (-1, 0), (0, 1), (0, -1)):
            step = column * steps[here][0] + row * steps[here][1]
            gap = np.hypot(*(centres - centres[here] - step).T)
            gap[~alike] = np.inf
            there = int(np.argmin(gap))
            if there in lattice or gap[there] > 0.3 * np.hypot(*step):
                continue
            lattice[there] = (lattice[here][0] + column, lattice[here][1] + row)
            seen = (centres[there] - centres[here]) * (column + row)
            steps[there] = (seen, steps[here][1]) if column else (steps[here][0], seen)
            queue.append(there)
    return lattice


def _best_window(
    linear: NDArray[np.float32], blobs: list[EvenPlace], lattice: dict[int, tuple[int, int]], chart: Chart
) -> tuple[float, Floats] | None:
    """The placement of the chart's window on the lattice whose colours fit it best."""
    centres = np.array([blobs[i].centre for i in lattice])
    place = np.array(list(lattice.values()), dtype=float)
    matrix, kept = cv2.findHomography(place, centres, cv2.RANSAC, 4.0)
    if matrix is None or kept.sum() < len(chart.patches) / 2:
        return None
    place = place[np.ravel(kept) > 0]
    slot = _slot_of(chart)
    page_mm = np.array([patch.centre_mm for patch in slot.patches], dtype=float)
    index = np.array([divmod(i, chart.columns)[::-1] for i in range(len(chart.patches))], dtype=float)
    best: tuple[float, Floats] | None = None
    for quarter in range(4):
        cos, sin = ((1, 0), (0, 1), (-1, 0), (0, -1))[quarter]
        turn = np.array([[cos, -sin], [sin, cos]], dtype=float)
        turned = place @ turn.T
        low, high = turned.min(axis=0), turned.max(axis=0)
        slack = np.array([chart.columns, chart.rows]) - 1 - (high - low)
        for dx in range(int(slack[0]) + 1):
            for dy in range(int(slack[1]) + 1):
                corner = low - [dx, dy]
                seen = apply_homography(np.asarray(matrix, float), (index + corner) @ turn)
                misfit = _misfit(linear, seen, chart)
                if misfit is not None and (best is None or misfit < best[0]):
                    photo_from_page, _ = cv2.findHomography(page_mm, seen)
                    best = (misfit, np.asarray(photo_from_page, dtype=float))
    return best


def _misfit(linear: NDArray[np.float32], seen_px: Floats, chart: Chart) -> float | None:
    column, row = np.round(seen_px).astype(int).T
    height, width = linear.shape[:2]
    if (column < 3).any() or (row < 3).any() or (column > width - 4).any() or (row > height - 4).any():
        return None
    patches = np.array(
        [linear[r - 2 : r + 3, c - 2 : c + 3].mean(axis=(0, 1)) for c, r in zip(column, row, strict=True)]
    )
    return seen_misfit(patches.astype(float), tuple(range(len(chart.patches))), chart)
