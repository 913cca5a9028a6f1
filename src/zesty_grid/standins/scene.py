"""What lies before the simulated camera: the printed sheet, the chart card, and cloth."""

from collections.abc import Callable
from dataclasses import dataclass, field
from functools import lru_cache

import cv2
import numpy as np
from numpy.typing import NDArray

from zesty_grid.core.read.patch24 import patch24_spectra
from zesty_grid.core.read.sheet_layout import ChartSlot, Sheet
from zesty_grid.formats.sheet_page import sheet_image, sheet_pdf

Floats = NDArray[np.float64]
Image32 = NDArray[np.float32]
CARD_BLACK = np.full(36, 0.042)
PAPER = 0.90 - 0.05 * np.exp(-((np.arange(380, 731, 10) - 380) / 40.0))


@dataclass(frozen=True)
class Cloth:
    """A piece laid in a cell. Shares are of the cell's width; `uneven` is relative."""

    cell: str
    reflectance: Floats
    width_share: float = 0.8
    turn_deg: float = 3.0
    weave: float = 0.07
    uneven: float = 0.01
    glare: bool = False


@dataclass(frozen=True)
class Scene:
    """A sheet with cloth on it; the chart card a little off its slot, or missing, or turned."""

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


def page_reflected(
    scene: Scene, to_rgb: Callable[[Floats], Floats], rng: np.random.Generator,
    px_per_mm: float = 8.0,
) -> tuple[Image32, float]:  # fmt: skip
    """Linear RGB that each point of the page sends under an even light; and its scale."""
    printed = _printed(sheet_pdf(scene.sheet, scene.title, scene.labels), px_per_mm)
    page = printed[..., None] * to_rgb(PAPER).astype(np.float32)
    if not scene.paper_present:
        page[:] = to_rgb(scene.table)
    if scene.chart_present:
        _lay_chart(page, scene, to_rgb, px_per_mm)
    rects = {cell.cell: cell.rect_mm for cell in scene.sheet.cells}
    for cloth in scene.cloths:
        _lay_cloth(page, cloth, rects[cloth.cell], to_rgb, px_per_mm, rng)
    if scene.hidden_marker is not None:
        corners = np.array(scene.sheet.markers[scene.hidden_marker].corners_mm)
        low, high = (
            (corners.min(0) * px_per_mm).astype(int),
            (corners.max(0) * px_per_mm).astype(int),
        )
        page[low[1] - 9 : high[1] - 30, low[0] - 9 : high[0] + 9] = to_rgb(np.full(36, 0.3))
    return np.asarray(page, dtype=np.float32), px_per_mm


@lru_cache(maxsize=2)
def _printed(pdf: bytes, px_per_mm: float) -> Image32:
    """Ink on paper: 1 for blank, 0.05 for black."""
    grey = np.asarray(sheet_image(pdf, px_per_mm * 25.4).convert("L"), dtype=np.float32) / 255
    return np.asarray(0.05 + 0.95 * grey, dtype=np.float32)


def _lay_chart(
    page: Image32, scene: Scene, to_rgb: Callable[[Floats], Floats], px_per_mm: float
) -> None:
    slot = scene.sheet.chart
    colours = to_rgb(patch24_spectra())
    if scene.chart_upside_down:
        colours = colours[::-1]
    quads = [np.array(slot.quad_mm), *(_patch_quad(slot, i) for i in range(24))]
    centre = np.array(slot.quad_mm).mean(axis=0)
    angle = np.radians(scene.chart_turn_deg)
    turn = np.array([[np.cos(angle), -np.sin(angle)], [np.sin(angle), np.cos(angle)]])
    for quad, rgb in zip(quads, [to_rgb(CARD_BLACK), *colours], strict=True):
        laid = ((quad - centre) @ turn.T + centre + scene.chart_shift_mm) * px_per_mm - 0.5
        fixed = np.round(laid * 64).astype(np.int32)
        cv2.fillConvexPoly(page, fixed, tuple(float(v) for v in rgb), shift=6)


def _patch_quad(slot: ChartSlot, i: int) -> Floats:
    half = np.array(slot.patches[i].size_mm) / 2
    square = np.array([[-1, -1], [1, -1], [1, 1], [-1, 1]])
    return np.array(slot.patches[i].centre_mm) + square * half


def _lay_cloth(
    page: Image32, cloth: Cloth, rect: tuple[float, float, float, float],
    to_rgb: Callable[[Floats], Floats], px_per_mm: float, rng: np.random.Generator,
) -> None:  # fmt: skip
    """A woven rectangle with ravelled edges, yarn by yarn lighter and darker, mean kept."""
    x, y, w, h = rect
    half_w, half_h = cloth.width_share * w / 2, cloth.width_share * h / 2
    centre = (np.array([x + w / 2, y + h / 2]) + rng.uniform(-0.3, 0.3, 2)).astype(np.float32)
    reach = 1.12 * np.hypot(half_w, half_h) * 0.99
    left, top = np.floor((centre - reach) * px_per_mm).astype(int)
    size = int(2 * reach * px_per_mm)
    line = np.arange(size, dtype=np.float32)
    column, row = np.meshgrid(line, line)
    px = (column + left + 0.5) / px_per_mm - centre[0]
    py = (row + top + 0.5) / px_per_mm - centre[1]
    angle = np.float32(np.radians(cloth.turn_deg))
    u = px * np.cos(angle) + py * np.sin(angle)
    v = -px * np.sin(angle) + py * np.cos(angle)
    ravel = [_ravel(t, rng) for t in (v, v, u, u)]
    inside = (u > -half_w + ravel[0]) & (u < half_w - ravel[1])
    inside &= (v > -half_h + ravel[2]) & (v < half_h - ravel[3])
    yarn_mm = 0.55
    weave = np.sin(2 * np.pi * u / yarn_mm) * np.sin(2 * np.pi * v / yarn_mm)
    slub = _ravel(u, rng) + _ravel(v, rng) - 0.9
    texture = 1 + cloth.weave * (weave + 0.4 * slub)
    texture *= 1 + cloth.uneven * np.sin(u / 6 + rng.uniform(0, 6)) * np.cos(v / 7)
    texture /= texture[inside].mean()
    light = texture[..., None] * to_rgb(cloth.reflectance).astype(np.float32)
    if cloth.glare:
        light += 2.5 * np.exp(-((u - 4) ** 2 + v**2) / 8)[..., None]
    region = page[top : top + size, left : left + size]
    shadow = cv2.GaussianBlur(inside.astype(np.float32), (0, 0), 0.4 * px_per_mm)
    region *= (1 - 0.12 * np.roll(shadow, 3, axis=0) * ~inside)[..., None].astype(np.float32)
    region[inside] = light[inside]


def _ravel(along_mm: Floats, rng: np.random.Generator) -> Floats:
    """Threads standing out by up to 0.9 mm, each about 0.4 mm wide."""
    threads = rng.uniform(0, 0.9, 400).astype(np.float32)
    return threads[np.clip((along_mm / 0.4 + 200).astype(int), 0, 399)]
