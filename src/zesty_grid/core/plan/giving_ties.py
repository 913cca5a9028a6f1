"""Ties for new swatches, beside those that are on the table already and never change.

In one working session the pieces of all vessels lie on one table, so that a tie is given once in
a study, as long as it takes no more than a few knots. Then ties come again, never twice in one
vessel, and only the code tells such pieces apart.
"""

from collections import Counter
from collections.abc import Collection, Iterable, Mapping

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.ties import Tie, tie_words, ties_with

# Seven knots take about three minutes and still dry fast; common practice.
MOST_KNOTS = 7


class AlikeTies(Frozen):
    """Swatches with one tie: only their codes tell them apart."""

    tie: str
    swatches: tuple[str, ...]


def give_ties(
    there: Mapping[str, str], new: list[str], vessels: Iterable[Collection[str]], elsewhere: Collection[str] = ()
) -> dict[str, str]:
    """A tie in words for each new swatch, by code.

    `there` has the ties of the study's other swatches, `vessels` the swatches of each vessel, and
    `elsewhere` the ties of pieces of other studies that are in work now: they are kept clear of
    where that costs nothing.
    """
    parity = _parity(there.values(), len(new))
    ties = [tie for tie in _up_to(MOST_KNOTS, parity) if tie_words(tie) not in set(elsewhere)]
    ties = ties or _up_to(MOST_KNOTS, parity)
    used = Counter(there.values())
    mates = _mates(vessels)
    given: dict[str, str] = {}
    fresh = iter([tie for tie in map(tie_words, ties) if not used[tie]])
    for code in sorted(new, key=lambda one: -len(mates.get(one, ()))):
        tie = next(fresh, None)
        if tie is None:
            taken = {given.get(mate, there.get(mate)) for mate in mates.get(code, ())}
            tie = _again(taken, used, parity)
        given[code] = tie
        used[tie] += 1
    return given


def told_by_code_only(ties: Mapping[str, str]) -> list[AlikeTies]:
    """Swatches that share a tie, by code; the fewest knots first."""
    by_tie: dict[str, list[str]] = {}
    for code, tie in ties.items():
        if tie:
            by_tie.setdefault(tie, []).append(code)
    return [
        AlikeTies(tie=tie, swatches=tuple(codes))
        for tie, codes in sorted(by_tie.items(), key=lambda item: (_knots(item[0]), item[0]))
        if len(codes) > 1
    ]


def _knots(words: str) -> int:
    return sum(int(group) for group in words.split("·"))


def _parity(there: Iterable[str], count: int) -> int:
    """Odd or even as those that are there; else what takes fewer knots for so many."""
    known = Counter(_knots(tie) % 2 for tie in there if tie)
    if known:
        return known.most_common(1)[0][0]
    sums = {}
    for parity in (1, 0):
        ties = _up_to(MOST_KNOTS, parity)[:count]
        sums[parity] = (-len(ties), sum(map(sum, ties)))
    return min(sums, key=lambda parity: (sums[parity], -parity))


def _up_to(most: int, parity: int) -> list[Tie]:
    return [tie for knots in range(parity or 2, most + 1, 2) for tie in ties_with(knots)]


def _again(taken: Collection[str | None], used: Counter[str], parity: int) -> str:
    """The least used tie that no piece of the same vessels has; more knots where all have one."""
    most = MOST_KNOTS
    while True:
        free = [tie for tie in map(tie_words, _up_to(most, parity)) if tie not in taken]
        if free:
            return min(free, key=lambda tie: (used[tie], _knots(tie)))
        most += 2


def _mates(vessels: Iterable[Collection[str]]) -> dict[str, set[str]]:
    found: dict[str, set[str]] = {}
    for members in vessels:
        for code in members:
            found.setdefault(code, set()).update(members)
    for code, mates in found.items():
        mates.discard(code)
    return found
