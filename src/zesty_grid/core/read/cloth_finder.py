"""Finds the cloth that lies in a cell: by the printed dots that it covers, or on plain pages by its
colour against the paper and by its weave."""

from dataclasses import dataclass, replace

import cv2
import numpy as np
from numpy.typing import NDArray

from zesty_grid.core.read.colour_space import Floats
from zesty_grid.core.read.dot_pattern import DotsSeen

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
COVERED = 0.5
COVERED_CONTRAST = 0.75
FEWEST_OPEN = 0.03
DEEPEST_SHADOW_L = 60.0
PAGE_SLACK_BELOW, PAGE_SLACK_ABOVE = np.array([8.0, 2.5, 2.5]), np.array([3.0, 2.5, 2.5])
MOST_LIKE_PAGE = 0.1
SECOND_PIECE_SHARE = 0.15
SMALLEST_HOLE_MM = 3.0


@dataclass(frozen=True)
class FoundCloth:
    """`inner` is the part to measure, away from the ravelled edge; `corners_px` its outline.

    `whole` reaches to the edge; `pieces`: how many of some size lie in the cell;
    `holes`: through how many the page is seen.
    """

    inner: Mask
    whole: Mask
    corners_px: Floats
    width_share: float
    pieces: int = 1
    holes: int = 0


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
    inset_px = margin_mm * px_per_mm + MIDDLE_INSET * (min(height, width) - 2 * margin_mm * px_per_mm)
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


def find_cloth_on_dots(
    lab: Floats, seen: DotsSeen, page_lab: Floats, px_per_mm: float, margin_mm: float
) -> FoundCloth | None:
    """The cloth in a crop of a cell, by how well the dots are seen, and its edge by its colour.

    `page_lab` (n, 3): colours of dotted paper elsewhere on the page. Dots are printed within the
    cell only, `margin_mm` from the crop's edge; cloth that covers the cell to its edge is measured
    within it.
    """
    margin = round(margin_mm * px_per_mm)
    covered = (seen.share < COVERED) & (seen.contrast < COVERED_CONTRAST)
    covered[_ring(covered.shape, margin)] = False
    covered = _sharpened(covered, lab, seen, page_lab, px_per_mm)
    covered[_ring(covered.shape, margin)] = False
    cloth = _outline(covered, px_per_mm, margin_mm)
    if cloth is None:
        return None
    through = _morph(cloth.whole & ~covered, cv2.MORPH_OPEN, SMALLEST_HOLE_MM * px_per_mm)
    holes = cv2.connectedComponents(through.astype(np.uint8))[0] - 1
    if not holes:
        return cloth
    whole = cloth.whole & ~through
    return replace(cloth, whole=whole, inner=cloth.inner & _deep(whole, px_per_mm), holes=holes)


def whole_cell(shape: tuple[int, int], px_per_mm: float, margin_mm: float) -> FoundCloth:
    """All of a cell that is cut out of the page: what lies behind it is the cloth."""
    whole = ~_ring(shape, round(margin_mm * px_per_mm))
    rows, columns = np.nonzero(whole)
    (left, right), (top, foot) = ((float(v.min()), float(v.max())) for v in (columns, rows))
    corners = np.array([[left, top], [right, top], [right, foot], [left, foot]])
    return FoundCloth(_deep(whole, px_per_mm), whole, corners, 1.0)


def _sharpened(covered: Mask, lab: Floats, seen: DotsSeen, page_lab: Floats, px_per_mm: float) -> Mask:
    """The covered part with its edge where the colour of the page ends, as far as that can be told.

    Dots are seen no more sharply than they are wide. Close to the edge, what has no colour of the
    page is cloth; what has it is page, unless the cloth has it too.
    """
    low, high = np.percentile(page_lab, [3, 97], axis=0)
    neutral = np.asarray(((lab > low - PAGE_SLACK_BELOW) & (lab < high + PAGE_SLACK_ABOVE))[..., 1:].all(axis=-1))
    clear = neutral & seen.lie_open(px_per_mm) & (lab[..., 0] > DEEPEST_SHADOW_L)
    # In a shadow the page is darker than elsewhere.
    shade = 0.0
    if clear.mean() > FEWEST_OPEN:
        shade = min(0.0, float(np.median(lab[clear][:, 0]) - np.median(page_lab[:, 0])))
    lightness = lab[..., 0] - shade
    like_page = neutral & (lightness > low[0] - PAGE_SLACK_BELOW[0])
    like_page &= lightness < high[0] + PAGE_SLACK_ABOVE[0]
    outward = cv2.distanceTransform((~covered).astype(np.uint8), cv2.DIST_L2, 5)
    inward = cv2.distanceTransform(covered.astype(np.uint8), cv2.DIST_L2, 5)
    near_px = EDGE_MM * px_per_mm
    deep = inward > near_px
    sharpened = covered | ((outward < near_px) & ~like_page)
    if deep.any() and like_page[deep].mean() < MOST_LIKE_PAGE:
        sharpened &= ~((inward < near_px) & like_page)
    return np.asarray(sharpened)


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
    areas = stats[1:, cv2.CC_STAT_AREA]
    largest = 1 + int(np.argmax(areas))
    pieces = int((areas > SECOND_PIECE_SHARE * areas.max()).sum())
    contours, _ = cv2.findContours((labels == largest).astype(np.uint8), cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    contour = max(contours, key=cv2.contourArea)
    solid = np.zeros(mask.shape, dtype=np.uint8)
    cv2.drawContours(solid, [contour], -1, 1, cv2.FILLED)
    box = cv2.minAreaRect(contour)
    shorter_px, longer_px = sorted(box[1])
    cell_width_px = min(mask.shape) - 2 * margin_mm * px_per_mm
    if shorter_px < 0.15 * cell_width_px or cv2.contourArea(contour) < 0.5 * shorter_px * longer_px:
        return None
    return FoundCloth(
        _deep(solid.astype(bool), px_per_mm),
        solid.astype(bool),
        cv2.boxPoints(box).astype(float),
        float(shorter_px / cell_width_px),
        pieces,
    )


def _deep(whole: Mask, px_per_mm: float) -> Mask:
    """The part away from the edge; of a small piece the inner half."""
    padded = np.pad(whole.astype(np.uint8), 1)
    depth = cv2.distanceTransform(padded, cv2.DIST_L2, 5)[1:-1, 1:-1]
    return np.asarray(depth > min(EDGE_MM * px_per_mm, 0.5 * float(depth.max())))


def _morph(mask: Mask, operation: int, size_px: float) -> Mask:
    side = max(3, round(size_px) | 1)
    kernel = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (side, side))
    return np.asarray(cv2.morphologyEx(mask.astype(np.uint8), operation, kernel), dtype=bool)
