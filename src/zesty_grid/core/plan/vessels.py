"""Which vessels a grid needs: cells share one when all that acts in it is the same."""

from typing import Literal

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.cells import Cell
from zesty_grid.core.plan.study_plan import FactorKind, StudyPlan
from zesty_grid.core.shelf.items import MordantBath, Shelf

BathKind = Literal["tannin", "mordant", "dye", "iron"]
LETTER: dict[BathKind, str] = {"tannin": "T", "mordant": "M", "dye": "D", "iron": "F"}


class Vessel(Frozen):
    """One pot or jar, used for one bath. `key` says what acts in it and stays when others go."""

    key: str
    name: str
    bath: BathKind
    title: str
    route: str | None = None
    route_bath: int | None = None
    dye: str | None = None
    ph: float | None = None
    iron_percent_wof: float | None = None
    cells: tuple[str, ...]


def vessels_of(plan: StudyPlan, cells: list[Cell], shelf: Shelf) -> list[Vessel]:
    """Vessels in the order of the work, each with the included cells that go in."""
    found: dict[str, Vessel] = {}
    for cell in cells:
        if cell.included:
            for vessel in _vessels_of_cell(plan, cell, shelf):
                there = found.get(vessel.key)
                joined = (there.cells if there else ()) + (cell.key,)
                found[vessel.key] = vessel.model_copy(update={"cells": joined})
    order: tuple[BathKind, ...] = ("tannin", "mordant", "dye", "iron")
    named = []
    for bath in order:
        same = [vessel for vessel in found.values() if vessel.bath == bath]
        named += [
            vessel.model_copy(update={"name": f"{LETTER[bath]}{i + 1}"})
            for i, vessel in enumerate(same)
        ]
    return named


def _vessels_of_cell(plan: StudyPlan, cell: Cell, shelf: Shelf) -> list[Vessel]:
    vessels = []
    route = shelf.mordant_route(cell.levels.get("mordant", ""))
    for i, bath in enumerate(route.baths if route else ()):
        vessels.append(
            Vessel(
                key=f"{bath.kind}:{cell.levels['mordant']}:{i}", name="", bath=bath.kind,
                title=_bath_title(bath), route=cell.levels["mordant"], route_bath=i, cells=(),
            )
        )  # fmt: skip
    dye = cell.levels.get("dye")
    if dye is None:
        return vessels
    ph = _value(plan, "ph", cell)
    label = _label(plan, "dye", dye)
    vessels.append(
        Vessel(
            key=f"dye:{dye}:{cell.levels.get('ph', 'as-it-is')}", name="", bath="dye",
            title=f"{label} at pH {ph:g}" if ph is not None else label, dye=dye, ph=ph, cells=(),
        )
    )  # fmt: skip
    iron = _value(plan, "iron", cell)
    if iron:
        # Dyes bleed in the after-bath: each dye gets its own.
        vessels.append(
            Vessel(
                key=f"iron:{dye}:{cell.levels['iron']}", name="", bath="iron",
                title=f"Iron {iron:g} % after {label}", dye=dye, iron_percent_wof=iron, cells=(),
            )
        )  # fmt: skip
    return vessels


def _bath_title(bath: MordantBath) -> str:
    heat = f", {bath.temperature_c:g} °C" if bath.temperature_c else ""
    return f"{bath.substance[0].upper()}{bath.substance[1:]} {bath.dose_percent_wof:g} %{heat}"


def _value(plan: StudyPlan, kind: FactorKind, cell: Cell) -> float | None:
    factor = plan.factor(kind)
    key = cell.levels.get(kind)
    if factor is None or key is None:
        return None
    return next((level.value for level in factor.levels if level.key == key), None)


def _label(plan: StudyPlan, kind: FactorKind, key: str) -> str:
    factor = plan.factor(kind)
    levels = factor.levels if factor else ()
    return next((level.label for level in levels if level.key == key), key)
