"""What a round says of an eye: its just noticeable difference, and which way it leans."""

from collections.abc import Sequence
from typing import Annotated

import numpy as np
from pydantic import Field
from scipy.optimize import minimize_scalar
from scipy.special import chdtri

from zesty_grid.core.eye.tasks import TaskKind
from zesty_grid.core.fade.grey_scale import GRADES
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.colour_space import Floats

SLOPE = 2.0
# Of two, one is right by chance in half of the cases.
CHANCE = 0.5
LEAST, MOST = 0.05, 30.0
SURELY_SEEN = 0.3
FEWEST_PAIRS, FEWEST_GRADES = 6, 3
STEPS_OF_GRADE = 0.5


class Judged(Frozen):
    """One task as it was answered: right or wrong, or the grades of the grey scale."""

    kind: TaskKind
    de00: Annotated[float, Field(ge=0, le=100)]
    right: bool | None = None
    grade: str | None = None
    said: str | None = None


class EyeResult(Frozen):
    """`jnd_de00` is the difference that is told right in three of four cases, with its 95 % limits;
    `bias_grades` how much higher than the formula the eye rates, in grades, with how far single
    ratings scatter. None where too little was judged."""

    pairs: int
    jnd_de00: float | None
    jnd_low_de00: float | None
    jnd_high_de00: float | None
    bias_grades: float | None
    scatter_grades: float | None
    words: tuple[str, ...]


def judge(judged: Sequence[Judged]) -> EyeResult:
    pairs = [one for one in judged if one.kind == "which" and one.right is not None]
    graded = [
        (_steps(one.said) - _steps(one.grade)) * STEPS_OF_GRADE
        for one in judged
        if one.kind == "grey" and one.grade in GRADES and one.said in GRADES
    ]
    jnd = low = high = None
    if len(pairs) >= FEWEST_PAIRS:
        jnd, low, high = just_noticeable(
            np.array([one.de00 for one in pairs]), np.array([bool(one.right) for one in pairs])
        )
    bias = float(np.mean(graded)) if len(graded) >= FEWEST_GRADES else None
    scatter = float(np.std(graded, ddof=1)) if len(graded) >= FEWEST_GRADES else None
    return EyeResult(
        pairs=len(pairs),
        jnd_de00=jnd,
        jnd_low_de00=low,
        jnd_high_de00=high,
        bias_grades=bias,
        scatter_grades=scatter,
        words=_words(jnd, low, high, bias, judged),
    )


def just_noticeable(de00: Floats, right: Floats) -> tuple[float, float, float]:
    """The difference told right in 75 % of forced choices between two, and its 95 % limits by
    likelihood ratio. A Weibull function with a slope of 2 and half right by chance (Quick 1974;
    Wichmann and Hill 2001); `de00` (n,), `right` (n,) of truth."""

    def unlikelihood(log_threshold: float) -> float:
        strength = np.log(2) * (de00 / np.exp(log_threshold)) ** SLOPE
        chance = CHANCE + (1 - CHANCE) * (1 - np.exp(-strength))
        told = np.clip(chance, 1e-9, 1 - 1e-3)
        return -float(np.where(right, np.log(told), np.log(1 - told)).sum())

    bounds = (np.log(LEAST), np.log(MOST))
    best = minimize_scalar(unlikelihood, bounds=bounds, method="bounded")
    grid = np.linspace(*bounds, 400)
    within = np.array([unlikelihood(one) for one in grid]) <= best.fun + chdtri(1, 0.05) / 2
    allowed = np.exp(grid[within])
    middle = float(np.exp(best.x))
    return middle, min(middle, float(allowed.min())), max(middle, float(allowed.max()))


def _steps(grade: str | None) -> int:
    """Half grades from 1 upwards."""
    return len(GRADES) - 1 - GRADES.index(grade or GRADES[0])


def _words(
    jnd: float | None, low: float | None, high: float | None, bias: float | None, judged: Sequence[Judged]
) -> tuple[str, ...]:
    found = []
    if jnd is not None and low is not None and high is not None:
        # Where the eye was right all along, only that it sees less than so much is known.
        apart = (
            f"that are less than {high:.1f} ΔE00 apart"
            if jnd < SURELY_SEEN
            else f"from about {jnd:.1f} ΔE00 on ({low:.1f} to {high:.1f})"
        )
        found.append(f"You tell two colours apart {apart}, on this screen and in this light.")
    if bias is not None:
        side = "milder" if bias > 0 else "more strictly"
        found.append(
            "You rate fading as the formula does."
            if abs(bias) < STEPS_OF_GRADE / 2
            else f"You rate fading {side} than the formula, by {abs(bias):.1f} of a grade."
        )
    for kind, words in (("damp", "Damp or dry"), ("uneven", "Uneven pieces"), ("ladder", "Ladders")):
        own = [one.right for one in judged if one.kind == kind and one.right is not None]
        if own:
            found.append(f"{words}: {sum(own)} of {len(own)} right.")
    return tuple(found)
