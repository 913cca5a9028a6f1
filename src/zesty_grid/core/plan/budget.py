"""Chooses the cells that keep the most information where not all can be dyed.

D-optimal choice by exchange (Fedorov, Theory of Optimal Experiments, 1972), for whole plots of
correlated swatches (Goos and Vandebroek, Optimal split-plot designs, Journal of Quality
Technology 33, 2001): the dye vessels are the whole plots. The determinant of the information
matrix X' V⁻¹ X is raised until no exchange of one cell helps any more, from several starts.
"""

from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

Matrix = NDArray[np.float64]
Rows = NDArray[np.int64]
RIDGE = 1e-7
MAX_PASSES = 30


@dataclass
class Candidates:
    """Feasible cells: coded rows X (n, p), the vessel of each (n,), and vessel/own variance."""

    coded: Matrix
    vessel: Rows
    variance_ratio: float


@dataclass
class _State:
    """A choice of rows with its information matrix kept up to date."""

    of: Candidates
    chosen: NDArray[np.bool_]
    count: NDArray[np.float64] = field(init=False)
    total: Matrix = field(init=False)
    information: Matrix = field(init=False)

    def __post_init__(self) -> None:
        vessels, p = int(self.of.vessel.max()) + 1, self.of.coded.shape[1]
        self.count, self.total = np.zeros(vessels), np.zeros((vessels, p))
        rows = np.flatnonzero(self.chosen)
        np.add.at(self.count, self.of.vessel[rows], 1)
        np.add.at(self.total, self.of.vessel[rows], self.of.coded[rows])
        x = self.of.coded[rows]
        self.information = x.T @ x + RIDGE * np.eye(p) - _pooled(self)

    def move(self, row: int, into: bool) -> None:
        x, v, sign = self.of.coded[row], self.of.vessel[row], 1 if into else -1
        before, s = _shrink(self.count[v], self.of.variance_ratio), self.total[v].copy()
        self.count[v] += sign
        self.total[v] += sign * x
        after, t = _shrink(self.count[v], self.of.variance_ratio), self.total[v]
        self.information += sign * np.outer(x, x) + before * np.outer(s, s) - after * np.outer(t, t)
        self.chosen[row] = into


def information_of(of: Candidates, rows: Rows) -> Matrix:
    """X' V⁻¹ X of the chosen rows, in units of a swatch's own variance."""
    chosen = np.zeros(len(of.coded), bool)
    chosen[rows] = True
    return _State(of, chosen).information


def log_determinant(information: Matrix) -> float:
    sign, value = np.linalg.slogdet(information)
    return float(value) if sign > 0 else -np.inf


def choose_cells(of: Candidates, number: int, vessels: int, starts: int, seed: int) -> Rows:
    """Row numbers of the best choice found: at most `number` cells in at most `vessels` vessels.

    Raises ValueError where fewer cells are asked for than there are effects to tell.
    """
    if number < of.coded.shape[1]:
        raise ValueError("fewer cells than effects")
    random = np.random.default_rng(seed)
    best, best_value = np.arange(0), -np.inf
    for start in range(starts):
        open_vessels = _choose_vessels(of, vessels, random, greedy=start % 2 == 0)
        usable = np.isin(of.vessel, open_vessels)
        state = _start(of, usable, min(number, int(usable.sum())), random)
        _exchange(state, usable, random)
        value = log_determinant(state.information)
        if value > best_value + 1e-9:
            best, best_value = np.flatnonzero(state.chosen), value
    return best


def _shrink(count: float | NDArray[np.float64], ratio: float) -> float | NDArray[np.float64]:
    return ratio / (1 + count * ratio)


def _pooled(state: _State) -> Matrix:
    shrink = np.asarray(_shrink(state.count, state.of.variance_ratio))
    return np.asarray((state.total * shrink[:, None]).T @ state.total)


def _choose_vessels(of: Candidates, number: int, random: np.random.Generator, greedy: bool) -> Rows:
    """The vessels whose cells, all together, hold the most information."""
    present = np.unique(of.vessel)
    if len(present) <= number:
        return present
    inside = {v: information_of(of, np.flatnonzero(of.vessel == v)) for v in present.tolist()}
    chosen = random.permutation(present)[:number].tolist()
    if not greedy:
        return np.array(chosen)
    ridge = 1e-4 * np.eye(of.coded.shape[1])
    value = log_determinant(sum(inside[v] for v in chosen) + ridge)
    for _ in range(MAX_PASSES):
        better = False
        for i, old in enumerate(chosen):
            rest = sum(inside[v] for v in chosen if v != old) + ridge
            spare = [v for v in present.tolist() if v not in chosen]
            values = [log_determinant(rest + inside[v]) for v in spare]
            k = int(np.argmax(values))
            if values[k] > value + 1e-9:
                chosen[i], value, better = spare[k], values[k], True
        if not better:
            break
    return np.array(chosen)


def _start(of: Candidates, usable: NDArray[np.bool_], number: int, random: np.random.Generator) -> _State:
    """A random choice that reaches every vessel in use."""
    chosen = np.zeros(len(of.coded), bool)
    for vessel in np.unique(of.vessel[usable]):
        chosen[random.choice(np.flatnonzero(usable & (of.vessel == vessel)))] = True
    surplus = int(chosen.sum()) - number
    if surplus > 0:
        chosen[random.choice(np.flatnonzero(chosen), surplus, replace=False)] = False
    else:
        free = np.flatnonzero(usable & ~chosen)
        chosen[random.choice(free, -surplus, replace=False)] = True
    return _State(of, chosen)


def _exchange(state: _State, usable: NDArray[np.bool_], random: np.random.Generator) -> None:
    for _ in range(MAX_PASSES):
        better = False
        for row in random.permutation(np.flatnonzero(state.chosen)):
            free = np.flatnonzero(usable & ~state.chosen)
            if len(free) == 0:
                return
            state.move(int(row), False)
            gains = _gain_of_adding(state, np.append(free, row))
            k = int(np.argmax(gains))
            swap = k < len(free) and gains[k] > gains[-1] * (1 + 1e-9)
            state.move(int(free[k]) if swap else int(row), True)
            better |= bool(swap)
        if not better:
            return


def _gain_of_adding(state: _State, rows: Rows) -> NDArray[np.float64]:
    """Factor by which the determinant grows for each row (matrix determinant lemma, rank 2)."""
    of, ratio = state.of, state.of.variance_ratio
    inverse = np.linalg.inv(state.information)
    x, v = of.coded[rows], of.vessel[rows]
    half = x @ inverse
    spread = state.total @ inverse
    a = np.einsum("ij,ij->i", half, x)
    b = np.einsum("ij,ij->i", half, state.total[v])
    e = np.einsum("ij,ij->i", spread, state.total)[v]
    before = np.asarray(_shrink(state.count, ratio))[v]
    after = np.asarray(_shrink(state.count + 1, ratio))[v]
    xx, xs, ss = 1 - after, -after, before - after
    return np.asarray((1 + xx * a + xs * b) * (1 + xs * b + ss * e) - (xx * b + xs * e) * (xs * a + ss * b))
