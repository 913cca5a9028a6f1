"""How planned additions move the pH of a bath, and where it foams or turns to slime."""

from collections.abc import Sequence

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.vessel import Vessel
from zesty_grid.core.refusal import Refusal
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.weigh.ph_bath import what_adding_does
from zesty_grid.core.weigh.ph_dose import bath_water, solutes_in_a_litre
from zesty_grid.core.weigh.working import Figure


class AfterAdding(Frozen):
    """The bath after one addition, worked out for its water alone; plant baths buffer more."""

    name: str
    moment: str
    ph_before: float
    ph_after: float
    warnings: tuple[str, ...]


def course_of(
    plan: StudyPlan, vessel: Vessel, there: Sequence[Figure], added: Sequence[Figure], shelf: Shelf
) -> tuple[AfterAdding, ...]:
    """One after the other what the `added` figures do to the bath that holds those `there`."""
    water, litres = bath_water(plan, shelf), vessel.volume_ml / 1000
    inside = solutes_in_a_litre(vessel, there, shelf)
    found: list[AfterAdding] = []
    for figure in added:
        for solute in solutes_in_a_litre(vessel, [figure], shelf):
            whole = tuple(one.model_copy(update={"grams": one.grams * litres}) for one in (*inside, solute))
            try:
                answer = what_adding_does(litres, water, whole[:-1], whole[-1])
            except Refusal as refusal:
                return (
                    *found,
                    AfterAdding(
                        name=figure.name, moment=figure.moment, ph_before=7.0, ph_after=7.0, warnings=(str(refusal),)
                    ),
                )
            found.append(
                AfterAdding(
                    name=figure.name,
                    moment=figure.moment,
                    ph_before=answer.ph_before,
                    ph_after=answer.ph_after,
                    warnings=answer.warnings,
                )
            )
            inside = (*inside, solute)
    return tuple(found)
