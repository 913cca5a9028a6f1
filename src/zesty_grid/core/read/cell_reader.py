"""Measures the cloth in one cell of the sheet."""

from dataclasses import dataclass
from typing import Any

import cv2
import numpy as np

from zesty_grid.core.read.cell_view import SEARCH_PX_PER_MM, Calibrated, CellPlace, CellView, view_cell
from zesty_grid.core.read.cloth_finder import SMALLEST_SHARE, FoundCloth, Mask
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import Floats, lab_to_hex
from zesty_grid.core.read.colour_words import colour_words
from zesty_grid.core.read.levelness import unevenness
from zesty_grid.core.read.measurement import CellMeasurement, Lab, ZoneMeasurement
from zesty_grid.core.read.picture import Picture, Pixels
from zesty_grid.core.read.piece import Piece, look_at_piece
from zesty_grid.core.read.said_by_hand import CellByHand, PointPx
from zesty_grid.core.read.sheet_layout import SheetCell, corners_of
from zesty_grid.core.read.uncertainty import UncertaintyParts, uncertainty_parts

BLOCK_MM = 4.0
CLIPPED_SHARE = 0.02
CLIPPED_REFUSED_SHARE = 0.25
DARKEST_CODE_SHARE = 0.02
# Good photos stay under a tenth of these (measured on both simulated cameras).
SHADOW_SHIFT = 0.012
SHADOW_DOUBT = 0.008
OTHER_LIGHT = 0.05
BEYOND_CHART_LEVERAGE = 0.8
OUTLINE_SLACK_MM = 0.4
# Two simulated lights that differ by a third in their colour misread cloth by about 1.7.
OTHER_LIGHT_DE00 = 5.0
# Hanks of known colour, shallow and deep, were read off by 1.2 to 1.6 (simulated).
YARN_DE00 = 0.9


@dataclass(frozen=True)
class Colour:
    """One colour of one piece: mean light over that of paper, and how it varies."""

    lab: Floats
    levelness_de00: float
    parts: UncertaintyParts
    beyond_chart: bool

    def facts(self, mean_light: Floats) -> dict[str, Any]:
        """What a cell and a zone both say of their colour, rounded."""
        return {
            "lab": _rounded(self.lab, 3),
            "hex": lab_to_hex(self.lab),
            "colour_words": colour_words(self.lab),
            "parts": self.parts,
            "levelness_de00": round(self.levelness_de00, 3),
            "uncertainty_de00": round(self.parts.combined_de00, 3),
            "light": _rounded(mean_light, 6),
        }


def read_cell(photo: Calibrated, cell: SheetCell, by_hand: CellByHand | None = None) -> CellMeasurement:
    """Finds the cloth in the cell and measures it; status 'empty' where there is none.

    `by_hand`: what a person says of it.
    """
    view = view_cell(photo, cell, by_hand)
    if view is None:
        frame = photo.page.to_photo(np.array(corners_of(cell.rect_mm)))
        outline = tuple((round(float(x), 1), round(float(y), 1)) for x, y in frame)
        return CellMeasurement(cell=cell.cell, status="empty", flags=("empty",), outline_px=outline)
    cloth = view.cloth
    size = (view.codes.shape[1], view.codes.shape[0])
    inner = cv2.resize(cloth.inner.astype(np.uint8), size, interpolation=cv2.INTER_NEAREST) > 0
    codes = np.maximum.reduce([view.codes[..., channel][inner] for channel in range(3)])
    clipped = float((codes >= photo.picture.top_code).mean())
    outline_px = _to_photo(photo, view, cloth.corners_px)
    flags = _cloth_flags(photo.picture, cloth, codes, clipped) + _place_flags(view.place, photo)
    if clipped > CLIPPED_REFUSED_SHARE:
        return CellMeasurement(cell=cell.cell, status="refused", flags=flags, outline_px=outline_px)
    count = by_hand.zone_count if by_hand else 0
    printed = cell.zones if count == 0 and not (by_hand and by_hand.areas) else ()
    piece = look_at_piece(photo, view, count, len(printed), opaque=bool(by_hand and by_hand.opaque))
    mean_light = piece.mean_light()
    blocks = mean_light[None] if piece.yarn else _block_lights(piece.reduced, cloth.inner)
    colour = measure_colour(photo, view, mean_light, blocks, piece)
    beyond = ("beyond the chart",) if colour.beyond_chart else ()
    zones = range(1, len(piece.zones.shares) + 1) if len(piece.zones.shares) > 1 else ()
    uneven = None
    if not zones and not piece.yarn:
        uneven = unevenness(piece.lab, cloth.inner, SEARCH_PX_PER_MM)
    return CellMeasurement(
        cell=cell.cell,
        status="measured",
        **colour.facts(mean_light),
        flags=(*flags, *piece.flags, *beyond),
        outline_px=outline_px,
        zones=tuple(
            _zone(photo, view, piece, number, printed[number - 1] if printed else _drawn_name(by_hand, piece, number))
            for number in zones
        ),
        unevenness=uneven,
        as_seen_lab=_as_seen(photo, view, piece) if "see-through" in piece.flags else None,
    )


def _as_seen(photo: Calibrated, view: CellView, piece: Piece) -> Lab:
    """The colour with what shows through left in."""
    return _rounded(photo.correction.lab(view.evened[piece.used].mean(axis=0)[None])[0], 3)


def measure_colour(photo: Calibrated, view: CellView, mean_light: Floats, blocks: Floats, piece: Piece) -> Colour:
    """The colour of some light (3,) over that of paper, with its uncertainty. `blocks` (n, 3): the
    light of parts of it."""
    through = piece.through
    correction = photo.correction
    labs = correction.lab(np.vstack([mean_light, blocks]))
    lab = labs[0]
    levelness = float(delta_e_2000(labs[1:], np.broadcast_to(lab, blocks.shape)).mean())
    leverage = correction.leverage(mean_light)
    local = view.place.local
    backing = 0.0
    if photo.dots and through.max() > 0:
        with_page = mean_light * (1 - through) + through * np.exp(photo.dots.log_mean)
        backing = float(delta_e_2000(lab, correction.lab(with_page[None])[0]))
    parts = uncertainty_parts(
        lab,
        photo.patch_reference_lab,
        correction.unseen_de00,
        residual_ratio=float(np.hypot(photo.light.residual_ratio, local.doubt_ratio)),
        shadow_ratio=abs(local.shift_ratio),
        levelness_de00=levelness,
        block_count=len(blocks),
        disagreement_de00=correction.disagreement_de00(mean_light, lab),
        leverage=leverage,
        rendering_de00=float(
            np.hypot(_rendering_de00(photo, view.place, mean_light, lab), YARN_DE00 if piece.yarn else 0)
        ),
        backing_de00=backing,
    )
    return Colour(lab, levelness, parts, leverage > BEYOND_CHART_LEVERAGE)


def _rendering_de00(photo: Calibrated, place: CellPlace, mean_light: Floats, lab: Floats) -> float:
    """Other light than the chart's, other rendering, and what the page as a whole leaves open."""
    depth = abs(float(np.log(max(float(mean_light.mean()), 1e-3))))
    within = min(depth, -place.contrast.deepest_log)
    put_right = abs(place.contrast.ratio - 1) * (within / 2 + depth - within)
    tone = (float(lab[0]) + 16) / 3 * float(np.hypot(put_right, place.contrast.doubt * depth))
    return float(np.hypot(np.hypot(tone, OTHER_LIGHT_DE00 * place.other_light_ratio), photo.page_doubt_de00))


def _drawn_name(by_hand: CellByHand | None, piece: Piece, number: int) -> str:
    """What the person called the area that a zone is."""
    if by_hand is None or not piece.areas:
        return ""
    return by_hand.areas[piece.areas[number - 1] - 1].name


def _zone(photo: Calibrated, view: CellView, piece: Piece, number: int, name: str) -> ZoneMeasurement:
    own = piece.zones.labels == number
    mean_light = piece.mean_light(number)
    blocks = mean_light[None]
    if not piece.yarn:
        blocks = _block_lights(piece.reduced, piece.zones.core & own)
    colour = measure_colour(photo, view, mean_light, blocks, piece)
    outlines = [_to_photo(photo, view, outline) for outline in _outlines(own)]
    return ZoneMeasurement(
        zone=str(number),
        name=name,
        share=round(piece.zones.shares[number - 1], 4),
        **colour.facts(mean_light),
        outline_px=outlines[0],
        more_outlines_px=tuple(outlines[1:]),
    )


def _outlines(mask: Mask) -> list[Floats]:
    """Outlines of the parts of a zone, the largest first, in pixels of the search."""
    contours, _ = cv2.findContours(mask.astype(np.uint8), cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    slack_px = OUTLINE_SLACK_MM * SEARCH_PX_PER_MM
    ordered = sorted(contours, key=cv2.contourArea, reverse=True)
    return [cv2.approxPolyDP(contour, slack_px, True).reshape(-1, 2).astype(float) + 0.5 for contour in ordered]


def _to_photo(photo: Calibrated, view: CellView, points_px: Floats) -> tuple[PointPx, ...]:
    points_mm = points_px / SEARCH_PX_PER_MM + np.array(view.origin_mm)
    return tuple((round(float(x), 1), round(float(y), 1)) for x, y in photo.page.to_photo(points_mm))


def _rounded(values: Floats, digits: int) -> Lab:
    a, b, c = (round(float(value), digits) for value in values)
    return a, b, c


def _place_flags(place: CellPlace, photo: Calibrated) -> tuple[str, ...]:
    flags = []
    if abs(place.local.shift_ratio) > SHADOW_SHIFT or place.local.doubt_ratio > SHADOW_DOUBT:
        flags.append("shadow")
    if place.contrast.ratio != 1.0:
        flags.append("local tone")
    if place.other_light_ratio > OTHER_LIGHT:
        flags.append("other light")
    return tuple(flags)


def _cloth_flags(picture: Picture, cloth: FoundCloth, codes: Pixels, clipped: float) -> tuple[str, ...]:
    flags = []
    if clipped > CLIPPED_SHARE:
        flags.append("clipped")
    if float(np.median(codes)) < DARKEST_CODE_SHARE * picture.top_code:
        flags.append("too dark")
    if cloth.width_share < SMALLEST_SHARE:
        flags.append("cloth too small")
    if cloth.pieces > 1:
        flags.append("more than one piece")
    if cloth.holes:
        flags.append("hole")
    return tuple(flags)


def _block_lights(reduced: Floats, inner: Mask) -> Floats:
    """Mean light of blocks of cloth, (n, 3): large enough that the weave averages out."""
    height, width = inner.shape
    block_px = SEARCH_PX_PER_MM * BLOCK_MM
    size = (max(1, int(width / block_px)), max(1, int(height / block_px)))
    share = cv2.resize(inner.astype(np.float32), size, interpolation=cv2.INTER_AREA)
    masked = cv2.resize(reduced * inner[..., None], size, interpolation=cv2.INTER_AREA)
    full = share > min(0.6, 0.99 * float(share.max()))
    return np.asarray(masked[full] / share[full][:, None], dtype=float)
