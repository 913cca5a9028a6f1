"""Where each point of a page lies in a photo: seen from the side, through a lens, and not quite flat."""

from dataclasses import dataclass, field

import cv2
import numpy as np
from scipy.ndimage import map_coordinates

from zesty_grid.core.read.colour_space import Floats
from zesty_grid.core.read.picture import Picture, Pixels
from zesty_grid.core.read.sheet_layout import RectMm

# Within so much of a crop the map is taken to be straight.
MAP_STEP_PX = 12
ROUNDS = 12


def apply_homography(matrix: Floats, points: Floats) -> Floats:
    """Points of shape (n, 2) through a 3 × 3 homography."""
    mapped = np.column_stack([points, np.ones(len(points))]) @ matrix.T
    result: Floats = mapped[:, :2] / mapped[:, 2:]
    return result


@dataclass(frozen=True)
class Lens:
    """Distance r from the middle, 1 in the corners, is seen at r (1 + k₁ r²).

    Brown (1966), Decentering Distortion of Lenses: the first radial term.
    """

    k1: float
    middle_px: tuple[float, float]
    reach_px: float

    def bend(self, straight_px: Floats) -> Floats:
        off = (straight_px - self.middle_px) / self.reach_px
        squared = (off**2).sum(axis=1, keepdims=True)
        # Past its turning point the curve says nothing.
        if self.k1 < 0:
            squared = np.minimum(squared, -1 / (3 * self.k1))
        return np.asarray(self.middle_px + off * (1 + self.k1 * squared) * self.reach_px)

    def straighten(self, bent_px: Floats) -> Floats:
        """Newton's method on the one equation for r."""
        off = (bent_px - self.middle_px) / self.reach_px
        seen = np.linalg.norm(off, axis=1, keepdims=True)
        r = seen.copy()
        for _ in range(ROUNDS):
            slope = np.maximum(0.2, 1 + 3 * self.k1 * r**2)
            r = np.maximum(0, r - (r * (1 + self.k1 * r**2) - seen) / slope)
        return np.asarray(self.middle_px + off * (r / np.maximum(seen, 1e-12)) * self.reach_px)


@dataclass(frozen=True)
class Relief:
    """How far points of the page are seen from where a flat page would have them, in mm on the
    page: (rows, columns, 2) every `step_mm`."""

    step_mm: float
    shift_mm: Floats

    def at(self, points_mm: Floats) -> Floats:
        places = points_mm[:, ::-1].T / self.step_mm
        return np.stack(
            [map_coordinates(self.shift_mm[..., i], places, order=1, mode="nearest") for i in range(2)], axis=-1
        )


@dataclass(frozen=True)
class FoundPage:
    """The page in the photo: `photo_from_page` maps mm on a flat page to pixels of a straight
    picture (3 × 3); `lens` and `relief` say how the real ones differ, where they do. `corners_mm` and
    `corners_px`, (n, 2): the corners of the markers as printed and as seen."""

    photo_from_page: Floats
    px_per_mm: float
    edge_width_mm: float
    lens: Lens | None = None
    relief: Relief | None = None
    corners_mm: Floats = field(default_factory=lambda: np.zeros((0, 2)))
    corners_px: Floats = field(default_factory=lambda: np.zeros((0, 2)))

    def to_photo(self, points_mm: Floats) -> Floats:
        """Photo pixels of page points in mm; shape (n, 2)."""
        flat = points_mm + self.relief.at(points_mm) if self.relief else points_mm
        straight = apply_homography(self.photo_from_page, flat)
        return self.lens.bend(straight) if self.lens else straight

    def to_page(self, points_px: Floats) -> Floats:
        """Page points in mm of photo pixels; shape (n, 2)."""
        straight = self.lens.straighten(points_px) if self.lens else points_px
        flat = apply_homography(np.asarray(np.linalg.inv(self.photo_from_page), dtype=float), straight)
        if self.relief is None:
            return flat
        found = flat
        for _ in range(ROUNDS):
            found = flat - self.relief.at(found)
        return found

    def crop(self, picture: Picture, rect_mm: RectMm, px_per_mm: float) -> Pixels:
        """The upright pixels of a rectangle of the page, at `px_per_mm`."""
        x, y, w, h = rect_mm
        size = (max(1, round(w * px_per_mm)), max(1, round(h * px_per_mm)))
        if self.lens or self.relief:
            return self._bent_crop(picture, rect_mm, px_per_mm, size)
        page_from_crop = np.array(
            [[1 / px_per_mm, 0, x + 0.5 / px_per_mm], [0, 1 / px_per_mm, y + 0.5 / px_per_mm], [0, 0, 1]]
        )
        warped: Pixels = cv2.warpPerspective(  # type: ignore[assignment]
            picture.pixels,
            self.photo_from_page @ page_from_crop,
            size,
            flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP,
            borderMode=cv2.BORDER_REPLICATE,
        )
        return warped

    def _bent_crop(self, picture: Picture, rect_mm: RectMm, px_per_mm: float, size: tuple[int, int]) -> Pixels:
        columns, rows = (max(2, side // MAP_STEP_PX + 2) for side in size)
        across = (np.linspace(0, size[0] - 1, columns) + 0.5) / px_per_mm + rect_mm[0]
        down = (np.linspace(0, size[1] - 1, rows) + 0.5) / px_per_mm + rect_mm[1]
        places = np.stack(np.meshgrid(across, down), axis=-1).reshape(-1, 2)
        coarse = self.to_photo(places).reshape(rows, columns, 2).astype(np.float32)
        column, row = np.meshgrid(
            np.linspace(0, columns - 1, size[0], dtype=np.float32), np.linspace(0, rows - 1, size[1], dtype=np.float32)
        )
        x, y = (cv2.remap(coarse[..., i], column, row, cv2.INTER_LINEAR) for i in range(2))
        warped: Pixels = cv2.remap(  # type: ignore[assignment]
            picture.pixels, x, y, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE
        )
        return warped
