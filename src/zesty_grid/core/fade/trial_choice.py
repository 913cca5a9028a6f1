"""Which swatches tell most in a trial, for so many pieces."""

from collections.abc import Mapping, Sequence
from itertools import combinations
from typing import NamedTuple

from zesty_grid.core.frozen import Frozen

# A level that is not in the trial yet counts for more than a pair of levels that is not.
NEW_LEVEL, NEW_PAIR, REPEAT = 4.0, 1.0, 0.15


class Candidate(NamedTuple):
    """A swatch that can be exposed: its levels by factor, and whether it is a control."""

    swatch: str
    levels: Mapping[str, str]
    is_control: bool


class Proposal(Frozen):
    """The swatches in the order in which they were chosen, and what they cover."""

    swatches: tuple[str, ...]
    levels_covered: int
    levels: int
    words: str


def propose_swatches(candidates: Sequence[Candidate], count: int) -> Proposal:
    """Swatches that hold as many levels, then as many pairs of levels, as they can; repeats of a
    cell only when nothing new is left. Greedy, which is within a third of the best (Nemhauser,
    Wolsey, Fisher 1978). Fading differs most between dyes and mordants, which count as any factor.
    """
    seen_levels: dict[tuple[str, str], int] = {}
    seen_pairs: dict[tuple[tuple[str, str], ...], int] = {}
    left = list(candidates)
    chosen: list[str] = []

    def gain(one: Candidate) -> float:
        own = sorted(one.levels.items())
        score = sum(NEW_LEVEL if level not in seen_levels else REPEAT / seen_levels[level] for level in own)
        score += sum(NEW_PAIR for pair in combinations(own, 2) if pair not in seen_pairs)
        return score + (NEW_LEVEL / 2 if one.is_control and not chosen else 0.0)

    while left and len(chosen) < count:
        best = max(left, key=lambda one: (gain(one), -left.index(one)))
        left.remove(best)
        chosen.append(best.swatch)
        own = sorted(best.levels.items())
        for level in own:
            seen_levels[level] = seen_levels.get(level, 0) + 1
        for pair in combinations(own, 2):
            seen_pairs[pair] = seen_pairs.get(pair, 0) + 1
    every = {level for one in candidates for level in one.levels.items()}
    missing = sorted(f"{factor} {level}" for factor, level in every - set(seen_levels))
    words = f"{len(chosen)} pieces show {len(seen_levels)} of {len(every)} levels"
    if missing:
        words += f"; not among them: {', '.join(missing[:4])}" + ("…" if len(missing) > 4 else "")
    return Proposal(swatches=tuple(chosen), levels_covered=len(seen_levels), levels=len(every), words=f"{words}.")
