"""Zones that lie side by side at known places: a covered and an exposed half, the steps of a strip,
the fibres of a ribbon. They are found by their place, since a small change has no border to see."""

import cv2
import numpy as np
from scipy import ndimage

from zesty_grid.core.read.cloth_finder import Mask
from zesty_grid.core.read.zones import ZoneMap

# The edge of a cover is never sharp, nor laid quite straight.
OFF_BORDER_MM = 2.0
LEAST_KEPT = 0.25


def find_bands(inner: Mask, whole: Mask, px_per_mm: float, count: int) -> ZoneMap:
    """`count` zones of equal width from left to right along the piece, turned as it lies: by up to
    45°. Their cores keep off the borders between them."""
    points = np.argwhere(whole)[:, ::-1].astype(np.float32)
    angle = _turned_by(points)
    along = np.array([np.cos(angle), np.sin(angle)])
    rows, columns = np.indices(whole.shape)
    place = columns * along[0] + rows * along[1]
    low, high = np.percentile(place[whole], [0.5, 99.5])
    share = (place - low) / max(high - low, 1e-6) * count
    labels = np.where(whole, np.clip(np.floor(share), 0, count - 1) + 1, 0).astype(np.int32)
    border = np.abs(share - np.round(share)) / count * (high - low) / px_per_mm
    between = (np.round(share) > 0) & (np.round(share) < count)
    off = np.where(between, border, np.inf) > min(OFF_BORDER_MM, LEAST_KEPT * (high - low) / px_per_mm / count)
    core = inner & off
    for zone in range(1, count + 1):
        own = labels == zone
        if not (core & own).any():
            core |= own & ndimage.binary_erosion(own)
    sizes = np.bincount(labels.ravel(), minlength=count + 1)[1:]
    return ZoneMap(labels, core, tuple(float(size / sizes.sum()) for size in sizes))


def _turned_by(points: np.ndarray) -> float:
    """How far a piece lies from straight, in radians, at most an eighth of a turn."""
    degrees = cv2.minAreaRect(points)[2] % 90
    return float(np.radians(degrees - 90 if degrees > 45 else degrees))
