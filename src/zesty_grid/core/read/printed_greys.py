"""The printed greys: how brightness was rendered at each place of the photo.

In even light all greys of one level send the same share of what the paper beside them sends, and
in uneven light too. Where a telephone changes brightness from place to place, the shares differ.
"""

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from zesty_grid.core.read.colour_space import Floats
from zesty_grid.core.read.found_page import FoundPage
from zesty_grid.core.read.light_field import LightField
from zesty_grid.core.read.picture import Picture
from zesty_grid.core.read.sheet_layout import GreySpot, RectMm

INNER_SHARE = 0.6
PX_PER_MM = 5.0
COVERED_DIFFERENCE = 0.5
ROUGH_SPOT = 0.12
CARD_MARGIN_MM = 0.7
FEWEST_NEAR = 3
SLIGHT_CONTRAST = 0.03
LEVEL_RIDGE = 0.5
# Greys that were left out must be foretold so much better before contrast is put right.
WORTHWHILE_SHARE = 0.7


@dataclass(frozen=True)
class Contrast:
    """How much stronger brightness differs at a place than over the page: 1 where alike, 1.2 where
    differences are a fifth larger. `doubt`: a standard uncertainty of it; `deepest_log`: of the
    darkest grey that tells of it, the logarithm of its light over the paper's."""

    ratio: float
    doubt: float
    deepest_log: float

    def to_that_of(self, other: "Contrast") -> "Contrast":
        """What takes differences as they are rendered here to how they are rendered there."""
        ratio = other.ratio / self.ratio
        if abs(ratio - 1) < SLIGHT_CONTRAST:
            ratio = 1.0
        return Contrast(ratio, float(np.hypot(self.doubt, other.doubt)), max(self.deepest_log, other.deepest_log))

    def put_right(self, light: Floats) -> Floats:
        """Light over that of paper as it would be without; darker than the darkest grey no more is
        changed than there."""
        if self.ratio == 1.0:
            return light
        lit = np.maximum(light, 1e-6)
        return np.asarray(lit * np.exp((self.ratio - 1) * np.clip(np.log(lit), self.deepest_log, 0.0)))


UNTOLD = Contrast(1.0, 0.0, 0.0)


@dataclass(frozen=True)
class GreyReadings:
    """Spots that lie open: places (n, 2), log light over the light field (n,) and the usual value
    of their level (n,), over the whole page."""

    at_mm: Floats
    log_ratio: Floats
    usual: Floats

    def contrast_near(self, rect_mm: RectMm, reach_mm: float) -> Contrast:
        """How brightness is rendered near a rectangle, over the page as a whole."""
        x, y, w, h = rect_mm
        px, py = self.at_mm.T
        near = (px > x - reach_mm) & (px < x + w + reach_mm)
        near &= (py > y - reach_mm) & (py < y + h + reach_mm)
        if near.sum() < FEWEST_NEAR:
            return UNTOLD
        usual, seen = self.usual[near], self.log_ratio[near]
        # The paper's own light there may be off: a share common to all spots is left free.
        design = np.column_stack([usual, np.ones_like(usual)])
        slope, _ = _solved(design, seen)
        each = np.eye(len(seen), dtype=bool)
        unseen = np.array([float(design[own][0] @ _solved(design[~own], seen[~own])) for own in each])
        plain = np.array([float(usual[own][0] + _level(usual[~own], seen[~own])) for own in each])
        with_it, without = (float(np.sqrt(((seen - foretold) ** 2).mean())) for foretold in (unseen, plain))
        if with_it > WORTHWHILE_SHARE * without:
            return Contrast(1.0, abs(float(slope) - 1), float(usual.min()))
        error = with_it / float(np.sqrt(((usual - usual.mean()) ** 2).sum()) + 1e-6)
        return Contrast(float(slope), error, float(usual.min()))


def _solved(design: Floats, seen: Floats) -> Floats:
    return np.asarray(np.linalg.solve(design.T @ design + np.diag([0.0, LEVEL_RIDGE]), design.T @ seen))


def _level(usual: Floats, seen: Floats) -> float:
    return float((seen - usual).sum() / (len(seen) + LEVEL_RIDGE))


def read_greys(
    picture: Picture, page: FoundPage, spots: tuple[GreySpot, ...], light: LightField, card_mm: Floats
) -> GreyReadings | None:
    """Reads every spot that neither cloth nor the card, (4, 2), covers; None where there are too few."""
    card = card_mm.astype(np.float32)
    spots = tuple(spot for spot in spots if not _touches(card, spot.rect_mm))
    if not spots:
        return None
    at, light_of, levels = [], [], []
    for spot in spots:
        x, y, w, h = spot.rect_mm
        inset = (1 - INNER_SHARE) / 2
        inner: RectMm = (x + inset * w, y + inset * h, INNER_SHARE * w, INNER_SHARE * h)
        linear = picture.linear(page.crop(picture, inner, PX_PER_MM)).reshape(-1, 3).mean(axis=1)
        if linear.mean() < 1e-4 or linear.std() > ROUGH_SPOT * linear.mean():
            continue
        at.append((x + w / 2, y + h / 2))
        light_of.append(float(linear.mean()))
        levels.append(spot.level)
    if len(at) < len(spots) / 3:
        return None
    at_mm, level = np.array(at), np.array(levels)
    ratio = np.log(np.array(light_of) / light.at(at_mm).mean(axis=1))
    usual = np.zeros_like(ratio)
    for one in set(levels):
        usual[level == one] = np.median(ratio[level == one])
    open_ = np.abs(ratio - usual) < COVERED_DIFFERENCE
    return GreyReadings(at_mm[open_], ratio[open_], usual[open_])


def _touches(card_mm: NDArray[np.float32], rect_mm: RectMm) -> bool:
    x, y, w, h = rect_mm
    return any(
        cv2.pointPolygonTest(card_mm, (px, py), True) > -CARD_MARGIN_MM for px in (x, x + w) for py in (y, y + h)
    )
