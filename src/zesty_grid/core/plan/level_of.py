"""A swatch's level of a factor, as its plan has it."""

from zesty_grid.core.plan.factors import FactorKind, Level
from zesty_grid.core.plan.settling import Levels
from zesty_grid.core.plan.study_plan import StudyPlan


def level_of(plan: StudyPlan, levels: Levels, kind: FactorKind) -> Level | None:
    return plan.level(kind, levels.get(kind))


def value_of(plan: StudyPlan, levels: Levels, kind: FactorKind) -> float | None:
    level = level_of(plan, levels, kind)
    return level.value if level else None


def whole_value_of(plan: StudyPlan, levels: Levels, kind: FactorKind) -> int | None:
    value = value_of(plan, levels, kind)
    return None if value is None else round(value)


def label_of(plan: StudyPlan, levels: Levels, kind: FactorKind) -> str:
    level = level_of(plan, levels, kind)
    return level.label if level else levels.get(kind, "")


def marks_of(plan: StudyPlan, levels: Levels, *kinds: FactorKind) -> tuple[list[str], list[str]]:
    """What the levels of some factors add to the key and to the title of a bath."""
    there = [kind for kind in kinds if kind in levels]
    key = [f"{kind}={levels[kind]}" for kind in there]
    return key, [label_of(plan, levels, kind) for kind in there]
