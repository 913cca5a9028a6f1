"""Which differences are real: the effect of each factor, and of pairs of factors, on colour.

Each difference of two levels is taken from the mixed model, seen in the directions of lightness,
chroma and hue at its own place, each with the spread and the degrees of freedom of that direction.
It is different where one of the three shows it at a third of 5 % (Bonferroni), corrected for all
that were looked at (Holm), as Tell foretold it; the same where it stays under 1 ΔE00 in every
direction (two one-sided tests); and untold otherwise.
"""

from collections.abc import Sequence
from itertools import combinations

import numpy as np

from zesty_grid.core.compare.colour_contrast import ColourContrast
from zesty_grid.core.compare.compared import (
    Compared,
    ComparedSwatch,
    CompareQuestion,
    EffectAt,
    FactorEffect,
    FoundNoise,
    PairEffect,
    Verdict,
)
from zesty_grid.core.compare.crossed import Crossed, Matrix, cross_swatches
from zesty_grid.core.compare.directions import unit_2000
from zesty_grid.core.compare.effect_words import with_words
from zesty_grid.core.compare.equivalence import SAME_DE00, SIGNIFICANCE, furthest_de00
from zesty_grid.core.compare.holm import holm, holm_in_groups
from zesty_grid.core.compare.mixed_model import Fitted, Known, fit
from zesty_grid.core.compare.pair_effects import confounded_pair, pair_effect
from zesty_grid.core.compare.strata import Stratum, error_words, single_together, stratum
from zesty_grid.core.compare.what_it_takes import what_it_takes
from zesty_grid.core.plan.pot_words import pot_words, single_pot_words
from zesty_grid.core.plan.power import DIRECTIONS
from zesty_grid.core.read.colour_space import lab_to_hex
from zesty_grid.core.read.difference_uncertainty import SHARED_DE00
from zesty_grid.core.read.measurement import Lab
from zesty_grid.core.refusal import Fault, Refusal

MOST_BY_READING = 100.0


def real_effects(question: CompareQuestion) -> Compared:
    """Raises Refusal where a swatch has no level of a factor that is asked for."""
    pairs, confounded = _pairs(question)
    fitted = fitted_to(question, pairs)
    design = fitted.design
    kept = [tuple(design.factors[i] for i in term) for term in design.terms if len(term) == 2]
    effects = _corrected(
        [
            _effect(question, fitted, i, a, b)
            for i in range(len(design.factors))
            for a, b in combinations(range(len(design.levels[i])), 2)
        ]
    )
    found = _corrected_pairs(
        [
            confounded_pair(pair, confounded[pair])
            if pair in confounded
            else pair_effect(fitted, pair)
            if pair in kept
            else PairEffect(
                factors=pair, p=None, verdict="untold", why="Too few swatches to look at this pair as well."
            )
            for pair in pairs
        ]
    )
    return with_words(
        question,
        Compared(
            swatches=len(question.swatches),
            noise=_noise(question, fitted),
            effects=tuple(effects),
            interactions=tuple(found),
            warnings=tuple(_warnings(question, fitted)),
        ),
    )


def fitted_to(question: CompareQuestion, pairs: Sequence[tuple[str, str]]) -> Fitted:
    """The mixed model with as many of the pairs as can be told. Raises Refusal as above."""
    _must_have_levels(question)
    _, confounded = _pairs(question.model_copy(update={"interactions": tuple(pairs)}))
    kept = _as_many_as_fit(question, [pair for pair in pairs if pair not in confounded])
    swatches = question.swatches
    design = cross_swatches(
        question.factors,
        [one.levels for one in swatches],
        [one.vessels for one in swatches],
        kept,
        question.level_order,
    )
    return _fit(question, design)


def _pairs(question: CompareQuestion) -> tuple[list[tuple[str, str]], dict[tuple[str, str], str]]:
    """Pairs of factors that both vary, and of these the ones with one vessel a combination."""
    swatches = question.swatches
    plain = cross_swatches(
        question.factors, [one.levels for one in swatches], [one.vessels for one in swatches], (), question.level_order
    )
    pairs = [
        (a, b) for a, b in dict.fromkeys(question.interactions) if a in plain.factors and b in plain.factors and a != b
    ]
    confounded = {
        pair: kind
        for pair in pairs
        if question.known_noise is None
        and (kind := single_together(plain, *(plain.factors.index(one) for one in pair)))
    }
    return pairs, confounded


def _must_have_levels(question: CompareQuestion) -> None:
    for factor in question.factors:
        without = [one.code for one in question.swatches if factor not in one.levels]
        if without and len(without) < len(question.swatches):
            raise Refusal(
                "no-level",
                f"“{without[0]}” has no level of {factor}.",
                "Give every swatch a level of each factor, or leave the factor out.",
                (
                    Fault(
                        field="swatches",
                        given=without[0],
                        allowed=f"a level of {factor}",
                        cure="Say its level, or leave it out.",
                    ),
                ),
            )


def _as_many_as_fit(question: CompareQuestion, pairs: Sequence[tuple[str, str]]) -> list[tuple[str, str]]:
    """Pairs as long as half of the swatches are left to learn the noise from."""
    kept: list[tuple[str, str]] = []
    levels = [one.levels for one in question.swatches]
    for pair in pairs:
        wider = cross_swatches(question.factors, levels, [{}], [*kept, pair])
        if np.linalg.matrix_rank(wider.columns) <= len(levels) / 2:
            kept.append(pair)
    return kept


def _fit(question: CompareQuestion, design: Crossed) -> Fitted:
    swatches = question.swatches
    y = np.array([one.lab for one in swatches])
    read = np.array([one.uncertainty_de00 for one in swatches]) ** 2
    to_lab = np.linalg.inv(unit_2000(y.mean(axis=0)))
    sphere = to_lab @ to_lab.T
    given = None
    if question.known_noise:
        vessel = question.known_noise.vessel_de00**2 * sphere
        given = dict.fromkeys(design.vessel_of, vessel)
    shared = _shared(swatches, sphere)
    first = fit(design, y, known=shared, given=given)
    own = float(np.trace(first.swatch @ np.linalg.inv(sphere))) / DIRECTIONS
    # How swatches differ is what is left of their scatter when a usual reading is taken off.
    usual = float(np.median(read))
    relative = np.maximum(own - usual + read, 0.1 * own) / max(own, 1e-9)
    relative = np.minimum(relative, MOST_BY_READING)
    if np.allclose(relative, relative[0]):
        return first
    return fit(design, y, relative / np.median(relative), shared, given)


def _shared(swatches: Sequence[ComparedSwatch], sphere: Matrix) -> list[Known]:
    """The error that readings of one photo, one light or one camera share, where they differ."""
    if not all(one.photos for one in swatches):
        return []
    found = []
    for place, name in enumerate(("camera", "capture", "photo")):
        groups = list(dict.fromkeys(said[place] for one in swatches for said in one.photos))
        if len(groups) < 2:
            continue
        z = np.zeros((len(swatches), len(groups)))
        for i, one in enumerate(swatches):
            for said in one.photos:
                z[i, groups.index(said[place])] += 1 / len(one.photos)
        found.append(Known(z, SHARED_DE00[name] ** 2 / DIRECTIONS * sphere))
    return found


def _effect(question: CompareQuestion, fitted: Fitted, factor: int, first: int, second: int) -> FactorEffect:
    design = fitted.design
    name, labels = design.factors[factor], design.levels[factor]
    row, labs = _contrast(fitted, factor, first, second)
    where = stratum(design, factor, first, second)
    seen = ColourContrast(fitted, row, labs, _most_df(question, where))
    why = _why(question, fitted, design, factor, (first, second), where, seen)
    range_low, range_high = seen.range_de00()
    chance = None if why else seen.chance()
    return FactorEffect(
        factor=name,
        from_level=labels[first],
        to_level=labels[second],
        from_lab=_lab(labs[0]),
        to_lab=_lab(labs[1]),
        from_hex=lab_to_hex(labs[0]),
        to_hex=lab_to_hex(labs[1]),
        delta_lab=_lab(labs[1] - labs[0]),
        de00=seen.de00,
        low_de00=0.0 if why else range_low,
        high_de00=range_high,
        furthest_de00=furthest_de00(seen.directions),
        df=seen.df,
        p=chance,
        p_alone=chance,
        verdict="untold",
        error=error_words(where.between),
        between=where.between,
        directions=tuple(seen.changes()),
        why=why,
        at=tuple(_at(fitted, factor, first, second, _most_df(question, where))),
        would_take=""
        if why
        else what_it_takes(seen.de00, seen.directions, where, _counts(design, factor, first, second)),
    )


def _most_df(question: CompareQuestion, where: Stratum) -> float | None:
    """Satterthwaite's degrees of freedom are themselves a guess, and too many where few vessels
    say how vessels differ."""
    if question.known_noise or where.between is None or where.freedom is None:
        return None
    return float(max(where.freedom, 1))


def _contrast(fitted: Fitted, factor: int, first: int, second: int) -> tuple[Matrix, tuple[Matrix, Matrix]]:
    """Like with like where that is there, else with the other factors as the model has them; and
    both colours, about the mean of the two."""
    design = fitted.design
    plain = [design.row({factor: level}) for level in (first, second)]
    alike = design.like_with_like(factor, first, second)
    row = plain[1] - plain[0] if alike is None else alike
    own = design.level_of[:, factor]
    middle = design.columns[(own == first) | (own == second)].mean(axis=0) @ fitted.beta
    change = row @ fitted.beta
    return row, (middle - change / 2, middle + change / 2)


def _why(
    question: CompareQuestion,
    fitted: Fitted,
    design: Crossed,
    factor: int,
    pair: tuple[int, int],
    where: Stratum,
    seen: ColourContrast,
) -> str:
    """What stands in the way of any verdict; empty: nothing."""
    if not fitted.is_told(seen.row):
        return "The levels are mixed up with those of other factors: too few combinations are in."
    name, labels = design.factors[factor], design.levels[factor]
    single = [
        question.words.get(f"{name}={labels[level]}", labels[level])
        for level, count in zip(pair, where.vessels, strict=True)
        if count == 1
    ]
    if where.between and single and question.known_noise is None:
        return single_pot_words(single, pot_words(where.between), _short(question, name))
    if seen.untold and question.known_noise is None:
        return f"Nothing says how much {pot_words(seen.untold[0])}s differ."
    if fitted.freedom < 1:
        return "Nothing is left over to learn the noise from: no combination is there twice."
    return ""


def _short(question: CompareQuestion, factor: str) -> str:
    said = question.words.get(factor, factor)
    return said if said[1:2].isupper() else said[:1].lower() + said[1:]


def _counts(design: Crossed, factor: int, first: int, second: int) -> tuple[int, int]:
    own = design.level_of[:, factor]
    return int((own == first).sum()), int((own == second).sum())


def _at(fitted: Fitted, factor: int, first: int, second: int, most_df: float | None) -> list[EffectAt]:
    design, found = fitted.design, []
    for term in design.terms:
        if len(term) != 2 or factor not in term:
            continue
        other = term[0] if term[1] == factor else term[1]
        there = design.combinations_of(factor, other)
        for level, label in enumerate(design.levels[other]):
            if not {(first, level), (second, level)} <= there:
                continue
            rows = [design.row({factor: one, other: level}) for one in (first, second)]
            row = rows[1] - rows[0]
            if not fitted.is_told(row):
                continue
            own = design.level_of[:, factor]
            here = ((own == first) | (own == second)) & (design.level_of[:, other] == level)
            middle = design.columns[here].mean(axis=0) @ fitted.beta
            change = row @ fitted.beta
            seen = ColourContrast(fitted, row, (middle - change / 2, middle + change / 2), most_df)
            low, high = seen.range_de00()
            found.append(
                EffectAt(
                    factor=design.factors[other],
                    level=label,
                    delta_lab=_lab(change),
                    de00=seen.de00,
                    low_de00=low,
                    high_de00=high,
                )
            )
    return found


def _corrected(effects: Sequence[FactorEffect]) -> list[FactorEffect]:
    tested = [i for i, one in enumerate(effects) if one.p_alone is not None]
    chances = holm_in_groups([effects[i].p_alone or 0.0 for i in tested], [effects[i].factor for i in tested])
    corrected = dict(zip(tested, chances, strict=True))
    return [
        one.model_copy(update={"p": corrected[i], "verdict": _verdict(corrected[i], one)}) if i in corrected else one
        for i, one in enumerate(effects)
    ]


def _verdict(p: float, one: FactorEffect) -> Verdict:
    if one.furthest_de00 < SAME_DE00:
        return "same"
    return "different" if p < SIGNIFICANCE else "untold"


def _corrected_pairs(pairs: Sequence[PairEffect]) -> list[PairEffect]:
    tested = [i for i, one in enumerate(pairs) if one.p_alone is not None]
    corrected = dict(zip(tested, holm([pairs[i].p_alone or 0.0 for i in tested]), strict=True))
    found = []
    for i, one in enumerate(pairs):
        if i in corrected:
            same = one.furthest_de00 is not None and one.furthest_de00 < SAME_DE00
            real = corrected[i] < SIGNIFICANCE
            verdict: Verdict = "same" if same else "different" if real else "untold"
            one = one.model_copy(update={"p": corrected[i], "verdict": verdict})
        found.append(one)
    return found


def _noise(question: CompareQuestion, fitted: Fitted) -> FoundNoise:
    unit = unit_2000(np.array([one.lab for one in question.swatches]).mean(axis=0))
    reading = float(np.sqrt(np.mean([one.uncertainty_de00**2 for one in question.swatches])))

    def size(covariance: Matrix, less: float = 0.0) -> float:
        noisiest = float(np.linalg.eigvalsh(unit @ covariance @ unit.T)[-1])
        return float(np.sqrt(max(0.0, noisiest - less)))

    vessels: dict[str, float | None] = {kind: size(fitted.vessel(kind)) for kind in fitted.kinds}
    vessels |= dict.fromkeys(fitted.unknown)
    if question.known_noise:
        vessels |= dict.fromkeys(fitted.design.vessel_of, question.known_noise.vessel_de00)
    said = [one for one in vessels.values() if one is not None]
    return FoundNoise(
        swatch=size(fitted.swatch, reading**2) if fitted.freedom > 0 else None,
        vessel=max(said) if said else None,
        reading=reading,
        vessels=vessels,
    )


def _warnings(question: CompareQuestion, fitted: Fitted) -> list[str]:
    found = []
    if question.known_noise:
        found.append(
            f"How vessels differ is taken as known: {question.known_noise.vessel_de00:.1f} ΔE00, "
            f"{question.known_noise.words}."
        )
    varying = fitted.design.factors
    lost = [f"{a} with {b}" for a, b in dict.fromkeys(question.interactions) if a not in varying or b not in varying]
    if lost:
        found.append(f"Not looked at, as one of the two does not vary: {', '.join(lost)}.")
    constant = [one for one in question.factors if one not in fitted.design.factors]
    if constant:
        found.append(f"All swatches have one level of {', '.join(constant)}: nothing to compare.")
    if 0 < fitted.freedom < 4:
        found.append(
            f"The noise is learnt from {fitted.freedom} swatches more than there are effects: the ranges are wide."
        )
    return found


def _lab(values: Matrix) -> Lab:
    lightness, a, b = (float(value) for value in values)
    return (lightness, a, b)
