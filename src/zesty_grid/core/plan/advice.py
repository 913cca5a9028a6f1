"""What a plan should be warned about. Nothing here blocks a deliberate choice."""

from zesty_grid.core.plan.advice_on_levels import LOOKED_AT
from zesty_grid.core.plan.advice_on_vessels import on_vessels
from zesty_grid.core.plan.cells import Cell
from zesty_grid.core.plan.factors import FactorKind
from zesty_grid.core.plan.found_advice import Advice, FoundAdvice
from zesty_grid.core.plan.planned_study import PlannedStudy
from zesty_grid.core.plan.vessel import Vessel


def advice_on(study: PlannedStudy, vessels: list[Vessel]) -> list[Advice]:
    """What does not suit the fibre, what heat spoils, and vessels that do not suffice."""
    found = FoundAdvice()
    included = [cell for cell in study.cells if cell.included]
    for first_kind, kind, look in LOOKED_AT:
        for (first, second), keys in _by_levels(included, first_kind, kind).items():
            said = look(study.plan, first, kind, second, study.shelf)
            if said:
                found.add(*said, keys)
    on_vessels(found, study, vessels)
    return found.advice()


def _by_levels(cells: list[Cell], first: FactorKind, second: FactorKind) -> dict[tuple[str, str], list[str]]:
    """Cell keys by their levels of two factors."""
    found: dict[tuple[str, str], list[str]] = {}
    for cell in cells:
        if first in cell.levels and second in cell.levels:
            found.setdefault((cell.levels[first], cell.levels[second]), []).append(cell.key)
    return found
