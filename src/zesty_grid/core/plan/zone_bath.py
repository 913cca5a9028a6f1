"""The bath of a cloth that has zones: printed in a roll, hammered, or folded and dipped."""

from zesty_grid.core.plan.bath import Bath
from zesty_grid.core.plan.dye_bath import dye_bath
from zesty_grid.core.plan.level_of import marks_of, value_of, whole_value_of
from zesty_grid.core.plan.printing import Rolling
from zesty_grid.core.plan.settling import Levels
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.shelf.shelf import Shelf

STEAM_C, STEAM_MIN = 100.0, 150
# What stands for the dye where a cloth is only printed.
PRINT = "print"


def zone_bath(plan: StudyPlan, levels: Levels, shelf: Shelf) -> Bath:
    """One bath for all zones of a cloth; with a dye as well, the rolls lie in its bath."""
    source, printing = plan.factor("source"), plan.factor("printing")
    pretreatment, times = plan.factor("pretreatment"), plan.factor("times_in")
    dyed = "dye" in levels
    bath = dye_bath(plan, levels, shelf) if dyed else _printed(plan, levels)
    changes: dict[str, object] = {}
    if source:
        hammered = printing is not None and {level.key for level in printing.levels} == {"hammered"}
        changes = {
            "process": "rolled" if dyed else "hammered" if hammered else "bundle-print",
            "sources": tuple(level.key for level in source.levels),
            "rolling": plan.rolling or Rolling(),
            "hammered": printing is not None and any(v.key == "hammered" for v in printing.levels),
            "pretreatments": tuple(
                level.label for level in (pretreatment.levels if pretreatment else ()) if level.key != "none"
            ),
        }
        if hammered and not dyed:
            changes |= {"temperature_c": 20.0, "duration_min": 30, "title": "Hammered print"}
    if times and dips_into(plan) == "dye":
        changes |= {"folding": plan.folding, "times_in": most_times_in(plan)}
    return bath.model_copy(update=changes)


def dips_into(plan: StudyPlan) -> str:
    return plan.folding.into if plan.folding else "dye"


def most_times_in(plan: StudyPlan) -> int:
    """How often the most dipped zone goes in."""
    times = plan.factor("times_in")
    return max((int(level.value or 0) for level in times.levels), default=0) if times else 0


def _printed(plan: StudyPlan, levels: Levels) -> Bath:
    key, said = marks_of(plan, levels, "temperature", "duration")
    temperature = value_of(plan, levels, "temperature")
    return Bath(
        key=":".join([PRINT, *key]),
        bath="dye",
        title=", ".join(["Bundle print", *said]),
        temperature_c=STEAM_C if temperature is None else temperature,
        duration_min=whole_value_of(plan, levels, "duration") or STEAM_MIN,
    )
