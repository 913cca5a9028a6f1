"""What lies in a cell, looked at closely: how many colours, cloth or yarn, glare, and what of the
page shows through."""

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from zesty_grid.core.read.bands import find_bands
from zesty_grid.core.read.by_hand import drawn_zones
from zesty_grid.core.read.cell_view import SEARCH_PX_PER_MM, Calibrated, CellView
from zesty_grid.core.read.cloth_finder import Mask
from zesty_grid.core.read.colour_space import Floats, brightness_of
from zesty_grid.core.read.dot_pattern import seen_through
from zesty_grid.core.read.yarn import facing_the_light, strands_angle
from zesty_grid.core.read.zones import ZoneMap, find_zones

GLARE_RATIO = 1.8
GLARE_SHARE = 0.01
# Cloth sends back no more light than white paper does, glare does.
LIGHTER_THAN_PAPER = 1.12
DARKEST_FOR_GLARE = 0.02
SEEN_THROUGH = 0.08
MOST_SEEN_THROUGH = 0.6
DARKEST_LIGHT = 0.002


Numbers = NDArray[np.uint8]


@dataclass(frozen=True)
class Piece:
    """A piece as it is to be measured.

    `light` (full scale) and `reduced` (scale of the search) are over that of paper, without what
    shows through (`through`, by channel); `lab` is of `reduced`; `used` (full scale) are the pixels
    whose light counts, `labels` (full scale) their zones; `yarn`: only strands that face the light
    count; `areas`: the drawn area that each zone is, by number from 1, where they were drawn.
    """

    light: Floats
    reduced: Floats
    lab: Floats
    through: Floats
    zones: ZoneMap
    labels: Numbers
    used: Mask
    yarn: bool
    flags: tuple[str, ...]
    areas: tuple[int, ...] = ()

    def mean_light(self, zone: int | None = None) -> Floats:
        """Mean light of the piece, or of one of its zones away from its borders; (3,)."""
        where = self.used if zone is None else self.used & (self.labels == zone)
        return np.asarray(self.light[where if where.any() else self.used].mean(axis=0))


def look_at_piece(
    photo: Calibrated, view: CellView, zone_count: int = 0, bands: int = 0, opaque: bool = False
) -> Piece:
    """`zone_count`: how many colours the piece is said to have; 0: as many as are found. `bands`:
    it has so many zones side by side. `opaque`: nothing is said to show through."""
    through = np.zeros(3)
    if photo.dots and view.dots_seen and not opaque:
        seen = seen_through(view.reduced, view.dots_seen, view.cloth.inner, photo.dots)
        through = np.minimum(MOST_SEEN_THROUGH, seen)
    light, reduced = _without_page(photo, view, through)
    inner = view.cloth.inner & (brightness_of(reduced) < LIGHTER_THAN_PAPER)
    if not inner.any():
        inner = view.cloth.inner
    lab = photo.correction.lab(reduced)
    order: tuple[int, ...] = ()
    if view.areas is not None and zone_count == 0:
        zones, order = drawn_zones(np.where(view.cloth.whole, view.areas, 0), SEARCH_PX_PER_MM)
    elif bands > 1 and zone_count == 0:
        zones = find_bands(inner, view.cloth.whole, SEARCH_PX_PER_MM, bands)
    else:
        zones = find_zones(lab, inner, view.cloth.whole, SEARCH_PX_PER_MM, zone_count)
    size = (view.codes.shape[1], view.codes.shape[0])
    core = np.where(zones.core, zones.labels, 0).astype(np.uint8)

    def enlarged(small: Numbers) -> Numbers:
        return np.asarray(cv2.resize(small, size, interpolation=cv2.INTER_NEAREST), dtype=np.uint8)

    labels, within = enlarged(core), enlarged(view.cloth.inner.astype(np.uint8)) > 0
    flags = ["more than one colour"] if len(zones.shares) > 1 and bands == 0 else []
    if through.mean() > SEEN_THROUGH:
        return Piece(light, reduced, lab, through, zones, labels, within, False, (*flags, "see-through"), order)
    glaring = _glaring(light, labels, within, len(zones.shares))
    used = within & ~glaring
    if glaring.sum() > GLARE_SHARE * within.sum():
        flags.append("glare")
    angle = strands_angle(light, used & (labels == 1), view.px_per_mm)
    yarn = angle is not None
    if angle is not None:
        flags.append("yarn")
        own = [used & (labels == zone) for zone in range(1, len(zones.shares) + 1)]
        used = np.logical_or.reduce([facing_the_light(light, one, view.px_per_mm, angle) for one in own if one.any()])
    return Piece(light, reduced, lab, through, zones, labels, used, yarn, tuple(flags), order)


def _without_page(photo: Calibrated, view: CellView, through: Floats) -> tuple[Floats, Floats]:
    """Light of the cloth alone, where some of the page's shines through or shows in its holes."""
    if photo.dots is None or through.mean() <= SEEN_THROUGH:
        return view.evened, view.reduced
    page = through * np.exp(photo.dots.log_mean)
    light, reduced = (
        np.maximum(DARKEST_LIGHT, (values - page) / (1 - through)) for values in (view.evened, view.reduced)
    )
    return light, reduced


def _glaring(light: Floats, labels: Numbers, within: Mask, zones: int) -> Mask:
    """Pixels that are far lighter than their zone: light thrown back by the surface."""
    brightness = brightness_of(light)
    glaring = within & (brightness > LIGHTER_THAN_PAPER)
    for zone in range(1, zones + 1):
        own = labels == zone
        middle = float(np.median(brightness[own])) if own.any() else 0.0
        if middle > DARKEST_FOR_GLARE:
            glaring |= own & (brightness > GLARE_RATIO * middle)
    return np.asarray(glaring)
