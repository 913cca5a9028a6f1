"""The chain of baths that a swatch goes through; swatches whose bath is the same share it."""

from collections.abc import Mapping
from typing import Literal

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.factors import EXTRACTIONS, NO_SECOND_DYE, PROCESSES, FactorKind, Level
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.treatment import Treatment
from zesty_grid.core.shelf.items import MordantBath
from zesty_grid.core.shelf.shelf import Shelf

BathKind = Literal[
    "scour", "extract", "tannin", "mordant", "binder", "iron mordant", "dye", "overdye", "adjust",
    "iron", "wash",
]  # fmt: skip
# Iron comes last in its day; letters name the vessels on paper.
BATH_ORDER: dict[BathKind, str] = {
    "scour": "S", "extract": "E", "tannin": "T", "mordant": "M", "binder": "B",
    "iron mordant": "FM", "dye": "D", "overdye": "O", "adjust": "A", "iron": "F", "wash": "W",
}  # fmt: skip
KIND_OF_LETTERS: dict[str, BathKind] = {letters: kind for kind, letters in BATH_ORDER.items()}
IN_ORDER: tuple[BathKind, ...] = tuple(BATH_ORDER)
# Which factors a bath of a kind settles for the pieces in it.
SETTLES: dict[BathKind, frozenset[FactorKind]] = {
    "tannin": frozenset({"mordant"}), "mordant": frozenset({"mordant"}),
    "binder": frozenset({"mordant"}), "iron mordant": frozenset({"iron"}),
    "dye": frozenset({"dye", "strength", "extraction", "process", "temperature", "duration", "ph",
                      "dip"}),
    "overdye": frozenset({"second_dye"}), "adjust": frozenset({"after_ph"}),
    "iron": frozenset({"iron"}), "scour": frozenset(), "extract": frozenset(), "wash": frozenset(),
}  # fmt: skip
HOT_IRON_C, HOT_IRON_MIN, COLD_IRON_S = 70.0, 60, 300
WAYS = {("extraction", way.key): way for way in EXTRACTIONS} | {
    ("process", way.key): way for way in PROCESSES
}
# Factors that act in the dye vessel, with what names them in its key and title.
IN_THE_DYE_BATH: tuple[FactorKind, ...] = (
    "strength", "extraction", "process", "temperature", "duration", "dip",
)  # fmt: skip


Levels = Mapping[FactorKind, str]


class Bath(Frozen):
    """What acts in a bath. Baths with the same key are one and the same.

    `treatment` is the key of the further treatment that it belongs to, `again` the name of the
    bath whose liquor it uses once more, `seconds` the planned time of an iron dip.
    """

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
    seconds: int | None = None
    adjuster: str | None = None
    treatment: str | None = None
    again: str | None = None
    has_iron: bool = False

    @property
    def stage(self) -> str:
        """What a piece is past once it was in this bath, whatever the recipe."""
        if self.treatment:
            return f"treatment:{self.treatment}"
        if self.route_bath is not None:
            return f"mordant route:{self.route_bath}"
        return f"{self.bath}:0"


def stage_order(stage: str) -> int | None:
    """The place of a stage in the order of the work; None for further treatments."""
    kind, _, number = stage.partition(":")
    if kind == "treatment":
        return None
    if kind == "mordant route":
        return 10 * IN_ORDER.index("tannin") + int(number)
    return 10 * next(i for i, bath in enumerate(IN_ORDER) if bath == kind)


def baths_of(plan: StudyPlan, levels: Levels, shelf: Shelf) -> list[Bath]:
    """The baths that levels ask for, in the order of the work."""
    baths = _mordant_baths(plan, levels, shelf)
    if "dye" not in levels:
        return baths
    baths.append(_dye_bath(plan, levels, shelf))
    return baths + _after_baths(plan, levels, shelf)


def bath_left(baths: list[Bath], past: frozenset[str], been: frozenset[str]) -> list[Bath]:
    """The baths still ahead of a piece: none that has begun with it (`past`), and none that belongs
    before one that it was really in (`been`), which is taken as done outside of the record."""
    reached = max((stage_order(stage) or 0 for stage in been), default=-1)
    return [
        bath
        for bath in baths
        if bath.stage not in past
        and (bath.treatment is not None or (stage_order(bath.stage) or 0) > reached)
    ]


def treatment_bath(treatment: Treatment, shelf: Shelf) -> Bath:
    """The bath of a further treatment; its key is its own, so that nothing else shares it."""
    common = {"key": f"treatment:{treatment.key}", "title": treatment.name,
              "treatment": treatment.key, "duration_min": treatment.duration_min}  # fmt: skip
    if treatment.kind == "iron":
        hot = treatment.route == "hot bath"
        seconds = None if hot else treatment.seconds
        cold_min = max(1, round((seconds or COLD_IRON_S) / 60))
        return Bath.model_validate(
            common | {
                "bath": "iron mordant" if hot else "iron", "has_iron": True, "seconds": seconds,
                "iron_percent_wof": treatment.iron_percent_wof,
                "temperature_c": treatment.temperature_c or (HOT_IRON_C if hot else 20),
                "duration_min": treatment.duration_min or (HOT_IRON_MIN if hot else cold_min),
            }
        )  # fmt: skip
    if treatment.kind == "adjust":
        return Bath.model_validate(
            common | {
                "bath": "adjust", "ph": treatment.ph, "adjuster": treatment.adjust_with,
                "temperature_c": treatment.temperature_c or 20,
                "duration_min": treatment.duration_min or 15,
            }
        )  # fmt: skip
    if treatment.kind == "dye":
        lot = shelf.dye_lot(treatment.dye or "")
        return Bath.model_validate(
            common | {
                "bath": "overdye", "dye": treatment.dye, "ph": treatment.ph,
                "strength_percent_wof": treatment.strength_percent_wof,
                "temperature_c": treatment.temperature_c or (lot.temperature_c if lot else None),
                "duration_min": treatment.duration_min or 60,
            }
        )  # fmt: skip
    if treatment.kind == "wash":
        return Bath.model_validate(
            common | {"bath": "wash", "temperature_c": treatment.temperature_c,
                      "duration_min": treatment.duration_min or 30}
        )  # fmt: skip
    letters = (treatment.again or "").rstrip("0123456789")
    return Bath.model_validate(
        common | {
            "bath": KIND_OF_LETTERS.get(letters, "dye"), "again": treatment.again,
            "temperature_c": treatment.temperature_c, "has_iron": letters in ("F", "FM"),
            "duration_min": treatment.duration_min or 60,
        }
    )  # fmt: skip


def _mordant_baths(plan: StudyPlan, levels: Levels, shelf: Shelf) -> list[Bath]:
    route = shelf.mordant_route(levels.get("mordant", ""))
    baths = [
        Bath(
            key=f"{bath.kind}:{route.key}:{i}", bath=bath.kind, title=_route_title(bath),
            route=route.key, route_bath=i, temperature_c=bath.temperature_c,
            duration_min=bath.duration_min, has_iron=route.brings_iron,
        )
        for i, bath in enumerate(route.baths if route else ())
        if route
    ]  # fmt: skip
    iron = _level(plan, levels, "iron")
    if iron and iron.value and iron.route == "mordant" and "dye" in levels:
        # Pieces of different mordants never share an iron bath: iron and alum stay apart.
        after = levels.get("mordant", "none")
        baths.append(
            Bath(
                key=f"iron-mordant:{after}:{iron.key}", bath="iron mordant",
                title=f"Iron {iron.value:g} % as mordant", iron_percent_wof=iron.value,
                temperature_c=HOT_IRON_C, duration_min=HOT_IRON_MIN, has_iron=True,
            )
        )  # fmt: skip
    return baths


def _dye_bath(plan: StudyPlan, levels: Levels, shelf: Shelf) -> Bath:
    dye = levels["dye"]
    ph = _value(plan, levels, "ph")
    label = _label(plan, levels, "dye")
    key = [f"dye:{dye}:{levels.get('ph', 'as-it-is')}"]
    title = [f"{label} at pH {ph:g}" if ph is not None else label]
    for kind in IN_THE_DYE_BATH:
        if kind in levels:
            key.append(f"{kind}={levels[kind]}")
            title.append(_label(plan, levels, kind))
    iron = _level(plan, levels, "iron")
    in_pot = iron.value if iron and iron.route == "pot" and iron.value else None
    if iron and in_pot:
        key.append(f"iron={iron.key}")
        title.append(f"iron {in_pot:g} % in the pot")
    route = shelf.mordant_route(levels.get("mordant", ""))
    before = bool(
        (route and route.brings_iron) or (iron and iron.route == "mordant" and iron.value)
    )
    if before:
        # Iron spreads: pieces that bring it are dyed apart from the others.
        key.append("iron-mordanted")
        title.append("iron-mordanted pieces")
    if plan.mordants_in_dye_bath == "apart" and "mordant" in levels:
        key.append(f"mordant={levels['mordant']}")
        title.append(f"on {_label(plan, levels, 'mordant')}")
    lot = shelf.dye_lot(dye)
    process = WAYS.get(("process", levels.get("process", "")))
    temperature = _value(plan, levels, "temperature")
    if temperature is None:
        temperature = process.temperature_c if process else None
    if temperature is None:
        temperature = lot.temperature_c if lot else None
    duration = _value(plan, levels, "duration")
    dip = _value(plan, levels, "dip")
    return Bath(
        key=":".join(key), bath="dye", title=", ".join(title), dye=dye,
        strength_percent_wof=_value(plan, levels, "strength"),
        extraction=levels.get("extraction"), process=levels.get("process"),
        temperature_c=temperature,
        duration_min=int(duration) if duration else process.duration_min if process else 60,
        ph=ph, dip=int(dip) if dip else None, iron_percent_wof=in_pot,
        has_iron=bool(in_pot) or before,
    )  # fmt: skip


def _after_baths(plan: StudyPlan, levels: Levels, shelf: Shelf) -> list[Bath]:
    dye, label = levels["dye"], _label(plan, levels, "dye")
    baths = []
    second = levels.get("second_dye")
    # Dyes bleed in the after-bath: each dye gets its own.
    if second and second != NO_SECOND_DYE:
        lot = shelf.dye_lot(second)
        baths.append(
            Bath(
                key=f"overdye:{dye}:{second}", bath="overdye", dye=second,
                title=f"{_label(plan, levels, 'second_dye')} over {label}",
                temperature_c=lot.temperature_c if lot else None, duration_min=60,
            )
        )  # fmt: skip
    after_ph = _value(plan, levels, "after_ph")
    if after_ph is not None:
        baths.append(
            Bath(key=f"adjust:{dye}:{levels['after_ph']}", bath="adjust", ph=after_ph,
                 title=f"pH {after_ph:g} after {label}", temperature_c=20, duration_min=15)
        )  # fmt: skip
    iron = _level(plan, levels, "iron")
    if iron and iron.value and iron.route in (None, "after-bath"):
        seconds = f", {iron.seconds} s" if iron.seconds else ""
        baths.append(
            Bath(key=f"iron:{dye}:{iron.key}", bath="iron", iron_percent_wof=iron.value,
                 title=f"Iron {iron.value:g} %{seconds} after {label}", temperature_c=20,
                 duration_min=max(1, round((iron.seconds or COLD_IRON_S) / 60)), has_iron=True,
                 seconds=iron.seconds)
        )  # fmt: skip
    return baths


def _route_title(bath: MordantBath) -> str:
    heat = f", {bath.temperature_c:g} °C" if bath.temperature_c else ""
    dose = f" {bath.dose_percent_wof:g} %" if bath.dose_percent_wof else ""
    return f"{bath.substance[0].upper()}{bath.substance[1:]}{dose}{heat}"


def _level(plan: StudyPlan, levels: Levels, kind: FactorKind) -> Level | None:
    return plan.level(kind, levels.get(kind))


def _value(plan: StudyPlan, levels: Levels, kind: FactorKind) -> float | None:
    level = _level(plan, levels, kind)
    return level.value if level else None


def _label(plan: StudyPlan, levels: Levels, kind: FactorKind) -> str:
    level = _level(plan, levels, kind)
    return level.label if level else levels.get(kind, "")
