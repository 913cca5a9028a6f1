"""What lies before the simulated camera: the printed sheet, the chart card, and cloth."""

from dataclasses import dataclass, field
from functools import lru_cache

import cv2
import numpy as np

from zesty_grid.core.read.colour_space import Floats
from zesty_grid.core.read.kubelka_munk import absorption_over_scattering, reflectance_of
from zesty_grid.core.read.patch24 import WAVELENGTHS_NM, patch24_spectra
from zesty_grid.core.read.sheet_layout import ChartSlot, Sheet
from zesty_grid.formats.sheet_page import sheet_image, sheet_pdf
from zesty_grid.standins.bent import Bend
from zesty_grid.standins.cloth import Cloth, Image32, RectMm, ToRgb, lay_cloth

CARD_BLACK = np.full(36, 0.042)
PAPER = 0.90 - 0.05 * np.exp(-((WAVELENGTHS_NM - 380) / 40.0))


@dataclass(frozen=True)
class Shade:
    """A shadow on the page: what it takes of the light, and how softly its edge runs out."""

    rect_mm: RectMm
    depth: float
    soft_mm: float = 3.0


@dataclass(frozen=True)
class ChartFault:
    """What has happened to the card: relative yellowing at 400 nm; dye lost from its patches; light
    that its surface throws back whole (all from 0 to 1)."""

    yellowed: float = 0.0
    bleached: float = 0.0
    sheen: float = 0.0


@dataclass(frozen=True)
class Flat:
    """A flat thing of one colour that lies on the page: its four corners, in order."""

    corners_mm: tuple[tuple[float, float], ...]
    reflectance: Floats


@dataclass(frozen=True)
class Scene:
    """A sheet with cloth on it; the chart card a little off its slot, or missing, or turned.
    `card_beyond_mm`: how far the card's frame reaches beyond its slot on each side. `flats`: what else
    lies there, each upon those before it."""

    sheet: Sheet
    cloths: tuple[Cloth, ...] = ()
    chart_shift_mm: tuple[float, float] = (1.0, -0.8)
    chart_turn_deg: float = 1.2
    chart_present: bool = True
    chart_upside_down: bool = False
    hidden_marker: int | None = None
    labels: dict[str, str] = field(default_factory=dict)
    title: str = ""
    paper_present: bool = True
    table: Floats = field(default_factory=lambda: np.full(36, 0.22))
    shades: tuple[Shade, ...] = ()
    chart_fault: ChartFault = ChartFault()
    paper: Floats = field(default_factory=lambda: PAPER)
    chart_spectra: Floats = field(default_factory=patch24_spectra)
    card_beyond_mm: float = 0.0
    card_frame: Floats = field(default_factory=lambda: CARD_BLACK)
    bend: Bend | None = None
    flats: tuple[Flat, ...] = ()


def page_reflected(
    scene: Scene, to_rgb: ToRgb, rng: np.random.Generator, px_per_mm: float = 8.0
) -> tuple[Image32, float]:
    """Linear RGB that each point of the page sends under an even light; and its scale."""
    printed = _printed(sheet_pdf(scene.sheet, scene.title, scene.labels), px_per_mm)
    page = printed[..., None] * to_rgb(scene.paper).astype(np.float32)
    if not scene.paper_present:
        page[:] = to_rgb(scene.table)
    if scene.chart_present:
        _lay_chart(page, scene, to_rgb, px_per_mm)
    rects = {cell.cell: cell.rect_mm for cell in scene.sheet.cells}
    for cloth in scene.cloths:
        lay_cloth(page, cloth, rects[cloth.cell], to_rgb, px_per_mm, rng)
    for flat in scene.flats:
        _fill(page, np.array(flat.corners_mm) * px_per_mm - 0.5, to_rgb(flat.reflectance))
    for shade in scene.shades:
        _shade(page, shade, px_per_mm)
    if scene.hidden_marker is not None:
        corners = np.array(scene.sheet.markers[scene.hidden_marker].corners_mm)
        low, high = ((corners.min(0) * px_per_mm).astype(int), (corners.max(0) * px_per_mm).astype(int))
        page[low[1] - 9 : high[1] - 30, low[0] - 9 : high[0] + 9] = to_rgb(np.full(36, 0.3))
    return np.asarray(page, dtype=np.float32), px_per_mm


@lru_cache(maxsize=2)
def _printed(pdf: bytes, px_per_mm: float) -> Image32:
    """Ink on paper: 1 for blank, 0.05 for black."""
    grey = np.asarray(sheet_image(pdf, px_per_mm * 25.4).convert("L"), dtype=np.float32) / 255
    return np.asarray(0.05 + 0.95 * grey, dtype=np.float32)


def _lay_chart(page: Image32, scene: Scene, to_rgb: ToRgb, px_per_mm: float) -> None:
    slot = scene.sheet.chart
    fault = scene.chart_fault
    colours = to_rgb(_aged(scene.chart_spectra, fault) + fault.sheen)
    if scene.chart_upside_down:
        colours = colours[::-1]
    frame = np.array(slot.quad_mm) + scene.card_beyond_mm * np.array([[-1, -1], [1, -1], [1, 1], [-1, 1]])
    quads = [frame, *(_patch_quad(slot, i) for i in range(len(slot.patches)))]
    centre = np.array(slot.quad_mm).mean(axis=0)
    angle = np.radians(scene.chart_turn_deg)
    turn = np.array([[np.cos(angle), -np.sin(angle)], [np.sin(angle), np.cos(angle)]])
    for quad, rgb in zip(quads, [to_rgb(scene.card_frame + fault.sheen), *colours], strict=True):
        _fill(page, ((quad - centre) @ turn.T + centre + scene.chart_shift_mm) * px_per_mm - 0.5, rgb)


def _fill(page: Image32, corners_px: Floats, rgb: Floats) -> None:
    fixed = np.round(corners_px * 64).astype(np.int32)
    cv2.fillConvexPoly(page, fixed, tuple(float(v) for v in rgb), shift=6)


def _patch_quad(slot: ChartSlot, i: int) -> Floats:
    half = np.array(slot.patches[i].size_mm) / 2
    square = np.array([[-1, -1], [1, -1], [1, 1], [-1, 1]])
    return np.array(slot.patches[i].centre_mm) + square * half


def _aged(spectra: Floats, fault: ChartFault) -> Floats:
    """Patches under a yellow film, with part of their dye gone (Kubelka and Munk)."""
    absorbs = absorption_over_scattering(np.clip(spectra, 0.01, 0.99))
    base = absorption_over_scattering(np.full(36, 0.9))
    absorbs = base + (absorbs - base) * (1 - fault.bleached * (absorbs > base))
    film = 1 - fault.yellowed * np.exp(-((WAVELENGTHS_NM - 400) / 60.0).clip(0))
    return np.asarray(reflectance_of(np.maximum(absorbs, 0)) * film)


def _shade(page: Image32, shade: Shade, px_per_mm: float) -> None:
    """A soft-edged shadow; drawn at a pixel a millimetre."""
    height, width = (round(side / px_per_mm) for side in page.shape[:2])
    x, y, w, h = shade.rect_mm
    field = np.zeros((height, width), dtype=np.float32)
    field[max(0, round(y)) : round(y + h), max(0, round(x)) : round(x + w)] = 1
    field = np.asarray(cv2.GaussianBlur(field, (0, 0), max(0.3, shade.soft_mm / 2)))
    page *= 1 - shade.depth * cv2.resize(field, page.shape[1::-1])[..., None]
