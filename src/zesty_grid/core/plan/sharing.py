"""Which levels of a factor share vessels, directly or by others: pots that hold both compare them
side by side, others only pot against pot."""

import numpy as np
from numpy.typing import NDArray

Numbers = NDArray[np.int64]


def levels_that_share(levels: Numbers, where: Numbers) -> list[set[int]]:
    """Levels in groups: those that share a vessel of a kind are in one, directly or by others.

    `levels`, `where` (n,): the level of each swatch and the vessel that it was in. Pieces that go
    into no vessel of the kind (−1) are beside one another.
    """
    groups: list[set[int]] = []
    for vessel in np.unique(where):
        linked = set(levels[where == vessel].tolist())
        touching = [group for group in groups if group & linked]
        groups = [group for group in groups if not group & linked]
        groups.append(linked.union(*touching))
    return groups
