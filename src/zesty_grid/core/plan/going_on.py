"""Going on from swatches that are there: further treatments dealt out, and studies on their cloth.

Half of the swatches in iron and half not, crossed with two pH: each combination is an arm, and
like swatches are dealt to different arms at random.
"""

from collections.abc import Iterable, Mapping, Sequence
from itertools import product
from random import Random
from typing import Annotated

from pydantic import Field

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.factors import Code, Factor, Level
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.treatment import MAX_TREATMENTS, Treatment
from zesty_grid.core.record.swatch import Swatch
from zesty_grid.core.refusal import Fault, Refusal

MOST_ARMS = 24
NONE_WORDS = "left as they are"


class TreatmentChoice(Frozen):
    """What may be done, one after the other: each with its levels, None among them for nothing."""

    levels: Annotated[tuple[Treatment | None, ...], Field(min_length=1, max_length=12)]


class GoingOn(Frozen):
    """Which swatches go on, and the treatments crossed with each other. `seed` deals the arms."""

    swatches: Annotated[tuple[Code, ...], Field(min_length=1, max_length=2000)]
    choices: Annotated[tuple[TreatmentChoice, ...], Field(min_length=1, max_length=3)]
    seed: Annotated[int, Field(ge=0, le=2**31 - 1)] = 1


class Arm(Frozen):
    """One combination of treatments and who gets it."""

    words: str
    swatches: tuple[str, ...]


class Dealt(Frozen):
    arms: tuple[Arm, ...]
    treatments: tuple[Treatment, ...]


def deal_out(wanted: GoingOn, alike: Mapping[str, str], taken_keys: Iterable[str]) -> Dealt:
    """The treatments with their swatches. `alike` has for each swatch what it is like (its cell):
    like swatches go to different arms. Raises Refusal for more arms than swatches.
    """
    combinations = list(product(*(choice.levels for choice in wanted.choices)))
    if len(combinations) > min(MOST_ARMS, len(wanted.swatches)):
        cure = "Choose fewer levels, or more swatches."
        there = "1 swatch" if len(wanted.swatches) == 1 else f"{len(wanted.swatches)} swatches"
        raise Refusal(
            "too-many-arms",
            f"{len(combinations)} arms for {there}.",
            cure,
            (Fault(field="choices", given=str(len(combinations)), allowed="at most one for each swatch", cure=cure),),
        )
    arms = _deal(wanted, alike, len(combinations))
    keys = set(taken_keys)
    treatments: list[Treatment] = []
    for place, choice in enumerate(wanted.choices):
        for level in choice.levels:
            if level is None:
                continue
            codes = [
                code
                for combination, arm in zip(combinations, arms, strict=True)
                if combination[place] == level
                for code in arm
            ]
            key = _free_key(level.kind, keys)
            keys.add(key)
            if codes:
                treatments.append(level.model_copy(update={"key": key, "swatches": tuple(sorted(codes))}))
    return Dealt(
        arms=tuple(
            Arm(words=_words(combination), swatches=tuple(arm))
            for combination, arm in zip(combinations, arms, strict=True)
        ),
        treatments=tuple(treatments),
    )


def with_treatments(plan: StudyPlan, treatments: Sequence[Treatment]) -> StudyPlan:
    """The plan with further treatments at its end. Raises Refusal where it has too many."""
    every = (*plan.treatments, *treatments)
    if len(every) > MAX_TREATMENTS:
        raise Refusal(
            "too-many-treatments",
            f"A study holds at most {MAX_TREATMENTS} treatments.",
            "Go on in a new study that starts from these swatches.",
        )
    return plan.model_copy(update={"treatments": every})


def study_from(name: str, swatches: Sequence[Swatch], words: Mapping[str, str], cut: bool, mass_g: float) -> StudyPlan:
    """A plan whose fibres are the cloth of earlier swatches; like ones are one level.

    `words` say what each swatch is. `mass_g` is that of the new pieces where they are cut.
    """
    groups: dict[str, list[Swatch]] = {}
    for swatch in swatches:
        groups.setdefault(words[swatch.code], []).append(swatch)
    levels = tuple(
        Level(
            key=f"from-{own[0].code.lower()}", label=said[:80], swatches=tuple(swatch.code for swatch in own), cut=cut
        )
        for said, own in groups.items()
    )
    counts = {len(own) for own in groups.values()}
    repeats = min(counts) if not cut else 1
    return StudyPlan(
        name=name,
        factors=(Factor(kind="fibre", levels=levels),),
        rows=("fibre",),
        replicates=max(1, min(6, repeats)),
        swatch_mass_g=mass_g if cut else max(swatch.mass_g for swatch in swatches),
    )


def _deal(wanted: GoingOn, alike: Mapping[str, str], count: int) -> list[list[str]]:
    """Like swatches go to different arms; else to one of those with the fewest, at random, so that
    neighbours in the grid are dealt as blocks."""
    random = Random(wanted.seed)
    by_kind: dict[str, list[str]] = {}
    for code in dict.fromkeys(wanted.swatches):
        by_kind.setdefault(alike.get(code, code), []).append(code)
    arms: list[list[str]] = [[] for _ in range(count)]
    for codes in by_kind.values():
        random.shuffle(codes)
        for start in range(0, len(codes), count):
            order = sorted(arms, key=lambda arm: (len(arm), random.random()))
            for code, arm in zip(codes[start : start + count], order, strict=False):
                arm.append(code)
    return arms


def _words(combination: Sequence[Treatment | None]) -> str:
    named = [one.name for one in combination if one is not None]
    return "; then ".join(named) or NONE_WORDS


def _free_key(kind: str, taken: set[str]) -> str:
    return next(key for n in range(1, 10_000) if (key := f"{kind}-{n}") not in taken)
