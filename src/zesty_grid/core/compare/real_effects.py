"""Which differences are real, at three depths: of these pieces, if they were dyed again, and as a rule.

Two levels are set against each other wherever all else is the same, each such combination counting once. Noise is what
differs when the same is done again (`core/noise`); what a factor does differently at the levels of another is none of
it, but a finding.
"""

import numpy as np
from scipy.sparse import csr_matrix

from zesty_grid.core.compare.compared import (
    Compared,
    CompareQuestion,
    DependsOn,
    Depths,
    EffectAt,
    FactorEffect,
    RestsOn,
    Verdict,
)
from zesty_grid.core.compare.directions import changes_along
from zesty_grid.core.compare.holm import holm_in_groups
from zesty_grid.core.compare.pair_effects import pair_effects
from zesty_grid.core.compare.weighed import Weighed, weighed
from zesty_grid.core.noise.contrast import Error, error_with_more, some_of
from zesty_grid.core.noise.crossing import Beside, Matrix
from zesty_grid.core.noise.detecting import DIRECTIONS, SIGNIFICANCE, chance, errors_to_show, size_range, stays_under
from zesty_grid.core.noise.together import goes_with
from zesty_grid.core.read.colour_difference import directions_2000
from zesty_grid.core.read.colour_space import lab_to_hex
from zesty_grid.core.read.measurement import Lab

# About 1 ΔE00 is just visible side by side (common practice).
SAME_DE00 = 1.0
# Of the combinations in which two levels are alike, the most and the least are told.
MOST_TOLD = 8
MOST_MORE = 12
# Cloth that took next to nothing: pale and hardly coloured (common practice).
WHITE_LIGHTNESS, WHITE_CHROMA = 78.0, 16.0
# What a component must have learnt before it rests on repeats more than on where it started.
LEARNT_DF = 4.0


def real_effects(question: CompareQuestion) -> Compared:
    """Raises Refusal where a swatch has no level of a factor that is asked for."""
    of = weighed(question)
    effects = _corrected([_effect(of, beside) for beside in of.crossing.pairs_of_levels()])
    tested = sum(one.p_alone is not None for one in effects)
    return Compared(
        swatches=len(question.swatches),
        noise=of.noise,
        reading_de00=float(np.sqrt(np.mean(of.weighing.reading.own))),
        effects=tuple(effects),
        interactions=tuple(pair_effects(of, question.interactions)),
        by_chance=SIGNIFICANCE * tested,
        known_noise=question.known_noise,
        constant=tuple(one for one in question.factors if one not in of.crossing.factors),
    )


def _effect(of: Weighed, beside: Beside) -> FactorEffect:
    crossing = of.crossing
    names = crossing.levels[beside.factor]
    named = FactorEffect(
        factor=crossing.factors[beside.factor],
        from_level=names[beside.first],
        to_level=names[beside.second],
        how=beside.how,
    )
    if beside.how == "never":
        return named
    rows = of.weighing.each(beside)
    before, after = _both(of, beside, rows)
    apart = np.asarray(directions_2000(before, after))
    row = csr_matrix(rows.mean(axis=0))
    error, change = of.weighing.error(row), apart.mean(axis=0)
    size = float(np.linalg.norm(change))
    low, high = size_range(size, error.sd, error.df)
    again = _verdict(size, error.sd, error.df)
    alike, rule = _as_a_rule(of, beside, rows, apart, error, again)
    between = of.weighing.between(row)
    vessels = (between.first, between.second)
    p = chance(size, error.sd, error.df)
    return named.model_copy(
        update={
            "together": goes_with(crossing, beside),
            "combinations": len(apart),
            "delta_lab": _lab((after - before).mean(axis=0)),
            "de00": size,
            "low_de00": low,
            "high_de00": high,
            "directions": tuple(changes_along(before, after, error.sd, error.df)),
            "verdict": again,
            "verdicts": Depths(pieces=_verdict(size, float(np.sqrt(error.reading)), None), again=again, rule=rule),
            "p": p,
            "p_alone": p,
            "df": error.df,
            "alike": alike,
            "depends_on": _depends_on(of, beside, apart) if alike is False else None,
            "at": tuple(_at(of, beside, before, after, rows, error.df)),
            "from_near_white": _is_near_white(before),
            "to_near_white": _is_near_white(after),
            "between": between.kind,
            "vessels": vessels,
            "rests_on": _rests_on(of, error),
        }
        | _what_more_would_show(size, error, vessels)
    )


def _both(of: Weighed, beside: Beside, rows: csr_matrix) -> tuple[Matrix, Matrix]:
    """The colours of either level in each combination (k, 3); of a sum about their middle."""
    if beside.how == "summed":
        change = rows @ of.labs
        own = of.crossing.level_of[:, beside.factor]
        middle = of.labs[(own == beside.first) | (own == beside.second)].mean(axis=0)
        return middle - change / 2, middle + change / 2
    sides = [
        np.array([of.cell_labs[list(pair[side])].mean(axis=0) for pair in beside.pairs]).reshape(-1, 3)
        for side in (0, 1)
    ]
    return sides[0], sides[1]


def _verdict(size: float, error: float, df: float | None) -> Verdict:
    if stays_under(size, error, df) < SAME_DE00:
        return "same"
    return "different" if chance(size, error, df) < SIGNIFICANCE else "untold"


def _as_a_rule(
    of: Weighed, beside: Beside, rows: csr_matrix, apart: Matrix, error: Error, again: Verdict
) -> tuple[bool | None, Verdict]:
    """Whether all combinations differ alike, by a χ² test of what they differ in; where they do not, the rule is
    "different" only if it is with each level of each of the others."""
    if len(apart) < 2:
        return None, again
    chosen = some_of(range(len(apart)))
    covariance = of.weighing.covariance(rows[chosen])
    own = apart[chosen]
    # Differences from the first: whatever the basis, the test is the same.
    within = np.eye(len(own))[1:] - np.eye(len(own))[0]
    left = within @ own
    square = float(np.sum(left * np.linalg.solve(within @ covariance @ within.T + 1e-9 * np.eye(len(left)), left)))
    unlike = chance(float(np.sqrt(square)), 1.0, error.df, DIRECTIONS * len(left)) < SIGNIFICANCE
    visible = float(np.linalg.norm(own - own.mean(axis=0), axis=1).max()) > SAME_DE00
    if not (unlike and visible):
        return True, again
    each = set()
    for where in _by_level(of, beside, len(apart)).values():
        size = float(np.linalg.norm(apart[where].mean(axis=0)))
        there = of.weighing.error(csr_matrix(rows[where].mean(axis=0)))
        each.add(_verdict(size, there.sd, there.df))
    return False, "different" if each == {"different"} else "untold"


def _by_level(of: Weighed, beside: Beside, pairs: int) -> dict[tuple[str, str], list[int]]:
    """The combinations that have each level of each other factor that varies among them."""
    found: dict[tuple[str, str], list[int]] = {}
    for k in range(pairs):
        for named in _rest(of, beside, k).items():
            found.setdefault(named, []).append(k)
    return {named: where for named, where in found.items() if len(where) < pairs}


def _at(
    of: Weighed, beside: Beside, before: Matrix, after: Matrix, rows: csr_matrix, df: float | None
) -> list[EffectAt]:
    if beside.how == "summed":
        return []
    sizes = np.asarray(np.linalg.norm(directions_2000(before, after), axis=1))
    order = np.argsort(-sizes, kind="stable").tolist()
    told = order if len(order) <= MOST_TOLD else [*order[: MOST_TOLD // 2], *order[-MOST_TOLD // 2 :]]
    errors = np.sqrt(np.diag(of.weighing.covariance(rows[told])))
    found = []
    for k, sd in zip(told, errors, strict=True):
        found.append(
            EffectAt(
                levels=_rest(of, beside, k),
                from_lab=_lab(before[k]),
                to_lab=_lab(after[k]),
                from_hex=lab_to_hex(before[k]),
                to_hex=lab_to_hex(after[k]),
                de00=float(sizes[k]),
                different=chance(float(sizes[k]), float(sd), df) < SIGNIFICANCE,
            )
        )
    return found


def _depends_on(of: Weighed, beside: Beside, apart: Matrix) -> DependsOn | None:
    sizes = np.linalg.norm(apart, axis=1)
    means: dict[str, dict[str, float]] = {}
    for (factor, level), where in _by_level(of, beside, len(apart)).items():
        means.setdefault(factor, {})[level] = float(sizes[where].mean())
    if not means:
        return None
    factor = max(means, key=lambda one: max(means[one].values()) - min(means[one].values()))
    own = means[factor]
    most, least = max(own, key=own.__getitem__), min(own, key=own.__getitem__)
    return DependsOn(factor=factor, most_level=most, most_de00=own[most], least_level=least, least_de00=own[least])


def _rest(of: Weighed, beside: Beside, pair: int) -> dict[str, str]:
    """The levels that both sides of a pair have in common."""
    crossing, cell = of.crossing, beside.pairs[pair][0][0]
    return {
        factor: crossing.levels[i][crossing.cells[cell, i]]
        for i, factor in enumerate(crossing.factors)
        if i != beside.factor and i not in beside.others
    }


def _is_near_white(labs: Matrix) -> bool:
    chroma = np.hypot(labs[:, 1], labs[:, 2])
    return bool((labs[:, 0] > WHITE_LIGHTNESS).all() and (chroma < WHITE_CHROMA).all())


def _rests_on(of: Weighed, error: Error) -> RestsOn:
    if error.reading > max(error.parts):
        return RestsOn(what="reading", how="known", repeats=0)
    component = of.noise.components[error.largest]
    how = "known" if component.known else "learnt" if component.repeats >= LEARNT_DF else "usual"
    return RestsOn.model_validate(
        {"what": ("swatch", "vessel", "day")[error.largest], "how": how, "repeats": component.repeats}
    )


def _what_more_would_show(size: float, error: Error, counts: tuple[int, int]) -> dict[str, float | int | None]:
    """With so many more vessels (or swatches) of each level, if the noise stays as it is."""
    shows = errors_to_show(error.df) * error.sd
    then = [shows * error_with_more(counts, m) for m in range(1, MOST_MORE + 1)]
    wanted = max(size, SAME_DE00)
    return {
        "shows_de00": shows,
        "one_more_shows_de00": then[0],
        "more_needed": next((m for m, one in enumerate(then, 1) if one <= wanted), None),
    }


def _corrected(effects: list[FactorEffect]) -> list[FactorEffect]:
    tested = [i for i, one in enumerate(effects) if one.p_alone is not None]
    chances = holm_in_groups([effects[i].p_alone or 0.0 for i in tested], [effects[i].factor for i in tested])
    corrected = dict(zip(tested, chances, strict=True))
    return [one.model_copy(update={"p": corrected[i]}) if i in corrected else one for i, one in enumerate(effects)]


def _lab(values: Matrix) -> Lab:
    lightness, a, b = (float(value) for value in values)
    return (lightness, a, b)
