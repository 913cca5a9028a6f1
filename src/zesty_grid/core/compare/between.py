"""Colours of recipes that were not dyed, foretold from those that were.

The logarithm of K/S in three broad channels is a Gaussian process over the factors (Rasmussen and
Williams, Gaussian Processes for Machine Learning, 2006): swatches with more levels in common are
more alike, main effects and all that factors do together each with a strength of their own. Over
the strength of a dye, and over iron, depth grows with the dose towards a ceiling (dose / (dose +
half), Langmuir); over other numbers with three levels or more it is a smooth curve. All strengths,
lengths and the noise are those that make what was read most likely. Each foretelling is tried on
the swatches themselves, each left out in turn (ch. 5.4.2).
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Annotated

import numpy as np
from numpy.typing import NDArray
from pydantic import Field
from scipy.linalg import cho_solve, cholesky
from scipy.optimize import minimize

from zesty_grid.core.compare.broad_channels import colour_of, depth_of
from zesty_grid.core.compare.compared import ComparedSwatch
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.colour_difference import delta_e_2000, directions_2000
from zesty_grid.core.read.colour_space import Floats, lab_to_hex
from zesty_grid.core.read.measurement import Lab

FEWEST, MOST = 6, 400
FEWEST_NUMBERS = 3
DOSES = ("strength", "iron", "second_iron")
# Logarithms of the bounds of what is fitted: strengths, lengths, noise.
BOUNDS = (-4.0, 3.0)


class HowWell(Frozen):
    """What is foretold of swatches left out in turn, against what they are, in ΔE00. `inside_95`:
    the share that lay within what was said, of 95 in 100."""

    swatches: int
    mean_de00: float
    nine_in_ten_de00: float
    inside_95: float
    words: str


class ForetoldColour(Frozen):
    """`uncertainty_de00`: standard, of the foretelling and of what swatches differ. `beyond`: a
    number lies outside of those that were dyed."""

    levels: dict[str, str] = Field(default_factory=dict)
    numbers: dict[str, Annotated[float, Field(allow_inf_nan=False)]] = Field(default_factory=dict)
    lab: Lab
    hex: str
    uncertainty_de00: float
    beyond: bool = False


@dataclass(frozen=True, eq=False)
class Foreteller:
    """`taught`: the places of the swatches that it was made from, among those given; `ranges` of
    the numbers dyed."""

    taught: tuple[int, ...]
    factors: tuple[str, ...]
    numeric: frozenset[str]
    ranges: Mapping[str, tuple[float, float]]
    values: Mapping[tuple[str, str], float]
    parameters: Floats
    _features: "_Features"
    _depths: Floats
    _means: Floats
    _solved: Floats
    _factor: Floats
    _together: Floats

    def foretell(self, recipes: Sequence[tuple[Mapping[str, str], Mapping[str, float]]]) -> list[ForetoldColour]:
        """Recipes by their levels, and numbers where they have others than those of a level."""
        if not recipes:
            return []
        here = _features(self.factors, self.numeric, [self._resolved(*one) for one in recipes])
        p = _Parameters(self.parameters, self.factors)
        across = _kernel(p, here, self._features, self.numeric)
        mean = _mean(p, here, self._means) + across @ self._solved
        back = cho_solve((self._factor, True), across.T)
        own = p.main.sum() + p.joint + p.noise
        variance = np.maximum(own - np.einsum("ij,ji->i", across, back), p.noise)
        offs = np.sqrt(variance)[:, None] * self._depths.std(axis=0)
        labs, doubts = colour_of(mean), _off_de00(mean, offs, self._together)
        return [self._answer(levels, numbers, labs[i], float(doubts[i])) for i, (levels, numbers) in enumerate(recipes)]

    def _resolved(
        self, levels: Mapping[str, str], numbers: Mapping[str, float]
    ) -> tuple[Mapping[str, str], dict[str, float]]:
        own = {
            factor: numbers.get(factor, self.values.get((factor, levels.get(factor, "")), 0.0))
            for factor in self.numeric
        }
        return levels, own

    def _answer(
        self, levels: Mapping[str, str], numbers: Mapping[str, float], lab: Floats, doubt: float
    ) -> ForetoldColour:
        _, own = self._resolved(levels, numbers)
        beyond = any(not self.ranges[k][0] - 1e-9 <= v <= self.ranges[k][1] + 1e-9 for k, v in own.items())
        return ForetoldColour(
            levels=dict(levels),
            numbers=dict(numbers),
            lab=_triple(lab),
            hex=lab_to_hex(lab),
            uncertainty_de00=doubt,
            beyond=beyond,
        )

    def left_out(self) -> tuple[Floats, Floats]:
        """What is foretold of each swatch that it was made from by all others: L*a*b* (n, 3) and
        its doubt in ΔE00."""
        mean, off = _one_out(self._depths, self._solved, self._factor)
        return colour_of(mean), _off_de00(mean, off, self._together)

    def of_each(self, swatches: Sequence[ComparedSwatch]) -> tuple[Floats, Floats]:
        """As `left_out`, of all swatches that were given."""
        labs, doubts = np.empty((len(swatches), 3)), np.empty(len(swatches))
        labs[list(self.taught)], doubts[list(self.taught)] = self.left_out()
        others = sorted(set(range(len(swatches))) - set(self.taught))
        told = self.foretell([(swatches[i].levels, {}) for i in others])
        for i, one in zip(others, told, strict=True):
            labs[i], doubts[i] = one.lab, one.uncertainty_de00
        return labs, doubts


class _Parameters:
    """What is fitted, by name: of each factor its own strength and how alike its levels are (or
    its length), the strength of what factors do together, the noise, and half doses."""

    def __init__(self, logs: Floats, factors: Sequence[str]) -> None:
        k = len(factors)
        values = np.exp(logs)
        self.main, self.length = values[:k], values[k : 2 * k]
        self.joint, self.noise = float(values[2 * k]), float(values[2 * k + 1])
        self.half = float(values[2 * k + 2])
        self.slope = float(logs[2 * k + 3])


@dataclass(frozen=True, eq=False)
class _Features:
    factors: tuple[str, ...]
    categories: dict[str, NDArray[np.str_]]
    numbers: dict[str, Floats]

    @property
    def count(self) -> int:
        every = [*self.categories.values(), *self.numbers.values()]
        return len(every[0]) if every else 0


def foreteller(
    swatches: Sequence[ComparedSwatch], factors: Sequence[str], values: Mapping[tuple[str, str], float]
) -> Foreteller | None:
    """`values` are the numbers of levels that have one, by factor and level. None: too few
    swatches, or nothing varies."""
    taught = _teachers(swatches, factors)
    own = [swatches[i] for i in taught]
    varying = tuple(f for f in factors if len({one.levels.get(f, "") for one in own}) > 1)
    if len(own) < FEWEST or not varying:
        return None
    numeric = frozenset(f for f in varying if _is_numeric(f, own, values))
    recipes = [(one.levels, {f: values.get((f, one.levels.get(f, "")), 0.0) for f in numeric}) for one in own]
    features = _features(varying, numeric, recipes)
    depths = depth_of(np.array([one.lab for one in own]))
    start = np.concatenate([np.full(len(varying), -1.0), np.zeros(len(varying)), [-1.5, -3.0, 3.0, 0.5]])
    bounds = [BOUNDS] * (2 * len(varying)) + [BOUNDS, (-8.0, 0.0), (0.0, 7.0), (-1.0, 2.0)]
    found = minimize(
        _unlikeliness,
        start,
        args=(features, depths, numeric),
        method="L-BFGS-B",
        bounds=bounds,
        options={"maxiter": 30, "ftol": 1e-5},
    )
    parameters = np.asarray(found.x, float)
    means, solved, factor = _solve(_Parameters(parameters, varying), features, depths, numeric)
    mean, off = _one_out(depths, solved, factor)
    missed = (depths - mean) / off
    ranges = {f: (float(n.min()), float(n.max())) for f, n in features.numbers.items()}
    return Foreteller(
        taught=taught,
        factors=varying,
        numeric=numeric,
        ranges=ranges,
        values=dict(values),
        parameters=parameters,
        _features=features,
        _depths=depths,
        _means=means,
        _solved=solved,
        _factor=factor,
        # How far it really misses, and in which channels together.
        _together=missed.T @ missed / len(missed),
    )


def _teachers(swatches: Sequence[ComparedSwatch], factors: Sequence[str]) -> tuple[int, ...]:
    """All swatches, or of very many so many by chance: every level first, then any."""
    if len(swatches) <= MOST:
        return tuple(range(len(swatches)))
    by_chance = [int(i) for i in np.random.default_rng(len(swatches)).permutation(len(swatches))]
    seen: set[tuple[str, str]] = set()
    first: list[int] = []
    for i in by_chance:
        levels = {(factor, swatches[i].levels.get(factor, "")) for factor in factors}
        if not levels <= seen:
            first.append(i)
            seen |= levels
    return tuple(sorted(list(dict.fromkeys([*first, *by_chance]))[:MOST]))


def _one_out(depths: Floats, solved: Floats, factor: Floats) -> tuple[Floats, Floats]:
    inverse = cho_solve((factor, True), np.eye(len(depths)))
    one_out = np.diag(inverse)[:, None]
    return depths - solved / one_out, np.sqrt(1 / one_out) * depths.std(axis=0)


def how_well(found: Foreteller, labs: Floats) -> HowWell:
    """`labs` (n, 3): all swatches that were given, in their order."""
    guess, doubt = found.left_out()
    apart = np.asarray(delta_e_2000(guess, labs[list(found.taught)]))
    count = len(found.taught)
    of = f", by chance of {len(labs)}," if count < len(labs) else ""
    # Of a distance in three directions alike, 95 in 100 lie below 1.61 root mean squares.
    inside = float(np.mean(apart < 1.61 * doubt))
    mean, ninth = float(apart.mean()), float(np.quantile(apart, 0.9))
    return HowWell(
        swatches=count,
        mean_de00=mean,
        nine_in_ten_de00=ninth,
        inside_95=inside,
        words=f"Each of {count} swatches{of} left out in turn: foretold within {mean:.1f} ΔE00 in "
        f"the mean, 9 in 10 within {ninth:.1f}.",
    )


def _is_numeric(factor: str, swatches: Sequence[ComparedSwatch], values: Mapping[tuple[str, str], float]) -> bool:
    levels = {one.levels.get(factor, "") for one in swatches}
    known = {values[(factor, level)] for level in levels if (factor, level) in values}
    if any((factor, level) not in values for level in levels):
        return False
    return len(known) >= (2 if factor in DOSES else FEWEST_NUMBERS)


def _features(
    factors: Sequence[str], numeric: frozenset[str], recipes: Sequence[tuple[Mapping[str, str], Mapping[str, float]]]
) -> _Features:
    return _Features(
        tuple(factors),
        {f: np.array([levels.get(f, "") for levels, _ in recipes]) for f in factors if f not in numeric},
        {f: np.array([numbers[f] for _, numbers in recipes], float) for f in factors if f in numeric},
    )


def _dosed(factor: str, numbers: Floats, half: float) -> Floats:
    """A dose as the share of the ceiling that it reaches; other numbers as they are."""
    if factor not in DOSES:
        return numbers
    # Iron is dosed in a few per cent, dye stuff in hundreds.
    own = half if factor == "strength" else half / 20
    share = numbers / (numbers + own)
    return np.asarray(np.log(np.maximum(share, 1e-3))) if factor == "strength" else share


def _kernel(p: _Parameters, one: _Features, other: _Features, numeric: frozenset[str]) -> Floats:
    """How alike two sets of recipes are (n, m)."""
    alike = []
    for i, factor in enumerate(one.factors):
        if factor in numeric:
            mine, theirs = (_dosed(factor, f.numbers[factor], p.half) for f in (one, other))
            spread = np.ptp(theirs) or 1.0
            apart = (mine[:, None] - theirs[None]) / spread
            alike.append(np.exp(-0.5 * (apart / p.length[i]) ** 2))
        else:
            same = one.categories[factor][:, None] == other.categories[factor][None]
            alike.append(np.where(same, 1.0, np.exp(-1 / p.length[i])))
    main = sum(m * a for m, a in zip(p.main, alike, strict=True))
    return np.asarray(main + p.joint * np.prod(alike, axis=0))


def _mean(p: _Parameters, features: _Features, means: Floats) -> Floats:
    """The mean depth, along the strength of the dye where it varies (n, 3)."""
    base = np.broadcast_to(means, (features.count, 3))
    if "strength" in features.numbers:
        return base + p.slope * _dosed("strength", features.numbers["strength"], p.half)[:, None]
    return base


def _solve(
    p: _Parameters, features: _Features, depths: Floats, numeric: frozenset[str]
) -> tuple[Floats, Floats, Floats]:
    k = _kernel(p, features, features, numeric) + p.noise * np.eye(features.count)
    factor = cholesky(k, lower=True)
    trend = _mean(p, features, np.zeros(3))
    ones = cho_solve((factor, True), np.ones(features.count))
    means = ones @ (depths - trend) / ones.sum()
    return means, cho_solve((factor, True), depths - trend - means), factor


def _unlikeliness(logs: Floats, features: _Features, depths: Floats, numeric: frozenset[str]) -> float:
    """Minus the logarithm of the likelihood, the three channels alike but for their scale."""
    p = _Parameters(logs, features.factors)
    try:
        means, solved, factor = _solve(p, features, depths, numeric)
    except np.linalg.LinAlgError:
        return 1e10
    rest = depths - _mean(p, features, means)
    scale = depths.var(axis=0)
    fit = float(np.sum(rest * solved / scale))
    # Weakly held to where it began, so that what is not told stays where it was.
    held = 0.02 * float(np.sum(logs**2))
    return 0.5 * fit + 3 * float(np.log(np.diag(factor)).sum()) + held


def _off_de00(depths: Floats, offs: Floats, together: Floats) -> Floats:
    """The standard uncertainty in ΔE00 (n,) of logarithms of K/S (n, 3) that are off by so much,
    and together as their correlations (3, 3) say."""
    step = offs[:, :, None] * np.eye(3)
    here = depths[:, None]
    # (n, channel, direction): half of what one channel's error does either way.
    along = directions_2000(colour_of(here - step), colour_of(here + step)) / 2
    squares = np.einsum("nki,nji,kj->n", along, along, together)
    return np.asarray(np.sqrt(np.maximum(squares, 0)))


def _triple(lab: Floats) -> Lab:
    lightness, a, b = (float(value) for value in lab)
    return (lightness, a, b)
