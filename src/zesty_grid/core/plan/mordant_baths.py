"""The mordant baths that a swatch's levels ask for, iron as a mordant among them."""

from zesty_grid.core.plan.bath import Bath
from zesty_grid.core.plan.level_of import level_of, marks_of, value_of, whole_value_of
from zesty_grid.core.plan.settling import Levels
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.shelf.items import MordantBath, MordantRoute
from zesty_grid.core.shelf.shelf import Shelf

HOT_IRON_C, HOT_IRON_MIN = 70.0, 60


def mordant_baths(plan: StudyPlan, levels: Levels, shelf: Shelf) -> list[Bath]:
    route = shelf.mordant_route(levels.get("mordant", ""))
    baths = [_of_route(plan, levels, route, i, bath) for i, bath in enumerate(route.baths if route else ()) if route]
    iron = level_of(plan, levels, "iron")
    if iron and iron.is_dosed and iron.route == "mordant" and "dye" in levels:
        # Pieces of different mordants never share an iron bath: iron and alum stay apart.
        after = levels.get("mordant", "none")
        key, said = marks_of(plan, levels, "iron_temperature", "iron_duration")
        temperature = value_of(plan, levels, "iron_temperature")
        baths.append(
            Bath(
                key=":".join([f"iron-mordant:{after}:{iron.key}", *key]),
                bath="iron mordant",
                title=", ".join([f"Iron {iron.dose_words} as mordant", *said]),
                iron_percent_wof=iron.value or None,
                iron_g=iron.grams,
                temperature_c=HOT_IRON_C if temperature is None else temperature,
                duration_min=whole_value_of(plan, levels, "iron_duration") or HOT_IRON_MIN,
                has_iron=True,
            )
        )
    return baths


def _of_route(plan: StudyPlan, levels: Levels, route: MordantRoute, number: int, bath: MordantBath) -> Bath:
    """One bath of a route; heat, time and additions of the plan are those of its mordant baths."""
    own = bath.kind == "mordant"
    key: list[str] = []
    said: list[str] = []
    temperature = duration = None
    if own:
        key, said = marks_of(plan, levels, "mordant_temperature", "mordant_duration")
        temperature = value_of(plan, levels, "mordant_temperature")
        duration = whole_value_of(plan, levels, "mordant_duration")
    addition = level_of(plan, levels, "addition")
    added = tuple(one for one in addition.additions if one.into == "mordant") if addition else ()
    if own and addition and added:
        key, said = [*key, f"addition={addition.key}"], [*said, addition.label]
    return Bath(
        key=":".join([f"{bath.kind}:{route.key}:{number}", *key]),
        bath=bath.kind,
        title=", ".join([_route_title(bath), *said]),
        route=route.key,
        route_bath=number,
        temperature_c=bath.temperature_c if temperature is None else temperature,
        duration_min=duration or bath.duration_min,
        has_iron=route.brings_iron,
        additions=added if own else (),
    )


def _route_title(bath: MordantBath) -> str:
    heat = f", {bath.temperature_c:g} °C" if bath.temperature_c else ""
    dose = f" {bath.dose_percent_wof:g} %" if bath.dose_percent_wof else ""
    return f"{bath.substance[0].upper()}{bath.substance[1:]}{dose}{heat}"
