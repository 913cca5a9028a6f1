"""Uneven light over the page, seen on its blank paper and divided out."""

import math
from collections.abc import Iterable
from dataclasses import dataclass
from functools import cached_property

import cv2
import numpy as np
from numpy.typing import NDArray

from zesty_grid.core.read.colour_space import Floats
from zesty_grid.core.read.found_page import FoundPage
from zesty_grid.core.read.picture import Luminances, Picture
from zesty_grid.core.read.sheet_layout import RectMm, Sheet
from zesty_grid.core.refusal import Refusal

Mask = NDArray[np.bool_]

OVERVIEW_PX_PER_MM = 3.2
TILE_MM = 1.25
CELL_MARGIN_MM = 1.4
# The card may lie 3 mm and 3° off its slot.
CARD_MARGIN_MM = 6.0
MOST_SAMPLES = 2500
PAGE_EDGE_MM = 6.0
# How far under the slot the words of the former print begin, and how high they are.
FORMER_WORDS_MM = (2.8, 4.2)
DARKEST_TILE = 1e-4
DEGREE = 4
CLIPPED_PAPER_SHARE = 0.05


@dataclass(frozen=True)
class PaperSamples:
    """Blank paper: positions in mm (n, 2) and mean linear light (n, 3).

    `in_slot`: those where the card may lie; `open_paper` leaves them out.
    """

    at_mm: Floats
    linear: Floats
    in_slot: Mask

    @cached_property
    def is_lit(self) -> Mask:
        return np.asarray(self.linear.min(axis=1) > DARKEST_TILE)

    @cached_property
    def open_paper(self) -> "PaperSamples":
        return PaperSamples(self.at_mm[~self.in_slot], self.linear[~self.in_slot], self.in_slot[~self.in_slot])


@dataclass(frozen=True)
class LightField:
    """Paper brightness over the page, per channel: exp of a polynomial in the page position."""

    coefficients: Floats
    page_mm: tuple[float, float]
    residual_ratio: float
    evenness_ratio: float

    def at(self, points_mm: Floats) -> Floats:
        """Linear light that blank paper would send from each point; (n, 2) to (n, 3)."""
        light: Floats = np.exp(_terms(points_mm, self.page_mm) @ self.coefficients)
        return light


def sample_paper(picture: Picture, page: FoundPage, sheet: Sheet, card_mm: Floats | None = None) -> PaperSamples:
    """Mean light of small windows between markers, slot and cells; print is left out, and what lies
    on the card, (4, 2), where its place is known."""
    scale = min(OVERVIEW_PX_PER_MM, page.px_per_mm)
    width, height = sheet.page_mm
    overview = page.crop(picture, (0, 0, width, height), scale)
    step = max(3, round(TILE_MM * scale))
    rows, columns = overview.shape[0] // step, overview.shape[1] // step
    overview = overview[: rows * step, : columns * step]
    linear = picture.linear(overview)

    def by_tile(values: Luminances) -> Floats:
        # Shrinking by a whole factor over areas is the mean of each tile.
        return cv2.resize(values, (columns, rows), interpolation=cv2.INTER_AREA).astype(float)

    mean = by_tile(linear)
    green = np.ascontiguousarray(linear[..., 1])
    spread = np.sqrt(np.maximum(by_tile(green * green) - by_tile(green) ** 2, 0))
    y, x = np.mgrid[:rows, :columns]
    at_mm = (np.stack([x, y], axis=-1) + 0.5) * step / scale
    tile_mm = step / scale
    in_slot = _taken((rows, columns), [(sheet.chart.rect_mm, CARD_MARGIN_MM)], tile_mm)
    edge: RectMm = (0, 0, width, height)
    blank = _taken((rows, columns), [(edge, -PAGE_EDGE_MM)], tile_mm) & ~in_slot
    blank &= ~_taken((rows, columns), printed_or_covered(sheet), tile_mm)
    brightest = np.maximum(np.maximum(overview[..., 0], overview[..., 1]), overview[..., 2])
    clipped = by_tile((brightest >= picture.top_code).astype(np.float32))
    if (clipped[blank] > 0.1).mean() > CLIPPED_PAPER_SHARE:
        raise Refusal(
            "clipped",
            f"The white paper is clipped over {(clipped[blank] > 0.1).mean():.0%} of the sheet.",
            "Lower the exposure and take the photo again.",
        )
    blank &= clipped < 0.1
    relative = spread / np.maximum(mean[..., 1], 1e-6)
    blank &= relative < max(0.03, 2 * float(np.median(relative[blank])))
    words = _taken((rows, columns), words_under_slot(sheet), tile_mm)
    blank |= in_slot & ~words & (clipped < 0.1)
    if card_mm is not None:
        on_card = np.zeros((rows, columns), dtype=np.uint8)
        outline = np.round(card_mm / tile_mm * 16 - 8).astype(np.int32)
        # Tiles beside it are partly covered.
        covered = cv2.dilate(cv2.fillConvexPoly(on_card, outline, 1, shift=4), np.ones((3, 3), np.uint8))
        blank &= covered == 0
    return PaperSamples(at_mm[blank], mean[blank], in_slot[blank])


def fit_light_field(samples: PaperSamples, page_mm: tuple[float, float]) -> LightField:
    """Robust least squares of log light (Tukey's biweight); raises Refusal with too little paper.

    `residual_ratio` is the relative scatter of paper around the fit, `evenness_ratio` the darkest
    over the brightest fitted light.
    """
    samples = samples.open_paper
    if len(samples.at_mm) > MOST_SAMPLES:
        every = slice(None, None, len(samples.at_mm) // MOST_SAMPLES)
        samples = PaperSamples(samples.at_mm[every], samples.linear[every], samples.in_slot[every])
    bright = samples.is_lit
    if bright.sum() < 60:
        raise Refusal(
            "no-paper",
            "Too little blank paper can be seen to judge how even the light is.",
            "Clear the space between the cells, and give the photo more light.",
        )
    terms = _terms(samples.at_mm[bright], page_mm)
    target = np.log(samples.linear[bright])
    weights = np.ones(len(terms))
    # Print and shadows only darken: start from the brighter half of the paper.
    weights[target[:, 1] < np.median(target[:, 1]) - 0.5] = 0
    for _ in range(8):
        weighted = terms * weights[:, None]
        coefficients: Floats = np.asarray(np.linalg.solve(weighted.T @ terms, weighted.T @ target), dtype=float)
        residual = np.abs(target - terms @ coefficients).max(axis=1)
        scale = 1.4826 * float(np.median(residual[weights > 0])) + 1e-4
        weights = np.clip(1 - (residual / (4.685 * scale)) ** 2, 0, 1) ** 2
    kept = weights > 0
    scatter = (target - terms @ coefficients)[kept, 1]
    light = np.exp(terms @ coefficients)[:, 1]
    return LightField(
        coefficients, page_mm, residual_ratio=float(scatter.std()), evenness_ratio=float(light.min() / light.max())
    )


def _terms(points_mm: Floats, page_mm: tuple[float, float]) -> Floats:
    x, y = (np.vander(2 * points_mm[:, i] / page_mm[0] - 1, DEGREE + 1, increasing=True) for i in range(2))
    terms: Floats = np.hstack([x[:, i, None] * y[:, : DEGREE + 1 - i] for i in range(DEGREE + 1)])
    return terms


def _taken(shape: tuple[int, ...], rects: Iterable[tuple[RectMm, float]], tile_mm: float) -> Mask:
    """Tiles of the page, (rows, columns), whose middles lie within some rectangles and their
    margins."""
    taken = np.zeros(shape, dtype=bool)
    for (left, top, w, h), margin in rects:
        first_column, first_row = (max(0, math.ceil((low - margin) / tile_mm - 0.5)) for low in (left, top))
        last_column, last_row = (
            max(0, math.floor((high + margin) / tile_mm - 0.5) + 1) for high in (left + w, top + h)
        )
        taken[first_row:last_row, first_column:last_column] = True
    return taken


def words_under_slot(sheet: Sheet) -> list[tuple[RectMm, float]]:
    """Pages of the former print, which have no greys, say under the slot what belongs there."""
    if sheet.greys:
        return []
    x, y, w, h = sheet.chart.rect_mm
    return [((x, y + h + FORMER_WORDS_MM[0], w, FORMER_WORDS_MM[1]), TILE_MM)]


def printed_or_covered(sheet: Sheet) -> list[tuple[RectMm, float]]:
    """Where something is printed or is to lie, each with its margin; the chart's slot aside."""
    taken = [(cell.rect_mm, CELL_MARGIN_MM) for cell in sheet.cells]
    taken += [(spot.rect_mm, TILE_MM) for spot in sheet.greys]
    if sheet.pattern:
        taken += [(rect, TILE_MM) for rect in sheet.pattern.reference_mm]
    for marker in sheet.markers:
        (x0, y0), (x1, y1) = marker.corners_mm[0], marker.corners_mm[2]
        taken.append(((x0, y0, x1 - x0, y1 - y0), 2.0))
    return taken
