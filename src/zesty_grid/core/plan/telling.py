"""What a grid can tell: which differences between levels would be found, and how small they may be.

The same model as in Compare (`core/noise`), before there is a colour: levels are set against each other wherever all
else is the same, and noise is what differs when the same is done again. All is taken as dyed on one day.
"""

from collections.abc import Collection, Iterable, Mapping

import numpy as np
from scipy.sparse import csr_matrix

from zesty_grid.core.noise.contrast import Weighing, error_with_more
from zesty_grid.core.noise.crossing import Beside, Crossing, Done, cross
from zesty_grid.core.noise.detecting import errors_to_show
from zesty_grid.core.noise.levels import USUAL, Noise
from zesty_grid.core.noise.reading_error import ReadingError
from zesty_grid.core.noise.together import goes_with
from zesty_grid.core.plan.bath import BATH_ORDER, BathKind
from zesty_grid.core.plan.factor_words import FACTOR_WORDS
from zesty_grid.core.plan.factors import FACTOR_ORDER, FactorKind
from zesty_grid.core.plan.planned_study import PlannedStudy
from zesty_grid.core.plan.telling_zones import zone_effects
from zesty_grid.core.plan.told import Effect, LevelCount, PairTold, Promise, Telling


def what_it_can_tell(
    study: PlannedStudy, baths: Iterable[tuple[BathKind, Collection[str]]], noise: Noise, lost: Collection[str] = ()
) -> Telling:
    """Every factor with two levels or more among the crossed swatches, by what they really got.

    `baths` has each vessel's kind and who was or will be in it, by code; `lost` swatches went wrong and do not count.
    """
    crossed = {
        swatch.code: study.levels(swatch) for swatch in study.planned if not swatch.added and swatch.code not in lost
    }
    start = study.plan.noise or USUAL
    effects: list[Effect] = []
    if crossed:
        crossing, labels = _crossing(study, crossed, baths)
        of = Weighing(crossing, noise, ReadingError(np.full(len(crossed), start.reading_de00**2)))
        pairs: dict[str, list[Beside]] = {}
        for one in crossing.pairs_of_levels():
            pairs.setdefault(crossing.factors[one.factor], []).append(one)
        effects = [_effect(of, kind, labels, pairs[kind]) for kind in FACTOR_ORDER if kind in pairs]
    return Telling(noise=noise, start=start, swatches=len(crossed), effects=(*effects, *zone_effects(study, crossed)))


def promises(told: Telling) -> tuple[Promise, ...]:
    return tuple(
        Promise(factor=effect.factor, from_level=one.from_level, to_level=one.to_level, shows_de00=one.shows_de00)
        for effect in told.effects
        for one in effect.pairs
        if one.shows_de00 is not None
    )


def lower_name(kind: FactorKind) -> str:
    """A factor's name inside a sentence: only its first letter changes (pH stays pH)."""
    return FACTOR_WORDS[kind][0].lower() + FACTOR_WORDS[kind][1:]


Labels = Mapping[FactorKind, Mapping[str, str]]


def _crossing(
    study: PlannedStudy,
    crossed: Mapping[str, Mapping[FactorKind, str]],
    baths: Iterable[tuple[BathKind, Collection[str]]],
) -> tuple[Crossing, Labels]:
    """Levels in the order of the plan, those that it no longer has after them."""
    labels: dict[FactorKind, dict[str, str]] = {}
    for kind in FACTOR_ORDER:
        factor, there = study.plan.factor(kind), {own.get(kind) for own in crossed.values()}
        planned = {v.key: v.label for v in (factor.levels if factor else ()) if v.key in there}
        other = sorted(str(key) for key in there - planned.keys() - {None})
        labels[kind] = planned | {key: study.level_words({kind: key})[kind] for key in other}
        if None in there:
            labels[kind][""] = "not set"
    in_vessels: dict[str, dict[str, str]] = {code: {} for code in crossed}
    every = list(baths)
    for kind_of_bath in BATH_ORDER:
        for number, codes in enumerate(codes for kind, codes in every if kind == kind_of_bath):
            for code in codes:
                if code in in_vessels:
                    in_vessels[code][kind_of_bath] = str(number)
    done = [
        Done({kind: own.get(kind) or "" for kind in FACTOR_ORDER}, in_vessels[code]) for code, own in crossed.items()
    ]
    return cross(done, FACTOR_ORDER, {kind: tuple(own) for kind, own in labels.items()}), labels


def _effect(of: Weighing, kind: FactorKind, labels: Labels, pairs: list[Beside]) -> Effect:
    crossing = of.crossing
    i = crossing.factors.index(kind)
    own = crossing.level_of[:, i]
    pairs_told = [_pair(of, one) for one in pairs]
    told, kinds = [one for one, _ in pairs_told], [kind for _, kind in pairs_told if kind]
    kept_apart = max(kinds, key=kinds.count, default=None)
    shown = [one for one in told if one.shows_de00 is not None]
    least_sure = max(shown, key=lambda one: one.shows_de00 or 0.0, default=None)
    return Effect(
        factor=kind,
        name=FACTOR_WORDS[kind],
        between=next((bath for bath in BATH_ORDER if bath in (kept_apart or "").split(" and ")), None),
        levels=tuple(
            LevelCount(
                level=level,
                label=labels[kind][level],
                swatches=int((own == k).sum()),
                vessels=crossing.vessels_of_level(kept_apart, i, k) or None if kept_apart else None,
            )
            for k, level in enumerate(crossing.levels[i])
        ),
        can_be_told=least_sure is not None,
        pairs=tuple(told),
        smallest_difference_de00=least_sure.shows_de00 if least_sure else None,
        one_more_shows_de00=least_sure.one_more_shows_de00 if least_sure else None,
    )


def _pair(of: Weighing, one: Beside) -> tuple[PairTold, str | None]:
    """With the kind of bath whose vessels it lies between."""
    names = of.crossing.levels[one.factor]
    named = PairTold(from_level=names[one.first], to_level=names[one.second], how=one.how)
    if one.how == "never":
        return named, None
    row = csr_matrix(of.each(one).mean(axis=0))
    error, between = of.error(row), of.between(row)
    shows = errors_to_show(error.df) * error.sd
    found = named.model_copy(
        update={
            "together": goes_with(of.crossing, one),
            "shows_de00": shows,
            "one_more_shows_de00": shows * error_with_more((between.first, between.second), 1),
        }
    )
    return found, between.kind
