"""What changed between two versions of a plan, in words for its history."""

from collections.abc import Iterable

from zesty_grid.core.plan.factor_words import FACTOR_WORDS
from zesty_grid.core.plan.factors import Factor, FactorKind
from zesty_grid.core.plan.study_plan import StudyPlan

MOST_NAMED = 4
# Settings with their names; a change of any other field is told as "settings".
SETTINGS: dict[str, str] = {
    "name": "name",
    "question": "question",
    "replicates": "swatches of each cell",
    "replicate_vessels": "how repeats share pots",
    "mordants_in_dye_bath": "how mordants share dye baths",
    "order_seed": "random order",
    "swatch_mass_g": "mass of a swatch",
    "pieces": "pieces of a swatch",
    "liquor_ratio_ml_per_g": "liquor ratio",
    "water": "water",
    "scale": "scale",
    "acid": "acid",
    "alkali": "alkali",
    "lidded": "lids",
    "noise": "noise",
    "bridge": "bridge piece",
    "weighing_accuracy_percent": "weighing accuracy",
    "iron_with_alum": "iron and alum pieces in one bath",
    "taken_out": "pieces of other durations",
}


def words_of_change(before: StudyPlan | None, after: StudyPlan) -> str:
    """One line; the first version of a plan is "begun"."""
    if before is None:
        return "begun"
    said = [*_factors(before, after), *_cells(before, after), *_lists(before, after)]
    for field, words in SETTINGS.items():
        old, new = getattr(before, field), getattr(after, field)
        if old != new:
            said.append(f"{words}: {_value(old)} → {_value(new)}")
    if not said and (before.rows, before.columns) != (after.rows, after.columns):
        said.append("laid out anew")
    return "; ".join(said) or "saved without a change"


def _factors(before: StudyPlan, after: StudyPlan) -> list[str]:
    old = {factor.kind: factor for factor in before.factors}
    new = {factor.kind: factor for factor in after.factors}
    said = [f"{_name(kind)} added: {_labels(new[kind])}" for kind in new if kind not in old]
    said += [f"{_name(kind)} taken out" for kind in old if kind not in new]
    for kind in (kind for kind in new if kind in old):
        keys = {level.key for level in old[kind].levels}
        more = [level.label for level in new[kind].levels if level.key not in keys]
        kept = {level.key for level in new[kind].levels}
        less = [level.label for level in old[kind].levels if level.key not in kept]
        if more:
            said.append(f"{_name(kind)}: {_some(more)} added")
        if less:
            said.append(f"{_name(kind)}: {_some(less)} taken out")
    return said


def _cells(before: StudyPlan, after: StudyPlan) -> list[str]:
    said = []
    out = len(set(after.left_out) - set(before.left_out))
    back = len(set(before.left_out) - set(after.left_out))
    back += len(set(after.put_back) - set(before.put_back))
    if out:
        said.append(_counted(out, "cell left out", "cells left out"))
    if back:
        said.append(_counted(back, "cell put back", "cells put back"))
    again = len(after.made_again) - len(before.made_again)
    if again > 0:
        said.append(_counted(again, "piece made again", "pieces made again"))
    if before.rules != after.rules:
        said.append("rules changed")
    added = [one for one in after.controls if one not in before.controls]
    gone = [one for one in before.controls if one not in after.controls]
    said += [f"control added: {one}" for one in added]
    said += [f"control taken out: {one}" for one in gone]
    return said


def _lists(before: StudyPlan, after: StudyPlan) -> list[str]:
    said = []
    old_treatments = {one.key: one for one in before.treatments}
    for one in after.treatments:
        if one.key not in old_treatments:
            said.append(f"{one.name} for {_counted(len(one.swatches), 'swatch', 'swatches')}")
        elif one != old_treatments[one.key]:
            said.append(f"{one.name} changed")
    kept = {one.key for one in after.treatments}
    said += [f"{one.name} taken out" for key, one in old_treatments.items() if key not in kept]
    if before.own_vessels != after.own_vessels:
        said.append("vessels chosen by hand changed")
    if before.rolling != after.rolling:
        said.append("rolls changed")
    if before.folding != after.folding:
        said.append("fold changed")
    if before.own_masses != after.own_masses:
        said.append("own masses changed")
    if before.larger_pieces != after.larger_pieces:
        said.append("larger pieces changed")
    return said


def _name(kind: FactorKind) -> str:
    return FACTOR_WORDS[kind]


def _labels(factor: Factor) -> str:
    return _some([level.label for level in factor.levels])


def _some(names: Iterable[str]) -> str:
    every = list(names)
    more = f" and {len(every) - MOST_NAMED} more" if len(every) > MOST_NAMED else ""
    return ", ".join(every[:MOST_NAMED]) + more


def _counted(count: int, one: str, many: str) -> str:
    return f"{count} {one if count == 1 else many}"


def _value(value: object) -> str:
    if isinstance(value, float):
        return f"{value:g}"
    if isinstance(value, tuple):
        return _some(str(one) for one in value) or "none"
    return "none" if value in (None, "") else str(value)[:60]
