"""Whether the Shelf holds what the levels of a plan name."""

from zesty_grid.core.plan.cells import check_count
from zesty_grid.core.plan.factors import NO_SECOND_DYE
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.refusal import Fault, Refusal
from zesty_grid.core.shelf.shelf import Shelf

ADD_IT = "Add it to the Shelf first, or choose another."


def check_levels(plan: StudyPlan, shelf: Shelf) -> None:
    """Raises Refusal for a plan that is too large, and for a level that is not on the Shelf;
    earlier cloth is on no Shelf."""
    check_count(plan)
    lots = {item.key for item in shelf.dye_lots}
    there = {
        "fibre": {item.key for item in shelf.fibres},
        "mordant": {item.key for item in shelf.mordant_routes},
        "dye": lots,
        "source": lots,
        "second_dye": lots | {NO_SECOND_DYE},
    }
    faults = tuple(
        Fault(field=f"factors.{factor.kind}", given=level.key, allowed="an item on the Shelf", cure=ADD_IT)
        for factor in plan.factors
        for level in factor.levels
        if factor.kind in there and level.key not in there[factor.kind] and not level.swatches
    )
    faults += tuple(
        Fault(field=f"treatments.{one.key}", given=one.dye, allowed="a dye lot on the Shelf", cure=ADD_IT)
        for one in plan.treatments
        if one.dye and one.dye not in lots
    )
    substances = {item.key for item in shelf.substances}
    faults += tuple(
        Fault(field="factors.addition", given=one.item, allowed="a substance or lot on the Shelf", cure=ADD_IT)
        for factor in plan.factors
        for level in factor.levels
        for one in level.additions
        if one.item not in (lots if one.what == "dye lot" else substances)
    )
    vessels = {item.key for item in shelf.vessels}
    faults += tuple(
        Fault(field="own_vessels", given=key, allowed="a vessel on the Shelf", cure=ADD_IT)
        for own in plan.own_vessels
        for key in own.vessels
        if key not in vessels
    )
    if faults:
        raise Refusal("not-on-shelf", f"“{faults[0].given}” is not on the Shelf.", ADD_IT, faults)
