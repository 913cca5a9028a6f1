"""Crosses the factors of a plan into cells, and adds the controls."""

from itertools import product
from math import prod

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.study_plan import (
    FACTOR_ORDER,
    MAX_CELLS,
    NEUTRAL_PH,
    ControlKind,
    FactorKind,
    Level,
    StudyPlan,
)
from zesty_grid.core.refusal import Fault, Refusal
from zesty_grid.core.shelf.starting_shelf import NO_MORDANT


class Cell(Frozen):
    """One combination of levels. `key` stays the same however the grid is laid out."""

    key: str
    levels: dict[FactorKind, str]
    control: ControlKind | None = None
    included: bool = True


def cell_key(levels: dict[FactorKind, str], control: ControlKind | None = None) -> str:
    parts = [f"{kind}={levels[kind]}" for kind in FACTOR_ORDER if kind in levels]
    return ";".join([f"control={control}", *parts] if control else parts)


def cross(plan: StudyPlan) -> list[Cell]:
    """All cells, those left out included, then the added controls.

    Raises Refusal above 2,000 cells: count first, cross after.
    """
    count = prod(len(factor.levels) for factor in plan.factors) if plan.factors else 0
    if count > MAX_CELLS:
        raise Refusal(
            "too-many-cells",
            f"These factors cross to {count:,} cells; a study holds at most {MAX_CELLS:,}.",
            "Take out levels, or split the question into two studies.",
            (Fault(field="factors", given=f"{count} cells", allowed=f"at most {MAX_CELLS}",
                   cure="Take out levels, or split the question into two studies."),),
        )  # fmt: skip
    if not plan.factors:
        return []
    left_out = set(plan.left_out)
    kinds = [factor.kind for factor in plan.factors]
    cells = []
    for combination in product(*(factor.levels for factor in plan.factors)):
        levels = {kind: level.key for kind, level in zip(kinds, combination, strict=True)}
        key = cell_key(levels)
        control: ControlKind | None = "unmordanted" if levels.get("mordant") == NO_MORDANT else None
        cells.append(Cell(key=key, levels=levels, control=control, included=key not in left_out))
    return cells + _added_controls(plan, left_out)


def missing_controls(plan: StudyPlan) -> list[ControlKind]:
    """Controls that practitioners miss afterwards and this plan does not have yet."""
    missing: list[ControlKind] = []
    if plan.factor("fibre") and "undyed" not in plan.controls:
        missing.append("undyed")
    if _lacks_unmordanted(plan) and "unmordanted" not in plan.controls:
        missing.append("unmordanted")
    return missing


def _lacks_unmordanted(plan: StudyPlan) -> bool:
    mordant = plan.factor("mordant")
    return bool(mordant and all(level.key != NO_MORDANT for level in mordant.levels))


def _added_controls(plan: StudyPlan, left_out: set[str]) -> list[Cell]:
    fibre = plan.factor("fibre")
    if fibre is None:
        return []
    added: list[tuple[dict[FactorKind, str], ControlKind]] = []
    if "undyed" in plan.controls:
        added += [({"fibre": level.key}, "undyed") for level in fibre.levels]
    if "unmordanted" in plan.controls and _lacks_unmordanted(plan):
        dye = plan.factor("dye")
        for fibre_level in fibre.levels:
            for dye_level in dye.levels if dye else ():
                levels: dict[FactorKind, str] = {"fibre": fibre_level.key, "dye": dye_level.key}
                added.append((levels | _plainest(plan), "unmordanted"))
    cells = []
    for levels, control in added:
        key = cell_key(levels, control)
        cells.append(Cell(key=key, levels=levels, control=control, included=key not in left_out))
    return cells


def _plainest(plan: StudyPlan) -> dict[FactorKind, str]:
    """The pH level nearest to neutral and the least iron: where a control shares its vessels."""
    found: dict[FactorKind, str] = {}
    ph, iron = plan.factor("ph"), plan.factor("iron")
    if ph:
        found["ph"] = min(ph.levels, key=lambda level: abs(_value(level) - NEUTRAL_PH)).key
    if iron:
        found["iron"] = min(iron.levels, key=_value).key
    return found


def _value(level: Level) -> float:
    return level.value if level.value is not None else 0.0
