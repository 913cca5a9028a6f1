"""Which differences are real in a single number of each swatch: its unevenness, or its fading.

As for colour: the same model, strata, correction and verdicts, in one direction.
"""

from collections.abc import Mapping, Sequence
from itertools import combinations

import numpy as np

from zesty_grid.core.compare.compared import ComparedSwatch, Verdict
from zesty_grid.core.compare.crossed import cross_swatches
from zesty_grid.core.compare.equivalence import SIGNIFICANCE, Estimate, chance_of, equivalence_p, limit
from zesty_grid.core.compare.holm import holm_in_groups
from zesty_grid.core.compare.mixed_model import Fitted, fit
from zesty_grid.core.compare.strata import error_words, stratum
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.pot_words import pot_words, single_pot_words


class NumberEffect(Frozen):
    """`to` less `from` in ΔE00, averaged over all else, with its 95 % range. `p` is corrected for
    all that were looked at (Holm)."""

    factor: str
    from_level: str
    to_level: str
    from_value: float
    to_value: float
    change: float
    low: float
    high: float
    df: float | None
    p: float | None
    verdict: Verdict
    error: str
    why: str = ""


def real_numbers(
    swatches: Sequence[ComparedSwatch],
    values: Mapping[str, float],
    factors: Sequence[str],
    margin: float,
    order: Mapping[str, Sequence[str]],
    words: Mapping[str, str],
) -> list[NumberEffect]:
    """`values` by code; swatches without one are left out. Changes within `margin` are the same."""
    own = [one for one in swatches if one.code in values]
    design = cross_swatches(factors, [one.levels for one in own], [one.vessels for one in own], (), order)
    if len(own) < 3 or not design.factors:
        return []
    fitted = fit(design, np.array([[values[one.code]] for one in own]))
    found = [
        _effect(fitted, i, a, b, words)
        for i in range(len(design.factors))
        for a, b in combinations(range(len(design.levels[i])), 2)
    ]
    tested = [k for k, (effect, _) in enumerate(found) if not effect.why]
    chances = dict(
        zip(
            tested,
            holm_in_groups([chance_of(found[k][1]) for k in tested], [found[k][0].factor for k in tested]),
            strict=True,
        )
    )
    answer = []
    for k, (effect, seen) in enumerate(found):
        if k in chances:
            same = equivalence_p(seen, margin) < SIGNIFICANCE
            real = chances[k] < SIGNIFICANCE
            verdict: Verdict = "same" if same else "different" if real else "untold"
            effect = effect.model_copy(update={"p": chances[k], "verdict": verdict})
        answer.append(effect)
    return answer


def _effect(
    fitted: Fitted, factor: int, first: int, second: int, words: Mapping[str, str]
) -> tuple[NumberEffect, Estimate]:
    design = fitted.design
    rows = [design.row({factor: level}) for level in (first, second)]
    row = rows[1] - rows[0]
    at = [float((one @ fitted.beta)[0]) for one in rows]
    spread = fitted.variance(row, np.ones(1))
    where = stratum(design, factor, first, second)
    df = spread.df
    if df is not None and where.between and where.freedom is not None:
        df = min(df, max(where.freedom, 1))
    seen = Estimate(at[1] - at[0], float(np.sqrt(spread.variance)), df)
    name, labels = design.factors[factor], design.levels[factor]
    single = [
        words.get(f"{name}={labels[level]}", labels[level])
        for level, count in zip((first, second), where.vessels, strict=True)
        if count == 1
    ]
    why = ""
    if not fitted.is_told(row):
        why = "Mixed up with other factors."
    elif where.between and single:
        why = single_pot_words(single, pot_words(where.between), words.get(name, name).lower())
    elif spread.untold or fitted.freedom < 1:
        why = "Nothing says how large the noise is."
    wide = limit(Estimate(0, seen.error, seen.df), 1 - SIGNIFICANCE / 2) if not why else 0.0
    return NumberEffect(
        factor=name,
        from_level=labels[first],
        to_level=labels[second],
        from_value=at[0],
        to_value=at[1],
        change=seen.value,
        low=seen.value - wide,
        high=seen.value + wide,
        df=df,
        p=None,
        verdict="untold",
        why=why,
        error=error_words(where.between),
    ), seen
