"""All that the Weigh lens shows: every bath, extracts, stocks, totals, effort and cautions."""

from collections.abc import Iterable

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.planned_study import PlannedStudy
from zesty_grid.core.plan.vessel import Vessel
from zesty_grid.core.plan.vessels import vessels_of
from zesty_grid.core.weigh.amounts import VesselAmounts, stocks_to_make, weigh_vessel
from zesty_grid.core.weigh.cautions import SubstanceCard, cards_for, vessel_cautions, weighing_cautions
from zesty_grid.core.weigh.effort import Effort, effort_of
from zesty_grid.core.weigh.extraction import Extraction, Liquor, draw_extracts
from zesty_grid.core.weigh.pieces_in import alum_comes_in, classes_in, is_glass, known_for
from zesty_grid.core.weigh.stock_solution import Stock
from zesty_grid.core.weigh.totals import Total, totals_of_study


class Weighed(Frozen):
    """A bath that has begun: its amounts and cautions as they were kept."""

    vessel: Vessel
    amounts: VesselAmounts
    cautions: tuple[str, ...]


class Weighing(Frozen):
    """`vessels` holds every bath but scours and extracts; `begun` names those that are under way
    or done, whose amounts stay. `vessel_cautions` by name. Extracts and stocks are those still to
    be made.
    """

    vessels: tuple[VesselAmounts, ...]
    begun: tuple[str, ...]
    extractions: tuple[Extraction, ...]
    stocks: tuple[Stock, ...]
    totals: tuple[Total, ...]
    effort: Effort
    cautions: tuple[str, ...]
    vessel_cautions: dict[str, tuple[str, ...]]
    cards: tuple[SubstanceCard, ...]


def weigh_study(
    study: PlannedStudy,
    begun: Iterable[Weighed] = (),
    liquors: Iterable[Liquor] = (),
    scours: Iterable[VesselAmounts] = (),
) -> Weighing:
    """The baths to come by the plan, beside those that have begun. `scours`: what the scours to
    come take; they count in the totals."""
    begun = list(begun)
    scoured = [one.amounts for one in begun if one.vessel.bath == "scour"]
    kept = [one for one in begun if one.vessel.bath not in ("scour", "extract")]
    ahead = vessels_of(study)
    weighed = [weigh_vessel(study.plan, vessel, study.shelf) for vessel in ahead]
    drawn = draw_extracts(ahead, weighed, study.shelf, liquors)
    used = [one.amounts for one in kept]
    amounts = [*used, *drawn.amounts]
    stocks = stocks_to_make(study.plan, study.shelf, list(drawn.amounts))
    cautions = {one.vessel.name: one.cautions for one in kept} | {
        vessel.name: vessel_cautions(
            vessel,
            own,
            classes_in(study, vessel),
            alum_comes_in(study, vessel),
            is_glass(study, vessel),
            known_for(study, vessel),
        )
        for vessel, own in zip(ahead, drawn.amounts, strict=True)
    }
    vessels = [*(one.vessel for one in kept), *ahead]
    return Weighing(
        vessels=tuple(amounts),
        begun=tuple(one.vessel.name for one in kept),
        extractions=drawn.extractions,
        stocks=tuple(stocks),
        totals=tuple(totals_of_study(study, [*drawn.amounts, *scours], [*used, *scoured], stocks, drawn.from_begun)),
        effort=effort_of(study.plan, vessels, list(drawn.extractions), study.shelf),
        cautions=weighing_cautions(amounts),
        vessel_cautions=cautions,
        cards=cards_for(amounts),
    )
