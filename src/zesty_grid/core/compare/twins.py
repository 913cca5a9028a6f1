"""Recipes that nobody can tell apart, those that part in the light, and what moves most."""

from collections.abc import Hashable, Mapping, Sequence
from itertools import pairwise
from typing import NamedTuple

import numpy as np
from scipy.spatial import cKDTree

from zesty_grid.core.compare.coloured import Coloured
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import Floats
from zesty_grid.core.read.measurement import Lab

# Within this, side by side, nobody sees a difference (common practice).
ALIKE_DE00 = 1.0
STILL_ALIKE_DE00 = 1.5
MOST = 40
# Far ones are not worked out: 1 ΔE00 is nowhere more than 4 in L*, or 12 in a* or b*.
FURTHEST = np.array([4.0, 12.0, 12.0])


class Twins(Frozen):
    """Two swatches of different recipes that lie within 1 ΔE00, and so nearly that the error of
    reading does not matter. `gentler` and `cheaper` are a code of the two, where one is."""

    first: Coloured
    second: Coloured
    de00: float
    gentler: str | None = None
    cheaper: str | None = None
    words: str = ""


class Parting(Frozen):
    """Alike as dyed, different after a stage of a trial."""

    first: str
    second: str
    trial: str
    stage: str
    before_de00: float
    after_de00: float
    first_hexes: tuple[str, str]
    second_hexes: tuple[str, str]


class Mover(Frozen):
    """How far a swatch went from one state to the next, or from kept dark to exposed."""

    code: str
    words: str
    from_state: str
    to_state: str
    from_hex: str
    to_hex: str
    de00: float


class Close(NamedTuple):
    """Two places in what was searched, and how far apart they are."""

    first: int
    second: int
    de00: float


def close_pairs(labs: Floats, own: Sequence[int], recipes: Sequence[Hashable], most: int = MOST) -> list[Close]:
    """Of different recipes, within 1 ΔE00, one of each among `own`: the closest. `labs` (n, 3)."""
    if len(labs) < 2 or not len(own):
        return []
    mine = np.asarray(own)
    there = cKDTree(labs / FURTHEST).query_ball_point(labs[mine] / FURTHEST, ALIKE_DE00, p=np.inf)
    i = np.repeat(np.arange(len(mine)), [len(near) for near in there])
    j = np.array([place for near in there for place in sorted(near)], int)
    de00 = np.asarray(delta_e_2000(labs[mine[i]], labs[j]))
    found: list[Close] = []
    seen: set[frozenset[int]] = set()
    for k in np.argsort(de00, kind="stable"):
        a, b = int(mine[i[k]]), int(j[k])
        if de00[k] >= ALIKE_DE00 or len(found) >= most:
            break
        pair = frozenset((a, b))
        if a == b or pair in seen or recipes[a] == recipes[b]:
            continue
        seen.add(pair)
        found.append(Close(a, b, float(de00[k])))
    return found


class StageColour(Frozen):
    """A swatch at a stage: kept dark and exposed."""

    code: str
    trial: str
    stage: str
    number: int
    dark_lab: Lab
    exposed_lab: Lab
    dark_hex: str
    exposed_hex: str
    limit_de00: float


def partings(stages: Sequence[StageColour], most: int = MOST) -> list[Parting]:
    """Pairs of swatches within 1.5 ΔE00 while kept dark, and further apart than reading can be
    wrong when exposed."""
    last: dict[tuple[str, str], StageColour] = {}
    for one in stages:
        there = last.get((one.trial, one.code))
        if there is None or one.number >= there.number:
            last[(one.trial, one.code)] = one
    together: dict[tuple[str, int], list[StageColour]] = {}
    for one in last.values():
        together.setdefault((one.trial, one.number), []).append(one)
    found = [parting for own in together.values() for parting in _parted(own, most)]
    return sorted(found, key=_by_less_alike)[:most]


def _parted(own: Sequence[StageColour], most: int) -> list[Parting]:
    """Of one stage of one trial."""
    dark = np.array([one.dark_lab for one in own])
    exposed = np.array([one.exposed_lab for one in own])
    limits = np.array([one.limit_de00 for one in own])
    near = cKDTree(dark / FURTHEST).query_pairs(STILL_ALIKE_DE00, p=np.inf, output_type="ndarray")
    i, j = np.sort(near, axis=1).T
    before = np.asarray(delta_e_2000(dark[i], dark[j]))
    alike = before < STILL_ALIKE_DE00
    i, j, before = i[alike], j[alike], before[alike]
    after = np.asarray(delta_e_2000(exposed[i], exposed[j]))
    parted = np.nonzero(after > before + np.maximum(limits[i], limits[j]))[0]
    furthest = parted[np.lexsort((j[parted], i[parted], (before - after)[parted]))][:most]
    pairs = ((own[i[k]], own[j[k]], float(before[k]), float(after[k])) for k in furthest)
    return [
        Parting(
            first=a.code,
            second=b.code,
            trial=a.trial,
            stage=a.stage,
            before_de00=was,
            after_de00=now,
            first_hexes=(a.dark_hex, a.exposed_hex),
            second_hexes=(b.dark_hex, b.exposed_hex),
        )
        for a, b, was, now in pairs
    ]


def _by_less_alike(one: Parting) -> float:
    return one.before_de00 - one.after_de00


def movers(
    states: Mapping[str, Sequence[Coloured]], stages: Sequence[StageColour], words: Mapping[str, str], most: int = 12
) -> list[Mover]:
    """`states` of each code in their order; the furthest steps first."""
    steps = [(code, a, b) for code, own in states.items() for a, b in pairwise(own)]
    first = [a.lab for _, a, _ in steps] + [one.dark_lab for one in stages]
    second = [b.lab for _, _, b in steps] + [one.exposed_lab for one in stages]
    if not first:
        return []
    moved = np.asarray(delta_e_2000(np.array(first), np.array(second)))
    best: dict[tuple[str, str], Mover] = {}
    for k in np.argsort(-moved, kind="stable"):
        if k < len(steps):
            code, a, b = steps[k]
            step = (code, a.state, b.state, a.hex, b.hex)
        else:
            one = stages[k - len(steps)]
            to = f"{one.trial}, {one.stage}"
            step = (one.code, "kept dark", to, one.dark_hex, one.exposed_hex)
        if len(best) == most and step[:2] not in best:
            break
        best.setdefault(
            step[:2],
            Mover(
                code=step[0],
                words=words.get(step[0], ""),
                from_state=step[1],
                to_state=step[2],
                from_hex=step[3],
                to_hex=step[4],
                de00=float(moved[k]),
            ),
        )
    return list(best.values())
