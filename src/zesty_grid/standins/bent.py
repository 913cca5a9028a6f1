"""What keeps a page from being seen as a plane: a lens that bends lines, paper that is not flat."""

from dataclasses import dataclass
from typing import Literal

import cv2
import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
Image32 = NDArray[np.float32]
GRID_PX = 24
CURL_MM = 80.0
FOLD_MM = 30.0
# A telephone stands about as far above the page as the page is wide.
CAMERA_HEIGHT_MM = 300.0
# Light from the side: how much more falls on paper that rises towards it.
LIGHT_PER_SLOPE = 0.3


@dataclass(frozen=True)
class Bend:
    """Paper that rises: its end at one edge (`curl`), or a ridge across it (`fold`), by `height_mm`."""

    kind: Literal["curl", "fold"]
    edge: Literal["left", "right", "top", "foot"]
    height_mm: float


def _height_and_slope(bend: Bend, along_mm: Floats, length_mm: float) -> tuple[Floats, Floats]:
    if bend.kind == "curl":
        past = np.maximum(0, along_mm - (length_mm - CURL_MM)) / CURL_MM
        return bend.height_mm * past**2, 2 * bend.height_mm * past / CURL_MM
    off = along_mm - 0.6 * length_mm
    up = np.maximum(0, 1 - np.abs(off) / FOLD_MM)
    return bend.height_mm * up, -np.sign(off) * (up > 0) * bend.height_mm / FOLD_MM


def _raised(bend: Bend, flat_mm: Floats, page_mm: tuple[float, float]) -> tuple[Floats, Floats]:
    """Where points (n, 2) of the flat page are seen in its plane, and the light on them, (n,)."""
    axis = 0 if bend.edge in ("left", "right") else 1
    length = page_mm[axis]
    is_far = bend.edge in ("right", "foot")
    line = np.linspace(0, length, 400)
    _, slopes = _height_and_slope(bend, line, length)
    run = np.concatenate([[0], np.cumsum(np.sqrt(np.maximum(0, 1 - slopes[1:] ** 2)) * np.diff(line))])
    along = flat_mm[:, axis] if is_far else length - flat_mm[:, axis]
    height, slope = _height_and_slope(bend, along, length)
    lain = np.interp(along, line, run) + np.minimum(0, along) + np.maximum(0, along - length)
    seen = flat_mm.astype(float).copy()
    seen[:, axis] = lain if is_far else length - lain
    middle = np.array(page_mm) / 2
    seen = middle + (seen - middle) * (CAMERA_HEIGHT_MM / (CAMERA_HEIGHT_MM - height))[:, None]
    return seen, np.maximum(0.2, 1 + LIGHT_PER_SLOPE * slope)


def lay_bent(page: Image32, bend: Bend, page_mm: tuple[float, float], px_per_mm: float) -> Image32:
    """The page as a camera straight above sees it bent, on the plane of the flat page."""
    height, width = page.shape[:2]
    small = np.meshgrid(np.linspace(0, page_mm[0], 150), np.linspace(0, page_mm[1], 110))
    wanted = np.stack(small, axis=-1).reshape(-1, 2)
    flat = wanted.copy()
    for _ in range(12):
        seen, light = _raised(bend, flat, page_mm)
        flat += wanted - seen
    x, y, shade = (
        cv2.resize(v.reshape(110, 150).astype(np.float32), (width, height), interpolation=cv2.INTER_LINEAR)
        for v in (flat[:, 0] * px_per_mm - 0.5, flat[:, 1] * px_per_mm - 0.5, light)
    )
    laid = cv2.remap(page, x, y, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
    return np.asarray(laid * shade[..., None], dtype=np.float32)


def seen_through_lens(view: Image32, k1: float) -> Image32:
    """A view as a lens bends it: distance r from the middle becomes r (1 + k₁ r²), r = 1 in the
    corners (Brown, 1966, Decentering Distortion of Lenses: the first radial term)."""
    height, width = view.shape[:2]
    middle = np.array([width - 1, height - 1]) / 2
    reach = float(np.hypot(*middle))
    columns, rows = width // GRID_PX + 2, height // GRID_PX + 2
    x, y = np.meshgrid(np.linspace(0, width - 1, columns), np.linspace(0, height - 1, rows))
    bent = (np.stack([x, y], axis=-1) - middle) / reach
    r = np.linalg.norm(bent, axis=-1)
    straight = r.copy()
    for _ in range(30):
        straight -= (straight * (1 + k1 * straight**2) - r) / (1 + 3 * k1 * straight**2)
    at = bent * (straight / np.maximum(r, 1e-9))[..., None] * reach + middle
    across, down = np.meshgrid(
        np.linspace(0, columns - 1, width, dtype=np.float32), np.linspace(0, rows - 1, height, dtype=np.float32)
    )
    full = [cv2.remap(at[..., i].astype(np.float32), across, down, cv2.INTER_LINEAR) for i in range(2)]
    return np.asarray(cv2.remap(view, full[0], full[1], cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE))
