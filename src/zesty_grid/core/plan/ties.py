"""Ties: knots or notches that tell swatches apart in a bath, where labels dissolve.

A tie is up to a few groups of knots with gaps between: "2·1" is two knots, a gap, one knot.
One slip is a knot too many or too few. A slip turns an even number of knots into an odd one, so
within a set of ties that are all even (or all odd) no tie is one slip away from another.
"""

from collections.abc import Iterator
from functools import cache

from zesty_grid.core.frozen import Frozen

Tie = tuple[int, ...]
MAX_IN_GROUP = 4


class TieKey(Frozen):
    """The tie of a swatch, as it is printed: groups of knots from the marked end."""

    swatch: str
    groups: Tie
    words: str


def tie_words(tie: Tie) -> str:
    return "·".join(str(knots) for knots in tie)


@cache
def ties_with(knots: int) -> tuple[Tie, ...]:
    """All ties with so many knots, those with fewer gaps first."""
    return tuple(sorted(_compositions(knots), key=lambda tie: (len(tie), tie)))


def _compositions(knots: int) -> Iterator[Tie]:
    if knots == 0:
        yield ()
    for first in range(1, min(knots, MAX_IN_GROUP) + 1):
        for rest in _compositions(knots - first):
            yield (first, *rest)


def ties_for(vessels: list[tuple[str, ...]], swatches: list[str]) -> list[TieKey]:
    """A tie for each swatch, unique in every vessel that it shares, none one slip from another.

    `vessels` holds the swatches of each vessel. Swatches that share no vessel may share a tie.
    Even and odd numbers of knots are both tried for each set of linked vessels, fuller vessels
    first, and the set with fewer knots is taken. For one vessel this is the fewest possible; over
    several it is a good answer, not a proven one.
    """
    shares: dict[str, list[int]] = {swatch: [] for swatch in swatches}
    for i, members in enumerate(vessels):
        for swatch in members:
            shares[swatch].append(i)
    chosen: dict[str, Tie] = {}
    for linked in _linked(vessels, shares):
        odd, even = (_one_parity(linked, shares, vessels, parity) for parity in (1, 0))
        chosen |= odd if _knots(odd) <= _knots(even) else even
    return [
        TieKey(swatch=swatch, groups=chosen[swatch], words=tie_words(chosen[swatch]))
        for swatch in swatches
    ]


def _knots(made: dict[str, Tie]) -> int:
    return sum(sum(tie) for tie in made.values())


def _ties(parity: int, most: int) -> list[Tie]:
    """At least `most` ties with an odd or even number of knots, fewest knots first."""
    found: list[Tie] = []
    knots = parity or 2
    while len(found) < most:
        found += ties_with(knots)
        knots += 2
    return found


def _one_parity(
    linked: list[str], shares: dict[str, list[int]], vessels: list[tuple[str, ...]], parity: int
) -> dict[str, Tie]:
    # Which ties a vessel has taken, as the bits of a number.
    taken = [0] * len(vessels)
    place: dict[str, int] = {}
    # The fuller its vessels, the fewer ties are left for a swatch: it chooses first.
    for swatch in sorted(linked, key=lambda s: -sum(len(vessels[i]) for i in shares[s])):
        used = 0
        for i in shares[swatch]:
            used |= taken[i]
        free = ~used & (used + 1)
        place[swatch] = free.bit_length() - 1
        for i in shares[swatch]:
            taken[i] |= free
    ties = _ties(parity, max(place.values()) + 1)
    return {swatch: ties[number] for swatch, number in place.items()}


def _linked(vessels: list[tuple[str, ...]], shares: dict[str, list[int]]) -> list[list[str]]:
    """Swatches that are linked through shared vessels; parity is chosen for each such set."""
    seen: set[str] = set()
    sets = []
    for start in shares:
        if start in seen:
            continue
        seen.add(start)
        found, open_ones, visited = [], [start], set()
        while open_ones:
            swatch = open_ones.pop()
            found.append(swatch)
            for i in shares[swatch]:
                if i in visited:
                    continue
                visited.add(i)
                fresh = [other for other in vessels[i] if other not in seen]
                seen.update(fresh)
                open_ones += fresh
        sets.append(found)
    return sets
