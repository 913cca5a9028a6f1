"""The baths after the dye bath that a swatch's levels ask for: a second dye, pH, iron."""

from typing import Any

from zesty_grid.core.plan.bath import Bath, BathKind
from zesty_grid.core.plan.factors import NO_SECOND_DYE, Level
from zesty_grid.core.plan.level_of import label_of, level_of, marks_of, value_of, whole_value_of
from zesty_grid.core.plan.planned_addition import PlannedAddition
from zesty_grid.core.plan.settling import Levels
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.zone_bath import dips_into, most_times_in
from zesty_grid.core.shelf.shelf import Shelf

COLD_IRON_S = 300


def after_baths(plan: StudyPlan, levels: Levels, shelf: Shelf) -> list[Bath]:
    baths = []
    second = levels.get("second_dye")
    # Dyes bleed in the after-bath: each dye gets its own.
    if second and second != NO_SECOND_DYE:
        baths.append(_second_dye(plan, levels, second, shelf))
    after_ph = value_of(plan, levels, "after_ph")
    if after_ph is not None:
        baths.append(_adjust(plan, levels, after_ph))
    iron = level_of(plan, levels, "iron")
    if iron and iron.is_dosed and iron.route in (None, "after-bath"):
        baths.append(_iron(plan, levels, iron, turn=0))
    more = level_of(plan, levels, "second_iron")
    if more and more.value:
        baths.append(_iron(plan, levels, more, turn=1))
    return baths


def _second_dye(plan: StudyPlan, levels: Levels, second: str, shelf: Shelf) -> Bath:
    lot = shelf.dye_lot(second)
    key, said = marks_of(plan, levels, "second_temperature", "second_duration")
    temperature = value_of(plan, levels, "second_temperature")
    if temperature is None and lot:
        temperature = lot.temperature_c
    title = f"{label_of(plan, levels, 'second_dye')} over {label_of(plan, levels, 'dye')}"
    added, more_key, more_said = _added(plan, levels, "overdye")
    return Bath(
        key=":".join([f"overdye:{levels['dye']}:{second}", *key, *more_key]),
        bath="overdye",
        dye=second,
        title=", ".join([title, *said, *more_said]),
        temperature_c=temperature,
        duration_min=whole_value_of(plan, levels, "second_duration") or 60,
        additions=added,
    )


def _adjust(plan: StudyPlan, levels: Levels, ph: float) -> Bath:
    key, said = marks_of(plan, levels, "after_temperature", "after_duration")
    temperature = value_of(plan, levels, "after_temperature")
    added, more_key, more_said = _added(plan, levels, "adjust")
    title = f"pH {ph:g} after {label_of(plan, levels, 'dye')}"
    return Bath(
        key=":".join([f"adjust:{levels['dye']}:{levels['after_ph']}", *key, *more_key]),
        bath="adjust",
        ph=ph,
        title=", ".join([title, *said, *more_said]),
        temperature_c=20 if temperature is None else temperature,
        duration_min=whole_value_of(plan, levels, "after_duration") or 15,
        additions=added,
    )


def _iron(plan: StudyPlan, levels: Levels, iron: Level, turn: int) -> Bath:
    key, said = marks_of(plan, levels, "iron_temperature", "iron_duration")
    temperature = value_of(plan, levels, "iron_temperature")
    minutes = whole_value_of(plan, levels, "iron_duration")
    seconds = None if minutes else iron.seconds
    added, more_key, more_said = _added(plan, levels, "iron")
    for_s = f", {seconds} s" if seconds else ""
    which = "Iron once more," if turn else "Iron"
    title = f"{which} {iron.dose_words}{for_s} after {label_of(plan, levels, 'dye')}"
    name = (
        f"iron:{levels['dye']}:{iron.key}"
        if turn == 0
        else (f"iron-again:{levels['dye']}:{levels.get('iron', 'none')}:{iron.key}")
    )
    return Bath(
        key=":".join([name, *key, *more_key]),
        bath="iron",
        turn=turn,
        iron_percent_wof=iron.value or None,
        iron_g=iron.grams,
        title=", ".join([title, *said, *more_said]),
        temperature_c=20 if temperature is None else temperature,
        duration_min=minutes or max(1, round((seconds or COLD_IRON_S) / 60)),
        has_iron=True,
        seconds=seconds,
        additions=added,
        **_folded(plan),
    )


def _folded(plan: StudyPlan) -> dict[str, Any]:
    """Folded cloth whose corners only go into the iron."""
    times_in = most_times_in(plan)
    if not times_in or dips_into(plan) != "iron":
        return {}
    return {"folding": plan.folding, "times_in": times_in}


def _added(plan: StudyPlan, levels: Levels, into: BathKind) -> tuple[tuple[PlannedAddition, ...], list[str], list[str]]:
    """What goes into an after-bath, and what that adds to its key and title."""
    level = level_of(plan, levels, "addition")
    added = tuple(one for one in level.additions if one.into == into) if level else ()
    if level is None or not added:
        return (), [], []
    return added, [f"addition={level.key}"], [level.label]
