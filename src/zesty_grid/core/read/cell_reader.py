"""Measures the cloth in one cell of the sheet."""

from dataclasses import dataclass

import cv2
import numpy as np

from zesty_grid.core.read.cloth_finder import SMALLEST_SHARE, FoundCloth, Mask, find_cloth
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import Floats, lab_to_hex
from zesty_grid.core.read.colour_words import colour_words
from zesty_grid.core.read.correction import Correction
from zesty_grid.core.read.light_field import LightField
from zesty_grid.core.read.measurement import CellMeasurement, Lab
from zesty_grid.core.read.page_finder import FoundPage
from zesty_grid.core.read.picture import Picture, Pixels
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


@dataclass(frozen=True)
class Calibrated:
    """All that a cell needs to be measured in one photo."""

    picture: Picture
    page: FoundPage
    light: LightField
    correction: Correction
    patch_reference_lab: Floats


def read_cell(photo: Calibrated, cell: SheetCell) -> CellMeasurement:
    """Finds the cloth in the cell and measures it; status 'empty' where there is none."""
    x, y, w, h = cell.rect_mm
    rect: RectMm = (x - MARGIN_MM, y - MARGIN_MM, w + 2 * MARGIN_MM, h + 2 * MARGIN_MM)
    scale = min(FULL_PX_PER_MM, photo.page.px_per_mm)
    crop = photo.page.crop(photo.picture, rect, scale)
    evened = photo.picture.linear(crop) / _light_over(photo.light, rect, crop)
    reduced = cv2.resize(
        evened, None, fx=SEARCH_PX_PER_MM / scale, fy=SEARCH_PX_PER_MM / scale,
        interpolation=cv2.INTER_AREA,
    )  # fmt: skip
    cloth = find_cloth(_roughly_lab(np.asarray(reduced, dtype=float)), SEARCH_PX_PER_MM, MARGIN_MM)
    if cloth is None:
        return CellMeasurement(cell=cell.cell, status="empty", flags=("empty",))
    blocks = _block_lights(np.asarray(reduced, dtype=float), cloth.inner)
    return _measure_cloth(photo, cell, cloth, crop, evened, blocks)


def _light_over(light: LightField, rect: RectMm, crop: Pixels) -> Floats:
    """The light field over a crop; worked out at 12 × 12 places and drawn smoothly between."""
    x, y, w, h = rect
    line = (np.arange(12) + 0.5) / 12
    places = np.stack(np.meshgrid(x + line * w, y + line * h), axis=-1)
    field = light.at(places.reshape(-1, 2)).reshape(12, 12, 3).astype(np.float32)
    return np.asarray(cv2.resize(field, (crop.shape[1], crop.shape[0])))


def _measure_cloth(
    photo: Calibrated, cell: SheetCell, cloth: FoundCloth, crop: Pixels, evened: Floats,
    blocks: Floats,
) -> CellMeasurement:  # fmt: skip
    size = (crop.shape[1], crop.shape[0])
    inner = cv2.resize(cloth.inner.astype(np.uint8), size, interpolation=cv2.INTER_NEAREST)
    chosen = np.flatnonzero(inner)
    codes, light = crop.reshape(-1, 3)[chosen], evened.reshape(-1, 3)[chosen]
    brightest = np.maximum(np.maximum(codes[:, 0], codes[:, 1]), codes[:, 2])
    brightness = light @ np.full(3, 1 / 3, dtype=np.float32)
    clipped = float((brightest >= photo.picture.top_code).mean())
    flags = _flags(photo.picture, cloth, brightest, brightness, clipped)
    outline_mm = cloth.corners_px / SEARCH_PX_PER_MM + np.array(cell.rect_mm[:2]) - MARGIN_MM
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
        photo.light.residual_ratio, levelness, len(blocks),
        photo.correction.disagreement_de00(mean_light, lab),
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
