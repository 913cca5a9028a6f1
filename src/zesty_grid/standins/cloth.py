"""Pieces of cloth and yarn as they are laid on the simulated page, mean colour kept."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

import cv2
import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
Image32 = NDArray[np.float32]
Mask = NDArray[np.bool_]
ToRgb = Callable[[Floats], Floats]
RectMm = tuple[float, float, float, float]

YARN_MM = 0.55
GAUZE_PITCH_MM = 1.25
STRAND_MM = 1.6
MotifKind = Literal["half", "corner", "stripes", "dots", "blotches", "pieces"]


@dataclass(frozen=True)
class Motif:
    """A second colour on part of a piece; `pieces`: a second piece beside the first."""

    kind: MotifKind
    reflectance: Floats
    share: float = 0.5


@dataclass(frozen=True)
class Cloth:
    """A piece laid in a cell. Shares are of the cell's width; `uneven` is relative.

    `open_share`: what of the area is holes (gauze). `see_through`: how much of the light comes from
    the page below. `strands`: how deep the shadows between strands of yarn are. `torn_mm`: a hole.
    `bands`: colours side by side from left to right, instead of one.
    """

    cell: str
    reflectance: Floats
    width_share: float = 0.8
    turn_deg: float = 3.0
    weave: float = 0.07
    uneven: float = 0.01
    glare: bool = False
    motifs: tuple[Motif, ...] = ()
    open_share: float = 0.0
    see_through: float = 0.0
    strands: float = 0.0
    torn_mm: float = 0.0
    bands: tuple[Floats, ...] = ()


@dataclass(frozen=True)
class _Patch:
    """A square of the page around a piece: `u`, `v` in mm along and across the piece."""

    top: int
    left: int
    u: Image32
    v: Image32
    inside: Mask
    half_mm: tuple[float, float]


def lay_cloth(
    page: Image32, cloth: Cloth, rect: RectMm, to_rgb: ToRgb, px_per_mm: float, rng: np.random.Generator
) -> None:
    """Draws a ravelled, woven piece over the page, in linear light."""
    patch = _patch(page.shape, cloth, rect, px_per_mm, rng)
    texture = _texture(cloth, patch, rng)
    height, width = patch.u.shape
    region = page[patch.top : patch.top + height, patch.left : patch.left + width]
    light = texture[..., None] * to_rgb(cloth.reflectance).astype(np.float32)
    inside = patch.inside.copy()
    place = (patch.u / patch.half_mm[0] + 1) / 2 * len(cloth.bands)
    for number, band in enumerate(cloth.bands):
        last = number == len(cloth.bands) - 1
        where = (place >= number) & ((place < number + 1) | last)
        light[where] = texture[where][:, None] * to_rgb(band).astype(np.float32)
    for motif in cloth.motifs:
        where = _where(motif, patch, rng)
        if motif.kind == "pieces":
            edge = np.quantile(patch.u[patch.inside], 1 - motif.share)
            inside &= np.abs(patch.u - edge) > 1.5
        light[where] = texture[where][:, None] * to_rgb(motif.reflectance).astype(np.float32)
    if cloth.torn_mm:
        inside &= np.hypot(patch.u - 2, patch.v + 1) > cloth.torn_mm / 2
    if cloth.open_share:
        inside &= ~_holes(cloth.open_share, patch)
    if cloth.glare:
        light += 2.5 * np.exp(-((patch.u - 4) ** 2 + patch.v**2) / 8)[..., None]
    if cloth.see_through:
        light = (1 - cloth.see_through) * light + cloth.see_through * region
    shadow = cv2.GaussianBlur(inside.astype(np.float32), (0, 0), 0.4 * px_per_mm)
    region *= (1 - 0.12 * np.roll(shadow, 3, axis=0) * ~inside)[..., None].astype(np.float32)
    region[inside] = light[inside]


def _patch(
    page_shape: tuple[int, ...], cloth: Cloth, rect: RectMm, px_per_mm: float, rng: np.random.Generator
) -> _Patch:
    x, y, w, h = rect
    half_w, half_h = cloth.width_share * w / 2, cloth.width_share * h / 2
    centre = (np.array([x + w / 2, y + h / 2]) + rng.uniform(-0.3, 0.3, 2)).astype(np.float32)
    reach = 1.12 * np.hypot(half_w, half_h) * 0.99
    left, top = np.maximum(0, np.floor((centre - reach) * px_per_mm).astype(int))
    size = int(2 * reach * px_per_mm)
    wide, high = min(size, page_shape[1] - left), min(size, page_shape[0] - top)
    column, row = np.meshgrid(np.arange(wide, dtype=np.float32), np.arange(high, dtype=np.float32))
    px = (column + left + 0.5) / px_per_mm - centre[0]
    py = (row + top + 0.5) / px_per_mm - centre[1]
    angle = np.float32(np.radians(cloth.turn_deg))
    u = px * np.cos(angle) + py * np.sin(angle)
    v = -px * np.sin(angle) + py * np.cos(angle)
    ravel = [_ravel(t, rng) for t in (v, v, u, u)]
    inside = (u > -half_w + ravel[0]) & (u < half_w - ravel[1])
    inside &= (v > -half_h + ravel[2]) & (v < half_h - ravel[3])
    return _Patch(int(top), int(left), u, v, inside, (half_w, half_h))


def _texture(cloth: Cloth, patch: _Patch, rng: np.random.Generator) -> Image32:
    """Yarn by yarn lighter and darker, with a mean of 1; strands are 1 where they face the light"""
    u, v = patch.u, patch.v
    weave = np.sin(2 * np.pi * u / YARN_MM) * np.sin(2 * np.pi * v / YARN_MM)
    slub = _ravel(u, rng) + _ravel(v, rng) - 0.9
    texture = 1 + cloth.weave * (weave + 0.4 * slub)
    texture *= 1 + cloth.uneven * np.sin(u / 6 + rng.uniform(0, 6)) * np.cos(v / 7)
    texture /= texture[patch.inside].mean()
    if cloth.strands:
        off = 2 * np.abs((u / STRAND_MM) % 1 - 0.5)
        texture *= 1 - cloth.strands * off**2
        texture *= 1 - 0.5 * cloth.strands * np.minimum(1, np.abs(u / patch.half_mm[0])) ** 4
    return np.asarray(texture, dtype=np.float32)


def _where(motif: Motif, patch: _Patch, rng: np.random.Generator) -> Mask:
    """Where on the piece the motif lies, by its share of the whole."""
    u, v = patch.u / patch.half_mm[0], patch.v / patch.half_mm[1]
    if motif.kind == "stripes":
        return np.asarray((u * 2) % 1 < motif.share)
    if motif.kind == "dots":
        off = np.hypot((u * 1.5) % 1 - 0.5, (v * 1.5) % 1 - 0.5)
        return np.asarray(off < _dot_radius(motif.share))
    if motif.kind == "blotches":
        noise = rng.standard_normal((12, 12)).astype(np.float32)
        field = cv2.resize(noise, patch.u.shape[::-1], interpolation=cv2.INTER_CUBIC)
    else:
        field = u + v if motif.kind == "corner" else u
    return np.asarray(field > np.quantile(field[patch.inside], 1 - motif.share))


def _dot_radius(share: float) -> float:
    return min(0.49, float(np.sqrt(share / np.pi)))


def _holes(share: float, patch: _Patch) -> Mask:
    """The open squares of a gauze."""
    side = np.sqrt(share)
    across = [np.abs((t / GAUZE_PITCH_MM) % 1 - 0.5) < side / 2 for t in (patch.u, patch.v)]
    return np.asarray(across[0] & across[1])


def _ravel(along_mm: Floats | Image32, rng: np.random.Generator) -> Floats:
    """Threads standing out by up to 0.9 mm, each about 0.4 mm wide."""
    threads = rng.uniform(0, 0.9, 400).astype(np.float32)
    return threads[np.clip((along_mm / 0.4 + 200).astype(int), 0, 399)]
