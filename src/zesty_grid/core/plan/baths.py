"""The chain of baths that a swatch goes through; swatches whose bath is the same share it."""

from zesty_grid.core.plan.after_baths import after_baths
from zesty_grid.core.plan.bath import Bath, stage_order
from zesty_grid.core.plan.dye_bath import dye_bath
from zesty_grid.core.plan.level_of import level_of
from zesty_grid.core.plan.mordant_baths import mordant_baths
from zesty_grid.core.plan.settling import Levels
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.zone_bath import PRINT, zone_bath
from zesty_grid.core.shelf.shelf import Shelf


def baths_of(plan: StudyPlan, levels: Levels, shelf: Shelf, has_zones_of_plan: bool = False) -> list[Bath]:
    """The baths that levels ask for, in the order of the work. `has_zones_of_plan`: it is a cloth
    that carries the zones that the plan crosses."""
    if has_zones_of_plan:
        printed = {"dye": PRINT, **levels}
        return [
            *mordant_baths(plan, printed, shelf),
            zone_bath(plan, levels, shelf),
            *after_baths(plan, printed, shelf),
        ]
    if followed := level_of(plan, levels, "recipe"):
        return list(followed.baths)
    baths = mordant_baths(plan, levels, shelf)
    if "dye" not in levels:
        return baths
    baths.append(dye_bath(plan, levels, shelf))
    return baths + after_baths(plan, levels, shelf)


def bath_left(baths: list[Bath], past: frozenset[str], been: frozenset[str]) -> list[Bath]:
    """The baths still ahead of a piece: none that has begun with it (`past`), and none that belongs
    before one that it was really in (`been`), which is taken as done outside of the record."""
    reached = max((stage_order(stage) or 0 for stage in been), default=-1)
    return [
        bath
        for bath in baths
        if bath.stage not in past and (bath.treatment is not None or (stage_order(bath.stage) or 0) > reached)
    ]
