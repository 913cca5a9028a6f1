"""The light on one thing on the page, as the paper close around it shows it.

The light field follows what changes slowly over the page; a shadow on one cell or on the chart does
not show in it. The paper around the thing tells by how much the light there differs.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from zesty_grid.core.read.chart_finder import ChartPlace, place_points, slot_centre_mm
from zesty_grid.core.read.colour_space import Floats
from zesty_grid.core.read.light_field import LightField, PaperSamples
from zesty_grid.core.read.sheet_layout import ChartSlot, RectMm

REACH_MM = 7.0
CARD_EDGE_MM = 1.8
FEWEST_TILES = 12
SECTORS = 8
# What lies closest tells most; further out a shadow may have ended.
NEARNESS_MM = 1.6
# Slopes are held back a little: the ring is narrow on some sides.
SLOPE_RIDGE = 0.02
# A simpler light that foretells about as well is taken.
NEARLY = 1.05
HUBER, HUBER_ROUNDS = 2.0, 6
LEAST_SCATTER = 0.003
# Anything that differs more is no paper.
FURTHEST_LOG = 1.2
MOST_COLOUR_LOG = 0.05


@dataclass(frozen=True)
class Ring:
    """Paper around a thing: places (n, 2), log light over the light field (n, channels) and how
    far from the thing each lies, in mm."""

    at_mm: Floats
    log_ratio: Floats
    away_mm: Floats

    def joined(self, other: "Ring") -> "Ring":
        return Ring(
            np.concatenate([self.at_mm, other.at_mm]),
            np.concatenate([self.log_ratio, other.log_ratio]),
            np.concatenate([self.away_mm, other.away_mm]),
        )


@dataclass(frozen=True)
class LocalLight:
    """Light over the light field near `centre_mm`: a plane in its logarithm, (3, channels).

    `doubt_ratio`: how far the paper around still differs from that plane, side by side and near
    from far; `shift_ratio`: how far the light differs from the light field in the middle.
    """

    centre_mm: tuple[float, float]
    coefficients: Floats
    doubt_ratio: float
    tiles: int

    @property
    def shift_ratio(self) -> float:
        return float(np.exp(self.coefficients[0].mean()) - 1)

    def at(self, points_mm: Floats) -> Floats:
        """Factor on the light field at points (n, 2), as (n, 3)."""
        factor: Floats = np.exp(_plane(points_mm, self.centre_mm) @ self.coefficients)
        return factor


def outside_mm(points_mm: Floats, rect_mm: RectMm) -> Floats:
    """How far points (n, 2) lie outside of a rectangle; 0 within."""
    x, y, w, h = rect_mm
    px, py = points_mm.T
    across = np.maximum(np.maximum(x - px, px - x - w), 0)
    down = np.maximum(np.maximum(y - py, py - y - h), 0)
    return np.asarray(np.hypot(across, down))


def paper_around(samples: PaperSamples, light: LightField, rect_mm: RectMm) -> Ring:
    """Open paper near a rectangle."""
    paper = samples.open_paper
    return _ring(paper, light, outside_mm(paper.at_mm, rect_mm), 0.0)


def paper_around_card(samples: PaperSamples, light: LightField, slot: ChartSlot, place: ChartPlace) -> Ring:
    """Paper close around the card as it lies, within its slot too."""
    as_printed = place_points(place.undone(), samples.at_mm, slot_centre_mm(slot))
    away = outside_mm(as_printed, place.card_rect_mm(slot))
    return _ring(samples, light, away, CARD_EDGE_MM)


def _ring(samples: PaperSamples, light: LightField, away_mm: Floats, nearest_mm: float) -> Ring:
    near = (away_mm < REACH_MM + nearest_mm) & (away_mm >= nearest_mm)
    near &= samples.is_lit
    ratio = np.log(samples.linear[near] / light.at(samples.at_mm[near]))
    if not len(ratio):
        return Ring(samples.at_mm[near], ratio, away_mm[near])
    # Paper differs in brightness alone: what is coloured is cloth or card.
    colour = ratio - ratio.mean(axis=1, keepdims=True)
    coloured = np.abs(colour - np.median(colour, axis=0)).max(axis=1) > MOST_COLOUR_LOG
    paper = (np.abs(ratio).max(axis=1) < FURTHEST_LOG) & ~coloured
    return Ring(samples.at_mm[near][paper], ratio[paper], away_mm[near][paper] - nearest_mm)


def fit_local_light(ring: Ring, centre_mm: tuple[float, float]) -> LocalLight:
    """What the paper around says: a plane, a step up or down, or nothing beyond the light field.

    The simplest is taken that foretells sides which were left out about as well as the best does.
    Odd tiles (dirt, print, threads) count little: Huber's weights (Huber, 1964, Robust Estimation
    of a Location Parameter).
    """
    if len(ring.at_mm) < FEWEST_TILES:
        return LocalLight(centre_mm, np.zeros((3, 3)), 0.0, len(ring.at_mm))
    sector = _sectors(ring.at_mm, centre_mm)
    plane = _plane(ring.at_mm, centre_mm)
    weights = _weights(ring, plane)
    fits = [_fit(ring, plane[:, :terms], weights, sector) for terms in (0, 1, 3)]
    best = min(unseen for _, unseen in fits)
    chosen = next(found for found, unseen in fits if unseen <= NEARLY * best)
    coefficients = np.zeros((3, 3))
    coefficients[: len(chosen)] = chosen
    doubt = _by_sectors(ring, ring.log_ratio - plane @ coefficients, sector)
    return LocalLight(centre_mm, coefficients, doubt, len(ring.at_mm))


def _weights(ring: Ring, plane: Floats) -> Floats:
    """How much each tile counts: by how near it lies, and less where it is odd."""
    nearness = np.exp(-ring.away_mm / NEARNESS_MM)
    weights = nearness
    for _ in range(HUBER_ROUNDS):
        normal, right = _equations(ring, plane, weights)
        left = np.abs(ring.log_ratio - plane @ np.linalg.solve(normal, right)).mean(axis=1)
        scale = max(LEAST_SCATTER, 1.4826 * _weighted_median(left, nearness))
        weights = nearness * np.minimum(1, HUBER * scale / np.maximum(left, 1e-9))
    return np.asarray(weights, dtype=float)


def _equations(ring: Ring, terms: Floats, weights: Floats) -> tuple[Floats, Floats]:
    ridge = np.diag([0.0, SLOPE_RIDGE, SLOPE_RIDGE][: terms.shape[1]]) * float(
        np.exp(-ring.away_mm / NEARNESS_MM).sum()
    )
    weighted = terms * weights[:, None]
    return weighted.T @ terms + ridge, weighted.T @ ring.log_ratio


def _fit(ring: Ring, terms: Floats, weights: Floats, sector: NDArray[np.intp]) -> tuple[Floats, float]:
    """Coefficients (terms, channels), and how far sides that were left out lie from what the others
    foretell."""
    if not terms.shape[1]:
        return np.zeros((0, ring.log_ratio.shape[1])), _root_mean_square(ring.log_ratio, weights, sector)
    normal, right = _equations(ring, terms, weights)
    weighted = terms * weights[:, None]
    unseen = ring.log_ratio.copy()
    for side in np.unique(sector):
        own = sector == side
        if not own.all():
            without = normal - weighted[own].T @ terms[own], right - weighted[own].T @ ring.log_ratio[own]
            unseen[own] -= terms[own] @ np.linalg.solve(*without)
    return np.asarray(np.linalg.solve(normal, right), dtype=float), _root_mean_square(unseen, weights, sector)


def _root_mean_square(left: Floats, weights: Floats, sector: NDArray[np.intp]) -> float:
    """Of what is left on each side, the tiles counting by their weights."""
    total = np.bincount(sector, weights, minlength=SECTORS)
    mean = np.bincount(sector, weights * left.mean(axis=1), minlength=SECTORS) / np.maximum(total, 1e-12)
    return float(np.sqrt((total * mean**2).sum() / total.sum()))


def _plane(points_mm: Floats, centre_mm: tuple[float, float]) -> Floats:
    x, y = (points_mm - np.array(centre_mm)).T / 20.0
    return np.stack([np.ones_like(x), x, y], axis=-1)


def _weighted_median(values: Floats, weights: Floats) -> float:
    order = np.argsort(values)
    share = np.cumsum(weights[order])
    return float(values[order][np.searchsorted(share, share[-1] / 2)])


def _sectors(at_mm: Floats, centre_mm: tuple[float, float]) -> NDArray[np.intp]:
    x, y = (at_mm - np.array(centre_mm)).T
    return np.asarray((np.arctan2(y, x) / (2 * np.pi) + 0.5) * SECTORS, dtype=np.intp) % SECTORS


def _by_sectors(ring: Ring, left: Floats, sector: NDArray[np.intp]) -> float:
    """Root mean square of what is left on each side, the nearest paper counting most: noise
    averages out, shadows do not. `left`: (n, channels)."""
    brightness = left.mean(axis=1)
    nearness = np.exp(-ring.away_mm / NEARNESS_MM)
    squares, total = 0.0, 0.0
    for side in np.unique(sector):
        own = sector == side
        weight = float(nearness[own].sum())
        squares += weight * _weighted_median(brightness[own], nearness[own]) ** 2
        total += weight
    return float(np.sqrt(squares / total))
