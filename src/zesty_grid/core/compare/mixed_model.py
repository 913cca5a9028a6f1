"""A mixed model of several responses at once: vessels and photos as random, fixed effects by GLS.

y = Xβ + Σ Zₖuₖ + e, each uₖ and e with a covariance of its own between the responses (the three of
colour). Components are estimated by iterated MIVQUE (Rao 1971; Searle, Casella, McCulloch, Variance
Components, 1992, ch. 11), which are the mean squares of the strata where the design is balanced;
they may come out below nothing there, so that each effect is tested against its own stratum. The
degrees of freedom are Satterthwaite's (1946): twice the squared variance over the variance of it.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise

import numpy as np
from scipy.linalg import cho_factor, cho_solve

from zesty_grid.core.compare.crossed import Crossed, Matrix, incidence
from zesty_grid.core.plan.telling import CLOSE_TO_ZERO

ROUNDS = 6
# A component is never weighed as less than this share of the swatches' own.
LEAST_WEIGHT = 0.02
# Nor is a variance taken for less than this share of what it is with no component below nothing:
# by chance it may come out as nothing at all, and then anything would be certain.
LEAST_SHARE = 0.1


@dataclass(frozen=True)
class Known:
    """A component whose covariance (d, d) is known beforehand, with its incidence (n, groups)."""

    incidence: Matrix
    covariance: Matrix


@dataclass(frozen=True)
class Variance:
    """Of one number: `df` None where it is known; `untold` names the vessels whose differences it
    rests on and nothing says how large these are."""

    variance: float
    df: float | None
    untold: tuple[str, ...] = ()


@dataclass(frozen=True, eq=False)
class Fitted:
    """`beta` (p, d); `theta` (1 + kinds, d, d): the multiple of the weights that served, and what
    each kind of vessel has beyond it. `unknown`: kinds of which nothing says how they differ."""

    design: Crossed
    beta: Matrix
    inverse: Matrix
    kinds: tuple[str, ...]
    unknown: tuple[str, ...]
    theta: Matrix
    _weights: Matrix
    _own_weight: float
    _z: tuple[Matrix, ...]
    _known: tuple[Known, ...]
    _typical: tuple[float, ...]
    _w: Matrix
    _coefficients: Matrix
    _freedom: int
    _solved: Matrix

    @cached_property
    def _span(self) -> Matrix:
        """An orthonormal basis of all that the design tells (p, rank)."""
        _, values, right = np.linalg.svd(self.design.columns, full_matrices=False)
        return np.asarray(right[values > values.max() * CLOSE_TO_ZERO].T)

    @property
    def swatch(self) -> Matrix:
        """Covariance (d, d) of swatches of one vessel, reading included."""
        return np.asarray(self.theta[0] * self._own_weight)

    def vessel(self, kind: str) -> Matrix:
        """Covariance (d, d) of the vessels of a kind; may be below nothing."""
        k = self.kinds.index(kind)
        return np.asarray(self.theta[1 + k] + self._weights[k] * self.theta[0])

    @property
    def freedom(self) -> int:
        """Swatches less what the fixed effects take."""
        return self._freedom

    def is_told(self, row: Matrix) -> bool:
        """Whether the design tells this combination of fixed effects apart at all."""
        return bool(np.abs(self._span @ (self._span.T @ row) - row).max() < 1e-6)

    def variance(self, row: Matrix, direction: Matrix) -> Variance:
        """Of row·β·direction, a contrast (p,) seen in one direction of the responses (d,)."""
        w = self._solved @ (self.inverse @ row)
        parts = [float(np.sum((z.T @ w) ** 2)) for z in self._z]
        whole = float(row @ self.inverse @ row)
        kinds = len(self.kinds)
        untold = tuple(
            kind
            for kind, part in zip(self.unknown, parts[kinds : kinds + len(self.unknown)], strict=True)
            if part > 1e-6 * whole
        )
        known = parts[kinds + len(self.unknown) :]
        along = [float(direction @ one.covariance @ direction) for one in self._known]
        theta = np.array([direction @ one @ direction for one in self.theta])
        used = sum(k * p for k, p in zip(self._typical, known, strict=True))
        a = np.array([whole - used, *parts[:kinds]])
        fixed = sum(k * p for k, p in zip(along, known, strict=True))
        found = float(a @ theta) + fixed
        least = self._bounded(theta, w, parts, fixed)
        variance = max(found, LEAST_SHARE * least, 1e-12)
        if self._freedom < 1:
            return Variance(variance, 0.0, untold)
        spread = float(a @ self._spreading.along(theta.tolist(), along) @ a)
        if spread <= 0:
            # Components below nothing can leave it without a meaning: then none is.
            spread = float(a @ self._spreading.along(self._no_less(theta), along) @ a)
        learnt = variance - fixed
        if learnt < 1e-9 * variance:
            return Variance(variance, None, untold)
        # What is known beforehand has no end of degrees of freedom; what is learnt has those of
        # the swatches at most.
        own = 2 * learnt**2 / spread if spread > 0 else 1.0
        df = min(max(own, 1.0), float(self._freedom)) * (variance / learnt) ** 2
        return Variance(variance, df, untold)

    def _no_less(self, theta: Matrix) -> tuple[float, ...]:
        """The same with no component below nothing."""
        own = max(float(theta[0]), 1e-12)
        vessels = theta[1:] + self._weights * theta[0]
        return (own, *(np.maximum(vessels, 0) - self._weights * own).tolist())

    def _bounded(self, theta: Matrix, w: Matrix, parts: Sequence[float], fixed: float) -> float:
        own = max(float(theta[0]) * self._own_weight, 0.0)
        vessels = [
            max(float(theta[1 + k]) + float(self._weights[k]) * float(theta[0]), 0.0) for k in range(len(self.kinds))
        ]
        return own * float(w @ w) + sum(v * p for v, p in zip(vessels, parts[: len(vessels)], strict=True)) + fixed

    @cached_property
    def _spreading(self) -> "_Spreading":
        return _Spreading(self)


class _Spreading:
    """The covariance of the estimated components along a direction, which is a quadratic form of
    the components: its parts are the same for all directions, and the matrices are large."""

    def __init__(self, fitted: Fitted) -> None:
        ends = np.cumsum([0, *(z.shape[1] for z in fitted._z)])
        parts = [slice(a, b) for a, b in pairwise(ends)]
        self.fitted, self.kinds, every = fitted, len(fitted.kinds), range(len(parts))
        w = [[fitted._w[here, there] for there in parts] for here in parts]
        self.traces = np.array([np.trace(w[i][i]) for i in every])
        self.squares = np.array([[np.sum(w[i][j] ** 2) for j in every] for i in every])
        self.squares = self.squares.reshape(len(parts), len(parts))
        # By kind: of w·P·w·P·w, in which P is diagonal; and of the square of t·w + w·P·w.
        self.thrice, self.twice = {}, {}
        for k in range(self.kinds):
            self.thrice[k] = np.array([[np.sum((w[k][i] @ w[i][j]) * w[k][j]) for j in every] for i in every])
            for m in range(self.kinds):
                flat = [w[k][m].ravel(), *((w[k][j] @ w[j][m]).ravel() for j in every)]
                self.twice[k, m] = np.array([[a @ b for b in flat] for a in flat])

    def along(self, theta: Sequence[float], along: Sequence[float]) -> Matrix:
        """(1 + kinds, 1 + kinds)."""
        fitted, kinds, t = self.fitted, self.kinds, theta[0]
        more = [one - t * said for one, said in zip(along, fitted._typical, strict=True)]
        per = np.array([*theta[1:], *([0.0] * len(fitted.unknown)), *more])
        found = np.zeros((1 + kinds, 1 + kinds))
        found[0, 0] = t**2 * fitted._freedom + 2 * t * float(per @ self.traces) + float(per @ self.squares @ per)
        with_own = np.array([t, *per])
        for k in range(kinds):
            found[0, k + 1] = found[k + 1, 0] = (
                t**2 * self.traces[k] + 2 * t * float(per @ self.squares[k]) + float(per @ self.thrice[k] @ per)
            )
            for m in range(kinds):
                found[k + 1, m + 1] = with_own @ self.twice[k, m] @ with_own
        inverse = np.linalg.inv(fitted._coefficients)
        return np.asarray(2 * inverse @ found @ inverse.T)


def fit(
    design: Crossed,
    y: Matrix,
    relative: Matrix | None = None,
    known: Sequence[Known] = (),
    given: Mapping[str, Matrix] | None = None,
    start: float = 1.0,
) -> Fitted:
    """`y` (n, d). `relative` (n,): the variance of each swatch against the usual one. `given` has
    covariances of kinds of vessels that are taken as known. `start`: the variance of vessels
    against that of swatches that the first weights assume. Raises ValueError for rows that differ
    in number."""
    if len(y) != len(design.columns):
        raise ValueError("there must be a row of responses for each swatch")
    scale = 1 / np.sqrt(np.ones(len(y)) if relative is None else relative)
    x, y = design.columns * scale[:, None], y * scale[:, None]
    there = {
        kind: incidence(where) * scale[:, None]
        for kind, where in design.vessel_of.items()
        if len(np.unique(where)) < len(where) or (where < 0).any()
    }
    taken = {kind: z for kind, z in there.items() if kind in (given or {})}
    known = [
        *(Known(one.incidence * scale[:, None], one.covariance) for one in known),
        *(Known(z, (given or {})[kind]) for kind, z in taken.items()),
    ]
    open_kinds = {kind: z for kind, z in there.items() if kind not in taken}
    rank = int(np.linalg.matrix_rank(x))
    learnt, unknown = _learnt(x, open_kinds)
    z = [open_kinds[kind] for kind in (*learnt, *unknown)] + [one.incidence for one in known]
    weights = np.full(len(learnt), start)
    own = 1.0
    typical = [float(np.trace(one.covariance)) / len(one.covariance) for one in known]
    found = _Step(x, y, z, rank)
    for _ in range(ROUNDS):
        said = np.array([*weights, *([start * own] * len(unknown)), *typical])
        theta, coefficients = found.take(said, own, len(learnt), known)
        pooled = np.trace(theta, axis1=1, axis2=2) / y.shape[1]
        new_own = pooled[0] * own
        if new_own <= 0 or len(x) <= rank:
            break
        vessels = pooled[1:] + weights * pooled[0]
        next_weights = np.maximum(vessels, LEAST_WEIGHT * new_own)
        settled = np.allclose([*next_weights, new_own], [*weights, own], rtol=1e-3)
        weights, own = next_weights, float(new_own)
        if settled:
            break
    said = np.array([*weights, *([start * own] * len(unknown)), *typical])
    theta, coefficients = found.take(said, own, len(learnt), known)
    return Fitted(
        design=design,
        beta=found.beta,
        inverse=found.inverse,
        kinds=tuple(learnt),
        unknown=tuple(unknown),
        theta=theta,
        _weights=weights,
        _own_weight=own,
        _z=tuple(z),
        _known=tuple(known),
        _typical=tuple(typical),
        _w=found.w,
        _coefficients=coefficients,
        _freedom=len(x) - rank,
        _solved=found.solved,
    )


class _Step:
    """One round of the estimate, for given weights."""

    def __init__(self, x: Matrix, y: Matrix, z: Sequence[Matrix], rank: int) -> None:
        self.x, self.y, self.z, self.rank = x, y, z, rank
        self.every = np.hstack([np.zeros((len(x), 0)), *z])

    def take(self, weights: Matrix, own: float, learnt: int, known: Sequence[Known]) -> tuple[Matrix, Matrix]:
        sizes = [one.shape[1] for one in self.z]
        per = np.repeat(weights, sizes)
        v = (self.every * per) @ self.every.T + own * np.eye(len(self.x))
        solve = cho_factor(v)
        self.solved = cho_solve(solve, self.x)
        self.inverse = np.linalg.pinv(self.x.T @ self.solved, rcond=CLOSE_TO_ZERO, hermitian=True)
        self.beta = self.inverse @ (self.solved.T @ self.y)
        rest = cho_solve(solve, self.y - self.x @ self.beta)
        vz = cho_solve(solve, self.every)
        pz = vz - self.solved @ (self.inverse @ (self.solved.T @ self.every))
        self.w = self.every.T @ pz
        blocks = np.cumsum([0, *sizes])
        parts = [slice(blocks[k], blocks[k + 1]) for k in range(len(sizes))]
        mine, last = parts[:learnt], parts[len(parts) - len(known) :]
        r = self.every.T @ rest
        d = self.y.shape[1]
        q = np.zeros((1 + learnt, d, d))
        s = np.zeros((1 + learnt, 1 + learnt))
        q[0] = (self.y - self.x @ self.beta).T @ rest
        s[0, 0] = len(self.x) - self.rank
        for k, here in enumerate(mine, 1):
            q[k] = r[here].T @ r[here]
            s[0, k] = s[k, 0] = np.trace(self.w[here, here])
            for m, there in enumerate(mine, 1):
                s[k, m] = np.sum(self.w[here, there] ** 2)
        for one, there in zip(known, last, strict=True):
            size = float(np.trace(one.covariance)) / d
            q[0] -= one.covariance * np.trace(self.w[there, there])
            s[0, 0] -= size * np.trace(self.w[there, there])
            for k, here in enumerate(mine, 1):
                q[k] -= one.covariance * np.sum(self.w[here, there] ** 2)
                s[k, 0] -= size * np.sum(self.w[here, there] ** 2)
        if s[0, 0] <= 0:
            return np.zeros_like(q), np.eye(1 + learnt)
        return np.einsum("km,mij->kij", np.linalg.inv(s), q), s


def _learnt(x: Matrix, kinds: Mapping[str, Matrix]) -> tuple[list[str], list[str]]:
    """Kinds of vessels whose differences the design tells from those of the others and of swatches;
    and those that say nothing, as nothing is left over. Kinds that cannot be told from swatches
    are in neither: they are part of what swatches differ."""
    u, values, _ = np.linalg.svd(x, full_matrices=False)
    span = u[:, values > values.max() * CLOSE_TO_ZERO]
    left = {kind: z - span @ (span.T @ z) for kind, z in kinds.items()}
    found: list[str] = []
    unknown: list[str] = []
    free = len(x) - span.shape[1]
    for kind in kinds:
        if free < 1 or np.sum(left[kind] ** 2) < CLOSE_TO_ZERO * len(x):
            unknown.append(kind)
        elif _parted([left[one] for one in (*found, kind)], free):
            found.append(kind)
        elif _parted([left[kind]], free):
            unknown.append(kind)
    return found, unknown


def _parted(left: Sequence[Matrix], free: int) -> bool:
    """Whether the quadratic forms of kinds of vessels and of swatches are independent."""
    gram = np.zeros((1 + len(left), 1 + len(left)))
    gram[0, 0] = free
    for k, one in enumerate(left, 1):
        gram[0, k] = gram[k, 0] = np.sum(one**2)
        for m, other in enumerate(left, 1):
            gram[k, m] = np.sum((one.T @ other) ** 2)
    size = np.sqrt(np.diag(gram))
    return bool(np.linalg.eigvalsh(gram / np.outer(size, size))[0] > 1e-6)
