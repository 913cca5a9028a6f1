"""What a change of the plan would do to what was begun and what is planned, before it is saved."""

from collections.abc import Iterable, Sequence

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.factor_words import FACTOR_WORDS
from zesty_grid.core.plan.factors import APART, FactorKind, Level, makes_no_difference
from zesty_grid.core.plan.placement import Placement, lacks_a_level
from zesty_grid.core.plan.planned_study import PlannedStudy
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.vessel import Vessel
from zesty_grid.core.record.swatch import Swatch

MOST_NAMED = 5


class AskedLevel(Frozen):
    """Which level of a factor the swatches have that were begun before it came.

    `proposed` is the level that makes no difference, where there is one.
    """

    factor: FactorKind
    name: str
    swatches: int
    levels: tuple[Level, ...]
    proposed: str | None


class PlanEffect(Frozen):
    """`words` say it line by line; `asks` must be answered before it can be saved.

    `touches_record`: something that was begun is concerned, so that one looks before saving.
    """

    words: tuple[str, ...]
    asks: tuple[AskedLevel, ...]
    new_swatches: int
    new_vessels: int
    taken_out: int
    no_longer_planned: int
    touches_record: bool


def asked_levels(plan: StudyPlan, swatches: Iterable[Swatch]) -> list[AskedLevel]:
    """What has to be said of the begun swatches before the plan can be saved."""
    found = []
    for kind, count in lacks_a_level(plan, swatches).items():
        factor = plan.factor(kind)
        levels = factor.levels if factor else ()
        idle = next((one.key for one in levels if makes_no_difference(kind, one)), None)
        found.append(AskedLevel(factor=kind, name=FACTOR_WORDS[kind], swatches=count, levels=levels, proposed=idle))
    return found


def effect_of_change(
    before: PlannedStudy,
    after: PlannedStudy,
    placement: Placement,
    vessels_before: Sequence[Vessel],
    vessels_after: Sequence[Vessel],
    running: Sequence[str],
    finished: int,
) -> PlanEffect:
    """`placement` is that of the changed plan; `running` names the baths that have begun and are
    not finished, beside so many `finished` ones."""
    stood = {swatch.code: swatch for swatch in before.swatches}
    gone = [s for s in placement.swatches if stood[s.code].planned and not s.planned]
    back = [s for s in placement.swatches if s.planned and not stood[s.code].planned]
    unplanned = [s for s in gone if s.begun]
    dropped = [s for s in gone if not s.begun]
    old = {vessel.name: vessel for vessel in vessels_before}
    new = {vessel.name: vessel for vessel in vessels_after}
    made = [name for name in new if name not in old]
    unneeded = [name for name in old if name not in new]
    changed = [n for n, v in new.items() if n in old and _differs(v, old[n])]
    there = len(placement.new) + sum(not s.begun for s in back)
    words = [
        *_new_words(there, made),
        *_counted_as(before.plan, after.plan, placement.swatches),
        *(
            [
                _plural(len(unplanned), "begun swatch is", "begun swatches are")
                + " no longer planned: all that is known of them stays, marked as such."
            ]
            if unplanned
            else []
        ),
        *(
            [
                _plural(len(dropped), "swatch that was not begun is", "swatches that were not begun are")
                + " taken out; their codes stay theirs."
            ]
            if dropped
            else []
        ),
        *([f"{_named(changed)} {'changes' if len(changed) == 1 else 'change'}: not begun yet."] if changed else []),
        *([f"{_named(unneeded)} {'is' if len(unneeded) == 1 else 'are'} no longer needed."] if unneeded else []),
    ]
    begun_back = sum(s.begun for s in back)
    if begun_back:
        words.append(_plural(begun_back, "begun swatch is", "begun swatches are") + " planned again.")
    touches = bool(running or finished) and bool(words)
    if touches and running:
        one, many = "has begun and stays as it is", "have begun and stay as they are"
        words.append(f"{_named(running)} {one if len(running) == 1 else many}.")
    if touches and finished:
        words.append(
            _plural(finished, "finished bath stays", "finished baths stay") + " as they were."
            if finished > 1
            else "1 finished bath stays as it was."
        )
    return PlanEffect(
        words=tuple(words),
        asks=tuple(asked_levels(after.plan, placement.swatches)),
        new_swatches=there,
        new_vessels=len(made),
        taken_out=len(dropped),
        no_longer_planned=len(unplanned),
        touches_record=touches,
    )


def _differs(one: Vessel, other: Vessel) -> bool:
    facts = {"title", "cells", "run_order", "name", "fibre_words"}
    return one.model_dump(exclude=facts) != other.model_dump(exclude=facts)


def _new_words(swatches: int, vessels: Sequence[str]) -> list[str]:
    if not swatches and not vessels:
        return []
    where = _plural(len(vessels), "new vessel", "new vessels") if vessels else "vessels there are"
    named = f" ({_named(vessels)})" if vessels else ""
    if not swatches:
        return [f"{where}{named}."]
    return [f"{_plural(swatches, 'new swatch', 'new swatches')} in {where}{named}."]


def _counted_as(before: StudyPlan, after: StudyPlan, swatches: Iterable[Swatch]) -> list[str]:
    begun = [swatch for swatch in swatches if swatch.begun and not swatch.added]
    said = []
    for factor in after.factors:
        if before.factor(factor.kind) and before.factor(factor.kind) == factor:
            continue
        count = sum(factor.kind not in swatch.levels for swatch in begun)
        level = factor.level(factor.begun_as or "")
        if count and level:
            said.append(_plural(count, "begun swatch counts", "begun swatches count") + f" as {level.label.lower()}.")
        elif count and factor.begun_as == APART:
            name = FACTOR_WORDS[factor.kind].lower()
            said.append(
                _plural(count, "begun swatch stays", "begun swatches stay") + f" apart: none of the levels of {name}."
            )
    return said


def _plural(count: int, one: str, many: str) -> str:
    return f"{count} {one if count == 1 else many}"


def _named(names: Sequence[str]) -> str:
    if len(names) > MOST_NAMED:
        return f"{', '.join(names[:MOST_NAMED])} and {len(names) - MOST_NAMED} more"
    return names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"
