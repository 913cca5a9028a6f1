"""Finds the cloth that lies in a cell, by its colour against the paper and by its weave."""

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from zesty_grid.core.read.colour_space import Floats

Mask = NDArray[np.bool_]

COLOUR_BLUR_MM = 0.5
MIDDLE_INSET = 0.35
CLEAR_DE, CLEAR_WEAVE = 1.2, 1.25
PALE_DE, PALE_WEAVE = 0.5, 1.12
LEAST_SCATTER = np.array([0.15, 0.15, 0.15, 0.02])
BOUNDARY = 0.45
RAVEL_MM = 1.2
EDGE_MM = 2.0
SMALLEST_SHARE = 0.5


@dataclass(frozen=True)
class FoundCloth:
    """`inner` is the part to measure, away from the ravelled edge; `corners_px` its outline."""

    inner: Mask
    corners_px: Floats
    width_share: float


def find_cloth(lab: Floats, px_per_mm: float, margin_mm: float) -> FoundCloth | None:
    """The cloth in a crop of a cell with `margin_mm` of blank page around it; None when empty.

    `lab` is (height, width, 3), evenly lit. What lies in the middle is told from the paper of the
    margin by colour and by weave together (Fisher's linear discriminant).
    """
    sigma_px = COLOUR_BLUR_MM * px_per_mm
    smooth = cv2.GaussianBlur(lab, (0, 0), sigma_px)
    fine = np.abs(lab[..., 0] - smooth[..., 0])
    weave = cv2.GaussianBlur(fine, (0, 0), sigma_px * 1.5)
    features = np.dstack([smooth, weave]).astype(float)
    height, width = weave.shape
    inset_px = margin_mm * px_per_mm + MIDDLE_INSET * (
        min(height, width) - 2 * margin_mm * px_per_mm
    )
    ring = _ring(weave.shape, round(margin_mm * px_per_mm))
    middle = ~_ring(weave.shape, round(inset_px))
    paper, centre = np.median(features[ring], axis=0), np.median(features[middle], axis=0)
    step = centre - paper
    contrast_de = float(np.linalg.norm(step[:3]))
    weave_ratio = float(centre[3] / max(paper[3], 0.02))
    pale_cloth = contrast_de > PALE_DE and weave_ratio > PALE_WEAVE
    if contrast_de < CLEAR_DE and weave_ratio < CLEAR_WEAVE and not pale_cloth:
        return None
    scatter = np.cov(features[ring] - paper, rowvar=False) + np.diag(LEAST_SCATTER**2)
    direction = np.linalg.solve(scatter, step)
    along = (features - paper) @ direction / float(step @ direction)
    return _outline(along > BOUNDARY, px_per_mm, margin_mm)


def _ring(shape: tuple[int, ...], width_px: int) -> Mask:
    ring = np.ones(shape, dtype=bool)
    ring[width_px:-width_px, width_px:-width_px] = False
    return ring


def _outline(mask: Mask, px_per_mm: float, margin_mm: float) -> FoundCloth | None:
    closed = _morph(mask, cv2.MORPH_CLOSE, RAVEL_MM * px_per_mm)
    opened = _morph(closed, cv2.MORPH_OPEN, 2 * RAVEL_MM * px_per_mm)
    count, labels, stats, _ = cv2.connectedComponentsWithStats(opened.astype(np.uint8))
    if count < 2:
        return None
    largest = 1 + int(np.argmax(stats[1:, cv2.CC_STAT_AREA]))
    contours, _ = cv2.findContours(
        (labels == largest).astype(np.uint8), cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE
    )
    contour = max(contours, key=cv2.contourArea)
    solid = np.zeros(mask.shape, dtype=np.uint8)
    cv2.drawContours(solid, [contour], -1, 1, cv2.FILLED)
    box = cv2.minAreaRect(contour)
    shorter_px, longer_px = sorted(box[1])
    cell_width_px = mask.shape[1] - 2 * margin_mm * px_per_mm
    if shorter_px < 0.15 * cell_width_px or cv2.contourArea(contour) < 0.5 * shorter_px * longer_px:
        return None
    padded = np.pad(solid, 1)
    depth = cv2.distanceTransform(padded, cv2.DIST_L2, 5)[1:-1, 1:-1]
    inner = depth > min(EDGE_MM * px_per_mm, 0.5 * float(depth.max()))
    return FoundCloth(inner, cv2.boxPoints(box).astype(float), float(shorter_px / cell_width_px))


def _morph(mask: Mask, operation: int, size_px: float) -> Mask:
    side = max(3, round(size_px) | 1)
    kernel = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (side, side))
    return np.asarray(cv2.morphologyEx(mask.astype(np.uint8), operation, kernel), dtype=bool)
