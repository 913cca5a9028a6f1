"""The printed greys: how brightness was rendered at each place of the photo.

In even light all greys of one level send the same share of what the paper beside them sends, and
in uneven light too. Where a telephone changes brightness from place to place, the shares differ.
"""

from dataclasses import dataclass

import numpy as np

from zesty_grid.core.read.colour_space import Floats
from zesty_grid.core.read.light_field import LightField
from zesty_grid.core.read.page_finder import FoundPage
from zesty_grid.core.read.picture import Picture
from zesty_grid.core.read.sheet_layout import GreySpot, RectMm

INNER_SHARE = 0.6
PX_PER_MM = 5.0
COVERED_DIFFERENCE = 0.5
ROUGH_SPOT = 0.12


@dataclass(frozen=True)
class GreyReadings:
    """Spots that lie open: places (n, 2), log light over the light field (n,) and the usual value
    of their level (n,), over the whole page."""

    at_mm: Floats
    log_ratio: Floats
    usual: Floats

    def contrast_near(self, rect_mm: RectMm, reach_mm: float) -> float | None:
        """How much stronger brightness differs near a rectangle than over the page: 1 where
        alike, 1.2 where differences are a fifth larger; None with fewer than two spots."""
        x, y, w, h = rect_mm
        px, py = self.at_mm.T
        near = (px > x - reach_mm) & (px < x + w + reach_mm)
        near &= (py > y - reach_mm) & (py < y + h + reach_mm)
        if near.sum() < 2:
            return None
        usual, seen = self.usual[near], self.log_ratio[near]
        # The paper's own light there may be off: a share common to all spots is left free.
        design = np.column_stack([usual, np.ones_like(usual)])
        ridge = np.diag([0.0, 0.5])
        slope, _ = np.linalg.solve(design.T @ design + ridge, design.T @ seen)
        return float(slope)


def read_greys(
    picture: Picture, page: FoundPage, spots: tuple[GreySpot, ...], light: LightField
) -> GreyReadings | None:
    """Reads every spot that is not covered; None where the page has none."""
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
