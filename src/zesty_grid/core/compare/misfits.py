"""Swatches that do not fit their neighbours: swapped, or gone wrong."""

from collections import Counter
from collections.abc import Sequence
from itertools import combinations

import numpy as np
from scipy.special import chdtri

from zesty_grid.core.compare.between import Foreteller
from zesty_grid.core.compare.compared import ComparedSwatch
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.noise.detecting import DIRECTIONS, SIGNIFICANCE
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import Floats, lab_to_hex

# By chance one study in twenty has a swatch that is named here.


class Misfit(Frozen):
    """`de00` from what its neighbours foretell, where `usual_de00` is the standard of chance.
    `swapped_with`: the two fit far better the other way round."""

    code: str
    hex: str
    foretold_hex: str
    de00: float
    usual_de00: float
    swapped_with: str | None
    words: str


def misfits(found: Foreteller, swatches: Sequence[ComparedSwatch]) -> list[Misfit]:
    """Each swatch against what all others foretell of it, corrected for looking at all of them. Only those of which
    every two levels were met once more are held against others: what two factors do together is no misfit."""
    labs = np.array([one.lab for one in swatches])
    guess, doubt = found.of_each(swatches)
    apart = np.asarray(delta_e_2000(guess, labs))
    limit = float(np.sqrt(chdtri(DIRECTIONS, SIGNIFICANCE / len(swatches)) / DIRECTIONS))
    held = _met_again(found.factors, swatches)
    odd = [int(i) for i in np.argsort(-apart / doubt) if held[i] and apart[i] > limit * doubt[i]]
    answer = []
    for i in odd:
        partner = _partner(i, odd, labs, guess, apart)
        words = (
            f"It fits the place of {swatches[partner].code}, and that one fits its place: were they swapped?"
            if partner is not None
            else "Look at it again: swapped, read wrongly, or did its bath go another way?"
        )
        answer.append(
            Misfit(
                code=swatches[i].code,
                hex=lab_to_hex(labs[i]),
                foretold_hex=lab_to_hex(guess[i]),
                de00=float(apart[i]),
                usual_de00=float(doubt[i]),
                swapped_with=None if partner is None else swatches[partner].code,
                words=words,
            )
        )
    return answer


def _met_again(factors: Sequence[str], swatches: Sequence[ComparedSwatch]) -> list[bool]:
    """Whether another swatch has the same level of every two factors (of the one, where there is one)."""
    together = list(combinations(factors, min(2, len(factors))))
    named = [[(pair, *(one.levels.get(factor, "") for factor in pair)) for pair in together] for one in swatches]
    times = Counter(name for own in named for name in own)
    return [all(times[name] > 1 for name in own) for own in named]


def _partner(i: int, odd: Sequence[int], labs: Floats, guess: Floats, apart: Floats) -> int | None:
    best, least = None, 0.5 * float(apart[i])
    for j in odd:
        if j == i:
            continue
        crossed = max(float(delta_e_2000(labs[i], guess[j])), float(delta_e_2000(labs[j], guess[i])))
        if crossed < least:
            best, least = j, crossed
    return best
