"""Between what a difference of two levels lies: vessels of a kind, or swatches of one vessel."""

from typing import NamedTuple

import numpy as np

from zesty_grid.core.compare.crossed import Crossed
from zesty_grid.core.plan.sharing import levels_that_share


class Stratum(NamedTuple):
    """`between` None: within vessels. `vessels` are those of the two levels; `freedom` is that of
    all vessels of the kind: their number less the levels that have any."""

    between: str | None
    vessels: tuple[int, int] = (0, 0)
    freedom: int | None = None


def stratum(design: Crossed, factor: int, first: int, second: int) -> Stratum:
    """The kind of bath that keeps two levels of a factor in vessels of their own; of several the
    one with the fewest vessels."""
    found = []
    for kind, where in design.vessel_of.items():
        groups = levels_that_share(design.level_of[:, factor], where)
        if any(first in group and second in group for group in groups):
            continue
        counts = tuple(
            len(set(where[(design.level_of[:, factor] == level) & (where >= 0)].tolist())) for level in (first, second)
        )
        if max(counts):
            found.append((sum(counts), kind, counts))
    if not found:
        return Stratum(None)
    _, kind, counts = min(found)
    where = design.vessel_of[kind]
    inside = where >= 0
    levels = len(np.unique(design.level_of[inside, factor]))
    freedom = len(np.unique(where[inside])) - levels
    return Stratum(kind, (counts[0], counts[1]), freedom)


def single_together(design: Crossed, one: int, other: int) -> str | None:
    """The kind of bath in which each combination of two factors has one vessel of its own, so that
    what they do to each other cannot be told from what the vessel does; None: there is none."""
    for kind, where in design.vessel_of.items():
        inside = where >= 0
        if not inside.any() or len(levels_that_share(design.level_of[:, one], where)) < 2:
            continue
        if len(levels_that_share(design.level_of[:, other], where)) < 2:
            continue
        both = design.level_of[inside][:, [one, other]]
        triples = np.unique(np.column_stack([both, where[inside]]), axis=0)
        if len(np.unique(both, axis=0)) == len(triples):
            return kind
    return None


def error_words(between: str | None) -> str:
    """Against which error a difference is tested."""
    return f"between {between} vessels" if between else "within vessels"
