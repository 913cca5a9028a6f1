"""Factors that act on a part of a cloth: many cells of the grid lie on one cloth as its zones."""

from collections.abc import Iterable, Mapping, Sequence

from zesty_grid.core.plan.cells import Cell, cell_key
from zesty_grid.core.plan.factors import FactorKind
from zesty_grid.core.plan.study_plan import StudyPlan

ZONE_KINDS: tuple[FactorKind, ...] = ("source", "pretreatment", "side", "printing", "times_in")
ZONED_BY = frozenset(ZONE_KINDS)
NO_PRETREATMENT = "none"
Levels = dict[FactorKind, str]


def has_zones(plan: StudyPlan) -> bool:
    return any(factor.kind in ZONE_KINDS for factor in plan.factors)


def cloth_levels(levels: Mapping[FactorKind, str]) -> Levels:
    """The levels of the whole cloth, without those of one zone."""
    return {kind: key for kind, key in levels.items() if kind not in ZONE_KINDS}


def cloth_key(cell: Cell) -> str:
    """The key of the cloth on which a cell lies; of a cell without zones its own key."""
    if ZONED_BY.isdisjoint(cell.levels):
        return cell.key
    control = cell.control if cell.added and not cell.larger else None
    return cell_key(cloth_levels(cell.levels), control, cell.larger)


def cloths_of(cells: Sequence[Cell]) -> list[Cell]:
    """One cell for each cloth; it is there while any of its zones is."""
    found: dict[str, Cell] = {}
    for cell in cells:
        key = cloth_key(cell)
        if key == cell.key:
            found[key] = cell
            continue
        before = found.get(key)
        cloth = cell.model_copy(update={"key": key, "levels": cloth_levels(cell.levels)})
        found[key] = before if before and before.included else cloth
    return list(found.values())


def zone_words(plan: StudyPlan, levels: Mapping[FactorKind, str]) -> str:
    """What a zone is called on its cloth: "Oak leaves, iron water, lower side"."""
    if ZONED_BY.isdisjoint(levels):
        return ""
    said = []
    for kind in ZONE_KINDS:
        key = levels.get(kind)
        level = plan.level(kind, key)
        if level and not (kind == "pretreatment" and key == NO_PRETREATMENT):
            said.append(level.label)
    return ", ".join(said)


def zones_on(plan: StudyPlan, cells: Iterable[Cell], cloth: str) -> list[str]:
    """The zones of a cloth that are planned, in the order of the grid."""
    here = (cell for cell in cells if cell.included and cloth_key(cell) == cloth)
    return list(dict.fromkeys(words for cell in here if (words := zone_words(plan, cell.levels))))
