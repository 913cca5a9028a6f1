"""A cell of the sheet cut from the photo, evenly lit, with the cloth in it found."""

from collections.abc import Iterable
from dataclasses import dataclass, replace

import cv2
import numpy as np
from numpy.typing import NDArray

from zesty_grid.core.read.by_hand import drawn_cloth, filled
from zesty_grid.core.read.cloth_finder import RAVEL_MM, FoundCloth, Mask, find_cloth, find_cloth_on_dots, whole_cell
from zesty_grid.core.read.colour_space import Floats, brightness_of
from zesty_grid.core.read.correction import Correction
from zesty_grid.core.read.dot_pattern import DotsSeen, OpenDots, open_ring, see_dots
from zesty_grid.core.read.found_page import FoundPage
from zesty_grid.core.read.light_field import LightField, PaperSamples
from zesty_grid.core.read.local_light import LocalLight, Ring, fit_local_light, paper_around
from zesty_grid.core.read.picture import Picture, Pixels
from zesty_grid.core.read.printed_greys import UNTOLD, Contrast, GreyReadings
from zesty_grid.core.read.said_by_hand import Area, CellByHand, PointPx
from zesty_grid.core.read.sheet_layout import RectMm, SheetCell
from zesty_grid.core.refusal import Refusal

FULL_PX_PER_MM = 6.0
SEARCH_PX_PER_MM = 3.0
MARGIN_MM = 2.0
GREYS_REACH_MM = 10.0
EDGE_BAND_MM = 0.5
OVERHANG_MM = 4.0


@dataclass(frozen=True)
class Calibrated:
    """All that a cell needs to be measured in one photo.

    `page_doubt_de00`: what the looks at page and chart leave in doubt for every colour;
    `cut_out`: the cell is a window in the page.

    `chart_light`: the light on the chart, by channel, over that of the light field there;
    `chart_contrast`: how brightness was rendered around the chart (`printed_greys`).
    """

    picture: Picture
    page: FoundPage
    samples: PaperSamples
    light: LightField
    chart_colour: Floats
    greys: GreyReadings | None
    chart_contrast: Contrast
    dots: OpenDots | None
    correction: Correction
    patch_reference_lab: Floats
    page_doubt_de00: float = 0.0
    cut_out: bool = False


@dataclass(frozen=True)
class CellPlace:
    """How the place differs from where the chart lies: the light there, and what takes its
    rendering to that of the chart."""

    local: LocalLight
    contrast: Contrast
    other_light_ratio: float


@dataclass(frozen=True)
class CellView:
    """A cell cut from the photo: `codes` and `evened` (light over that of paper) at `px_per_mm`,
    `reduced` and the cloth in it at the scale of the search."""

    cell: SheetCell
    origin_mm: tuple[float, float]
    px_per_mm: float
    codes: Pixels
    evened: Floats
    reduced: Floats
    cloth: FoundCloth
    dots_seen: DotsSeen | None
    place: CellPlace
    areas: NDArray[np.int32] | None = None


def view_cell(photo: Calibrated, cell: SheetCell, by_hand: CellByHand | None = None) -> CellView | None:
    """The cell with the cloth found and the light on it known; None where there is no cloth."""
    if by_hand and by_hand.empty:
        return None
    x, y, w, h = cell.rect_mm
    rect: RectMm = (x - MARGIN_MM, y - MARGIN_MM, w + 2 * MARGIN_MM, h + 2 * MARGIN_MM)
    scale = min(FULL_PX_PER_MM, photo.page.px_per_mm)
    codes = photo.page.crop(photo.picture, rect, scale)
    evened = photo.picture.linear(codes) / _light_over(photo.light, rect, codes)
    reduced = np.asarray(
        cv2.resize(
            evened, None, fx=SEARCH_PX_PER_MM / scale, fy=SEARCH_PX_PER_MM / scale, interpolation=cv2.INTER_AREA
        ),
        dtype=float,
    )
    seen = None
    cloth: FoundCloth | None
    if photo.cut_out:
        cloth = whole_cell(reduced.shape[:2], SEARCH_PX_PER_MM, MARGIN_MM)
    elif photo.dots:
        seen = see_dots(brightness_of(reduced), SEARCH_PX_PER_MM, photo.dots)
        cloth = find_cloth_on_dots(
            _roughly_lab(reduced), seen, _roughly_lab(photo.dots.samples), SEARCH_PX_PER_MM, MARGIN_MM
        )
    else:
        cloth = find_cloth(_roughly_lab(reduced), SEARCH_PX_PER_MM, MARGIN_MM)
    areas = None
    if by_hand and by_hand.areas:
        areas = filled(_in_crop(photo, rect, by_hand.areas), reduced.shape[:2])
        cloth = drawn_cloth(areas, SEARCH_PX_PER_MM, MARGIN_MM)
    if cloth is None:
        return None
    if by_hand and by_hand.left_out:
        cloth = _without(cloth, photo, rect, by_hand.left_out)
    place = _place_of(photo, cell, cloth, reduced, seen)
    factor = _factor_over(place.local, rect, reduced.shape[:2])
    reduced = reduced / factor
    evened = evened / cv2.resize(factor.astype(np.float32), (codes.shape[1], codes.shape[0]))
    reduced, evened = (place.contrast.put_right(light) for light in (reduced, np.asarray(evened, dtype=float)))
    return CellView(cell, (rect[0], rect[1]), scale, codes, np.asarray(evened), reduced, cloth, seen, place, areas)


def _in_crop(photo: Calibrated, rect: RectMm, drawn: Iterable[Area | tuple[PointPx, ...]]) -> list[Floats]:
    """Outlines in the photo's pixels, in those of the search in the crop."""
    outlines = []
    for one in drawn:
        points = np.array(one.outline_px if isinstance(one, Area) else one, dtype=float)
        size = np.array([photo.picture.width, photo.picture.height], dtype=float)
        at_mm = photo.page.to_page(np.clip(points, -0.05 * size, 1.05 * size))
        outlines.append((at_mm - np.array(rect[:2])) * SEARCH_PX_PER_MM - 0.5)
    return outlines


def _without(
    cloth: FoundCloth, photo: Calibrated, rect: RectMm, left_out: tuple[tuple[PointPx, ...], ...]
) -> FoundCloth:
    """The cloth without parts that are not to be measured; raises Refusal when nothing is left."""
    shape = (cloth.inner.shape[0], cloth.inner.shape[1])
    kept = filled(_in_crop(photo, rect, left_out), shape) == 0
    if not (cloth.inner & kept).any():
        raise Refusal("nothing-left", "All of the piece was left out.", "Leave out less, or the whole cell.")
    return replace(cloth, inner=cloth.inner & kept, whole=cloth.whole & kept)


def _place_of(
    photo: Calibrated, cell: SheetCell, cloth: FoundCloth, reduced: Floats, seen: DotsSeen | None
) -> CellPlace:
    """What the paper around the cloth says, in the cell and beside it."""
    x, y, w, h = cell.rect_mm
    centre = (x + w / 2, y + h / 2)
    gap = (~cloth.whole).astype(np.uint8)
    away_px: Floats = cv2.distanceTransform(gap, cv2.DIST_L2, 5).astype(float)
    ring = paper_around(photo.samples, photo.light, cell.rect_mm)
    index = ((ring.at_mm - np.array([x - MARGIN_MM, y - MARGIN_MM])) * SEARCH_PX_PER_MM).astype(int)
    column, row = (np.clip(index[:, i], 0, away_px.shape[1 - i] - 1) for i in range(2))
    away_mm = away_px[row, column] / SEARCH_PX_PER_MM + np.maximum(0, ring.away_mm - MARGIN_MM)
    # Threads and the piece's own shadow lie closest; a piece may reach out of its cell.
    clear = (away_mm > RAVEL_MM) & ~_overhung(ring.at_mm, cloth.whole, cell.rect_mm)
    ring = Ring(ring.at_mm[clear], ring.log_ratio[clear], away_mm[clear])
    if photo.dots and seen:
        inset = round(MARGIN_MM * SEARCH_PX_PER_MM)
        part = (slice(inset, -inset), slice(inset, -inset))
        ring = ring.joined(
            open_ring(reduced[part], seen.part(part), away_px[part], photo.dots, SEARCH_PX_PER_MM, (x, y))
        )
    local = fit_local_light(ring, centre)
    contrast = photo.greys.contrast_near(cell.rect_mm, GREYS_REACH_MM) if photo.greys else UNTOLD
    middle = np.array([centre])
    colour = np.log(photo.light.at(middle) * local.at(middle))[0]
    apart = (colour - colour.mean()) - photo.chart_colour
    return CellPlace(local, contrast.to_that_of(photo.chart_contrast), float(np.ptp(apart)))


def _overhung(at_mm: Floats, whole: Mask, rect: RectMm) -> Mask:
    """Places close outside of a cell's edge where the cloth within reaches that edge."""
    x, y, w, h = rect
    inside_mm = np.clip(at_mm, (x + EDGE_BAND_MM, y + EDGE_BAND_MM), (x + w - EDGE_BAND_MM, y + h - EDGE_BAND_MM))
    index = ((inside_mm - np.array([x - MARGIN_MM, y - MARGIN_MM])) * SEARCH_PX_PER_MM).astype(int)
    reaching = cv2.dilate(whole.astype(np.uint8), np.ones((3, 3), np.uint8)) > 0
    covered = reaching[index[:, 1], index[:, 0]]
    close = np.linalg.norm(at_mm - inside_mm, axis=1) < OVERHANG_MM
    return np.asarray(covered & close)


def _light_over(light: LightField, rect: RectMm, crop: Pixels) -> Floats:
    """The light field over a crop; worked out at 12 × 12 places and drawn smoothly between."""
    field = light.at(_places(rect, (12, 12))).reshape(12, 12, 3).astype(np.float32)
    return np.asarray(cv2.resize(field, (crop.shape[1], crop.shape[0])))


def _factor_over(local: LocalLight, rect: RectMm, shape: tuple[int, int]) -> Floats:
    return local.at(_places(rect, shape)).reshape(*shape, 3)


def _places(rect: RectMm, shape: tuple[int, int]) -> Floats:
    """Middles of the fields of a grid over a rectangle, (rows · columns, 2) in mm."""
    x, y, w, h = rect
    rows, columns = shape
    across, down = (np.arange(columns) + 0.5) / columns, (np.arange(rows) + 0.5) / rows
    return np.stack(np.meshgrid(x + across * w, y + down * h), axis=-1).reshape(-1, 2)


def _roughly_lab(evened: Floats) -> Floats:
    """Something like L*a*b* of light relative to paper, (..., 3): only to find the cloth."""
    root = np.cbrt(np.maximum(evened, 0))
    r, g, b = root[..., 0], root[..., 1], root[..., 2]
    return np.stack([116 * g - 16, 250 * (r - g), 200 * (g - b)], axis=-1)
