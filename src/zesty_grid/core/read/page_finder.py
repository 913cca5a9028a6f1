"""Finds the sheet in a photograph by its coded corner markers."""

import math
from dataclasses import replace

import cv2
import numpy as np
from numpy.typing import NDArray

from zesty_grid.core.read.colour_space import Floats
from zesty_grid.core.read.found_page import FoundPage, apply_homography
from zesty_grid.core.read.picture import Picture
from zesty_grid.core.read.sheet_layout import PAGES_MM, Marker, Sheet, lay_out_sheet
from zesty_grid.core.refusal import Refusal

CORNER_NAMES = ("upper left", "upper right", "lower right", "lower left")
MARKER_DICTIONARY = cv2.aruco.getPredefinedDictionary(cv2.aruco.DICT_4X4_50)
SEARCH_WIDTH_PX = 1600
SMALLEST_PX_PER_MM = 3.4
WIDEST_EDGE_MM = 0.85
STEEPEST_EDGE_OF_A_BLUR = 0.15
PLAIN_CONTRAST = 90.0
MARKER_MODULES = 6
LIKE_A_MARKER = 0.6


def find_page(picture: Picture, sheet: Sheet) -> FoundPage:
    """Locates the sheet; raises Refusal for a hidden marker, a photo too small or blurred."""
    grey = grey_of(picture)
    found = detect_markers(grey, {marker.id for marker in sheet.markers})
    return _page(picture, grey, found, sheet.markers)


def find_any_page(picture: Picture) -> tuple[FoundPage, tuple[float, float]]:
    """Locates a sheet of any paper, and says its size in mm; raises Refusal as `find_page` does."""
    grey = grey_of(picture)
    sheets = {paper: lay_out_sheet("unknown", paper=paper) for paper in PAGES_MM}
    ids = {marker.id for sheet in sheets.values() for marker in sheet.markers}
    found = detect_markers(grey, ids, enough=4)
    sheet = max(sheets.values(), key=lambda one: sum(marker.id in found for marker in one.markers))
    return _page(picture, grey, found, sheet.markers), sheet.page_mm


def _page(
    picture: Picture, grey: NDArray[np.uint8], found: dict[int, Floats], markers: tuple[Marker, ...]
) -> FoundPage:
    missing = [place for place, marker in enumerate(markers) if marker.id not in found]
    if missing and _steepest_edge(grey) < STEEPEST_EDGE_OF_A_BLUR:
        raise Refusal(
            "blurred",
            "The photo is so blurred that the sheet's corner markers cannot be read.",
            "Rest the camera on something, let it focus on the sheet, and take it again.",
        )
    if len(missing) == len(markers):
        raise Refusal(
            "no-sheet",
            "No sheet was found in this photo.",
            "Photograph the whole printed sheet from above, with its four black corner markers.",
        )
    if missing:
        raise _missing(grey, found, markers, missing)
    page_points = np.array([corner for m in markers for corner in m.corners_mm])
    photo_points = np.concatenate([found[m.id] for m in markers])
    matrix, _ = cv2.findHomography(page_points, photo_points)
    photo_from_page = np.asarray(matrix, dtype=float)
    px_per_mm = _px_per_mm(photo_from_page, markers)
    if px_per_mm < SMALLEST_PX_PER_MM:
        raise Refusal(
            "photo-too-small",
            f"The photo is too small: the sheet has only {px_per_mm:.1f} pixels per millimetre.",
            f"At least {SMALLEST_PX_PER_MM} are needed: fill the frame, or use the full size.",
        )
    page = FoundPage(photo_from_page, px_per_mm, 0.0, corners_mm=page_points, corners_px=photo_points)
    edge_width_mm = _edge_width_mm(picture, page, markers)
    if edge_width_mm > WIDEST_EDGE_MM:
        raise Refusal(
            "blurred",
            f"The photo is blurred: edges are {edge_width_mm:.1f} mm wide on the sheet.",
            "Rest the camera on something, let it focus on the sheet, and take it again.",
        )
    return replace(page, edge_width_mm=edge_width_mm)


def _missing(
    grey: NDArray[np.uint8], found: dict[int, Floats], markers: tuple[Marker, ...], missing: list[int]
) -> Refusal:
    """Why markers were not seen: those that lie where they should and are unsharp, or hidden."""
    blurred = [place for place in missing if _looks_like(grey, found, markers, place)]
    names = " and ".join(CORNER_NAMES[place] for place in blurred or missing)
    plural = len(blurred or missing) > 1
    if blurred:
        return Refusal(
            "blurred",
            f"The {names} {'corners are' if plural else 'corner is'} too blurred for "
            f"{'their markers' if plural else 'its marker'} to be read.",
            "Hold the camera level over the sheet, a little further away, and take it again.",
        )
    return Refusal(
        "marker-hidden",
        f"The {names} corner {'markers are' if plural else 'marker is'} covered or outside the picture.",
        "Uncover the corner, or step back so that all four are in the picture.",
    )


def _looks_like(grey: NDArray[np.uint8], found: dict[int, Floats], markers: tuple[Marker, ...], place: int) -> bool:
    """Whether what lies where a marker should be resembles it, however unsharp."""
    seen = [marker for marker in markers if marker.id in found]
    page_points = np.array([corner for m in seen for corner in m.corners_mm])
    matrix, _ = cv2.findHomography(page_points, np.concatenate([found[m.id] for m in seen]))
    if matrix is None:
        return False
    corner = np.array(markers[place].corners_mm[0])
    pixels = MARKER_MODULES * 8
    side_mm = float(np.ptp([x for x, _ in markers[place].corners_mm]))
    page_from_crop = np.array([[side_mm / pixels, 0, corner[0]], [0, side_mm / pixels, corner[1]], [0, 0, 1]])
    crop = cv2.warpPerspective(
        grey, matrix @ page_from_crop, (pixels, pixels), flags=cv2.INTER_AREA | cv2.WARP_INVERSE_MAP
    )
    printed = MARKER_DICTIONARY.generateImageMarker(markers[place].id, pixels)
    if crop.std() < 2:
        return False
    likeness = [
        float(np.corrcoef(cv2.GaussianBlur(printed, (0, 0), blur).ravel(), crop.ravel())[0, 1])
        for blur in (2.0, 4.0, 8.0)
    ]
    return max(likeness) > LIKE_A_MARKER


def grey_of(picture: Picture) -> NDArray[np.uint8]:
    pixels = picture.pixels
    if pixels.dtype == np.uint16:
        pixels = (pixels >> 8).astype(np.uint8)
    return np.asarray(cv2.cvtColor(pixels, cv2.COLOR_RGB2GRAY), dtype=np.uint8)


def detect_markers(grey: NDArray[np.uint8], wanted: set[int], enough: int = 0) -> dict[int, Floats]:
    """Corners (4, 2) in full-size pixels by marker id, at the first scale that shows them all, or
    `enough` of them."""
    parameters = cv2.aruco.DetectorParameters()
    parameters.cornerRefinementMethod = cv2.aruco.CORNER_REFINE_NONE
    parameters.adaptiveThreshWinSizeStep = 16
    parameters.adaptiveThreshWinSizeMax = 55
    detector = cv2.aruco.ArucoDetector(MARKER_DICTIONARY, parameters)
    best: dict[int, Floats] = {}
    longest = max(grey.shape)
    for times in (math.ceil(longest / SEARCH_WIDTH_PX), max(1, longest // (2 * SEARCH_WIDTH_PX))):
        corners, ids, _ = detector.detectMarkers(_smaller(grey, times))
        found = {
            int(marker_id): (quad[0].astype(float) + 0.5) * times - 0.5
            for quad, marker_id in zip(corners, np.ravel(ids) if ids is not None else [], strict=True)
            if int(marker_id) in wanted
        }
        if len(found) > len(best):
            best = found
        if len(best) >= (enough or len(wanted)) or times == 1:
            break
    return {marker_id: _refined(grey, quad) for marker_id, quad in best.items()}


def _smaller(grey: NDArray[np.uint8], times: int) -> NDArray[np.uint8]:
    """Means of squares of pixels: by a whole number it takes a tenth of the time."""
    height, width = (side // times for side in grey.shape)
    whole = grey[: height * times, : width * times]
    return np.asarray(cv2.resize(whole, (width, height), interpolation=cv2.INTER_AREA), dtype=np.uint8)


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
    corners = cv2.cornerSubPix(grey, quad.astype(np.float32).reshape(-1, 1, 2), (half, half), (-1, -1), criteria)
    return np.asarray(corners, dtype=float).reshape(4, 2)


def _px_per_mm(photo_from_page: Floats, markers: tuple[Marker, ...]) -> float:
    """The coarsest scale along the four sides between the markers."""
    outer = np.array([m.corners_mm[i] for i, m in enumerate(markers)])
    seen = apply_homography(photo_from_page, outer)
    lengths_mm = np.linalg.norm(outer - np.roll(outer, 1, axis=0), axis=1)
    lengths_px = np.linalg.norm(seen - np.roll(seen, 1, axis=0), axis=1)
    return float((lengths_px / lengths_mm).min())


def _edge_width_mm(picture: Picture, page: FoundPage, markers: tuple[Marker, ...]) -> float:
    """Contrast over steepest slope, across the markers' outer edges: the median, in mm."""
    widths: list[float] = []
    scale = 10.0
    for marker in markers:
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
