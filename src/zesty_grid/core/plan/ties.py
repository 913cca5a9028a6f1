"""Ties: knots or notches that tell swatches apart in a bath, where labels dissolve.

A tie is up to a few groups of knots with gaps between: "2·1" is two knots, a gap, one knot.
One slip is a knot too many or too few. A slip turns an even number of knots into an odd one, so
within a set of ties that are all even (or all odd) no tie is one slip away from another.
"""

from collections.abc import Iterator
from functools import cache

Tie = tuple[int, ...]
MAX_IN_GROUP = 4


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
