"""What lasts: the levels of each factor by how much their swatches change, and which differences
are more than chance.

An additive model of the change at the last stage on the factors that vary, by least squares. Its
error is what swatches differ beyond the model, which holds the errors of reading and of dyeing;
comparisons are corrected for looking at many (Holm 1979).
"""

from collections.abc import Mapping, Sequence
from typing import NamedTuple

import numpy as np
from scipy.special import stdtr, stdtrit

from zesty_grid.core.compare.holm import holm
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.colour_space import Floats

LIMIT = 0.90
ALPHA = 0.05


class LevelLasting(Frozen):
    """The change of a level's swatches as the model has it, other factors being equal. `real`: it
    differs from the level that lasts best; None: too few swatches to say."""

    level: str
    swatches: int
    change_de00: float
    low_de00: float
    high_de00: float
    real: bool | None


class FactorLasting(Frozen):
    factor: str
    levels: tuple[LevelLasting, ...]
    words: str


class _Found(NamedTuple):
    """Rows of level, swatches, mean and limits; the chance of each difference from the best."""

    factor: str
    rows: list[tuple[str, int, float, float, float]]
    chances: list[float | None]


def lasting_by_factor(
    changes: Mapping[str, float], levels: Mapping[str, Mapping[str, str]], uncertainties: Mapping[str, float]
) -> list[FactorLasting]:
    """`changes` in ΔE00 by swatch, `levels` by swatch and factor; only swatches with all factors
    are counted."""
    factors = _varying(changes, levels)
    own = [code for code in changes if all(f in levels.get(code, {}) for f in factors)]
    if not own or not factors:
        return []
    y = np.array([changes[code] for code in own])
    columns, names = _design(own, factors, levels)
    solution, _, rank, _ = np.linalg.lstsq(columns, y, rcond=None)
    freedom = len(own) - int(rank)
    rest = y - columns @ solution
    read = float(np.mean([uncertainties.get(code, 0.5) ** 2 for code in own]))
    variance = max(float(rest @ rest) / freedom, read / 2) if freedom > 0 else None
    inverse: Floats = np.asarray(np.linalg.pinv(columns.T @ columns), dtype=float)
    found = []
    for factor in factors:
        places = {name[1]: i for i, name in enumerate(names) if name[0] == factor}
        at = {level: _profile(columns, names, factor, i) for level, i in places.items()}
        means = {level: float(profile @ solution) for level, profile in at.items()}
        found.append(_factor(factor, means, at, inverse, variance, freedom, own, levels))
    return _corrected(found)


def _varying(changes: Mapping[str, float], levels: Mapping[str, Mapping[str, str]]) -> list[str]:
    found: dict[str, set[str]] = {}
    for code in changes:
        for factor, level in levels.get(code, {}).items():
            found.setdefault(factor, set()).add(level)
    return [factor for factor, own in found.items() if len(own) > 1]


def _design(
    own: Sequence[str], factors: Sequence[str], levels: Mapping[str, Mapping[str, str]]
) -> tuple[Floats, list[tuple[str, str]]]:
    names = [(factor, level) for factor in factors for level in dict.fromkeys(levels[code][factor] for code in own)]
    matrix = np.array([[1.0, *(float(levels[code][f] == one) for f, one in names)] for code in own])
    return matrix, [("", ""), *names]


def _profile(columns: Floats, names: Sequence[tuple[str, str]], factor: str, place: int) -> Floats:
    """A swatch of that level, average in all else."""
    profile = columns.mean(axis=0)
    for i, (own, _) in enumerate(names):
        if own == factor:
            profile[i] = float(i == place)
    return np.asarray(profile)


def _factor(
    factor: str,
    means: Mapping[str, float],
    at: Mapping[str, Floats],
    inverse: Floats,
    variance: float | None,
    freedom: int,
    own: Sequence[str],
    levels: Mapping[str, Mapping[str, str]],
) -> _Found:
    order = sorted(means, key=lambda level: means[level])
    best = order[0]
    made: list[tuple[str, int, float, float, float]] = []
    chances: list[float | None] = []
    for level in order:
        count = sum(levels[code][factor] == level for code in own)
        if variance is None:
            made.append((level, count, means[level], 0.0, float("inf")))
            chances.append(None)
            continue
        spread = float(np.sqrt(variance * at[level] @ inverse @ at[level]))
        wide = float(stdtrit(freedom, (1 + LIMIT) / 2)) * spread
        made.append((level, count, means[level], max(0.0, means[level] - wide), means[level] + wide))
        apart = at[level] - at[best]
        error = float(np.sqrt(variance * apart @ inverse @ apart))
        ratio = (means[level] - means[best]) / error if error > 1e-9 else 0.0
        chances.append(float(2 * stdtr(freedom, -abs(ratio))) if level != best else None)
    return _Found(factor, made, chances)


def _corrected(found: Sequence[_Found]) -> list[FactorLasting]:
    tested = [(i, j) for i, one in enumerate(found) for j, p in enumerate(one.chances) if p is not None]
    corrected = holm([found[i].chances[j] or 0.0 for i, j in tested])
    real = {place: p <= ALPHA for place, p in zip(tested, corrected, strict=True)}
    answer = []
    for i, one in enumerate(found):
        rows = tuple(
            LevelLasting(
                level=level,
                swatches=count,
                change_de00=mean,
                low_de00=low,
                high_de00=high if np.isfinite(high) else mean * 10,
                real=real.get((i, j)),
            )
            for j, (level, count, mean, low, high) in enumerate(one.rows)
        )
        worse = [row for row in rows if row.real]
        if worse:
            words = f"{rows[0].level} lasts better than {', '.join(row.level for row in worse)}."
        elif all(row.real is None for row in rows):
            words = "Too few swatches to tell levels from chance."
        else:
            words = "No difference that can be told."
        answer.append(FactorLasting(factor=one.factor, levels=rows, words=words))
    return answer
