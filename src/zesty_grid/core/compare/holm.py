"""Correction of chances for looking at many."""

from collections.abc import Hashable, Sequence


def holm(chances: Sequence[float]) -> list[float]:
    """Chances (p values) corrected so that one of them is below 5 % by chance in 5 of 100 families.

    Holm, A simple sequentially rejective multiple test procedure (1979).
    """
    order = sorted(range(len(chances)), key=lambda i: chances[i])
    found, least = [0.0] * len(chances), 0.0
    for rank, i in enumerate(order):
        least = max(least, min(1.0, chances[i] * (len(chances) - rank)))
        found[i] = least
    return found


def holm_in_groups(chances: Sequence[float], groups: Sequence[Hashable]) -> list[float]:
    """Corrected within each group, and then for the number of groups, so that a question with two
    answers does not pay for one with a hundred. A group counts by its smallest chance."""
    members: dict[Hashable, list[int]] = {}
    for i, group in enumerate(groups):
        members.setdefault(group, []).append(i)
    inner = {group: dict(zip(own, holm([chances[i] for i in own]), strict=True)) for group, own in members.items()}
    least = [min(own.values()) for own in inner.values()]
    found = [0.0] * len(chances)
    for own, before, after in zip(inner.values(), least, holm(least), strict=True):
        times = after / before if before > 0 else float(len(least))
        for i, chance in own.items():
            found[i] = min(1.0, chance * times)
    return found
