"""The ways that each swatch of a trial may take.

What those of one dye share is pooled, so that few stages suffice: what the others show of their
bends counts as a prior, and what one swatch alone would not know as one more word (empirical Bayes:
Robbins 1956).
"""

from collections.abc import Callable, Mapping, Sequence
from functools import lru_cache

import numpy as np

from zesty_grid.core.fade.fade_points import FadePoint
from zesty_grid.core.fade.fading_curve import Paths, draw_paths
from zesty_grid.core.fade.fading_fit import ChangeSeen, bends_of, fit_fading
from zesty_grid.core.fade.fading_shapes import known_shapes
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.colour_space import Floats

# One swatch's worth of not knowing stays beside what the others of its dye show.
OWN_WORD = 1.0
# By what was seen, so that it is never out of date: 17 ms each, some 15 kB.
MOST_KEPT = 5000

SeenChanges = tuple[ChangeSeen, ...]


class WorkedAhead(Frozen):
    """How far the ways of a trial's swatches are worked out, in steps."""

    done: int
    of: int


def changes_by_swatch(points: Sequence[FadePoint]) -> dict[str, SeenChanges]:
    """The stages of each swatch whose dose is known; swatches without any are left out."""
    found: dict[str, list[ChangeSeen]] = {}
    for point in points:
        if point.dose and not point.turned_round:
            found.setdefault(point.swatch, []).append(
                ChangeSeen(
                    dose=point.dose,
                    dark_lab=point.dark_lab,
                    exposed_lab=point.exposed_lab,
                    uncertainty_de00=point.uncertainty_de00,
                )
            )
    return {swatch: tuple(own) for swatch, own in found.items()}


def fading_groups(levels: Mapping[str, Mapping[str, str]]) -> dict[str, str]:
    """What is dyed alike fades alike: the dye (or what printed) makes the group in which bends are
    shared, else all are one. `levels` by code and factor."""
    return {code: own.get("dye", own.get("source", "")) for code, own in levels.items()}


def paths_of_trial(points: Sequence[FadePoint], groups: Mapping[str, str]) -> dict[str, Paths]:
    """Of every swatch of a trial that was read; `groups`: for each swatch, what it shares its way
    of fading with."""
    seen = changes_by_swatch(points)
    shared = _shared_bends(seen, groups)
    return {swatch: _paths(own, shared[swatch]) for swatch, own in seen.items()}


def last_dose_of(paths: Mapping[str, Paths]) -> float:
    """The furthest dose that a trial has seen; 0 where nothing was read."""
    return max((path.followed.last_dose for path in paths.values()), default=0.0)


def work_ahead(
    points: Sequence[FadePoint], groups: Mapping[str, str], after: int, goes_on: Callable[[], bool]
) -> WorkedAhead:
    """Goes on working out a trial's paths after so many steps, as long as it may, and keeps what
    it finds: a trial of thousands takes a minute, and somebody waits for it."""
    seen = changes_by_swatch(points)
    steps = list(seen.items())
    done, of = after, 2 * len(steps)
    while done < len(steps):
        _bends_alone(steps[done][1])
        done += 1
        if not goes_on():
            return WorkedAhead(done=done, of=of)
    shared = _shared_bends(seen, groups)
    while done < of:
        swatch, own = steps[done - len(steps)]
        _paths(own, shared[swatch])
        done += 1
        if not goes_on():
            break
    return WorkedAhead(done=min(done, of), of=of)


def _shared_bends(seen: Mapping[str, SeenChanges], groups: Mapping[str, str]) -> dict[str, bytes]:
    """For each swatch the log weights that the others of its group give to the bends of every
    shape, one after the other; nothing where there are no others."""
    members: dict[str | None, list[str]] = {}
    for swatch in sorted(seen):
        members.setdefault(groups.get(swatch), []).append(swatch)
    found = {}
    for own in members.values():
        bends = np.array([_bends_alone(seen[swatch]) for swatch in own])
        together, others = bends.sum(axis=0), len(own) - 1
        for swatch, alone in zip(own, bends, strict=True):
            found[swatch] = _as_prior((together - alone) / others, others) if others else b""
    return found


def _as_prior(mean: Floats, others: int) -> bytes:
    """Doses are in parts of each swatch's last one: bends agree where those do."""
    weight = others / (others + OWN_WORD)
    even = np.concatenate([np.full(count, 1 / count) for count in _counts()])
    return np.log(np.maximum(weight * mean, 0.0) + (1 - weight) * even).tobytes()


def _counts() -> list[int]:
    return [len(shape.parameters) for shape in known_shapes()]


@lru_cache(maxsize=MOST_KEPT)
def _bends_alone(seen: SeenChanges) -> Floats:
    return np.concatenate(bends_of(fit_fading(seen)))


@lru_cache(maxsize=MOST_KEPT)
def _paths(seen: SeenChanges, shared: bytes) -> Paths:
    ends = np.cumsum(_counts())[:-1]
    prior = np.split(np.frombuffer(shared), ends) if shared else ()
    return draw_paths(fit_fading(seen, prior))
