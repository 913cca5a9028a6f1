"""A small study for tests: two fibres, two mordant routes, one dye, two pH levels, iron."""

from typing import Any

from zesty_grid.core.plan.cells import Cell
from zesty_grid.core.plan.controls import all_cells
from zesty_grid.core.plan.planned_study import PlannedStudy, on_paper
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.vessel import Vessel
from zesty_grid.core.plan.vessels import vessels_of
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF


def levels(*keys: str) -> list[dict[str, Any]]:
    return [{"key": key, "label": key.capitalize()} for key in keys]


def valued(kind: str, *values: float) -> list[dict[str, Any]]:
    return [{"key": f"{kind}-{v:g}", "label": f"{kind} {v:g}", "value": v} for v in values]


def small_plan(**changes: Any) -> dict[str, Any]:
    plan = {
        "name": "Small",
        "question": "Does it work?",
        "factors": [
            {"kind": "fibre", "levels": levels("wool", "cotton")},
            {"kind": "mordant", "levels": levels("none", "alum-hot")},
            {"kind": "dye", "levels": levels("dried-flowers")},
            {"kind": "ph", "levels": valued("ph", 4, 9)},
            {"kind": "iron", "levels": valued("iron", 0, 1)},
        ],
        "rows": ["fibre", "mordant"],
        "columns": ["dye", "ph", "iron"],
        "controls": ["undyed"],
        "swatch_mass_g": 6.0,
    }
    return plan | changes


def cells_of(plan: StudyPlan) -> list[Cell]:
    """All cells with the Shelf that comes with the application."""
    return all_cells(plan, STARTING_SHELF)


def planned(plan: StudyPlan, shelf: Shelf = STARTING_SHELF) -> PlannedStudy:
    """A plan of which nothing has begun, with the Shelf that comes with the application."""
    return on_paper(plan, shelf)


def vessels(plan: StudyPlan, shelf: Shelf = STARTING_SHELF) -> list[Vessel]:
    return vessels_of(on_paper(plan, shelf))


def code_of(study: PlannedStudy, cell: str, replicate: int = 1) -> str:
    """The code of the swatch in a cell, by the cell's key."""
    return next(one.code for one in study.swatches if study.cell(one) == cell and one.replicate == replicate)
