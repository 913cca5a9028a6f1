"""The chain of baths that a cell goes through; cells whose bath is the same share it."""

from typing import Literal

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.cells import Cell
from zesty_grid.core.plan.factors import EXTRACTIONS, NO_SECOND_DYE, PROCESSES, FactorKind, Level
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.shelf.items import MordantBath
from zesty_grid.core.shelf.shelf import Shelf

BathKind = Literal[
    "scour", "extract", "tannin", "mordant", "binder", "iron mordant", "dye", "overdye", "adjust",
    "iron",
]  # fmt: skip
# Iron comes last in its day; letters name the vessels on paper.
BATH_ORDER: dict[BathKind, str] = {
    "scour": "S", "extract": "E", "tannin": "T", "mordant": "M", "binder": "B",
    "iron mordant": "FM", "dye": "D", "overdye": "O", "adjust": "A", "iron": "F",
}  # fmt: skip
WAYS = {("extraction", way.key): way for way in EXTRACTIONS} | {
    ("process", way.key): way for way in PROCESSES
}
# Factors that act in the dye vessel, with what names them in its key and title.
IN_THE_DYE_BATH: tuple[FactorKind, ...] = (
    "strength", "extraction", "process", "temperature", "duration", "dip",
)  # fmt: skip


class Bath(Frozen):
    """What acts in a bath. Baths with the same key are one and the same."""

    key: str
    bath: BathKind
    title: str
    route: str | None = None
    route_bath: int | None = None
    dye: str | None = None
    strength_percent_wof: float | None = None
    extraction: str | None = None
    process: str | None = None
    temperature_c: float | None = None
    duration_min: int | None = None
    ph: float | None = None
    dip: int | None = None
    iron_percent_wof: float | None = None
    has_iron: bool = False


def baths_of(plan: StudyPlan, cell: Cell, shelf: Shelf) -> list[Bath]:
    """The baths of a cell in the order of the work."""
    baths = _mordant_baths(plan, cell, shelf)
    if "dye" not in cell.levels:
        return baths
    baths.append(_dye_bath(plan, cell, shelf))
    return baths + _after_baths(plan, cell, shelf)


def _mordant_baths(plan: StudyPlan, cell: Cell, shelf: Shelf) -> list[Bath]:
    route = shelf.mordant_route(cell.levels.get("mordant", ""))
    baths = [
        Bath(
            key=f"{bath.kind}:{route.key}:{i}", bath=bath.kind, title=_route_title(bath),
            route=route.key, route_bath=i, temperature_c=bath.temperature_c,
            duration_min=bath.duration_min, has_iron=route.brings_iron,
        )
        for i, bath in enumerate(route.baths if route else ())
        if route
    ]  # fmt: skip
    iron = _level(plan, cell, "iron")
    if iron and iron.value and iron.route == "mordant" and "dye" in cell.levels:
        # Pieces of different mordants never share an iron bath: iron and alum stay apart.
        after = cell.levels.get("mordant", "none")
        baths.append(
            Bath(
                key=f"iron-mordant:{after}:{iron.key}", bath="iron mordant",
                title=f"Iron {iron.value:g} % as mordant", iron_percent_wof=iron.value,
                temperature_c=70, duration_min=60, has_iron=True,
            )
        )  # fmt: skip
    return baths


def _dye_bath(plan: StudyPlan, cell: Cell, shelf: Shelf) -> Bath:
    dye = cell.levels["dye"]
    ph = _value(plan, cell, "ph")
    label = _label(plan, cell, "dye")
    key = [f"dye:{dye}:{cell.levels.get('ph', 'as-it-is')}"]
    title = [f"{label} at pH {ph:g}" if ph is not None else label]
    for kind in IN_THE_DYE_BATH:
        if kind in cell.levels:
            key.append(f"{kind}={cell.levels[kind]}")
            title.append(_label(plan, cell, kind))
    iron = _level(plan, cell, "iron")
    in_pot = iron.value if iron and iron.route == "pot" and iron.value else None
    if iron and in_pot:
        key.append(f"iron={iron.key}")
        title.append(f"iron {in_pot:g} % in the pot")
    route = shelf.mordant_route(cell.levels.get("mordant", ""))
    before = bool(
        (route and route.brings_iron) or (iron and iron.route == "mordant" and iron.value)
    )
    if before:
        # Iron spreads: pieces that bring it are dyed apart from the others.
        key.append("iron-mordanted")
        title.append("iron-mordanted pieces")
    if plan.mordants_in_dye_bath == "apart" and "mordant" in cell.levels:
        key.append(f"mordant={cell.levels['mordant']}")
        title.append(f"on {_label(plan, cell, 'mordant')}")
    lot = shelf.dye_lot(dye)
    process = WAYS.get(("process", cell.levels.get("process", "")))
    temperature = _value(plan, cell, "temperature")
    if temperature is None:
        temperature = process.temperature_c if process else None
    if temperature is None:
        temperature = lot.temperature_c if lot else None
    duration = _value(plan, cell, "duration")
    dip = _value(plan, cell, "dip")
    return Bath(
        key=":".join(key), bath="dye", title=", ".join(title), dye=dye,
        strength_percent_wof=_value(plan, cell, "strength"),
        extraction=cell.levels.get("extraction"), process=cell.levels.get("process"),
        temperature_c=temperature,
        duration_min=int(duration) if duration else process.duration_min if process else 60,
        ph=ph, dip=int(dip) if dip else None, iron_percent_wof=in_pot,
        has_iron=bool(in_pot) or before,
    )  # fmt: skip


def _after_baths(plan: StudyPlan, cell: Cell, shelf: Shelf) -> list[Bath]:
    dye, label = cell.levels["dye"], _label(plan, cell, "dye")
    baths = []
    second = cell.levels.get("second_dye")
    # Dyes bleed in the after-bath: each dye gets its own.
    if second and second != NO_SECOND_DYE:
        lot = shelf.dye_lot(second)
        baths.append(
            Bath(
                key=f"overdye:{dye}:{second}", bath="overdye", dye=second,
                title=f"{_label(plan, cell, 'second_dye')} over {label}",
                temperature_c=lot.temperature_c if lot else None, duration_min=60,
            )
        )  # fmt: skip
    after_ph = _value(plan, cell, "after_ph")
    if after_ph is not None:
        baths.append(
            Bath(key=f"adjust:{dye}:{cell.levels['after_ph']}", bath="adjust", ph=after_ph,
                 title=f"pH {after_ph:g} after {label}", temperature_c=20, duration_min=15)
        )  # fmt: skip
    iron = _level(plan, cell, "iron")
    if iron and iron.value and iron.route in (None, "after-bath"):
        seconds = f", {iron.seconds} s" if iron.seconds else ""
        baths.append(
            Bath(key=f"iron:{dye}:{iron.key}", bath="iron", iron_percent_wof=iron.value,
                 title=f"Iron {iron.value:g} %{seconds} after {label}", temperature_c=20,
                 duration_min=max(1, round((iron.seconds or 300) / 60)), has_iron=True)
        )  # fmt: skip
    return baths


def _route_title(bath: MordantBath) -> str:
    heat = f", {bath.temperature_c:g} °C" if bath.temperature_c else ""
    dose = f" {bath.dose_percent_wof:g} %" if bath.dose_percent_wof else ""
    return f"{bath.substance[0].upper()}{bath.substance[1:]}{dose}{heat}"


def _level(plan: StudyPlan, cell: Cell, kind: FactorKind) -> Level | None:
    return plan.level(kind, cell.levels.get(kind))


def _value(plan: StudyPlan, cell: Cell, kind: FactorKind) -> float | None:
    level = _level(plan, cell, kind)
    return level.value if level else None


def _label(plan: StudyPlan, cell: Cell, kind: FactorKind) -> str:
    level = _level(plan, cell, kind)
    return level.label if level else cell.levels.get(kind, "")
