"""Tasks for the trainer of the eye: what is shown, what is asked, and what is right."""

from collections.abc import Callable, Sequence
from typing import Literal

import numpy as np

from zesty_grid.core.fade.grey_scale import GRADES, def_a05, rating_of
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import Floats, hex_to_lab, lab_to_hex, lab_to_srgb
from zesty_grid.core.read.measurement import Lab

TaskKind = Literal["which", "grey", "ladder", "damp", "uneven"]

# Made up: colours that plants give, all of which a screen can show.
MADE_UP: tuple[Lab, ...] = (
    (78, 4, 52),
    (66, 14, 46),
    (58, 24, 30),
    (52, 38, 16),
    (48, 30, -8),
    (54, 10, -22),
    (62, -8, 18),
    (70, -4, 30),
    (60, 4, 12),
    (44, 12, 14),
)
# Distances of pairs, from plain to hardly there; the staircase of the eye lies between.
STEPS_DE00 = (6.0, 4.0, 3.0, 2.2, 1.6, 1.2, 0.9, 0.6)
ROUND: tuple[TaskKind, ...] = (
    "which",
    "grey",
    "which",
    "uneven",
    "which",
    "damp",
    "which",
    "ladder",
    "which",
    "grey",
    "which",
    "uneven",
    "which",
    "damp",
    "which",
    "grey",
    "ladder",
    "which",
    "grey",
    "uneven",
    "which",
    "which",
    "grey",
    "which",
)
# Where a dyed piece is damp it is darker and more vivid (common practice; rough figures).
DAMP_LIGHTNESS, DAMP_CHROMA = 0.86, 1.12


class EyeTask(Frozen):
    """`chips` as they lie, left to right. `right`: the place of the right one, or for a ladder the
    places from dark to light. `grade` of the grey scale (ISO 105-A02) is one of `grades`. `de00` is
    how far apart what is to be told lies. `blotch` is the second colour of the uneven piece."""

    kind: TaskKind
    asks: str
    chips: tuple[str, ...]
    right: tuple[int, ...]
    de00: float
    grade: str | None = None
    grades: tuple[str, ...] = ()
    blotch: str | None = None


def make_round(seed: int, own: Sequence[Lab] = ()) -> tuple[EyeTask, ...]:
    """A round of five minutes; from the person's own colours too where there are any."""
    rng = np.random.default_rng(seed)
    bases = [one for one in own if _shown_on_screen(np.array(one))] or list(MADE_UP)
    steps = iter(_steps(rng, ROUND.count("which")))
    found = []
    for kind in ROUND:
        base = np.array(bases[int(rng.integers(len(bases)))], dtype=float)
        if kind == "which":
            found.append(_which(rng, base, next(steps)))
        else:
            found.append(_MAKERS[kind](rng, base))
    return tuple(found)


def _steps(rng: np.random.Generator, count: int) -> list[float]:
    """Each distance about equally often, in random order."""
    several = [STEPS_DE00[i % len(STEPS_DE00)] for i in range(count)]
    return [several[i] for i in rng.permutation(count)]


def _which(rng: np.random.Generator, base: Floats, de00: float) -> EyeTask:
    words, direction = (
        ("Which is yellower?", np.array([0.0, 0.0, 1.0])),
        ("Which is lighter?", np.array([1.0, 0.0, 0.0])),
        ("Which is duller?", -_vivid(base)),
    )[int(rng.integers(3))]
    changed = _moved(base, direction, de00)
    place = int(rng.integers(2))
    pair = [base, base]
    pair[place] = changed
    return EyeTask(
        kind="which",
        asks=words,
        chips=tuple(lab_to_hex(one) for one in pair),
        right=(place,),
        de00=_seen_apart(base, changed),
    )


def _grey(rng: np.random.Generator, base: Floats) -> EyeTask:
    direction = np.array([1.0, 0.0, 0.0]) - 0.7 * _vivid(base)
    changed = _moved(base, direction, float(rng.choice([0.3, 1.0, 1.7, 2.5, 3.5, 5.0, 7.0, 10.0])))
    return EyeTask(
        kind="grey",
        asks="How much has it faded, on the grey scale?",
        chips=(lab_to_hex(base), lab_to_hex(changed)),
        right=(),
        de00=_seen_apart(base, changed),
        grade=rating_of(float(def_a05(_on_screen(base), _on_screen(changed)))),
        grades=GRADES,
    )


def _ladder(rng: np.random.Generator, base: Floats) -> EyeTask:
    step = float(rng.choice([1.2, 2.0, 3.0]))
    rungs = [base + np.array([(i - 2) * step, 0.0, 0.0]) for i in range(5)]
    order = rng.permutation(5)
    lies = [rungs[i] for i in order]
    return EyeTask(
        kind="ladder",
        asks="Touch them from dark to light.",
        chips=tuple(lab_to_hex(one) for one in lies),
        right=tuple(int(i) for i in np.argsort(order)),
        de00=_seen_apart(rungs[1], rungs[2]),
    )


def _damp(rng: np.random.Generator, base: Floats) -> EyeTask:
    """A piece, the same damp, and one that is only dyed deeper: which of the two is damp?"""
    damp = base * np.array([DAMP_LIGHTNESS, DAMP_CHROMA, DAMP_CHROMA])
    deeper = _moved(base, np.array([-0.75, 0.0, 0.0]) - 0.6 * _vivid(base), _apart(base, damp))
    place = int(rng.integers(2))
    pair = [deeper, deeper]
    pair[place] = damp
    return EyeTask(
        kind="damp",
        asks="The first piece is dry. Which of the other two is the same, but damp?",
        chips=(lab_to_hex(base), *(lab_to_hex(one) for one in pair)),
        right=(place + 1,),
        de00=_seen_apart(damp, deeper),
    )


def _uneven(rng: np.random.Generator, base: Floats) -> EyeTask:
    blotch = _moved(base, np.array([-1.0, 0.0, 0.3]), float(rng.choice([1.0, 1.6, 2.5, 4.0])))
    return EyeTask(
        kind="uneven",
        asks="Which one is uneven?",
        chips=(lab_to_hex(base),) * 4,
        right=(int(rng.integers(4)),),
        de00=_seen_apart(base, blotch),
        blotch=lab_to_hex(blotch),
    )


_MAKERS: dict[TaskKind, Callable[[np.random.Generator, Floats], EyeTask]] = {
    "grey": _grey,
    "ladder": _ladder,
    "damp": _damp,
    "uneven": _uneven,
}


def _vivid(base: Floats) -> Floats:
    chroma = float(np.hypot(base[1], base[2]))
    if chroma < 1:
        return np.array([0.0, 0.0, 1.0])
    return np.array([0.0, base[1] / chroma, base[2] / chroma])


def _moved(base: Floats, direction: Floats, de00: float) -> Floats:
    """A colour that lies so far from another one in a direction of L*a*b*."""
    low, high = 0.0, 60.0
    for _ in range(40):
        middle = (low + high) / 2
        if _apart(base, base + middle * direction) < de00:
            low = middle
        else:
            high = middle
    return base + high * direction


def _apart(one: Floats, other: Floats) -> float:
    return float(delta_e_2000(one, other))


def _on_screen(lab: Floats) -> Floats:
    """The colour that is really shown: a screen has 256 steps a channel."""
    return hex_to_lab(lab_to_hex(lab).lstrip("#"))


def _seen_apart(one: Floats, other: Floats) -> float:
    return _apart(_on_screen(one), _on_screen(other))


def _shown_on_screen(lab: Floats) -> bool:
    """Whether a screen can show it with some room around it."""
    rgb = lab_to_srgb(lab)
    return bool((rgb > 0.06).all() and (rgb < 0.94).all())
