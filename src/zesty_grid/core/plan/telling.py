"""What a grid can tell: which effects, against which noise, and how small they may be.

A swatch's colour is taken as the sum of its factors' effects, a deviation of each vessel that it
was in, and a deviation of its own. Generalised least squares gives the variance of the difference
between two levels (Searle, Casella, McCulloch, Variance Components, 1992). A factor whose levels
never share a vessel of some kind of bath is compared between those vessels, and its degrees of
freedom are counted in vessels (split-plot; Box, Hunter, Hunter, Statistics for Experimenters).
"""

from collections.abc import Collection, Iterable, Mapping
from dataclasses import dataclass
from itertools import combinations

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import csr_matrix

from zesty_grid.core.plan.bath import BATH_ORDER, BathKind
from zesty_grid.core.plan.factor_words import FACTOR_WORDS
from zesty_grid.core.plan.factors import FACTOR_ORDER, FactorKind
from zesty_grid.core.plan.noise import NoiseEstimate
from zesty_grid.core.plan.planned_study import PlannedStudy
from zesty_grid.core.plan.pot_words import listed, pot_words, single_pot_words
from zesty_grid.core.plan.power import detectable_colour_standard_errors
from zesty_grid.core.plan.sharing import levels_that_share
from zesty_grid.core.plan.telling_zones import zone_effects
from zesty_grid.core.plan.told import Effect, LevelCount, Telling

Matrix = NDArray[np.float64]
# Of the eigenvalues of a design, over its largest.
CLOSE_TO_ZERO = 1e-8
MUCH_MORE = 1.5


@dataclass
class _Design:
    """Swatches as rows: level numbers of each factor, and the vessel in each kind of bath."""

    kinds: list[FactorKind]
    labels: list[list[tuple[str, str]]]
    level_of: NDArray[np.int64]
    vessel_of: dict[BathKind, NDArray[np.int64]]


def what_it_can_tell(
    study: PlannedStudy,
    baths: Iterable[tuple[BathKind, Collection[str]]],
    noise: NoiseEstimate,
    lost: Collection[str] = (),
) -> Telling:
    """Every factor with two levels or more among the crossed swatches, by what they really got.

    `baths` has each vessel's kind and who was or will be in it, by code; `lost` swatches went
    wrong and do not count.
    """
    plan = study.plan
    crossed = {
        swatch.code: study.levels(swatch) for swatch in study.planned if not swatch.added and swatch.code not in lost
    }
    levels = plan.noise or noise.levels
    if plan.noise:
        noise = noise.model_copy(update={"levels": levels, "words": "Your own figures."})
    design = _design(study, crossed, baths) if crossed else None
    zones = zone_effects(study, crossed)
    if design is None or not design.kinds:
        return Telling(noise=noise, swatches=len(crossed), effects=tuple(zones), joint=())
    variances = _difference_variances(design, levels.vessel_de00**2, levels.swatch_de00**2 + levels.reading_de00**2)
    effects = [_effect(design, i, variances[i]) for i in range(len(design.kinds))]
    return Telling(
        noise=noise,
        swatches=len(design.level_of),
        effects=(*effects, *zones),
        joint=tuple(_joint_warnings(design, effects)),
    )


def _design(
    study: PlannedStudy,
    crossed: Mapping[str, Mapping[FactorKind, str]],
    baths: Iterable[tuple[BathKind, Collection[str]]],
) -> _Design:
    kinds: list[FactorKind] = []
    numbers, labels = [], []
    for kind in FACTOR_ORDER:
        factor = study.plan.factor(kind)
        there = {levels.get(kind) for levels in crossed.values()}
        planned = [(v.key, v.label) for v in (factor.levels if factor else ()) if v.key in there]
        other = sorted(there - {key for key, _ in planned} - {None}, key=str)
        named = [(str(key), study.level_words({kind: str(key)})[kind]) for key in other]
        levels = [*planned, *named, *([("", "not set")] if None in there and len(there) > 1 else [])]
        if len(levels) < 2:
            continue
        number = {key: i for i, (key, _) in enumerate(levels)}
        kinds.append(kind)
        labels.append(levels)
        numbers.append([number[own.get(kind) or ""] for own in crossed.values()])
    row = {code: i for i, code in enumerate(crossed)}
    vessel_of: dict[BathKind, NDArray[np.int64]] = {}
    every = list(baths)
    for kind_of_bath in BATH_ORDER:
        where = np.full(len(crossed), -1)
        for i, inside in enumerate(codes for bath, codes in every if bath == kind_of_bath):
            where[[row[code] for code in inside if code in row]] = i
        if (where >= 0).any():
            vessel_of[kind_of_bath] = where
    return _Design(kinds, labels, np.array(numbers, int).T.reshape(len(crossed), -1), vessel_of)


def _difference_variances(design: _Design, vessel_variance: float, own_variance: float) -> list[float | None]:
    """Mean variance of the difference of two levels, by factor; None where it cannot be told."""
    coded, blocks = _main_effects(design)
    z = _vessel_matrix(design)
    # Woodbury: only a matrix as large as the number of vessels is inverted.
    inner = np.eye(z.shape[1]) * own_variance / vessel_variance + (z.T @ z).toarray()
    weighted = (coded - z @ np.linalg.solve(inner, z.T @ coded)) / own_variance
    information = coded.T @ weighted
    values, vectors = np.linalg.eigh(information)
    good = values > values.max() * CLOSE_TO_ZERO
    covariance = (vectors[:, good] / values[good]) @ vectors[:, good].T
    lost = vectors[:, ~good]
    found: list[float | None] = []
    for start, count in blocks:
        contrasts = np.zeros((count * (count - 1) // 2, coded.shape[1]))
        for k, (i, j) in enumerate(combinations(range(count), 2)):
            # Level 0 has no column: it is the one that the others are measured from.
            if i:
                contrasts[k, start + i - 1] = -1
            contrasts[k, start + j - 1] = 1
        if lost.size and np.abs(contrasts @ lost).max() > 1e-4:
            found.append(None)
        else:
            found.append(float(np.mean(np.sum((contrasts @ covariance) * contrasts, axis=1))))
    return found


def _main_effects(design: _Design) -> tuple[Matrix, list[tuple[int, int]]]:
    """Intercept and indicator columns, and for each factor its first column and level count."""
    rows = len(design.level_of)
    columns, blocks = [np.ones((rows, 1))], []
    at = 1
    for i, levels in enumerate(design.labels):
        indicator = np.zeros((rows, len(levels)))
        indicator[np.arange(rows), design.level_of[:, i]] = 1
        columns.append(indicator[:, 1:])
        blocks.append((at, len(levels)))
        at += len(levels) - 1
    return np.hstack(columns), blocks


def _vessel_matrix(design: _Design) -> csr_matrix:
    rows, columns, at = [], [], 0
    for where in design.vessel_of.values():
        inside = np.flatnonzero(where >= 0)
        rows.append(inside)
        columns.append(where[inside] + at)
        at += int(where.max()) + 1
    if not rows:
        return csr_matrix((len(design.level_of), 1))
    r, c = np.concatenate(rows), np.concatenate(columns)
    return csr_matrix((np.ones(len(r)), (r, c)), shape=(len(design.level_of), at))


def _between(design: _Design, i: int) -> tuple[BathKind | None, list[int]]:
    """The kind of bath whose vessels each hold one level only: for most levels, fewest vessels.

    Where no kind separates all levels, the levels that one kind keeps alone, by number.
    """
    found: list[tuple[int, int, BathKind]] = []
    apart: list[tuple[int, BathKind, list[int]]] = []
    for kind, where in design.vessel_of.items():
        groups = levels_that_share(design.level_of[:, i], where)
        there = set(design.level_of[where >= 0, i].tolist())
        if len(groups) == len(design.labels[i]):
            found.append((-len(there), len(set(where[where >= 0].tolist())), kind))
        elif len(groups) > 1:
            largest = max(groups, key=len)
            alone = sorted(x for group in groups if group is not largest for x in group)
            apart.append((-len(alone), kind, alone))
    if found:
        return min(found)[2], []
    return None, min(apart)[2] if apart else []


def _degrees_of_freedom(design: _Design, between: BathKind | None) -> int:
    coded, _ = _main_effects(design)
    if between is None:
        both = np.hstack([coded, _vessel_matrix(design).toarray()])
        return len(coded) - int(np.linalg.matrix_rank(both.T @ both, hermitian=True))
    where = design.vessel_of[between]
    first = [int(np.flatnonzero(where == v)[0]) for v in range(int(where.max()) + 1) if (where == v).any()]
    constant = [
        i
        for i in range(len(design.kinds))
        if all(len(set(design.level_of[where == where[row], i])) == 1 for row in first)
    ]
    part = _Design(
        [design.kinds[i] for i in constant],
        [design.labels[i] for i in constant],
        design.level_of[np.ix_(first, constant)],
        {},
    )
    return len(first) - int(np.linalg.matrix_rank(_main_effects(part)[0]))


def _effect(design: _Design, i: int, variance: float | None) -> Effect:
    kind = design.kinds[i]
    name, (between, alone) = FACTOR_WORDS[kind], _between(design, i)
    counts = _level_counts(design, i, between)
    free = _degrees_of_freedom(design, between)
    degrees = free if free > 0 else None
    error = None if variance is None else float(np.sqrt(variance))
    smallest = None if error is None else detectable_colour_standard_errors(degrees) * error
    if_known = None if error is None else detectable_colour_standard_errors(None) * error
    single = [c.label for c in counts if c.vessels == 1]
    apart = [design.labels[i][number][1] for number in alone]
    warnings = []
    pot = pot_words(between)
    if single and between:
        warnings.append(single_pot_words(single, pot, _short(kind)))
    if apart:
        verb = "never shares" if len(apart) == 1 else "never share"
        warnings.append(
            f"{listed(apart)} {verb} a pot with the others: against them it is pot against pot, "
            "and only other pots of the same kind say how much pots differ."
        )
    if variance is None:
        warnings.append(_mixed_up_words(design, i))
    if degrees is None and variance is not None and not single:
        warnings.append("Nothing is left over to learn the noise from: it is taken as known.")
    told = variance is not None and not (single and between)
    where = f"compared between {pot}s" if between else "compared within pots, swatch beside swatch"
    if apart:
        where += f" but for {listed(apart)}"
    words = f"{name}: {where}; cannot be told."
    if told and smallest is not None and if_known is not None:
        words = f"{name}: {where}; shows a difference of {smallest:.1f} ΔE00 or more 8 times in 10."
        if degrees is None:
            words = (
                f"{name}: {where}; shows a difference of {smallest:.1f} ΔE00 or more 8 times in "
                "10, if the noise is as assumed."
            )
        elif smallest > MUCH_MORE * if_known:
            words = (
                f"{name}: {where}; shows a difference of {if_known:.1f} ΔE00 or more 8 times in "
                f"10 if {pot}s differ as assumed, {smallest:.1f} from its few {pot}s alone."
            )
    return Effect(
        factor=kind,
        name=name,
        between=between,
        alone=tuple(apart),
        levels=tuple(counts),
        can_be_told=told,
        smallest_difference_de00=smallest,
        smallest_if_noise_known_de00=if_known,
        degrees_of_freedom=degrees,
        words=words,
        warnings=tuple(warnings),
    )


def _mixed_up_words(design: _Design, i: int) -> str:
    name, others = FACTOR_WORDS[design.kinds[i]], _mixed_up_with(design, i)
    named = " and ".join(lower_name(design.kinds[j]) for j in others) or "other factors"
    if len(others) == 1:
        pairs = set(zip(design.level_of[:, i], design.level_of[:, others[0]], strict=True))
        if len(pairs) == max(len(design.labels[i]), len(design.labels[others[0]])):
            return f"Each {name.lower()} goes with its own {named} here: the two are told as one."
    return f"{name} is mixed up with {named}: too few of their combinations are in."


def lower_name(kind: FactorKind) -> str:
    """A factor's name inside a sentence: only its first letter changes (pH stays pH)."""
    return FACTOR_WORDS[kind][0].lower() + FACTOR_WORDS[kind][1:]


def _mixed_up_with(design: _Design, i: int) -> list[int]:
    """Factors whose levels fall into separate sets with those of factor i."""
    found = []
    for j in range(len(design.kinds)):
        pairs = set(zip(design.level_of[:, i], design.level_of[:, j], strict=True))
        linked, before = {min(pairs)[0]}, 0
        while j != i and len(linked) > before:
            before = len(linked)
            there = {b for a, b in pairs if a in linked}
            linked |= {a for a, b in pairs if b in there}
        if j != i and len(linked) < len(design.labels[i]):
            found.append(j)
    return found


def _level_counts(design: _Design, i: int, between: BathKind | None) -> list[LevelCount]:
    counts = []
    for number, (key, label) in enumerate(design.labels[i]):
        mine = design.level_of[:, i] == number
        vessels = None
        if between:
            where = design.vessel_of[between][mine]
            vessels = len(set(where[where >= 0].tolist())) or None
        counts.append(LevelCount(level=key, label=label, swatches=int(mine.sum()), vessels=vessels))
    return counts


def _joint_warnings(design: _Design, effects: list[Effect]) -> list[str]:
    """Pairs of factors in the same vessels whose combinations have one vessel each."""
    said = []
    for i, j in combinations(range(len(effects)), 2):
        first, second = effects[i], effects[j]
        if not first.between or first.between != second.between:
            continue
        where = design.vessel_of[first.between]
        inside = where >= 0
        triples = {
            (int(a), int(b), int(v))
            for a, b, v in zip(design.level_of[inside, i], design.level_of[inside, j], where[inside], strict=True)
        }
        if len({(a, b) for a, b, _ in triples}) == len(triples):
            said.append(
                f"{first.name} with {lower_name(second.factor)}: each combination "
                f"has a single {pot_words(first.between)}, so whether they act on each other "
                "cannot be told from chance."
            )
    return said


def _short(kind: FactorKind) -> str:
    return "pH" if kind in ("ph", "after_ph") else lower_name(kind)
