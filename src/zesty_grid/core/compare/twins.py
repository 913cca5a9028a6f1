"""Recipes that nobody can tell apart, those that part in the light, and what moves most."""

from collections.abc import Hashable, Mapping, Sequence
from itertools import pairwise
from typing import NamedTuple

import numpy as np

from zesty_grid.core.compare.coloured import Coloured
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import Floats
from zesty_grid.core.read.measurement import Lab

# Within this, side by side, nobody sees a difference (common practice).
ALIKE_DE00 = 1.0
MOST = 40


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


def close_pairs(
    labs: Floats, own: Sequence[int], recipes: Sequence[Hashable], most: int = MOST
) -> list[Close]:
    """Of different recipes, within 1 ΔE00, one of each among `own`: the closest. `labs` (n, 3)."""
    if len(labs) < 2 or not len(own):
        return []
    mine = np.asarray(own)
    # Far ones are not worked out: 1 ΔE00 is nowhere more than 12 in a* or b*, or 4 in L*.
    apart = np.abs(labs[mine, None] - labs[None])
    near = (apart[..., 0] < 4 * ALIKE_DE00) & (apart.max(axis=2) < 12 * ALIKE_DE00)
    i, j = np.nonzero(near)
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
    found = []
    own = list(last.values())
    for i, a in enumerate(own):
        for b in own[i + 1 :]:
            if a.trial != b.trial or a.number != b.number:
                continue
            before = float(delta_e_2000(np.array(a.dark_lab), np.array(b.dark_lab)))
            after = float(delta_e_2000(np.array(a.exposed_lab), np.array(b.exposed_lab)))
            if before < 1.5 * ALIKE_DE00 and after > before + max(a.limit_de00, b.limit_de00):
                found.append(
                    Parting(
                        first=a.code, second=b.code, trial=a.trial, stage=a.stage,
                        before_de00=before, after_de00=after,
                        first_hexes=(a.dark_hex, a.exposed_hex),
                        second_hexes=(b.dark_hex, b.exposed_hex),
                    )
                )  # fmt: skip
    return sorted(found, key=lambda one: one.before_de00 - one.after_de00)[:most]


def movers(
    states: Mapping[str, Sequence[Coloured]], stages: Sequence[StageColour],
    words: Mapping[str, str], most: int = 12,
) -> list[Mover]:  # fmt: skip
    """`states` of each code in their order; the furthest steps first."""
    found = []
    for code, own in states.items():
        for a, b in pairwise(own):
            found.append(
                Mover(
                    code=code, words=words.get(code, ""), from_state=a.state, to_state=b.state,
                    from_hex=a.hex, to_hex=b.hex,
                    de00=float(delta_e_2000(np.array(a.lab), np.array(b.lab))),
                )
            )  # fmt: skip
    for one in stages:
        found.append(
            Mover(
                code=one.code, words=words.get(one.code, ""), from_state="kept dark",
                to_state=f"{one.trial}, {one.stage}", from_hex=one.dark_hex,
                to_hex=one.exposed_hex,
                de00=float(delta_e_2000(np.array(one.dark_lab), np.array(one.exposed_lab))),
            )
        )  # fmt: skip
    best: dict[tuple[str, str], Mover] = {}
    for mover in sorted(found, key=lambda one: -one.de00):
        best.setdefault((mover.code, mover.from_state), mover)
    return list(best.values())[:most]
