"""One study beside another: the same recipe again, a run that fills a gap, or three weeks apart."""

from collections.abc import Mapping, Sequence
from typing import NamedTuple

import numpy as np

from zesty_grid.core.compare.compared import ComparedSwatch
from zesty_grid.core.compare.directions import direction_words
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.pot_words import listed
from zesty_grid.core.read.colour_difference import delta_e_2000, directions_2000
from zesty_grid.core.read.colour_space import lab_to_hex

# Fewer pairs say nothing of how large run to run is.
FEWEST_PAIRS = 3


class OneStudy(NamedTuple):
    """`level_words` by factor and level; `facts` are what the run was like: water, days, …; `keys`
    name what was looked at, by code."""

    name: str
    swatches: Sequence[ComparedSwatch]
    level_words: Mapping[tuple[str, str], str]
    facts: Mapping[str, str]
    keys: Mapping[str, str]


class MatchedPair(Frozen):
    """Two swatches, or means of repeats, that were to be the same. `keys` name one
    of each, `words` say what they are."""

    first: tuple[str, ...]
    second: tuple[str, ...]
    keys: tuple[str, str]
    words: str
    first_hex: str
    second_hex: str
    de00: float
    lightness_de00: float
    chroma_de00: float
    hue_de00: float


class Differs(Frozen):
    """What the studies do not share."""

    what: str
    first: str
    second: str


class StudiesBeside(Frozen):
    """`usual_de00` is the root mean square of the pairs; `shift_de00` what all of them share, in
    words; `scatter_de00` what is left when that is taken off. `only_first` and `only_second` are
    codes without a partner."""

    pairs: tuple[MatchedPair, ...]
    matched_by: tuple[str, ...]
    differs: tuple[Differs, ...]
    usual_de00: float | None
    shift_de00: float | None
    scatter_de00: float | None
    words: str
    only_first: tuple[str, ...]
    only_second: tuple[str, ...]


def lay_studies_beside(first: OneStudy, second: OneStudy) -> StudiesBeside:
    """Matched by the labels of the levels of every factor of which both have one in common;
    factors that never meet are what differs between the studies."""
    by, apart = _factors(first, second)
    groups = [_grouped(one, by) for one in (first, second)]
    shared = [key for key in groups[0] if key in groups[1]]
    pairs = [_pair(key, (first, groups[0][key]), (second, groups[1][key])) for key in shared]
    differs = [
        Differs(what=what, first=first.facts.get(what, ""), second=second.facts.get(what, ""))
        for what in dict.fromkeys([*first.facts, *second.facts])
        if first.facts.get(what, "") != second.facts.get(what, "")
    ]
    along = np.array([[p.lightness_de00, p.chroma_de00, p.hue_de00] for p in pairs])
    usual = shift = scatter = None
    if len(pairs) >= FEWEST_PAIRS:
        usual = float(np.sqrt((along**2).sum(axis=1).mean()))
        shift = float(np.linalg.norm(along.mean(axis=0)))
        rest = along - along.mean(axis=0)
        scatter = float(np.sqrt((rest**2).sum() / (len(pairs) - 1)))
    return StudiesBeside(
        pairs=tuple(sorted(pairs, key=lambda one: -one.de00)),
        matched_by=tuple(by),
        differs=(*apart, *differs),
        usual_de00=usual,
        shift_de00=shift,
        scatter_de00=scatter,
        words=_words(first, second, groups, shared, usual, shift, scatter),
        only_first=tuple(c.code for k, g in groups[0].items() if k not in groups[1] for c in g),
        only_second=tuple(c.code for k, g in groups[1].items() if k not in groups[0] for c in g),
    )


def _factors(first: OneStudy, second: OneStudy) -> tuple[list[str], list[Differs]]:
    labels = [_labels(one) for one in (first, second)]
    by, apart = [], []
    for factor in dict.fromkeys([*labels[0], *labels[1]]):
        mine, theirs = labels[0].get(factor, []), labels[1].get(factor, [])
        if set(mine) & set(theirs):
            by.append(factor)
        elif mine or theirs:
            apart.append(
                Differs(
                    what=factor, first=", ".join(mine) or "not a factor", second=", ".join(theirs) or "not a factor"
                )
            )
    return by, apart


def _labels(study: OneStudy) -> dict[str, list[str]]:
    found: dict[str, list[str]] = {}
    for one in study.swatches:
        for factor, level in one.levels.items():
            label = study.level_words.get((factor, level), level)
            if label not in found.setdefault(factor, []):
                found[factor].append(label)
    return found


Key = tuple[str, ...]


def _grouped(study: OneStudy, by: Sequence[str]) -> dict[Key, list[ComparedSwatch]]:
    found: dict[Key, list[ComparedSwatch]] = {}
    for one in study.swatches:
        key = tuple(
            study.level_words.get((factor, one.levels.get(factor, "")), one.levels.get(factor, "")) for factor in by
        )
        found.setdefault(key, []).append(one)
    return found


Side = tuple[OneStudy, Sequence[ComparedSwatch]]


def _pair(key: Key, one: Side, other: Side) -> MatchedPair:
    (first, mine), (second, theirs) = one, other
    labs = [np.mean([each.lab for each in group], axis=0) for group in (mine, theirs)]
    lightness, chroma, hue = (float(value) for value in directions_2000(labs[0], labs[1]))
    return MatchedPair(
        first=tuple(each.code for each in mine),
        second=tuple(each.code for each in theirs),
        keys=(first.keys.get(mine[0].code, ""), second.keys.get(theirs[0].code, "")),
        words=", ".join(each for each in key if each),
        first_hex=lab_to_hex(labs[0]),
        second_hex=lab_to_hex(labs[1]),
        de00=float(delta_e_2000(labs[0], labs[1])),
        lightness_de00=lightness,
        chroma_de00=chroma,
        hue_de00=hue,
    )


def _words(
    first: OneStudy,
    second: OneStudy,
    groups: Sequence[Mapping[Key, Sequence[ComparedSwatch]]],
    shared: Sequence[Key],
    usual: float | None,
    shift: float | None,
    scatter: float | None,
) -> str:
    if not shared:
        return "No swatch of one has its like in the other."
    if usual is None or shift is None or scatter is None:
        return f"{len(shared)} pairs: too few to say how large run to run is."
    means = [np.mean([one.lab for key in shared for one in group[key]], axis=0) for group in groups]
    said = f"{len(shared)} pairs, {usual:.1f} ΔE00 apart from run to run (root mean square). "
    if shift > scatter / np.sqrt(len(shared)) * 2:
        words = direction_words(means[0], means[1])[:2]
        return said + (
            f"“{second.name}” is {listed(list(words))} throughout, by {shift:.1f}; "
            f"beyond that the pairs scatter by {scatter:.1f}."
        )
    return said + f"No shift that all share; the pairs scatter by {scatter:.1f}."
