"""Yarn on a card or as a hank is read where it faces the light, not in the shadow between strands.

Strands are known by brightness that changes finely in one direction while the colour does not. The
picture is smoothed along the strands, so that twist and noise average out, and what is brightest of
it is taken. Tested against simulated hanks of known colour.
"""

import cv2
import numpy as np

from zesty_grid.core.read.cloth_finder import Mask
from zesty_grid.core.read.colour_space import Floats, brightness_of

STRAND_SHARE = 0.2
COARSE_MM = 2.0
ALONG_MM = 2.5
ACROSS_MM = 0.15
# Woven cloth stays under 0.04, a shallow hank is over 0.1 (both simulated).
LEAST_RELIEF = 0.065
ONE_WAY = 0.7
MOST_COLOUR = 0.25


def strands_angle(evened: Floats, inner: Mask, px_per_mm: float) -> float | None:
    """In which direction strands run, in radians; None where the piece is no yarn.

    `evened` is light over that of paper, (h, w, 3).
    """
    if not inner.any():
        return None
    grey = _relief_of(np.log(np.maximum(brightness_of(evened), 1e-4)), px_per_mm)
    relief = _spread(grey[inner])
    if relief < LEAST_RELIEF:
        return None
    fine = _relief_of(np.log(np.maximum(evened, 1e-4)), px_per_mm)
    if _spread((fine - fine.mean(axis=2, keepdims=True))[inner]) > MOST_COLOUR * relief:
        return None
    angle, one_way = _direction(grey, inner)
    return angle if one_way >= ONE_WAY else None


def facing_the_light(evened: Floats, inner: Mask, px_per_mm: float, angle: float) -> Mask:
    """Pixels of strands that run at `angle` and face the light."""
    level = _smoothed_along(np.asarray(brightness_of(evened), dtype=np.float32), angle, px_per_mm)
    return np.asarray(inner & (level > np.quantile(level[inner], 1 - STRAND_SHARE)))


def _relief_of(log_light: Floats, px_per_mm: float) -> Floats:
    """What changes within a few millimetres, without noise."""
    narrow = log_light.astype(np.float32)
    # A wide blur is worked out on a small picture.
    small = cv2.resize(narrow, None, fx=0.25, fy=0.25, interpolation=cv2.INTER_AREA)
    coarse = cv2.GaussianBlur(small, (0, 0), COARSE_MM * px_per_mm / 4)
    wide = cv2.resize(coarse, narrow.shape[1::-1])
    return np.asarray(cv2.GaussianBlur(narrow - wide, (0, 0), 0.2 * px_per_mm), dtype=float)


def _spread(values: Floats) -> float:
    """Standard deviation from the quartiles: the border of two colours does not count."""
    low, high = np.percentile(values, [25, 75])
    return float(high - low) / 1.349


def _direction(grey: Floats, inner: Mask) -> tuple[float, float]:
    """Angle of the strands in radians, and how much in one way they run (0 to 1).

    The structure tensor's eigenvectors (Bigün and Granlund, 1987).
    """
    x = cv2.Sobel(grey.astype(np.float32), cv2.CV_32F, 1, 0)[inner]
    y = cv2.Sobel(grey.astype(np.float32), cv2.CV_32F, 0, 1)[inner]
    xx, yy, xy = float((x * x).mean()), float((y * y).mean()), float((x * y).mean())
    across = 0.5 * np.arctan2(2 * xy, xx - yy)
    one_way = np.hypot(xx - yy, 2 * xy) / (xx + yy + 1e-12)
    return float(across + np.pi / 2), float(one_way)


def _smoothed_along(grey: Floats, angle: float, px_per_mm: float) -> Floats:
    reach = int(np.ceil(2 * ALONG_MM * px_per_mm))
    line = np.arange(-reach, reach + 1)
    x, y = np.meshgrid(line, line)
    along = x * np.cos(angle) + y * np.sin(angle)
    across = -x * np.sin(angle) + y * np.cos(angle)
    kernel = np.exp(-0.5 * ((along / (ALONG_MM * px_per_mm)) ** 2 + (across / (ACROSS_MM * px_per_mm)) ** 2))
    return np.asarray(cv2.filter2D(grey, -1, (kernel / kernel.sum()).astype(np.float32)))
