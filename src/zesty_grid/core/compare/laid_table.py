"""Swatches laid beside each other: in an order or in pairs, with the difference of neighbours."""

from collections.abc import Mapping, Sequence
from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from zesty_grid.core.compare.coloured import Coloured, ColouredKey
from zesty_grid.core.compare.directions import direction_words
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.pot_words import listed
from zesty_grid.core.read.colour_difference import ColourDifference, cielab_difference, directions_2000
from zesty_grid.core.read.difference_uncertainty import Seen, difference_uncertainty, mean_lab

Ground = Literal["light", "grey", "dark"]
MOST_LAID = 60
# A direction with less than this share of a difference is not worth a word.
LEAST_SHARE = 0.35


class LaidTable(Frozen):
    """What is kept of a table: `pairs` lays them two by two, `undyed` shows the undyed cloth."""

    name: Annotated[str, Field(min_length=1, max_length=120)]
    keys: Annotated[tuple[ColouredKey, ...], Field(max_length=MOST_LAID)]
    ground: Ground = "grey"
    pairs: bool = False
    undyed: bool = False


class Neighbours(Frozen):
    """The second of two neighbours against the first. `distinguishable`: further apart than two of
    one colour would be read."""

    first: str
    second: str
    difference: ColourDifference
    uncertainty_de00: float
    limit_de00: float
    distinguishable: bool
    words: str


class TableLook(Frozen):
    """`pieces` in the order that was asked for, `undyed` the cloths that belong to them. `missing`
    are keys that nothing stands for any more."""

    pieces: tuple[Coloured, ...]
    undyed: tuple[Coloured, ...]
    neighbours: tuple[Neighbours, ...]
    missing: tuple[str, ...] = ()


def neighbours(order: Sequence[str], seen: Mapping[str, Sequence[Seen]], pairs: bool) -> list[Neighbours]:
    """Of each and the next, or of each pair."""
    steps = range(0, len(order) - 1, 2 if pairs else 1)
    return [beside(order[i], order[i + 1], seen[order[i]], seen[order[i + 1]]) for i in steps]


def beside(first: str, second: str, seen_first: Sequence[Seen], seen_second: Sequence[Seen]) -> Neighbours:
    labs = [np.asarray(mean_lab([one])) for one in (seen_first, seen_second)]
    difference = cielab_difference(labs[0], labs[1])
    uncertain = difference_uncertainty([seen_first], [seen_second])
    real = difference.de00 > uncertain.limit_de00
    along = directions_2000(labs[0], labs[1])
    words = [
        word
        for word, value in sorted(
            zip(direction_words(labs[0], labs[1]), along, strict=True), key=lambda one: -abs(float(one[1]))
        )
        if abs(float(value)) > LEAST_SHARE * difference.de00
    ]
    return Neighbours(
        first=first,
        second=second,
        difference=difference,
        uncertainty_de00=uncertain.uncertainty_de00,
        limit_de00=uncertain.limit_de00,
        distinguishable=real,
        words=listed(words) if real and words else "too alike to tell",
    )
