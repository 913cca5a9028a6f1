"""Measures the cloth in one cell of the sheet."""

from dataclasses import dataclass

import cv2
import numpy as np

from zesty_grid.core.read.cloth_finder import (
    RAVEL_MM,
    SMALLEST_SHARE,
    FoundCloth,
    Mask,
    find_cloth,
    find_cloth_on_dots,
)
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import Floats, lab_to_hex
from zesty_grid.core.read.colour_words import colour_words
from zesty_grid.core.read.correction import Correction
from zesty_grid.core.read.dot_pattern import DotsSeen, OpenDots, open_ring, see_dots
from zesty_grid.core.read.light_field import LightField, PaperSamples
from zesty_grid.core.read.local_light import LocalLight, Ring, fit_local_light, paper_around
from zesty_grid.core.read.measurement import CellMeasurement, Lab
from zesty_grid.core.read.page_finder import FoundPage
from zesty_grid.core.read.picture import Picture, Pixels
from zesty_grid.core.read.printed_greys import GreyReadings
from zesty_grid.core.read.sheet_layout import RectMm, SheetCell
from zesty_grid.core.read.uncertainty import uncertainty_parts

FULL_PX_PER_MM = 6.0
SEARCH_PX_PER_MM = 3.0
MARGIN_MM = 2.0
BLOCK_MM = 4.0
CLIPPED_SHARE = 0.02
CLIPPED_REFUSED_SHARE = 0.25
DARKEST_CODE_SHARE = 0.02
GLARE_RATIO = 1.8
GLARE_SHARE = 0.01
GREYS_REACH_MM = 10.0
SLIGHT_CONTRAST = 0.02
# Good photos stay under a tenth of these (measured on both simulated cameras).
SHADOW_SHIFT = 0.012
SHADOW_DOUBT = 0.008
OTHER_LIGHT = 0.05
SEEN_THROUGH = 0.08


@dataclass(frozen=True)
class Calibrated:
    """All that a cell needs to be measured in one photo.

    `chart_light`: the light on the chart, by channel, over that of the light field there;
    `chart_contrast`: how brightness was rendered around the chart (`printed_greys`).
    """

    picture: Picture
    page: FoundPage
    samples: PaperSamples
    light: LightField
    chart_colour: Floats
    greys: GreyReadings | None
    chart_contrast: float
    dots: OpenDots | None
    correction: Correction
    patch_reference_lab: Floats


@dataclass(frozen=True)
class CellPlace:
    """How the place differs from where the chart lies: light and rendering there."""

    local: LocalLight
    contrast: float
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


def read_cell(photo: Calibrated, cell: SheetCell) -> CellMeasurement:
    """Finds the cloth in the cell and measures it; status 'empty' where there is none."""
    view = view_cell(photo, cell)
    if view is None:
        return CellMeasurement(cell=cell.cell, status="empty", flags=("empty",))
    return _measure_cloth(photo, view)


def view_cell(photo: Calibrated, cell: SheetCell) -> CellView | None:
    """The cell with the cloth found and the light on it known; None where there is no cloth."""
    x, y, w, h = cell.rect_mm
    rect: RectMm = (x - MARGIN_MM, y - MARGIN_MM, w + 2 * MARGIN_MM, h + 2 * MARGIN_MM)
    scale = min(FULL_PX_PER_MM, photo.page.px_per_mm)
    codes = photo.page.crop(photo.picture, rect, scale)
    evened = photo.picture.linear(codes) / _light_over(photo.light, rect, codes)
    reduced = np.asarray(
        cv2.resize(
            evened, None, fx=SEARCH_PX_PER_MM / scale, fy=SEARCH_PX_PER_MM / scale,
            interpolation=cv2.INTER_AREA,
        ), dtype=float,
    )  # fmt: skip
    seen = None
    if photo.dots:
        seen = see_dots(reduced.mean(axis=2), SEARCH_PX_PER_MM, photo.dots)
        cloth = find_cloth_on_dots(seen, SEARCH_PX_PER_MM, MARGIN_MM)
    else:
        cloth = find_cloth(_roughly_lab(reduced), SEARCH_PX_PER_MM, MARGIN_MM)
    if cloth is None:
        return None
    place = _place_of(photo, cell, cloth, reduced, seen)
    factor = _factor_over(place.local, rect, reduced.shape[:2])
    reduced = reduced / factor
    evened = evened / cv2.resize(factor.astype(np.float32), (codes.shape[1], codes.shape[0]))
    bend = photo.chart_contrast / place.contrast
    if bend != 1.0:
        reduced, evened = (np.maximum(v, 1e-6) ** bend for v in (reduced, evened))
    return CellView(
        cell, (rect[0], rect[1]), scale, codes, np.asarray(evened), reduced, cloth, seen,
        place,
    )  # fmt: skip


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
    # Threads and the piece's own shadow lie closest.
    clear = away_mm > RAVEL_MM
    ring = Ring(ring.at_mm[clear], ring.log_ratio[clear], away_mm[clear])
    if photo.dots and seen:
        inset = round(MARGIN_MM * SEARCH_PX_PER_MM)
        part = (slice(inset, -inset), slice(inset, -inset))
        ring = ring.joined(
            open_ring(
                reduced[part], seen.part(part), away_px[part], photo.dots, SEARCH_PX_PER_MM, (x, y)
            )
        )
    local = fit_local_light(ring, centre)
    contrast = photo.greys.contrast_near(cell.rect_mm, GREYS_REACH_MM) if photo.greys else None
    if contrast is None or abs(contrast / photo.chart_contrast - 1) < SLIGHT_CONTRAST:
        contrast = photo.chart_contrast
    middle = np.array([centre])
    colour = np.log(photo.light.at(middle) * local.at(middle))[0]
    apart = (colour - colour.mean()) - photo.chart_colour
    return CellPlace(local, contrast, float(np.ptp(apart)))


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


def _measure_cloth(photo: Calibrated, view: CellView) -> CellMeasurement:
    cell, cloth, crop = view.cell, view.cloth, view.codes
    blocks = _block_lights(view.reduced, cloth.inner)
    size = (crop.shape[1], crop.shape[0])
    inner = cv2.resize(cloth.inner.astype(np.uint8), size, interpolation=cv2.INTER_NEAREST)
    chosen = np.flatnonzero(inner)
    codes, light = crop.reshape(-1, 3)[chosen], view.evened.reshape(-1, 3)[chosen]
    brightest = np.maximum(np.maximum(codes[:, 0], codes[:, 1]), codes[:, 2])
    brightness = light @ np.full(3, 1 / 3, dtype=np.float32)
    clipped = float((brightest >= photo.picture.top_code).mean())
    through = float(np.median(view.dots_seen.share[cloth.inner])) if view.dots_seen else 0.0
    flags = _flags(photo.picture, cloth, brightest, brightness, clipped)
    flags += _place_flags(view.place, photo.chart_contrast)
    if through > SEEN_THROUGH:
        flags += ("see-through",)
    outline_mm = cloth.corners_px / SEARCH_PX_PER_MM + np.array(view.origin_mm)
    outline_px = tuple((float(x), float(y)) for x, y in photo.page.to_photo(outline_mm))
    if clipped > CLIPPED_REFUSED_SHARE:
        return CellMeasurement(cell=cell.cell, status="refused", flags=flags, outline_px=outline_px)
    if "glare" in flags:
        light = light[brightness < GLARE_RATIO * np.median(brightness)]
    mean_light = np.ones(len(light)) @ light / len(light)
    labs = photo.correction.lab(np.vstack([mean_light, blocks]))
    lab = labs[0]
    levelness = float(delta_e_2000(labs[1:], np.broadcast_to(lab, blocks.shape)).mean())
    parts = uncertainty_parts(
        lab, photo.patch_reference_lab, photo.correction.unseen_de00,
        float(np.hypot(photo.light.residual_ratio, view.place.local.doubt_ratio)),
        levelness, len(blocks), photo.correction.disagreement_de00(mean_light, lab),
    )  # fmt: skip
    rounded: Lab = (round(float(lab[0]), 3), round(float(lab[1]), 3), round(float(lab[2]), 3))
    return CellMeasurement(
        cell=cell.cell,
        status="measured",
        lab=rounded,
        hex=lab_to_hex(lab),
        colour_words=colour_words(lab),
        levelness_de00=round(levelness, 3),
        uncertainty_de00=round(parts.combined_de00, 3),
        parts=parts,
        flags=flags,
        outline_px=outline_px,
    )


def _place_flags(place: CellPlace, chart_contrast: float) -> tuple[str, ...]:
    flags = []
    if abs(place.local.shift_ratio) > SHADOW_SHIFT or place.local.doubt_ratio > SHADOW_DOUBT:
        flags.append("shadow")
    if place.contrast != chart_contrast:
        flags.append("local tone")
    if place.other_light_ratio > OTHER_LIGHT:
        flags.append("other light")
    return tuple(flags)


def _flags(
    picture: Picture, cloth: FoundCloth, brightest: Pixels, brightness: Floats, clipped: float
) -> tuple[str, ...]:
    middle = float(np.median(brightness))
    flags = []
    if clipped > CLIPPED_SHARE:
        flags.append("clipped")
    if float(np.median(brightest)) < DARKEST_CODE_SHARE * picture.top_code:
        flags.append("too dark")
    glare = float((brightness > GLARE_RATIO * middle).mean())
    if glare > GLARE_SHARE and middle > 0.02:
        flags.append("glare")
    if cloth.width_share < SMALLEST_SHARE:
        flags.append("cloth too small")
    if cloth.pieces > 1:
        flags.append("more than one piece")
    if cloth.holes:
        flags.append("hole")
    return tuple(flags)


def _roughly_lab(evened: Floats) -> Floats:
    """Something like L*a*b* of light relative to paper, (..., 3): only to find the cloth."""
    root = np.cbrt(np.maximum(evened, 0))
    r, g, b = root[..., 0], root[..., 1], root[..., 2]
    return np.stack([116 * g - 16, 250 * (r - g), 200 * (g - b)], axis=-1)


def _block_lights(reduced: Floats, inner: Mask) -> Floats:
    """Mean light of blocks of cloth, (n, 3): large enough that the weave averages out."""
    height, width = inner.shape
    block_px = SEARCH_PX_PER_MM * BLOCK_MM
    size = (max(1, int(width / block_px)), max(1, int(height / block_px)))
    share = cv2.resize(inner.astype(np.float32), size, interpolation=cv2.INTER_AREA)
    masked = cv2.resize(reduced * inner[..., None], size, interpolation=cv2.INTER_AREA)
    full = share > min(0.6, 0.99 * float(share.max()))
    return np.asarray(masked[full] / share[full][:, None], dtype=float)
