"""Crosses the factors of a plan into cells, leaves out what is left out, adds the controls."""

from collections.abc import Mapping
from itertools import product
from math import prod

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.factors import FACTOR_ORDER, FactorKind
from zesty_grid.core.plan.leaving_out import reason_to_leave_out
from zesty_grid.core.plan.masses import ControlKind
from zesty_grid.core.plan.study_plan import MAX_CELLS, StudyPlan
from zesty_grid.core.refusal import Fault, Refusal
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.shelf.starting_shelf import NO_MORDANT

BY_HAND = "left out by hand"


class Cell(Frozen):
    """One combination of levels. `key` stays the same however the grid is laid out.

    `because` says why a cell is left out; `rule` is the number of the rule that did it. `added`:
    it is none of the crossing (an added control, or `larger`, the key of a larger piece).
    """

    key: str
    levels: dict[FactorKind, str]
    control: ControlKind | None = None
    included: bool = True
    because: str = ""
    rule: int | None = None
    added: bool = False
    larger: str | None = None


def cell_key(levels: Mapping[FactorKind, str], control: str | None = None, larger: str | None = None) -> str:
    """The key of a crossed cell, of an added control, or of a larger piece."""
    parts = [f"{kind}={levels[kind]}" for kind in FACTOR_ORDER if kind in levels]
    first = [f"larger={larger}"] if larger else [f"control={control}"] if control else []
    return ";".join([*first, *parts])


def cross(plan: StudyPlan, shelf: Shelf) -> list[Cell]:
    """All crossed cells, those left out included; controls are added by `with_controls`.

    Raises Refusal above 2,000 cells (count first, cross after), and where the rules leave nothing.
    """
    check_count(plan)
    if not plan.factors:
        return []
    left_out, put_back = frozenset(plan.left_out), frozenset(plan.put_back)
    classes = {fibre.key: fibre.classes for fibre in shelf.fibres}
    factors = sorted(plan.factors, key=lambda factor: FACTOR_ORDER.index(factor.kind))
    kinds = [factor.kind for factor in factors]
    cells = []
    for combination in product(*([level.key for level in f.levels] for f in factors)):
        levels = dict(zip(kinds, combination, strict=True))
        key = ";".join(f"{kind}={level}" for kind, level in levels.items())
        control: ControlKind | None = "unmordanted" if levels.get("mordant") == NO_MORDANT else None
        rule = None if key in put_back else reason_to_leave_out(plan.rules, levels, classes)
        cells.append(
            Cell(
                key=key,
                levels=levels,
                control=control,
                included=key not in left_out and rule is None,
                because=rule.reason if rule else BY_HAND if key in left_out else "",
                rule=rule.number if rule else None,
            )
        )
    if all(cell.rule is not None for cell in cells):
        raise Refusal(
            "rules-leave-nothing",
            "Together the rules leave out every swatch: they contradict one another.",
            "Take a rule away, or put some swatches back.",
            (
                Fault(
                    field="rules",
                    given=f"{len(plan.rules)} rules",
                    allowed="rules that keep some swatches",
                    cure="Take a rule away.",
                ),
            ),
        )
    return cells


def check_count(plan: StudyPlan) -> None:
    """Raises Refusal where a plan crosses to more cells than a study holds."""
    count = prod(len(factor.levels) for factor in plan.factors) if plan.factors else 0
    if count * plan.replicates > MAX_CELLS:
        raise _too_many(count, plan.replicates)


def _too_many(count: int, replicates: int) -> Refusal:
    cure = "Take out levels, or split the question into two studies."
    times = f" × {replicates} swatches each" if replicates > 1 else ""
    return Refusal(
        "too-many-cells",
        f"These factors cross to {count:,} cells{times}; a study holds at most {MAX_CELLS:,}.",
        cure,
        (Fault(field="factors", given=f"{count * replicates} swatches", allowed=f"at most {MAX_CELLS}", cure=cure),),
    )
