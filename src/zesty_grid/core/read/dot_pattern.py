"""Where the printed dots of a cell can be seen, and so where no cloth lies over them."""

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from zesty_grid.core.read.colour_space import Floats
from zesty_grid.core.read.found_page import FoundPage
from zesty_grid.core.read.light_field import LightField, PaperSamples
from zesty_grid.core.read.local_light import Ring, fit_local_light, paper_around
from zesty_grid.core.read.picture import Picture
from zesty_grid.core.read.sheet_layout import Pattern

SMOOTH_MM = 1.1
REFERENCE_PX_PER_MM = 3.0
# Print of less contrast than this cannot be told from noise.
FAINTEST_STRENGTH = 0.006
OPEN_CONTRAST, STRONGEST_CONTRAST = 0.75, 1.3
OPEN_AROUND_MM = 1.0
NEXT_TO_NOTHING = 0.04
# The borders of a print look like dots here and there, the calmer part of it does not.
CALM_PERCENTILE = 30
DARKEST_LEVEL = 0.15
BLOCK_MM, FULL_BLOCK, FEWEST_BLOCKS = 4.0, 0.6, 4
BEYOND_CHANCE = 4.0


@dataclass(frozen=True)
class OpenDots:
    """How the dots look where nothing lies on them: strength of their wave over the light of the
    paper, the logarithm of the dotted paper's mean light over that of blank paper, (3,), and
    samples of dotted paper's light, (n, 3)."""

    step_mm: float
    strength: float
    log_mean: Floats
    samples: Floats


@dataclass(frozen=True)
class DotsSeen:
    """How well dots are seen at each pixel, (h, w): 1 where they lie open, 0 where covered.

    `share` is of the light of the page, as it would be evenly lit; `contrast` of what is seen, and
    so the same in a shadow.
    """

    share: Floats
    contrast: Floats

    def lie_open(self, px_per_mm: float) -> NDArray[np.bool_]:
        """Where the dots are whole: as strong as they should be, and so all around."""
        whole = (self.contrast > OPEN_CONTRAST) & (self.contrast < STRONGEST_CONTRAST)
        side = round(OPEN_AROUND_MM * px_per_mm) | 1
        return np.asarray(cv2.erode(whole.astype(np.uint8), np.ones((side, side), np.uint8)) > 0)

    def part(self, where: tuple[slice, slice]) -> "DotsSeen":
        return DotsSeen(self.share[where], self.contrast[where])


def see_dots(evened_grey: Floats, px_per_mm: float, dots: OpenDots) -> DotsSeen:
    strength = dot_strength(evened_grey, px_per_mm, dots.step_mm) / dots.strength
    level = cv2.GaussianBlur(evened_grey, (0, 0), SMOOTH_MM * px_per_mm)
    usual = float(np.exp(dots.log_mean.mean()))
    return DotsSeen(strength, strength * usual / np.maximum(level, DARKEST_LEVEL))


def seen_through(evened: Floats, seen: DotsSeen, inner: NDArray[np.bool_], dots: OpenDots) -> Floats:
    """What of the page's light is seen through a piece or in its holes, by channel (3,).

    `evened` (h, w, 3) and `seen` at the scale of the search. Dots that show through lie in one
    lattice, so that their waves agree from place to place; a print's borders and a weave do not:
    what does not agree beyond chance is taken for none.
    """
    none = np.zeros(3)
    if float(np.percentile(seen.share[inner], CALM_PERCENTILE)) < NEXT_TO_NOTHING:
        return none
    waves = np.stack([_waves(evened[..., i], REFERENCE_PX_PER_MM, dots.step_mm) for i in range(3)])
    blocks = _by_block(waves.mean(axis=0), inner)
    if len(blocks) < FEWEST_BLOCKS:
        return none
    mean = blocks.mean(axis=0)
    along = mean / max(float(np.linalg.norm(mean)), 1e-9)
    chance = float((blocks @ along).std(ddof=1)) / np.sqrt(len(blocks))
    across = float(np.linalg.norm(blocks - np.outer(blocks @ along, along)) / np.sqrt(len(blocks)))
    if np.linalg.norm(mean) < max(BEYOND_CHANCE * chance, across):
        return none
    return np.asarray([4 * float(np.mean(_by_block(one, inner) @ along)) for one in waves]).clip(0) / dots.strength


def _by_block(waves: Floats, inner: NDArray[np.bool_]) -> Floats:
    """Mean waves of blocks that lie within the piece, (blocks, 4)."""
    side = round(BLOCK_MM * REFERENCE_PX_PER_MM)
    height, width = inner.shape
    size = (max(1, width // side), max(1, height // side))
    share = cv2.resize(inner.astype(np.float32), size, interpolation=cv2.INTER_AREA)
    masked = cv2.resize((waves * inner[..., None]).astype(np.float32), size, interpolation=cv2.INTER_AREA)
    full = share > FULL_BLOCK
    return np.asarray(masked[full] / share[full][:, None], dtype=float)


def dot_strength(evened_grey: Floats, px_per_mm: float, step_mm: float) -> Floats:
    """Strength of the dots' wave at each pixel, (h, w), in units of the light of paper."""
    return np.asarray(4 * np.sqrt(np.square(_waves(evened_grey, px_per_mm, step_mm)).sum(axis=-1)), dtype=float)


def _waves(evened_grey: Floats, px_per_mm: float, step_mm: float) -> NDArray[np.float32]:
    """The dots' wave in its four phases, (h, w, 4).

    The dots' lattice has its first wave along both diagonals, half a period of `step_mm` across and
    down. The picture is multiplied by that wave in its four phases and smoothed (detection in
    quadrature), so that it matters not if the page lies a little off.
    """
    height, width = evened_grey.shape
    across = np.pi * np.arange(width) / (step_mm * px_per_mm)
    down = np.pi * np.arange(height) / (step_mm * px_per_mm)
    sigma = SMOOTH_MM * px_per_mm
    grey = evened_grey.astype(np.float32)
    rest = grey - cv2.GaussianBlur(grey, (0, 0), sigma)
    rows, columns = (np.cos(down), np.sin(down)), (np.cos(across), np.sin(across))
    phases = [rest * np.outer(row, column).astype(np.float32) for row in rows for column in columns]
    return np.stack([cv2.GaussianBlur(phase, (0, 0), sigma) for phase in phases], axis=-1)


def read_open_dots(
    picture: Picture, page: FoundPage, pattern: Pattern, samples: PaperSamples, light: LightField
) -> OpenDots | None:
    """From the places where the dots lie open; None where they are too faint to be seen."""
    strengths, means, light_samples = [], [], []
    for rect in pattern.reference_mm:
        x, y, w, h = rect
        around = fit_local_light(paper_around(samples, light, rect), (x + w / 2, y + h / 2))
        middle = np.array([[x + w / 2, y + h / 2]])
        paper = (light.at(middle) * around.at(middle))[0]
        evened = picture.linear(page.crop(picture, rect, REFERENCE_PX_PER_MM)) / paper
        strength = dot_strength(evened.mean(axis=2), REFERENCE_PX_PER_MM, pattern.step_mm)
        inset = round(2 * pattern.step_mm * REFERENCE_PX_PER_MM)
        strengths.append(float(np.median(strength[inset:-inset, inset:-inset])))
        middle_part = evened[inset:-inset, inset:-inset]
        means.append(np.log(middle_part.mean(axis=(0, 1))))
        light_samples.append(middle_part.reshape(-1, 3))
    if not strengths or np.median(strengths) < FAINTEST_STRENGTH:
        return None
    return OpenDots(
        pattern.step_mm,
        float(np.median(strengths)),
        np.median(means, axis=0),
        np.concatenate(light_samples).astype(float),
    )


def open_ring(
    evened: Floats, seen: DotsSeen, away_px: Floats, dots: OpenDots, px_per_mm: float, origin_mm: tuple[float, float]
) -> Ring:
    """Dotted paper left open around a piece, as paper that shows the light there.

    `evened` (h, w, 3) is over the light field; blocks of one period of the lattice hold whole dots.
    `away_px` is each pixel's distance from the piece.
    """
    side = 2 * dots.step_mm * px_per_mm
    height, width = seen.share.shape
    size = (max(1, int(width / side)), max(1, int(height / side)))
    used_w, used_h = round(size[0] * side), round(size[1] * side)

    def by_block(values: Floats | NDArray[np.bool_]) -> Floats:
        part = values[:used_h, :used_w].astype(np.float32)
        return np.asarray(cv2.resize(part, size, interpolation=cv2.INTER_AREA), dtype=float)

    is_open = by_block(seen.contrast > OPEN_CONTRAST) > 0.95
    is_open &= by_block(seen.contrast < STRONGEST_CONTRAST) > 0.95
    is_open &= by_block(away_px > 1.0 * px_per_mm) > 0.98
    row, column = np.nonzero(is_open)
    at_mm = np.column_stack([column + 0.5, row + 0.5]) * side / px_per_mm + np.array(origin_mm)
    mean = np.log(np.maximum(by_block(evened)[row, column], 1e-4)) - dots.log_mean
    away_mm = by_block(away_px)[row, column] / px_per_mm
    return Ring(at_mm, mean.reshape(-1, 3), np.maximum(0, away_mm - dots.step_mm))
