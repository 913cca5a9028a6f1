"""All that follows from a plan, worked out at once."""

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.advice import advice_on
from zesty_grid.core.plan.controls import ControlOffer, control_offers
from zesty_grid.core.plan.found_advice import Advice
from zesty_grid.core.plan.giving_ties import AlikeTies, told_by_code_only
from zesty_grid.core.plan.grid import Grid, grid_of
from zesty_grid.core.plan.leaving_out import ProposedRule, proposed_rules
from zesty_grid.core.plan.planned_study import PlannedStudy
from zesty_grid.core.plan.vessel import Vessel
from zesty_grid.core.plan.vessels import vessels_of
from zesty_grid.core.record.swatch import Swatch


class WorkedPlan(Frozen):
    """`vessels` are those that have not begun; `alike_ties` the swatches that only their codes
    tell apart."""

    grid: Grid
    swatches: tuple[Swatch, ...]
    vessels: tuple[Vessel, ...]
    alike_ties: tuple[AlikeTies, ...]
    advice: tuple[Advice, ...]
    control_offers: tuple[ControlOffer, ...]
    proposed_rules: tuple[ProposedRule, ...]


def work_out(study: PlannedStudy, vessels: list[Vessel] | None = None) -> WorkedPlan:
    """`vessels` may be given where they are known already."""
    ahead = vessels_of(study) if vessels is None else vessels
    crossed = [cell for cell in study.cells if not cell.added]
    there = [swatch for swatch in study.swatches if swatch.planned or swatch.begun]
    ties = {swatch.code: swatch.tie for swatch in (*there, *study.guests.values())}
    return WorkedPlan(
        grid=grid_of(study),
        swatches=tuple(there),
        vessels=tuple(ahead),
        alike_ties=tuple(told_by_code_only(ties)),
        advice=tuple(advice_on(study, ahead)),
        control_offers=tuple(control_offers(study.plan, crossed, study.shelf)),
        proposed_rules=tuple(
            proposed_rules(study.plan, (cell.levels for cell in crossed if cell.included), study.shelf)
        ),
    )
