"""What a fit foretells: the colour at a dose, and the dose at which a change is reached."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from zesty_grid.core.fade.fading_fit import SCATTERS, FadingFit, Followed, size_given
from zesty_grid.core.fade.fading_shapes import FadingModel, Shape, progress_of
from zesty_grid.core.fade.grey_scale import def_a05
from zesty_grid.core.fade.limits import LIMIT_90
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import Floats
from zesty_grid.core.read.measurement import Lab

DRAWS = 600
SEED = 20250
# Swatches whose paths are looked at in one go: some 20 MB.
TOGETHER = 250
LOW, HIGH = 5.0, 95.0
# Undyed cloth may be creamy or bluish, and is never lighter than this.
WHITEST_L, DARKEST_L, PAST_GREY, MOST_CHROMA = 95.0, 8.0, 12.0, 110.0
SEARCH_STEPS = 48
# How far beyond the last stage a limit of a dose is still looked for.
REACH = 8.0

Threshold = Literal["noticeable", "plain", "rating_4", "rating_3", "rating_2"]
NOTICEABLE_DE00, PLAIN_DE00 = 1.0, 2.0
# The ΔEF at which the rating falls to this one. Source: ISO 105-A05, table of limits.
RATING_FROM: dict[Threshold, float] = {"rating_4": 1.25, "rating_3": 2.95, "rating_2": 5.80}


class DoseReached(Frozen):
    """The dose at which a change is reached, with its 90 % limits; `dose` is None where the stages
    do not reach it, a limit where it lies too far off to be said."""

    dose: float | None
    low: float | None
    high: float | None
    reached: bool


class Foretold(Frozen):
    """The colour at a dose and its difference from the unexposed colour, with 90 % limits."""

    dose: float
    lab: Lab
    de00: float
    low_de00: float
    high_de00: float


@dataclass(frozen=True)
class Paths:
    """Ways that the colour may take, each as likely: the change in ΔE00 as a vector at any dose."""

    followed: Followed
    model: FadingModel
    parts: tuple["_Part", ...]

    @cached_property
    def thresholds(self) -> "dict[Threshold, DoseReached]":
        """The dose to each threshold: asked for by every view, and worked out once."""
        return doses_to(self)

    def change(self, doses: Floats) -> Floats:
        """(draws, n, 3) for doses (n,)."""
        x = np.asarray(doses, float) / self.followed.last_dose
        return np.concatenate([part.change(x) for part in self.parts])

    def labs(self, doses: Floats, dark: Floats | None = None) -> Floats:
        """L*a*b* (draws, n, 3), from the mean kept-dark colour or from `dark`."""
        start = self.followed.dark_lab if dark is None else dark
        step = self.change(doses) @ self.followed.per_lab.T
        return np.asarray(start + step * _room(start, step)[..., None])


@dataclass(frozen=True)
class _Part:
    """Draws of one shape: which of its bends, and the size of each way, (draws, ways, 3)."""

    shape: Shape
    bends: NDArray[np.int16]
    sizes: NDArray[np.float32]

    def change(self, x: Floats) -> Floats:
        if self.shape.ways == 0:
            return np.zeros((len(self.sizes), len(x), 3))
        progress = progress_of(self.shape.model, x.tobytes())[self.bends]
        return np.asarray(np.einsum("dnw,dwk->dnk", progress, self.sizes), float)


def _room(start: Floats, step: Floats) -> Floats:
    """How far along each step (..., 3) a colour may go, 0 to 1: no dye fades past white cloth, nor
    to the other side of grey."""
    highest = np.maximum(WHITEST_L, start[0])
    along = np.maximum(np.abs(step), 1e-9)
    up = np.where(step[..., 0] > 0, highest - start[0], start[0] - DARKEST_L) / along[..., 0]
    room = np.minimum(1.0, np.maximum(up, 0.0))
    for axis in (1, 2):
        # Towards grey and a little past it, or away from it by as much again.
        toward = np.sign(step[..., axis]) != np.sign(start[axis])
        free = np.where(toward, abs(start[axis]) + PAST_GREY, MOST_CHROMA - abs(start[axis]))
        room = np.minimum(room, np.maximum(free, 0.0) / along[..., axis])
    return np.asarray(room)


def draw_paths(fit: FadingFit, draws: int = DRAWS, seed: int = SEED) -> Paths:
    """Paths drawn by their weight; the same for the same fit."""
    rng = np.random.default_rng(seed)
    weights = np.concatenate([np.exp(one.log_weight).ravel() for one in fit.weighed])
    # Evenly spaced through the weights: fewer draws tell as much.
    at = (np.arange(draws) + rng.random()) / draws * weights.sum()
    chosen = np.searchsorted(np.cumsum(weights), at).clip(max=len(weights) - 1)
    parts, start = [], 0
    followed = fit.followed
    x = followed.doses / followed.last_dose
    for one in fit.weighed:
        size = one.log_weight.size
        own = chosen[(chosen >= start) & (chosen < start + size)] - start
        start += size
        bend, prior, scatter = np.unravel_index(own, one.log_weight.shape)
        sizes = np.zeros((len(own), one.shape.ways, 3))
        if sizes.size:
            mean, covariance = size_given(one.shape, x, followed.change, followed.variance, SCATTERS)
            root = np.linalg.cholesky(covariance[bend, prior, scatter])
            chance = rng.standard_normal(sizes.shape)
            sizes = mean[bend, prior, scatter] + root @ chance
        # There may be thousands of swatches: draws are kept no finer than they are sure.
        parts.append(_Part(one.shape, bend.astype(np.int16), sizes.astype(np.float32)))
    return Paths(followed, fit.model, tuple(parts))


def foretell(paths: Paths, doses: Sequence[float]) -> list[Foretold]:
    """The colour at each dose: the mean of all paths, and the range of its difference.

    The lower limit is 0 where paths lead to either side of the colour as it was: then no change can
    be told.
    """
    at = np.asarray(doses, float)
    dark = np.broadcast_to(paths.followed.dark_lab, (len(at), 3))
    labs = paths.labs(at)
    apart = np.asarray(delta_e_2000(np.broadcast_to(dark, labs.shape), labs))
    return _foretold(at, dark, paths.change(at), labs, apart, _least_limit(paths.followed, at))


@dataclass(frozen=True)
class Foretellings:
    """What is foretold of many swatches at one dose each, and ΔE00 from before by every path, (n,
    draws)."""

    told: list[Foretold]
    apart: Floats


def foretell_each(ways: Sequence[Paths], doses: Sequence[float]) -> Foretellings:
    """As `foretell`, of many swatches together."""
    told: list[Foretold] = []
    apart = np.empty((len(ways), DRAWS))
    for start in range(0, len(ways), TOGETHER):
        some = ways[start : start + TOGETHER]
        at = np.array(doses[start : start + TOGETHER], float)
        each = [(one, at[i : i + 1]) for i, one in enumerate(some)]
        dark = np.array([one.followed.dark_lab for one in some])
        change = np.concatenate([one.change(x) for one, x in each], axis=1)
        labs = np.concatenate([one.labs(x) for one, x in each], axis=1)
        own = np.asarray(delta_e_2000(np.broadcast_to(dark, labs.shape), labs))
        least = np.concatenate([_least_limit(one.followed, x) for one, x in each])
        told += _foretold(at, dark, change, labs, own, least)
        apart[start : start + len(some)] = own.T
    return Foretellings(told, apart)


def _foretold(
    at: Floats, dark: Floats, change: Floats, labs: Floats, apart: Floats, least_limit: Floats
) -> list[Foretold]:
    """Of doses (n,), colours before (n, 3), paths (draws, n, 3) and their ΔE00 (draws, n)."""
    middle = labs.mean(axis=0)
    way = change.mean(axis=0)
    side = np.sign(np.einsum("dnk,nk->dn", change, way))
    low = np.maximum(0.0, np.percentile(apart * side, LOW, axis=0))
    # However sure it is that nothing changed, no reading shows less than its own error leaves.
    high = np.maximum(np.percentile(apart, HIGH, axis=0), least_limit)
    found = np.asarray(delta_e_2000(dark, middle))
    return [
        Foretold(
            dose=float(at[i]),
            lab=_triple(middle[i]),
            de00=float(np.clip(found[i], low[i], high[i])),
            low_de00=float(low[i]),
            high_de00=float(high[i]),
        )
        for i in range(len(at))
    ]


def _least_limit(followed: Followed, doses: Floats) -> Floats:
    """What all stages together leave open of the change, growing from 0 up to the first stage."""
    together = LIMIT_90 * float(np.sqrt(1 / (1 / followed.variance).sum()))
    return np.asarray(together * np.minimum(1.0, doses / followed.doses[0]))


def doses_to(paths: Paths) -> dict[Threshold, DoseReached]:
    """The dose to each threshold: just noticeable, plain, and ratings 4, 3 and 2."""
    last = paths.followed.last_dose
    grid = last * np.concatenate([np.geomspace(1e-3, 1, SEARCH_STEPS), np.geomspace(1, REACH, SEARCH_STEPS // 2)[1:]])
    dark = paths.followed.dark_lab
    labs = paths.labs(grid)
    apart = np.asarray(delta_e_2000(np.broadcast_to(dark, labs.shape), labs))
    rated = def_a05(np.broadcast_to(dark, labs.shape), labs)
    found: dict[Threshold, DoseReached] = {
        "noticeable": reached_at(grid, apart, NOTICEABLE_DE00, last),
        "plain": reached_at(grid, apart, PLAIN_DE00, last),
    }
    for name, limit in RATING_FROM.items():
        found[name] = reached_at(grid, rated, limit, last)
    return found


def first_crossing(grid: Floats, values: Floats, limit: float) -> Floats:
    """The dose at which each path (draws, n) first reaches a limit; infinite where it does not."""
    grid = np.concatenate([[0.0], grid])
    values = np.hstack([np.zeros((len(values), 1)), values])
    above = values >= limit
    index = above.argmax(axis=1)
    crossed = above.any(axis=1)
    row = np.arange(len(values))
    before = np.maximum(index - 1, 0)
    low, high = values[row, before], values[row, index]
    share = (limit - low) / np.maximum(high - low, 1e-9)
    return np.where(crossed, grid[before] + share * (grid[index] - grid[before]), np.inf)


def reached_at(grid: Floats, values: Floats, limit: float, last: float) -> DoseReached:
    """The dose at which paths (draws, n) reach a limit: within the data where the middle
    one does so before the last stage."""
    doses = first_crossing(grid, values, limit)
    low, middle, high = (float(np.percentile(doses, p, method="nearest")) for p in (LOW, 50, HIGH))
    reached = middle <= last
    return DoseReached(
        dose=middle if reached else None,
        low=low if np.isfinite(low) else None,
        high=high if np.isfinite(high) else None,
        reached=reached,
    )


def _triple(lab: Floats) -> Lab:
    lightness, a, b = (float(value) for value in lab)
    return lightness, a, b
