"""All that follows from a plan and the Shelf, worked out at once."""

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.advice import Advice, advice_on
from zesty_grid.core.plan.cells import Cell
from zesty_grid.core.plan.controls import ControlOffer, all_cells, control_offers
from zesty_grid.core.plan.leaving_out import ProposedRule, proposed_rules
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.swatches import swatches_of
from zesty_grid.core.plan.ties import ties_for
from zesty_grid.core.plan.vessels import Vessel, vessels_of
from zesty_grid.core.shelf.shelf import Shelf


class WorkedPlan(Frozen):
    """Ties go by swatch key."""

    cells: tuple[Cell, ...]
    vessels: tuple[Vessel, ...]
    ties: dict[str, str]
    advice: tuple[Advice, ...]
    control_offers: tuple[ControlOffer, ...]
    proposed_rules: tuple[ProposedRule, ...]


def work_out(plan: StudyPlan, shelf: Shelf) -> WorkedPlan:
    cells = all_cells(plan, shelf)
    return what_follows(plan, cells, vessels_of(plan, cells, shelf), shelf)


def what_follows(
    plan: StudyPlan, cells: list[Cell], vessels: list[Vessel], shelf: Shelf
) -> WorkedPlan:
    crossed = [cell for cell in cells if not cell.key.startswith("control=")]
    return WorkedPlan(
        cells=tuple(cells),
        vessels=tuple(vessels),
        ties=ties_of(plan, cells, vessels),
        advice=tuple(advice_on(plan, cells, vessels, shelf)),
        control_offers=tuple(control_offers(plan, crossed, shelf)),
        proposed_rules=tuple(
            proposed_rules(plan, (cell.levels for cell in crossed if cell.included), shelf)
        ),
    )


def ties_of(plan: StudyPlan, cells: list[Cell], vessels: list[Vessel]) -> dict[str, str]:
    """The tie of each swatch in words, by swatch key."""
    keys = [swatch.key for swatch in swatches_of(cells, plan.replicates)]
    return {t.swatch: t.words for t in ties_for([v.swatches for v in vessels], keys)}
