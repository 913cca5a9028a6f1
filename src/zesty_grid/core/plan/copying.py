"""The plan of a study as the start of the next."""

from collections.abc import Iterable

from zesty_grid.core.plan.given_for import GivenFor, bath_of_key
from zesty_grid.core.plan.planned_addition import BY_FIBRE_OR_BATH
from zesty_grid.core.plan.study_plan import OwnVessel, StudyPlan
from zesty_grid.core.plan.vessel import Vessel

NAME_ROOM = 105


def next_study(plan: StudyPlan, vessels: Iterable[Vessel]) -> StudyPlan:
    """The same crossing, without what belonged to its swatches. What was given by bath goes with the
    fibre from now on: other masses, or fewer cells, leave each bath as strong as it was."""
    own = {one.bath: one for one in plan.own_vessels}
    for vessel in vessels:
        key = bath_of_key(vessel.key)
        before = own.get(key, OwnVessel(bath=key))
        by_bath = vessel.dose_g or vessel.iron_g or before.litres
        if by_bath or any(one.unit not in BY_FIBRE_OR_BATH for one in vessel.additions):
            given = GivenFor(vessel_g=vessel.dry_fibre_g, bath_g=vessel.bath_fibre_g or vessel.dry_fibre_g)
            own[key] = before.model_copy(update={"given_for": before.given_for or given})
    return plan.model_copy(
        update={
            "name": f"{plan.name[:NAME_ROOM]}, next",
            "treatments": (),
            "made_again": (),
            "own_vessels": tuple(own.values()),
        }
    )
