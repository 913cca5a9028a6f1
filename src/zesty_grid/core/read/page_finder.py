"""Finds the sheet in a photograph by its coded corner markers."""

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from zesty_grid.core.read.colour_space import Floats
from zesty_grid.core.read.picture import Picture, Pixels
from zesty_grid.core.read.sheet_layout import RectMm, Sheet
from zesty_grid.core.refusal import Refusal

CORNER_NAMES = ("upper left", "upper right", "lower right", "lower left")
MARKER_DICTIONARY = cv2.aruco.getPredefinedDictionary(cv2.aruco.DICT_4X4_50)
SEARCH_WIDTH_PX = 1600
SMALLEST_PX_PER_MM = 3.4
WIDEST_EDGE_MM = 0.85
STEEPEST_EDGE_OF_A_BLUR = 0.15
PLAIN_CONTRAST = 90.0


@dataclass(frozen=True)
class FoundPage:
    """The page in the photo: `photo_from_page` maps mm on the page to photo pixels (3 × 3)."""

    photo_from_page: Floats
    px_per_mm: float
    edge_width_mm: float

    def to_photo(self, points_mm: Floats) -> Floats:
        """Photo pixels of page points in mm; shape (n, 2)."""
        return apply_homography(self.photo_from_page, points_mm)

    def crop(self, picture: Picture, rect_mm: RectMm, px_per_mm: float) -> Pixels:
        """The upright pixels of a rectangle of the page, at `px_per_mm`."""
        x, y, w, h = rect_mm
        page_from_crop = np.array(
            [[1 / px_per_mm, 0, x + 0.5 / px_per_mm], [0, 1 / px_per_mm, y + 0.5 / px_per_mm],
             [0, 0, 1]]
        )  # fmt: skip
        size = (max(1, round(w * px_per_mm)), max(1, round(h * px_per_mm)))
        warped: Pixels = cv2.warpPerspective(  # type: ignore[assignment]
            picture.pixels,
            self.photo_from_page @ page_from_crop,
            size,
            flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP,
            borderMode=cv2.BORDER_REPLICATE,
        )
        return warped


def apply_homography(matrix: Floats, points: Floats) -> Floats:
    """Points of shape (n, 2) through a 3 × 3 homography."""
    mapped = np.column_stack([points, np.ones(len(points))]) @ matrix.T
    result: Floats = mapped[:, :2] / mapped[:, 2:]
    return result


def find_page(picture: Picture, sheet: Sheet) -> FoundPage:
    """Locates the sheet; raises Refusal for a hidden marker, a photo too small or blurred."""
    grey = _grey(picture)
    found = _detect_markers(grey, {marker.id for marker in sheet.markers})
    if len(found) < len(sheet.markers) and _steepest_edge(grey) < STEEPEST_EDGE_OF_A_BLUR:
        raise Refusal(
            "blurred",
            "The photo is so blurred that the sheet's corner markers cannot be read.",
            "Rest the camera on something, let it focus on the sheet, and take it again.",
        )
    if not found:
        raise Refusal(
            "no-sheet",
            "No sheet was found in this photo.",
            "Photograph the whole printed sheet from above, with its four black corner markers.",
        )
    missing = [CORNER_NAMES[place] for place, m in enumerate(sheet.markers) if m.id not in found]
    if missing:
        names = " and ".join(missing)
        plural = "markers are" if len(missing) > 1 else "marker is"
        raise Refusal(
            "marker-hidden",
            f"The {names} corner {plural} covered or outside the picture.",
            "Uncover the corner, or step back so that all four are in the picture.",
        )
    page_points = np.array([corner for m in sheet.markers for corner in m.corners_mm])
    photo_points = np.concatenate([found[m.id] for m in sheet.markers])
    matrix, _ = cv2.findHomography(page_points, photo_points)
    photo_from_page = np.asarray(matrix, dtype=float)
    px_per_mm = _px_per_mm(photo_from_page, sheet)
    if px_per_mm < SMALLEST_PX_PER_MM:
        raise Refusal(
            "photo-too-small",
            f"The photo is too small: the sheet has only {px_per_mm:.1f} pixels per millimetre.",
            f"At least {SMALLEST_PX_PER_MM} are needed: fill the frame, or use the full size.",
        )
    page = FoundPage(photo_from_page, px_per_mm, 0.0)
    edge_width_mm = _edge_width_mm(picture, page, sheet)
    if edge_width_mm > WIDEST_EDGE_MM:
        raise Refusal(
            "blurred",
            f"The photo is blurred: edges are {edge_width_mm:.1f} mm wide on the sheet.",
            "Rest the camera on something, let it focus on the sheet, and take it again.",
        )
    return FoundPage(photo_from_page, px_per_mm, edge_width_mm)


def _grey(picture: Picture) -> NDArray[np.uint8]:
    pixels = picture.pixels
    if pixels.dtype == np.uint16:
        pixels = (pixels >> 8).astype(np.uint8)
    return np.asarray(cv2.cvtColor(pixels, cv2.COLOR_RGB2GRAY), dtype=np.uint8)


def _detect_markers(grey: NDArray[np.uint8], wanted: set[int]) -> dict[int, Floats]:
    """Corners (4, 2) in full-size pixels by marker id, at the first scale that shows them all."""
    parameters = cv2.aruco.DetectorParameters()
    parameters.cornerRefinementMethod = cv2.aruco.CORNER_REFINE_NONE
    parameters.adaptiveThreshWinSizeStep = 16
    parameters.adaptiveThreshWinSizeMax = 55
    detector = cv2.aruco.ArucoDetector(MARKER_DICTIONARY, parameters)
    best: dict[int, Floats] = {}
    longest = max(grey.shape)
    for search_px in (SEARCH_WIDTH_PX, 2 * SEARCH_WIDTH_PX):
        scale = min(1.0, search_px / longest)
        small = cv2.resize(grey, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
        corners, ids, _ = detector.detectMarkers(small)
        found = {
            int(marker_id): (quad[0].astype(float) + 0.5) / scale - 0.5
            for quad, marker_id in zip(
                corners, np.ravel(ids) if ids is not None else [], strict=True
            )
            if int(marker_id) in wanted
        }
        if len(found) > len(best):
            best = found
        if len(best) == len(wanted) or scale == 1.0:
            break
    return {marker_id: _refined(grey, quad) for marker_id, quad in best.items()}


def _steepest_edge(grey: NDArray[np.uint8]) -> float:
    """The steepest slope in the whole photo over its contrast, per pixel at search size.

    A plain photo of nothing has no contrast to speak of, and counts as sharp.
    """
    scale = min(1.0, SEARCH_WIDTH_PX / max(grey.shape))
    small = cv2.resize(grey, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
    smooth = cv2.GaussianBlur(small, (0, 0), 1.0).astype(float)
    contrast = float(np.percentile(smooth, 99.5) - np.percentile(smooth, 0.5))
    if contrast < PLAIN_CONTRAST:
        return 1.0
    slope = np.hypot(np.diff(smooth, axis=1)[:-1], np.diff(smooth, axis=0)[:, :-1])
    return float(np.percentile(slope, 99.95)) / contrast


def _refined(grey: NDArray[np.uint8], quad: Floats) -> Floats:
    side_px = float(np.linalg.norm(quad[0] - quad[1]))
    half = int(np.clip(side_px / 20, 2, 12))
    criteria = (cv2.TERM_CRITERIA_EPS + cv2.TERM_CRITERIA_MAX_ITER, 30, 0.02)
    corners = cv2.cornerSubPix(
        grey, quad.astype(np.float32).reshape(-1, 1, 2), (half, half), (-1, -1), criteria
    )
    return np.asarray(corners, dtype=float).reshape(4, 2)


def _px_per_mm(photo_from_page: Floats, sheet: Sheet) -> float:
    """The coarsest scale along the four sides between the markers."""
    outer = np.array([m.corners_mm[i] for i, m in enumerate(sheet.markers)])
    seen = apply_homography(photo_from_page, outer)
    lengths_mm = np.linalg.norm(outer - np.roll(outer, 1, axis=0), axis=1)
    lengths_px = np.linalg.norm(seen - np.roll(seen, 1, axis=0), axis=1)
    return float((lengths_px / lengths_mm).min())


def _edge_width_mm(picture: Picture, page: FoundPage, sheet: Sheet) -> float:
    """Contrast over steepest slope, across the markers' outer edges: the median, in mm."""
    widths: list[float] = []
    scale = 10.0
    for marker in sheet.markers:
        (x0, y0), (x1, y1) = marker.corners_mm[0], marker.corners_mm[2]
        middle_x, middle_y = (x0 + x1) / 2, (y0 + y1) / 2
        for rect, axis in (
            ((x0 - 2, middle_y - 3, 4.0, 6.0), 0),
            ((x1 - 2, middle_y - 3, 4.0, 6.0), 0),
            ((middle_x - 3, y0 - 2, 6.0, 4.0), 1),
            ((middle_x - 3, y1 - 2, 6.0, 4.0), 1),
        ):
            crop = page.crop(picture, rect, scale).astype(float).mean(axis=2)
            profile = crop.mean(axis=axis)
            slope = np.abs(np.gradient(profile)).max()
            if slope > 0:
                widths.append(float(np.ptp(profile) / slope / scale))
    return float(np.median(widths)) if widths else float("inf")
